package advisingpages

import (
	"fairtangle/web/pages/frame"
)

// Routes lead to the second look, its rules and what is told.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/second.json", s.secondLook)
	r.Deed("/second/mend", s.takeMend)
	r.Deed("/second/undo", s.undoMend)
	r.Deed("/second/tell", s.tellLook)
	r.Get("/advice", s.advicePage)
	r.Get("/advice/:rule", s.rulePage)
	r.Deed("/advice/:rule/silence", s.silenceRule)
	r.Deed("/advice/:rule/bounds", s.saveBounds)
}
