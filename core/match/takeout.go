package match

import (
	"cmp"
	"math"
	"slices"

	"fairtangle/core/colour"
)

// MostDrawn is the part of a fibre that can be drawn out of a mix again: strands of it lie free, the rest is in between.
const MostDrawn = 0.5

// sweeps is at how many weights a strand is looked at, at most.
const sweeps = 200

// Drawn is a strand that is drawn out of a mix whose fibres can still be told apart.
type Drawn struct {
	Of     int     // the fibre
	Steps  int     // of the scale
	DeltaE float64 // CIEDE2000 from the target afterwards
	Colour colour.Lab
}

// TakeOut finds for each fibre of a mix how much of it, at most MostDrawn of what there is and in whole steps of the scale, is to be
// drawn out for the rest to come closest to the target. Those that make it better by worth are given, the best first. grams is what
// there is of each; even foretells the colour of such grams; now is the colour that the mix has: where it was measured or said, what
// it is off the foretold one stays as it is (own judgement: in CIELAB).
func TakeOut(grams []float64, even func([]float64) colour.Lab, now, target colour.Lab, stepG float64) (out []Drawn) {
	told, before := even(grams), colour.CIEDE2000(target, now)
	left := slices.Clone(grams)
	for i, g := range grams {
		most := int(math.Floor(MostDrawn*g/stepG + 1e-9))
		if len(grams) < 2 || most < 1 {
			continue
		}
		best := Drawn{Of: i, DeltaE: before}
		for n, by := 1, max(1, most/sweeps); n <= most; n += by {
			left[i] = g - float64(n)*stepG
			then := even(left)
			c := colour.Lab{L: then.L + now.L - told.L, A: then.A + now.A - told.A, B: then.B + now.B - told.B}
			if d := colour.CIEDE2000(target, c); d < best.DeltaE {
				best.Steps, best.DeltaE, best.Colour = n, d, c
			}
		}
		left[i] = g
		if best.DeltaE <= before-worth {
			out = append(out, best)
		}
	}
	slices.SortFunc(out, func(a, b Drawn) int { return cmp.Or(cmp.Compare(a.DeltaE, b.DeltaE), cmp.Compare(a.Of, b.Of)) })
	return out
}
