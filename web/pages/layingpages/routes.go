package layingpages

import (
	"fairtangle/web/pages/frame"
)

// Routes lead to lay-ups, and what carding them is expected to give.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/blends/:id/looks.json", s.blendLooks)
	r.Get("/blends/:id/looks.png", s.blendPicture)
	r.Get("/blends/:id/layup", s.newLayupForm)
	r.Deed("/blends/:id/layup", s.createLayup)
	r.Deed("/makings/:id/schools", s.saveSchools)
	r.Get("/makings/:id/layup", s.manyForm)
	r.Deed("/makings/:id/layup", s.layMany)
	r.Get("/layups/:id", s.layupPage)
	r.Ask("/layups/:id/change", frame.Changing(s.Frame, s.bed()))
	r.Get("/layups/:id/steps", frame.ListSteps(s.Frame, s.bed()))
	r.Get("/layups/:id/bench", s.benchPage)
	r.Get("/layups/:id/card", s.cardPage)
	r.Get("/layups/:id/card.json", s.foretell)
	r.Get("/layups/:id/card.png", s.cardPicture)
	r.Get("/layups/:id/parts", s.cardParts)
	r.Get("/layups/:id/beside", s.cardBeside)
	r.Ask("/layups/:id/fit", s.fitCarder)
	r.Deed("/layups/:id/fit/use", s.useFit)
	r.Get("/layups/:id/needs", s.cardNeeds)
	r.Get("/layups/:id/now", s.layupNow)
}
