package reachpages

import (
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
)

// Routes lead to photos, samples, scraps and gradients.
func (s *Room) Routes(r frame.Routes) {
	r.Ask("/reader", s.readUnder)
	r.Get("/given", s.givenForm)
	r.Ask("/given", s.readGiven)
	r.Deed("/given/take", s.takeGiven)
	r.Deed("/makings/:id/gradients", s.newGradient)
	r.Deed("/lots/:id/gradient", s.gradientFromLot)
	r.Get("/gradients/:id", s.gradientPage)
	r.Ask("/gradients/:id/change", frame.Changing(s.Frame, s.ladder()))
	r.Get("/gradients/:id/steps", frame.ListSteps(s.Frame, s.ladder()))
	r.Deed("/gradients/:id/blends", s.gradientBlends)
	r.Get("/colours", s.together)
	r.Deed("/colours/blend", s.togetherBlend)
	r.Get("/makings/:id/family", s.family)
	r.Deed("/makings/:id/family/base", s.changeBase)
	r.Get("/blends/:id/range", s.rangePage)
	r.Deed("/blends/:id/range", s.makeRange)
	r.Get("/scraps", s.scrapBags)
	r.Deed("/scraps", s.createBag)
	r.Get("/scraps/:id", s.bagPage)
	r.Ask("/scraps/:id/change", frame.Changing(s.Frame, s.bag()))
	r.Get("/scraps/:id/steps", frame.ListSteps(s.Frame, s.bag()))
	r.Deed("/scraps/:id/blends", s.bagBlends)
	r.Get("/photos", s.photos)
	r.Ask("/photos", s.addPhoto)
	r.Get("/photos/:id", s.photoPage)
	r.Get("/photos/:id/picture.png", answer.Picture(s.Studio.Shelf.PhotoFile))
	r.Deed("/photos/:id/name", s.renamePhoto)
	r.Deed("/photos/:id/card", s.setCard)
	r.Ask("/photos/:id/read", s.readSpot)
	r.Ask("/photos/:id/look", s.Turns.Long(answer.Impatient, s.photoLook))
	r.Ask("/photos/:id/runs", s.Turns.Long(answer.Impatient, s.photoRuns))
	r.Deed("/photos/:id/tolot", s.spotToLot)
	r.Ask("/photos/:id/palette", s.Turns.Long(answer.Impatient, s.photoPalette))
	r.Ask("/photos/:id/throw", s.Turns.Long(answer.Patient, s.throwFromPhoto))
	r.Get("/calibration", s.calibrationPage)
	r.Deed("/calibration", s.saveSample)
	r.Deed("/calibration/switch", s.switchCalibration)
	r.Ask("/lots/:id/measure", s.measureLot)
	r.Deed("/lots/:id/colours/back", s.coloursBack)
}
