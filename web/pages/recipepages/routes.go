package recipepages

import (
	"fairtangle/web/answer"
	"fairtangle/web/pages/frame"
)

// Routes lead to makings and their blends.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/makings", s.makings)
	r.Deed("/makings", s.createMaking)
	r.Deed("/sample", s.laySampleOut)
	r.Deed("/sample/away", s.putSampleAway)
	r.Get("/makings/:id", s.makingPage)
	r.Deed("/makings/:id", s.updateMaking)
	r.Get("/makings/:id/fair", s.fairPage)
	r.Deed("/makings/:id/copy", s.copyMaking)
	r.Deed("/makings/:id/archive", s.archiveMaking)
	r.Deed("/makings/:id/blends", s.createBlend)
	r.Get("/blends/:id", s.blendPage)
	r.Ask("/blends/:id/change", frame.Changing(s.Frame, s.recipe()))
	r.Get("/blends/:id/steps", frame.ListSteps(s.Frame, s.recipe()))
	r.Ask("/blends/:id/find", s.findProportions)
	r.Ask("/blends/:id/find/all", s.findAll)
	r.Ask("/blends/:id/mend", s.Turns.Long(answer.Impatient, s.mendBlend))
	r.Ask("/blends/:id/dull", s.Turns.Long(answer.Impatient, s.dullBlend))
	r.Get("/blends/:id/labels", s.labelsPage)
	r.Get("/blends/:id/price", s.pricePage)
	r.Deed("/blends/:id/price", s.keepRates)
	r.Get("/blends/:id/give", s.givePage)
	r.Get("/blends/:id/card", s.recipeCard)
	r.Get("/blends/:id/pictures", s.picturesPage)
	r.Get("/blends/:id/pictures/:of", s.keptDrawing)
	r.Get("/recipe.schema.json", s.recipeSchema)
	r.Deed("/blends/:id/copy", s.copyBlend)
	r.Deed("/blends/:id/target", s.setTarget)
}
