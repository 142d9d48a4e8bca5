package notebookpages

import (
	"fairtangle/web/pages/frame"
)

// Routes lead to what was made, and the order of a day.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/runs/:id/card", s.recordCard)
	r.Get("/notebook", s.notebook)
	r.Get("/day", s.dayPage)
	r.Get("/day.ics", s.dayCalendar)
	r.Get("/notebook/beside", s.notebookBeside)
	r.Get("/notebook/swatches", s.swatches)
	r.Deed("/notebook/learning", s.learning)
}
