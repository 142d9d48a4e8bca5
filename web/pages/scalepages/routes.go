package scalepages

import (
	"fairtangle/web/pages/frame"
)

// Routes lead to weighing out, lists over several blends, and stock-taking.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/stock", s.stockPage)
	r.Get("/stock/live", s.liveStock)
	r.Ask("/stock/plate", s.changePlate)
	r.Deed("/stock/:id/count", s.countLot)
	r.Deed("/stock/:id/back", s.countBack)
	r.Get("/makings/:id/weighlist", s.weighListPage)
	r.Deed("/makings/:id/weighlist", s.weighOutAll)
	r.Deed("/blends/:id/addition", s.weighAddition)
	r.Get("/blends/:id/weigh", s.newWeighoutForm)
	r.Deed("/blends/:id/weigh", s.createWeighout)
	r.Get("/weighouts/:id", s.weighoutPage)
	r.Get("/weighouts/:id/scale", s.scalePage)
	r.Get("/weighouts/:id/scale.json", s.scaleNow)
	r.Get("/weighouts/:id/live", s.livePlate)
	r.Ask("/weighouts/:id/plate", s.changePlate)
	r.Deed("/weighouts/:id/order", s.weighBy)
	r.Deed("/weighouts/:id/weigh", s.enterReading)
	r.Deed("/weighouts/:id/together", s.enterTogether)
	r.Deed("/weighouts/:id/undo", s.undoReading)
	r.Deed("/weighouts/:id/off", s.noteUnit)
}
