package api

import (
	"context"

	"fairtangle/studio/buying"
	"fairtangle/web/answer"
)

// buying are sources with their prices, and lists of what is to be bought.
func (s *server) buying(at methods) {
	at.get("/sources", answer.List(s.studio.Workshop.Sources))
	at.post("/sources", answer.Created(s.studio.Workshop.AddSource))
	at.get("/sources/:id", answer.One(s.studio.Workshop.OneSource))
	at.put("/sources/:id", answer.Saved(s.studio.Workshop.SaveSource))
	s.bin(at, "/sources", "sources")
	at.get("/sources/:id/offers", answer.One(s.studio.Workshop.OffersOf))
	at.post("/sources/:id/offers", answer.Under(s.studio.Workshop.AddOffer))
	at.put("/offers/:id", answer.Saved(s.studio.Workshop.SaveOffer))
	s.bin(at, "/offers", "offers")
	at.get("/buylists", answer.List(s.studio.Buying.BuyLists))
	at.post("/buylists", answer.Created(s.studio.Buying.StartBuyList))
	at.get("/buylists/:id", answer.One(s.studio.Buying.OneBuyList))
	at.post("/buylists/:id/again", answer.Saved(func(ctx context.Context, id, version int64, _ struct{}) (buying.BuyList, error) {
		return s.studio.Buying.BringUpToDate(ctx, id, version)
	}))
	at.post("/buylists/:id/came", answer.Saved(s.studio.Buying.Came))
	at.post("/buylists/:id/lines", answer.Saved(s.studio.Buying.AddLine))
	at.post("/buylists/:id/lines/drop", answer.Saved(func(ctx context.Context, id, version int64, in droppedLine) (buying.BuyList, error) {
		return s.studio.Buying.DropLine(ctx, id, version, in.Item)
	}))
	s.bin(at, "/buylists", "buy_lists")
}

// droppedLine names a line of the maker's own that comes off a list.
type droppedLine struct {
	Item int64 `json:"item"`
}
