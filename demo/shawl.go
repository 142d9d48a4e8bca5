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

// shawlLots came to the shelf last.
var shawlLots = []lot{
	{
		name: "painted top “Spring Tide”", kind: "merino", prep: "combed_top", grams: 120, cost: 9.5, run: 12, lies: "along",
		colours: painted("#26324a", 0.2, "#2f7f86", 0.2, "#9cc3a5", 0.2, "#e2b45c", 0.2, "#b8503f", 0.2),
		note:    "Painted in lengths of a hand and a half.",
	},
	{
		name: "blotchy Polwarth, rust", kind: "polwarth", prep: "combed_top", grams: 90, cost: 5.2, run: 3, lies: "patches",
		colours: painted("#9a4a2c", 0.65, "#d08a52", 0.35), note: "The dye did not take evenly.",
	},
	{
		name: "Mudflat lamb, pale tips", kind: "romney", prep: "washed_locks", grams: 180, staple: 100, cost: 0.8, lies: "tips",
		colours: painted("#4b4038", 0.8, "#b89c72", 0.2), note: "The sun bleached its tips.",
	},
}

// fillShawl begins the shawl: both blends laid up, the painted top five lengths abreast.
func fillShawl(ctx context.Context, s *studio.Studio, ids map[string]int64) error {
	own, err := fillShelf(ctx, s, shawlLots)
	if err != nil {
		return err
	}
	for name, id := range ids {
		own[name] = id
	}
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
		v, err := fillBlend(ctx, s, making.ID, b, own)
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
