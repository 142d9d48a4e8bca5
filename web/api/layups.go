package api

import (
	"context"

	"fairtangle/core/layup"
	"fairtangle/studio"
	"fairtangle/web/answer"
)

// layups are the calls about what lies where on the cloth.
func (s *server) layups(at methods) {
	at.get("/schools", answer.List(func(context.Context) ([]layup.Matter, error) { return layup.Matters(), nil }))
	at.get("/layups/:id", answer.One(s.studio.Layup))
	at.put("/layups/:id", answer.Saved(func(ctx context.Context, id, version int64, in studio.LayupInput) (studio.Layup, error) {
		return s.studio.SaveLayup(ctx, id, version, in, true)
	}))
	at.post("/layups/:id/changes", answer.Saved(s.studio.ChangeLayup))
	steps(s, at, "/layups", "layups", s.studio.StepLayup)
	s.bin(at, "/layups", "layups")
}

type buildOnto struct {
	EquipmentID int64  `json:"equipment_id"`
	Units       int    `json:"units"`
	Name        string `json:"name"`
	studio.BuildInput
}

func (s *server) buildOnto(ctx context.Context, blend int64, q buildOnto) (studio.Layup, error) {
	return s.studio.BuildOnto(ctx, blend, q.EquipmentID, q.Units, q.Name, q.BuildInput)
}
