package api

import (
	"context"

	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/web/answer"
)

func (s *server) scraps(at methods) {
	at.get("/scraps", answer.List(func(ctx context.Context) ([]reach.Bag, error) {
		list, _, err := s.studio.Reach.Bags(ctx, 0, -1) // all of them
		return list, err
	}))
	at.post("/scraps", answer.Created(s.studio.Reach.CreateBag))
	at.get("/scraps/:id", answer.One(s.studio.Reach.Bag))
	at.put("/scraps/:id", answer.Saved(s.studio.Reach.SaveBag))
	at.post("/scraps/:id/changes", answer.Saved(s.studio.Reach.ChangeBag))
	steps(s, at, "/scraps", "scrap_sets", s.studio.Reach.StepBag)
	at.post("/scraps/:id/sort", answer.Saved(s.sortScraps))
	at.post("/scraps/:id/blends", answer.Asked(s.scrapBlends))
	s.bin(at, "/scraps", "scrap_sets")
}

type sorted struct {
	Piles int `json:"piles"`
}

func (s *server) sortScraps(ctx context.Context, id, version int64, q sorted) (reach.Bag, error) {
	bag, err := s.studio.Reach.Bag(ctx, id)
	if err != nil {
		return bag, err
	}
	if bag, err = s.studio.Reach.SortBag(ctx, bag.BagInput, q.Piles); err != nil {
		return bag, err
	}
	return s.studio.Reach.SaveBag(ctx, id, version, bag.BagInput)
}

type into struct {
	MakingID int64 `json:"making_id"`
}

func (s *server) scrapBlends(ctx context.Context, id int64, q into) ([]recipe.Blend, error) {
	return s.studio.Reach.BagBlends(ctx, id, q.MakingID)
}
