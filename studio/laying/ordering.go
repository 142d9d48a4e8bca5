package laying

import (
	"cmp"
	"context"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/gradient"
	"fairtangle/core/layup"
	"fairtangle/studio/floor"
)

// OrderBy is in which order a builder takes fibres.
type OrderBy string

// The orders: as they are given, round the colours of the rainbow, from light to dark, and with the least sum of jumps.
const (
	AsGiven     OrderBy = "given"
	ByHue       OrderBy = "hue"
	ByLightness OrderBy = "lightness"
	ByPath      OrderBy = "path"
)

// Orders lists them in the order in which they are offered.
func Orders() []OrderBy { return []OrderBy{AsGiven, ByPath, ByHue, ByLightness} }

// greyC is the chroma below which a fibre has no hue that one would put it in order by.
const greyC = 8

// Ordered returns the components of fibres in an order, nil as they are given.
func (by OrderBy) Ordered(fibres []layup.Fibre) ([]int, error) {
	switch by {
	case "", AsGiven:
		return nil, nil
	case ByPath:
		return SmoothFibres(fibres), nil
	case ByLightness:
		return sorted(fibres, func(f layup.Fibre) float64 { return -f.Colour.L }), nil
	case ByHue:
		return aroundHues(fibres), nil
	}
	return nil, fault.New("order_by", "An order is given, path, hue or lightness.")
}

// sorted are the components by a measure, rising; equal ones as they are given.
func sorted(fibres []layup.Fibre, by func(layup.Fibre) float64) []int {
	out := make([]int, len(fibres))
	for i := range out {
		out[i] = i
	}
	floor.InOrder(out, func(a, b int) int { return cmp.Compare(by(fibres[a]), by(fibres[b])) })
	return out
}

// aroundHues runs round the hues, from behind the widest gap between two; what is grey follows, from light to dark.
func aroundHues(fibres []layup.Fibre) []int {
	grey := func(i int) bool { return math.Hypot(fibres[i].Colour.A, fibres[i].Colour.B) < greyC }
	hue := func(f layup.Fibre) float64 { return math.Mod(math.Atan2(f.Colour.B, f.Colour.A)+2*math.Pi, 2*math.Pi) }
	round := slices.DeleteFunc(sorted(fibres, hue), grey)
	widest, from := 0.0, 0
	for n, i := range round {
		before := round[(n+len(round)-1)%len(round)]
		if gap := math.Mod(hue(fibres[i])-hue(fibres[before])+2*math.Pi, 2*math.Pi); gap > widest {
			widest, from = gap, n
		}
	}
	out := append(slices.Clone(round[from:]), round[:from]...)
	return append(out, slices.DeleteFunc(sorted(fibres, func(f layup.Fibre) float64 { return -f.Colour.L }), func(i int) bool { return !grey(i) })...)
}

// SmoothFibres returns the order of fibres with the least sum of colour jumps.
func SmoothFibres(fibres []layup.Fibre) []int {
	d := make([][]float64, len(fibres))
	for i := range d {
		d[i] = make([]float64, len(fibres))
		for j := range d[i] {
			d[i][j] = colour.CIEDE2000(fibres[i].Colour, fibres[j].Colour)
		}
	}
	return gradient.Path(context.Background(), d, false) // of a blend's few fibres
}
