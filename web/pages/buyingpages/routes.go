package buyingpages

import (
	"fairtangle/web/pages/frame"
)

// Routes lead to what is bought, and where.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/buy", s.buyPage)
	r.Deed("/buy", s.startBuyList)
	r.Get("/buy/:id", s.buyListPage)
	r.Get("/buy/:id/to-buy.csv", s.buyListCSV)
	r.Deed("/buy/:id/again", s.bringUpToDate)
	r.Deed("/buy/:id/came", s.cameIn)
	r.Deed("/buy/:id/lines", s.addLine)
	r.Deed("/buy/:id/lines/drop", s.dropLine)
	r.Deed("/buy/:id/price", s.notePrice)
	r.Get("/sold", s.soldPage)
	r.Deed("/sold", s.saveSale)
	r.Deed("/sources", s.addSource)
	r.Get("/sources/:id", s.sourcePage)
	r.Deed("/sources/:id", s.saveSource)
	r.Deed("/sources/:id/offers", s.saveOffer)
}
