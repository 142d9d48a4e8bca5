package demo

import (
	"context"
	"fmt"

	"fairtangle/core/layup"
	"fairtangle/studio"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
)

// shawl is what is made of fibre of several colours: one in streaks that stay, one in which blotches and pale tips are mixed.
var shawl = []blend{
	{"Spring Tide", 50, "", []part{{"painted top “Spring Tide”", 70}, {"undyed Romney", 22}, {"mulberry silk, white", 8}}},
	{"Rust and pale tips", 60, "", []part{{"blotchy Polwarth, rust", 60}, {"Mudflat lamb, pale tips", 40}}},
}

// fillShawl begins the shawl: both blends laid up, the painted top five lengths abreast.
func fillShawl(ctx context.Context, s *studio.Studio, ids map[string]int64) error {
	making, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "Spring Tide shawl", Note: "A painted top that keeps its colours, and an edge in rust."})
	if err != nil {
		return err
	}
	equipment, err := s.Workshop.Equipment(ctx)
	if err != nil {
		return err
	}
	order := map[string][]int{shawl[0].name: {1, 0, 2}} // the painted top above the undyed
	for _, b := range shawl {
		v, err := fillBlend(ctx, s, making.ID, b, ids)
		if err != nil {
			return fmt.Errorf("%s: %w", b.name, err)
		}
		l, err := s.Laying.BuildOnto(ctx, v.ID, equipment[0].ID, 1, b.name+", one batt", laying.BuildInput{Builder: layup.Depth, Order: order[b.name]})
		if err != nil {
			return fmt.Errorf("lay up %s: %w", b.name, err)
		}
		if b.name == shawl[0].name {
			if _, err = s.Laying.ChangeLayup(ctx, l.ID, l.Version, laying.LayupChange{Verb: "fed", At: 0, Text: "abreast", Times: 5}); err != nil {
				return err
			}
		}
	}
	return nil
}
