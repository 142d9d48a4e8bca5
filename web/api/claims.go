package api

import "fairtangle/web/answer"

// claims are fibre that makings have spoken for.
func (s *server) claims(at methods) {
	at.get("/claims", answer.List(s.studio.Buying.Claims))
	at.get("/lots/:id/claims", answer.One(s.studio.Buying.ClaimsOn))
	at.get("/makings/:id/claims", answer.One(s.studio.Buying.ClaimsOf))
}
