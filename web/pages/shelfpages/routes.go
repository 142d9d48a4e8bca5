package shelfpages

import (
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
)

// Routes lead to lots, what comes in and goes out.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/shelf", s.shelf)
	r.Get("/shelf/pick", s.pickLots)
	r.Get("/shelf/export.csv", s.exportLots)
	r.Get("/shelf/several", s.several)
	r.Deed("/shelf/several", s.changeSeveral)
	r.Get("/shelf/lines", s.linesForm)
	r.Ask("/shelf/lines", s.readLines)
	r.Deed("/shelf/lines/put", s.putLines)
	r.Ask("/shelf/sheet", s.readSheet)
	r.Ask("/shelf/lines/spot", s.addSpot)
	r.Deed("/shelf/back", s.takeBack)
	r.Get("/photos/:id/tufts", s.Turns.Long(answer.Impatient, s.tufts))
	r.Get("/shelf/import", s.importForm)
	r.Ask("/shelf/import", s.importPreview)
	r.Deed("/shelf/import/confirm", s.importConfirm)
	r.Get("/lots/new", s.newLotForm)
	r.Deed("/lots/new", s.createLot)
	r.Get("/lots/:id", s.lotPage)
	r.Get("/lots/:id/edit", s.editLotForm)
	r.Deed("/lots/:id/edit", s.updateLot)
	r.Deed("/lots/:id/how", s.tellLot)
	r.Deed("/lots/:id/move", s.moveLot)
	r.Deed("/lots/:id/undo/:movement", s.undoMove)
	r.Get("/lots/:id/part", s.partForm)
	r.Deed("/lots/:id/part", s.partLot)
	r.Deed("/lots/:id/unpart/:parting", s.unpart)
	r.Deed("/lots/:id/together", s.putTogether)
}
