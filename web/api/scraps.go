package api

import (
	"context"

	"fairtangle/studio"
	"fairtangle/web/answer"
)

func (s *server) scraps(at methods) {
	at.get("/scraps", answer.List(s.studio.ScrapBags))
	at.post("/scraps", answer.Created(s.studio.CreateScraps))
	at.get("/scraps/:id", answer.One(s.studio.ScrapBag))
	at.put("/scraps/:id", answer.Saved(s.studio.SaveScraps))
	at.post("/scraps/:id/changes", answer.Saved(s.studio.ChangeScraps))
	steps(s, at, "/scraps", "scrap_sets", s.studio.StepScraps)
	at.post("/scraps/:id/sort", answer.Saved(s.sortScraps))
	at.post("/scraps/:id/blends", answer.Asked(s.scrapBlends))
	s.bin(at, "/scraps", "scrap_sets")
}

type sorted struct {
	Piles int `json:"piles"`
}

func (s *server) sortScraps(ctx context.Context, id, version int64, q sorted) (studio.Scraps, error) {
	bag, err := s.studio.ScrapBag(ctx, id)
	if err != nil {
		return bag, err
	}
	if bag, err = s.studio.SortScraps(ctx, bag.ScrapsInput, q.Piles); err != nil {
		return bag, err
	}
	return s.studio.SaveScraps(ctx, id, version, bag.ScrapsInput)
}

type into struct {
	MakingID int64 `json:"making_id"`
}

func (s *server) scrapBlends(ctx context.Context, id int64, q into) ([]studio.Blend, error) {
	return s.studio.ScrapBlends(ctx, id, q.MakingID)
}
