package carderpages

import (
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
)

// Routes lead to runs, records and raw fleeces.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/weighouts/:id/runningout", s.runningOut)
	r.Deed("/weighouts/:id/goon", s.goOn)
	r.Deed("/weighouts/:id/runs", s.startRun)
	r.Get("/runs/:id", s.runPage)
	r.Deed("/runs/:id/tell", s.tellRun)
	r.Ask("/runs/:id/photo", s.photoOfRun)
	r.Get("/runs/:id/record", s.recordPage)
	r.Get("/trouble", s.troublePage)
	r.Deed("/runs/:id/helped", s.itHelped)
	r.Deed("/runs/:id/shelf", s.shelveRun)
	r.Deed("/runs/:id/decide", s.decideRun)
	r.Deed("/lots/:id/fleece", s.startFleece)
	r.Ask("/runs/:id/again", s.Turns.Long(answer.Patient, s.makeAgain))
	r.Get("/equipment/:id/book", s.carderBook)
	r.Deed("/equipment/:id/full", s.wasFull)
	r.Deed("/equipment/:id/cleanings", s.cleaned)
}
