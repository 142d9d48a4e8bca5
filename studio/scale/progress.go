package scale

import (
	"context"

	"fairtangle/studio/recipe"
)

// FarOf is how far makings have come.
func (s *Room) FarOf(ctx context.Context, makings ...int64) (map[int64]recipe.Far, error) {
	rows, err := s.Store.Far(ctx, makings)
	out := map[int64]recipe.Far{}
	for id, r := range rows {
		out[id] = recipe.Far{Carded: recipe.Progress{All: r.Units, Done: r.Off, Latest: r.Latest}, Need: r.Needs > 0, Skeins: r.Skeins}
	}
	return out, err
}
