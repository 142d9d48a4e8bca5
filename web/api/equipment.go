package api

import (
	"context"

	"fairtangle/studio/carder"
	"fairtangle/web/answer"
)

// equipment is what the runs on it have shown, and its cleanings.
func (s *server) equipment(at methods) {
	at.get("/equipment/:id/book", answer.One(s.studio.Carder.CarderBook))
	at.get("/equipment/:id/cleanings", answer.One(func(ctx context.Context, id int64) ([]carder.Cleaning, error) {
		if _, err := s.studio.Workshop.AnyEquipment(ctx, id); err != nil {
			return nil, err
		}
		return s.studio.Carder.Cleanings(ctx, id)
	}))
	at.post("/equipment/:id/cleanings", answer.Under(s.studio.Carder.Clean))
	s.bin(at, "/cleanings", "cleanings")
}
