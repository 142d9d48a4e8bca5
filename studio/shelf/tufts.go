package shelf

import (
	"context"

	"fairtangle/core/photo"
)

// Tufts finds what lies apart on the plain ground of a photo, balanced by its card, in the order of reading.
func Tufts(ctx context.Context, s *Room, r Photo) ([]photo.Tuft, error) {
	p, err := s.Picture(ctx, r)
	if err != nil {
		return nil, err
	}
	var card *photo.Area
	if r.Card != nil {
		long := float64(max(r.Width, r.Height))
		w, h := r.Card.Radius*long/float64(r.Width), r.Card.Radius*long/float64(r.Height)
		card = &photo.Area{X0: r.Card.X - w, Y0: r.Card.Y - h, X1: r.Card.X + w, Y1: r.Card.Y + h}
	}
	return p.Tufts(ctx, BalanceOf(r), card)
}
