package demo

import (
	"context"
	"fmt"

	"fairtangle/core/layup"
	"fairtangle/studio"
	"fairtangle/studio/laying"
)

// once are the blends that are carded once, so that lanes and stripes stay.
var once = map[string]bool{"Border": true, "Cuffs": true, "Low Water": true, "Spring Tide": true}

// bare lays on the bare cloth.
var bare = true

// layups are the lay-ups of the sample world, each on the equipment of the
// workshop of its type.
var layups = []struct {
	blend, name, equipment string
	units                  int
	build                  laying.BuildInput
}{
	{"Slack", "Slack, four batts", "drum", 4, laying.BuildInput{Builder: layup.Sandwich}},
	{"Low Water", "Low Water, lifted", "drum", 4, laying.BuildInput{Builder: layup.Overlay, Base: new(int)}},
	{"Border", "Border, seven lanes", "drum", 1, laying.BuildInput{Builder: layup.Lanes, Repeats: 3, Bare: &bare}},
	{"Cuffs", "Cuffs, striped board", "board", 1, laying.BuildInput{Builder: layup.StripesAlong, Repeats: 2, Rolags: 3}},
}

// fillLayups lays the blends of a making that have a lay-up, and gives these by
// blend.
func fillLayups(ctx context.Context, s *studio.Studio, blends map[string]int64) (map[string]int64, error) {
	out := map[string]int64{}
	equipment, err := s.Workshop.Equipment(ctx)
	if err != nil {
		return out, err
	}
	for _, v := range layups {
		id := blends[v.blend]
		if id == 0 {
			continue
		}
		for _, e := range equipment {
			if e.Type != v.equipment {
				continue
			}
			l, err := s.Laying.BuildOnto(ctx, id, e.ID, v.units, v.name, v.build)
			if err != nil {
				return out, fmt.Errorf("lay up %s: %w", v.name, err)
			}
			out[v.blend] = l.ID
			break
		}
	}
	return out, nil
}
