package api

import (
	"context"

	"fairtangle/studio"
	"fairtangle/web/answer"
)

func (s *server) blends(at methods) {
	at.get("/blends/:id", answer.One(s.studio.Blend))
	at.put("/blends/:id", answer.Saved(func(ctx context.Context, id, version int64, in studio.BlendInput) (studio.Blend, error) {
		return s.studio.SaveBlend(ctx, id, version, in, "")
	}))
	s.bin(at, "/blends", "blends")
	at.post("/blends/:id/changes", answer.Saved(s.studio.ChangeBlend))
	steps(s, at, "/blends", "blends", s.studio.StepBlend)
	at.post("/blends/:id/copy", answer.Made(s.studio.CopyBlend))
	at.ask("/blends/:id/find", s.long(answer.Asked(s.find)))
	at.ask("/blends/:id/mend", s.long(answer.Asked(s.mend)))
	at.ask("/blends/:id/dull", s.long(answer.Asked(s.dull)))
	at.post("/blends/:id/addition", answer.Made(s.studio.CreateAddition))
	at.get("/blends/:id/weighouts", answer.One(s.weighoutsOf))
	at.post("/blends/:id/weighouts", answer.Under(s.studio.CreateWeighout))
	at.get("/blends/:id/equipment", answer.One(s.studio.ChooseEquipment))
	at.get("/blends/:id/layups", answer.One(s.studio.LayupsOfBlend))
	at.post("/blends/:id/layups", answer.Under(s.studio.CreateLayup))
	at.post("/blends/:id/layups/build", answer.Under(s.buildOnto))
}

func (s *server) find(ctx context.Context, id int64, q studio.FindInput) (a studio.FindAnswer, err error) {
	b, err := s.studio.Blend(ctx, id)
	if err != nil {
		return a, err
	}
	q.Wish.MakingID = b.MakingID
	return s.studio.Find(ctx, b.Input(), q, studio.InTime())
}

func (s *server) mend(ctx context.Context, id int64, q studio.MendInput) (a studio.MendAnswer, err error) {
	b, err := s.studio.Blend(ctx, id)
	if err != nil {
		return a, err
	}
	return s.studio.Mend(ctx, id, b.Input(), q)
}

func (s *server) dull(ctx context.Context, id int64, q studio.DullInput) (a studio.DullAnswer, err error) {
	b, err := s.studio.Blend(ctx, id)
	if err != nil {
		return a, err
	}
	return s.studio.Dull(ctx, b.Input(), q)
}
