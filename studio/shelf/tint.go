package shelf

import (
	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/core/losses"
	"fairtangle/core/mix"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Tint is a component as the colour of a blend sees it. All that foretells a
// colour goes through tints: the blend's page, the search, mending and dulling,
// gradients, weigh-outs, and piles of scraps.
type Tint struct {
	Colour    colour.Reflectance `json:"-"`
	Sigma     float64            `json:"-"` // how unsure the colour is, in CIEDE2000
	lot       int64              // 0 where it is no lot
	thickness float64
	Own       float64 `json:"-"` // strength of what is no fibre but a blend; 0: it follows from the rest
}

// TintOf is the colour of a lot, or of the one of its colours that was picked
// out, or without a lot that of the hex; measured spectra are used where there
// are any. ok is false where the lot has no such colour; then the hex counts.
func TintOf(row *store.Lot, only, hex string, k fibre.Kind) (t Tint, ok bool) {
	t = Tint{thickness: k.Thickness(), Sigma: mix.Picker.Sigma()}
	if row == nil {
		t.Colour = floor.ReflectanceOf(hex)
		return t, true
	}
	t.lot = row.ID
	if only == "" {
		t.Colour, t.Sigma = floor.MeanColour(row.Colours)
		return t, true
	}
	for _, c := range row.Colours {
		if c.Hex == only {
			t.Colour, t.Sigma = floor.ReflectanceIn(c), floor.SigmaOf(c)
			return t, true
		}
	}
	t.Colour = floor.ReflectanceOf(only)
	return t, false
}

// FallOf is what a kind of fibre loses over the passes.
func FallOf(k fibre.Kind) losses.Fall {
	return losses.Fall{First: k.LossPct.Mid() / 100, Decay: k.Decay}
}

// WayOf is the way of a kind of fibre through so many passes.
func WayOf(k fibre.Kind, passes int) losses.Way {
	return losses.Way{Fall: FallOf(k), Passes: passes}
}

// Counts turns finished weights into shares of what they count for the colour: by
// covering power where that is wanted, and by the strength of the lots.
func (b Mixing) Counts(list []Tint, weights []float64) []float64 {
	out := make([]float64, len(list))
	var sum float64
	for i, t := range list {
		out[i] = weights[i] * b.StrengthOf(t)
		sum += out[i]
	}
	for i := range out {
		out[i] /= sum
	}
	return out
}

// Even is the colour of the even mix of components with these finished weights.
func (b Mixing) Even(list []Tint, weights []float64) colour.Reflectance {
	return b.Model.Even(Colours(list), b.Counts(list, weights))
}

// Colours are those of tints.
func Colours(list []Tint) []colour.Reflectance {
	out := make([]colour.Reflectance, len(list))
	for i, t := range list {
		out[i] = t.Colour
	}
	return out
}

// StrengthOf is how much a gram of a component counts for the colour, beside a
// gram of a fibre as thick as wool of 23 µm.
func (b Mixing) StrengthOf(t Tint) float64 {
	if t.Own > 0 {
		return t.Own
	}
	v := 1.0
	if b.Settings.CoveringPower && t.thickness > 0 {
		v = 30 / t.thickness
	}
	if own, ok := b.strength[t.lot]; ok && t.lot != 0 {
		v *= own
	}
	return v
}

// StrengthTogether is the same for a gram of a blend of these finished shares.
func (b Mixing) StrengthTogether(list []Tint, shares []float64) (sum float64) {
	for i, t := range list {
		sum += shares[i] * b.StrengthOf(t)
	}
	return sum
}
