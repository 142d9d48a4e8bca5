package shelf

import (
	"context"

	"fairtangle/core/fault"
	"fairtangle/studio/floor"
)

// MostBack is how many lots are taken back at once.
const MostBack = 5000

// TakeBack puts lots that came together, from one number to another, into the bin: all of them or none. One that was changed since, or of
// which fibre was taken, stops it.
func TakeBack(ctx context.Context, s *Room, first, last int64) error {
	if first < 1 || last < first || last-first >= MostBack {
		return fault.New("came", "Lots that came together have numbers one after the other.")
	}
	ids := make([]int64, 0, last-first+1)
	for id := first; id <= last; id++ {
		ids = append(ids, id)
	}
	rows, err := s.Store.LotsByID(ctx, ids)
	if err != nil {
		return err
	}
	for _, id := range ids {
		r, there := rows[id]
		switch {
		case !there:
			return floor.ErrNotFound
		case r.DeletedAt.Valid:
			return fault.New("came", "%s lies in the bin already.", r.Name)
		case r.Version > 1 || r.MovementCount > 1:
			return fault.New("came", "%s was changed since, or some of it was taken; put the others into the bin one by one.", r.Name)
		}
	}
	for _, id := range ids {
		if err := s.Discard(ctx, "lots", id); err != nil {
			return err
		}
	}
	return nil
}
