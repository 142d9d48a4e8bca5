package api

import "fairtangle/web/answer"

func (s *server) gradients(at methods) {
	at.get("/gradients/:id", answer.One(s.studio.Reach.Gradient))
	at.put("/gradients/:id", answer.Saved(s.studio.Reach.SaveGradient))
	at.post("/gradients/:id/changes", answer.Saved(s.studio.Reach.ChangeGradient))
	steps(s, at, "/gradients", "gradients", s.studio.Reach.StepGradient)
	at.post("/gradients/:id/blends", answer.One(s.studio.Reach.GradientBlends))
	s.bin(at, "/gradients", "gradients")
}
