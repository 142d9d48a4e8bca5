package api

import (
	"context"

	"fairtangle/studio"
	"fairtangle/web/answer"
)

// needs is what makings are for, and how much that takes.
func (s *server) needs(at methods) {
	at.get("/makings/:id/need", answer.One(s.studio.NeedOf))
	at.post("/makings/:id/need", answer.Under(s.studio.StartNeed))
	at.get("/needs/:id", answer.One(s.studio.Need))
	at.put("/needs/:id", answer.Saved(s.studio.SaveNeed))
	at.post("/needs/:id/changes", answer.Saved(s.studio.ChangeNeed))
	steps(s, at, "/needs", "needs", s.studio.StepNeed)
	at.post("/needs/:id/give", answer.One(func(ctx context.Context, id int64) (studio.Need, error) { return s.studio.GiveWeights(ctx, id) }))
}
