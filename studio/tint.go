package studio

import (
	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/core/losses"
	"fairtangle/core/mix"
	"fairtangle/store"
)

// tint is a component as the colour of a blend sees it. All that foretells a
// colour goes through tints: the blend's page, the search, mending and dulling,
// gradients, weigh-outs, and piles of scraps.
type tint struct {
	colour    colour.Reflectance
	sigma     float64 // how unsure the colour is, in CIEDE2000
	lot       int64   // 0 where it is no lot
	thickness float64
	own       float64 // strength of what is no fibre but a blend; 0: it follows from the rest
}

// tintOf is the colour of a lot, or of the one of its colours that was picked
// out, or without a lot that of the hex; measured spectra are used where there
// are any. ok is false where the lot has no such colour; then the hex counts.
func tintOf(row *store.Lot, only, hex string, k fibre.Kind) (t tint, ok bool) {
	t = tint{thickness: k.Thickness(), sigma: mix.Picker.Sigma()}
	if row == nil {
		t.colour = reflectanceOf(hex)
		return t, true
	}
	t.lot = row.ID
	if only == "" {
		t.colour, t.sigma = meanColour(row.Colours)
		return t, true
	}
	for _, c := range row.Colours {
		if c.Hex == only {
			t.colour, t.sigma = reflectanceIn(c), sigmaOf(c)
			return t, true
		}
	}
	t.colour = reflectanceOf(only)
	return t, false
}

// fallOf is what a kind of fibre loses over the passes.
func fallOf(k fibre.Kind) losses.Fall {
	return losses.Fall{First: k.LossPct.Mid() / 100, Decay: k.Decay}
}

// wayOf is the way of a kind of fibre through so many passes.
func wayOf(k fibre.Kind, passes int) losses.Way {
	return losses.Way{Fall: fallOf(k), Passes: passes}
}

// counts turns finished weights into shares of what they count for the colour: by
// covering power where that is wanted, and by the strength of the lots.
func (b stock) counts(list []tint, weights []float64) []float64 {
	out := make([]float64, len(list))
	var sum float64
	for i, t := range list {
		out[i] = weights[i] * b.strengthOf(t)
		sum += out[i]
	}
	for i := range out {
		out[i] /= sum
	}
	return out
}

// even is the colour of the even mix of components with these finished weights.
func (b stock) even(list []tint, weights []float64) colour.Reflectance {
	return b.model.Even(colours(list), b.counts(list, weights))
}

// colours are those of tints.
func colours(list []tint) []colour.Reflectance {
	out := make([]colour.Reflectance, len(list))
	for i, t := range list {
		out[i] = t.colour
	}
	return out
}

// strengthOf is how much a gram of a component counts for the colour, beside a
// gram of a fibre as thick as wool of 23 µm.
func (b stock) strengthOf(t tint) float64 {
	if t.own > 0 {
		return t.own
	}
	v := 1.0
	if b.set.CoveringPower && t.thickness > 0 {
		v = 30 / t.thickness
	}
	if own, ok := b.strength[t.lot]; ok && t.lot != 0 {
		v *= own
	}
	return v
}

// strengthTogether is the same for a gram of a blend of these finished shares.
func (b stock) strengthTogether(list []tint, shares []float64) (sum float64) {
	for i, t := range list {
		sum += shares[i] * b.strengthOf(t)
	}
	return sum
}
