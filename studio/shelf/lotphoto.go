package shelf

import (
	"context"
	"errors"

	"fairtangle/core/fault"
	"fairtangle/studio/floor"
)

// shows looks whether the photo of a lot is there.
func (s *Room) shows(ctx context.Context, photo *int64) error {
	if photo == nil {
		return nil
	}
	if _, err := s.Photo(ctx, *photo); errors.Is(err, floor.ErrNotFound) {
		return fault.New("photo_id", "There is no such photo.")
	} else if err != nil {
		return err
	}
	return nil
}

// showsNow is shows for a lot that is kept: a photo that it has may lie in the bin.
func (s *Room) showsNow(ctx context.Context, lot int64, photo *int64) error {
	if photo == nil {
		return nil
	}
	was, err := s.Store.Lot(ctx, lot)
	if err != nil || was.PhotoID != nil && *was.PhotoID == *photo {
		return err
	}
	return s.shows(ctx, photo)
}
