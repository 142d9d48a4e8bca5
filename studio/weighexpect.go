package studio

import (
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/store"
)

// colour is that of a unit of these finished grams, with what it is added to.
func (w *Weighout) colour(grams []float64) colour.Reflectance {
	if w.added == nil {
		return w.at.even(w.tints, grams)
	}
	return w.at.even(append(slices.Clip(w.tints), *w.added), append(slices.Clip(grams), w.AddedToG))
}

// nowOf is what a cell is to weigh as things stand: what was weighed where it
// is done, else what is wanted, or already lies in the bowl.
func nowOf(c store.WeighoutCell) unit.Milligrams {
	if c.Done && c.WeighedMg > 0 {
		return c.WeighedMg
	}
	return max(c.TargetMg, c.WeighedMg)
}

// wayAt is the way of a component of a weigh-out.
func wayAt(r store.Weighout, component int) losses.Way {
	p := r.Components[component]
	return losses.Way{Fall: losses.Fall{First: p.LossPct / 100, Decay: p.Decay}, Joins: p.JoinsAtPass, Passes: r.Passes}
}

// expect works out what will come off: weight, shares, and the largest colour
// difference between two units.
func (w *Weighout) expect(r store.Weighout) {
	n := len(r.Components)
	finished := make([]float64, n)
	units := make([][]float64, len(w.Units))
	for i := range units {
		units[i] = make([]float64, n)
	}
	for _, c := range r.Cells {
		g := wayAt(r, c.Position).Finished(inGrams(nowOf(c)))
		units[c.Unit][c.Position] = g
		finished[c.Position] += g
		w.ExpectedG += g
		w.Units[c.Unit].ExpectedG += g
	}
	for i := range w.Components {
		if w.ExpectedG > 0 {
			w.Components[i].FinishedShare = finished[i] / w.ExpectedG
		}
	}
	labs := make([]colour.Lab, 0, len(units))
	for u, f := range units {
		var sum float64
		for _, v := range f {
			sum += v
		}
		if sum == 0 {
			continue
		}
		mixed := w.colour(f)
		for i := range f {
			f[i] /= sum
			w.WorstShare = max(w.WorstShare, math.Abs(f[i]-r.Components[i].Share))
		}
		w.Units[u].Hex = mixed.Linear().Hex()
		labs = append(labs, mixed.Lab())
	}
	for i := range labs {
		for j := range i {
			w.LargestDelta = max(w.LargestDelta, colour.CIEDE2000(labs[i], labs[j]))
		}
	}
}
