package api

import (
	"context"

	"fairtangle/studio"
	"fairtangle/web/answer"
)

// equipment is what the runs on it have shown, and its cleanings.
func (s *server) equipment(at methods) {
	at.get("/equipment/:id/book", answer.One(s.studio.CarderBook))
	at.get("/equipment/:id/cleanings", answer.One(func(ctx context.Context, id int64) ([]studio.Cleaning, error) {
		if _, err := s.studio.AnyEquipment(ctx, id); err != nil {
			return nil, err
		}
		return s.studio.Cleanings(ctx, id)
	}))
	at.post("/equipment/:id/cleanings", answer.Under(s.studio.Clean))
	s.bin(at, "/cleanings", "cleanings")
}
