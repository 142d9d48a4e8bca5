package api

import "fairtangle/web/answer"

func (s *server) gradients(at methods) {
	at.get("/gradients/:id", answer.One(s.studio.Gradient))
	at.put("/gradients/:id", answer.Saved(s.studio.SaveGradient))
	at.post("/gradients/:id/changes", answer.Saved(s.studio.ChangeGradient))
	steps(s, at, "/gradients", "gradients", s.studio.StepGradient)
	at.post("/gradients/:id/blends", answer.One(s.studio.GradientBlends))
	s.bin(at, "/gradients", "gradients")
}
