package yarnspages

import (
	"fairtangle/web/pages/frame"
)

// Routes lead to needs, yarn, samples and skeins.
func (s *Room) Routes(r frame.Routes) {
	r.Get("/makings/:id/need", s.needOfMaking)
	r.Deed("/makings/:id/need", s.startNeed)
	r.Get("/makings/:id/instead", s.insteadPage)
	r.Deed("/makings/:id/instead", s.takeInstead)
	r.Get("/needs/:id", s.needPage)
	r.Ask("/needs/:id/change", frame.Changing(s.Frame, s.need()))
	r.Get("/needs/:id/steps", frame.ListSteps(s.Frame, s.need()))
	r.Deed("/needs/:id/give", s.giveWeights)
	r.Get("/makings/:id/yarn", s.makingYarn)
	r.Get("/makings/:id/whole", s.wholePage)
	r.Get("/makings/:id/whole/piece.png", s.wholePicture)
	r.Deed("/makings/:id/whole/bridge", s.addBridge)
	r.Get("/makings/:id/skeins/new", s.newSkein)
	r.Deed("/makings/:id/skeins/new", s.saveSkein)
	r.Get("/skeins/:id", s.skeinPage)
	r.Deed("/skeins/:id", s.saveSkein)
	r.Get("/skeins/:id/labels", s.skeinLabels)
	r.Get("/makings/:id/yarnsamples/new", s.newYarnSample)
	r.Deed("/makings/:id/yarnsamples/new", s.saveYarnSample)
	r.Get("/yarnsamples/:id", s.yarnSamplePage)
	r.Deed("/yarnsamples/:id", s.saveYarnSample)
	r.Get("/yarnsamples/:id/card", s.yarnSampleCard)
	r.Get("/layups/:id/yarn", s.yarnPage)
	r.Get("/layups/:id/yarn.png", s.yarnPicture)
	r.Get("/layups/:id/yarn/ways", s.yarnWays)
	r.Get("/layups/:id/yarn/beside", s.yarnBeside)
	r.Ask("/yarns/:id/change", frame.Changing(s.Frame, s.yarnPiece()))
	r.Get("/yarns/:id/steps", frame.ListSteps(s.Frame, s.yarnPiece()))
}
