package reach

import (
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/match"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

// TakenOut is a strand that is drawn out of what was made, and the recipe of what is left.
type TakenOut struct {
	Component  int                     `json:"component"`
	Grams      float64                 `json:"grams"`
	TotalG     float64                 `json:"total_g"`
	DeltaE     float64                 `json:"delta_e"`
	Hex        string                  `json:"hex"`
	Words      string                  `json:"words"`
	Components []recipe.BlendComponent `json:"components"`
	Came       recipe.Came             `json:"came"`
}

// mostTakeOuts is how many of them are shown.
const mostTakeOuts = 2

// takeOuts are the strands that, drawn out of grams of a blend's components that have a colour now, bring it nearer to the target.
func takeOuts(at shelf.Mixing, b recipe.Blend, of []float64, now, target colour.Lab, step float64) []TakenOut {
	out := []TakenOut{}
	even := func(grams []float64) colour.Lab {
		r := at.Even(b.Tints, grams)
		return r.Lab()
	}
	for _, d := range match.TakeOut(of, even, now, target, step) {
		if len(out) == mostTakeOuts {
			break
		}
		left := slices.Clone(of)
		grams := unit.Clean(float64(d.Steps) * step)
		left[d.Of] = unit.Clean(left[d.Of] - grams)
		r, _ := d.Colour.Linear().Reflectance()
		v := TakenOut{
			Component: d.Of, Grams: grams, DeltaE: d.DeltaE, Hex: d.Colour.Linear().Hex(), Words: colour.Words(target, d.Colour),
			Components: joined(b, left, nil, nil),
		}
		v.Came = recipe.Came{Hex: v.Hex, Reflectance: slices.Clone(r[:])}
		for i, c := range b.Components {
			v.Came.Of, v.TotalG = append(v.Came.Of, store.CamePart{Key: c.Key, Grams: left[i]}), v.TotalG+left[i]
		}
		v.TotalG = unit.Clean(v.TotalG)
		v.Came.Grams = v.TotalG
		out = append(out, v)
	}
	return out
}
