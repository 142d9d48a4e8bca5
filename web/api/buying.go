package api

import (
	"context"

	"fairtangle/studio"
	"fairtangle/web/answer"
)

// buying are sources with their prices, and lists of what is to be bought.
func (s *server) buying(at methods) {
	at.get("/sources", answer.List(s.studio.Sources))
	at.post("/sources", answer.Created(s.studio.AddSource))
	at.get("/sources/:id", answer.One(s.studio.OneSource))
	at.put("/sources/:id", answer.Saved(s.studio.SaveSource))
	s.bin(at, "/sources", "sources")
	at.get("/sources/:id/offers", answer.One(s.studio.OffersOf))
	at.post("/sources/:id/offers", answer.Under(s.studio.AddOffer))
	at.put("/offers/:id", answer.Saved(s.studio.SaveOffer))
	s.bin(at, "/offers", "offers")
	at.get("/buylists", answer.List(s.studio.BuyLists))
	at.post("/buylists", answer.Created(s.studio.StartBuyList))
	at.get("/buylists/:id", answer.One(s.studio.OneBuyList))
	at.post("/buylists/:id/again", answer.Saved(func(ctx context.Context, id, version int64, _ struct{}) (studio.BuyList, error) {
		return s.studio.LookAgain(ctx, id, version)
	}))
	at.post("/buylists/:id/came", answer.Saved(s.studio.Came))
	s.bin(at, "/buylists", "buy_lists")
}
