package api

import (
	"context"

	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/web/answer"
)

func (s *server) blends(at methods) {
	at.get("/blends/:id", answer.One(s.studio.Recipe.Blend))
	at.put("/blends/:id", answer.Saved(func(ctx context.Context, id, version int64, in recipe.BlendInput) (recipe.Blend, error) {
		return s.studio.Recipe.SaveBlend(ctx, id, version, in, "")
	}))
	s.bin(at, "/blends", "blends")
	at.post("/blends/:id/changes", answer.Saved(s.studio.Recipe.ChangeBlend))
	steps(s, at, "/blends", "blends", s.studio.Recipe.StepBlend)
	at.post("/blends/:id/copy", answer.Made(s.studio.Recipe.CopyBlend))
	at.ask("/blends/:id/find", s.long(answer.Asked(s.find)))
	at.ask("/blends/:id/mend", s.long(answer.Asked(s.mend)))
	at.ask("/blends/:id/dull", s.long(answer.Asked(s.dull)))
	at.post("/blends/:id/addition", answer.Made(s.studio.Scale.CreateAddition))
	at.get("/blends/:id/weighouts", answer.One(s.weighoutsOf))
	at.post("/blends/:id/weighouts", answer.Under(s.studio.Scale.CreateWeighout))
	at.get("/blends/:id/equipment", answer.One(s.studio.Laying.ChooseEquipment))
	at.get("/blends/:id/layups", answer.One(s.studio.Laying.LayupsOfBlend))
	at.post("/blends/:id/layups", answer.Under(s.studio.Laying.CreateLayup))
	at.post("/blends/:id/layups/build", answer.Under(s.buildOnto))
}

func (s *server) find(ctx context.Context, id int64, q reach.FindInput) (a reach.FindAnswer, err error) {
	b, err := s.studio.Recipe.Blend(ctx, id)
	if err != nil {
		return a, err
	}
	q.Wish.MakingID = b.MakingID
	return s.studio.Reach.Find(ctx, b.Input(), q, reach.InTime())
}

func (s *server) mend(ctx context.Context, id int64, q reach.MendInput) (a reach.MendAnswer, err error) {
	b, err := s.studio.Recipe.Blend(ctx, id)
	if err != nil {
		return a, err
	}
	q.Wish.MakingID = b.MakingID
	return s.studio.Reach.Mend(ctx, id, b.Input(), q)
}

func (s *server) dull(ctx context.Context, id int64, q reach.DullInput) (a reach.DullAnswer, err error) {
	b, err := s.studio.Recipe.Blend(ctx, id)
	if err != nil {
		return a, err
	}
	q.Wish.MakingID = b.MakingID
	return s.studio.Reach.Dull(ctx, b.Input(), q)
}
