package api

import (
	"context"

	"fairtangle/core/layup"
	"fairtangle/studio/laying"
	"fairtangle/web/answer"
)

// layups are the calls about what lies where on the cloth.
func (s *server) layups(at methods) {
	at.get("/schools", answer.List(func(context.Context) ([]layup.Matter, error) { return layup.Matters(), nil }))
	at.get("/layups/:id", answer.One(s.studio.Laying.Layup))
	at.put("/layups/:id", answer.Saved(func(ctx context.Context, id, version int64, in laying.LayupInput) (laying.Layup, error) {
		return s.studio.Laying.SaveLayup(ctx, id, version, in, true)
	}))
	at.post("/layups/:id/changes", answer.Saved(s.studio.Laying.ChangeLayup))
	at.post("/makings/:id/layups", answer.Under(s.layAll))
	steps(s, at, "/layups", "layups", s.studio.Laying.StepLayup)
	s.bin(at, "/layups", "layups")
}

type buildOnto struct {
	EquipmentID int64  `json:"equipment_id"`
	Units       int    `json:"units"`
	Name        string `json:"name"`
	laying.BuildInput
}

func (s *server) buildOnto(ctx context.Context, blend int64, q buildOnto) (laying.Layup, error) {
	return s.studio.Laying.BuildOnto(ctx, blend, q.EquipmentID, q.Units, q.Name, q.BuildInput)
}

func (s *server) layAll(ctx context.Context, making int64, q laying.ManyInput) ([]laying.Layup, error) {
	return s.studio.Laying.LayAll(ctx, making, q)
}
