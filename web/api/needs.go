package api

import (
	"context"

	"fairtangle/studio/yarns"
	"fairtangle/web/answer"
)

// needs is what makings are for, and how much that takes.
func (s *server) needs(at methods) {
	at.get("/makings/:id/need", answer.One(s.studio.Yarns.NeedOf))
	at.post("/makings/:id/need", answer.Under(s.studio.Yarns.StartNeed))
	at.get("/needs/:id", answer.One(s.studio.Yarns.Need))
	at.put("/needs/:id", answer.Saved(s.studio.Yarns.SaveNeed))
	at.post("/needs/:id/changes", answer.Saved(s.studio.Yarns.ChangeNeed))
	steps(s, at, "/needs", "needs", s.studio.Yarns.StepNeed)
	at.post("/needs/:id/give", answer.One(func(ctx context.Context, id int64) (yarns.Need, error) { return s.studio.Yarns.GiveWeights(ctx, id) }))
}
