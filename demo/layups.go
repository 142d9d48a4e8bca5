package demo

import (
	"context"
	"fmt"

	"fairtangle/core/layup"
	"fairtangle/studio"
)

// once are the blends that are carded once, so that lanes and stripes stay.
var once = map[string]bool{"Border": true, "Cuffs": true}

// layups are the lay-ups of the sample world, each on the equipment of the
// workshop of its type.
var layups = []struct {
	blend, name, equipment string
	build                  studio.BuildInput
}{
	{"Slack", "Slack, four batts", "drum", studio.BuildInput{Builder: layup.Sandwich}},
	{"Low Water", "Low Water, lifted", "drum", studio.BuildInput{Builder: layup.Overlay, Bare: true}},
	{"Border", "Border, seven lanes", "drum", studio.BuildInput{Builder: layup.Lanes, Repeats: 3, Bare: true}},
	{"Cuffs", "Cuffs, striped board", "board", studio.BuildInput{Builder: layup.StripesAlong, Repeats: 2, Rolags: 3}},
}

// fillLayups lays the blends of a making that have a lay-up.
func fillLayups(ctx context.Context, s *studio.Studio, blends map[string]int64) error {
	equipment, err := s.Equipment(ctx)
	if err != nil {
		return err
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
			if _, err := s.BuildOnto(ctx, id, e.ID, 0, v.name, v.build); err != nil {
				return fmt.Errorf("lay up %s: %w", v.name, err)
			}
			break
		}
	}
	return nil
}
