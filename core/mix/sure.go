package mix

import (
	"math"

	"fairtangle/core/colour"
)

// Source is how the colour of a lot became known.
type Source string

// The sources of a colour, from the surest to the least sure.
const (
	Reader Source = "reader" // a colour reader
	Photo  Source = "photo"  // a photo with a grey or white card in it
	Value  Source = "value"  // a typed value
	Picker Source = "picker" // chosen by eye
	// Foreseen is the colour of what was blended here and not measured yet. How unsure it is
	// was worked out with it.
	Foreseen Source = "foreseen"
)

// Sources lists those that are entered, from the surest to the least sure.
func Sources() []Source { return []Source{Reader, Photo, Value, Picker} }

// Sigma is the standard error of a lot's colour in CIEDE2000 units by how it
// came in. These are estimates, to be replaced by calibration.
func (s Source) Sigma() float64 {
	switch s {
	case Reader:
		return 0.7
	case Photo:
		return 2.5
	default:
		return 4
	}
}

// Uncertainty is the standard error of a prediction in CIEDE2000 units and its
// two parts: from the lots' own colours and from the choice of model.
type Uncertainty struct {
	Sigma, Lots, Model float64
}

// Sure estimates how far the even mix of lots may lie from the prediction.
// The part of the lots is the root of the summed squares of sensitivity times
// the lot's own sigma, sensitivity by finite differences in Lab; the part of
// the model is calibrated, the left-out error of a calibration, or where that
// is 0 half the root mean square difference between the three models, at
// least 1.
func Sure(m Model, lots []colour.Reflectance, shares []float64, sigmas []float64, calibrated float64) Uncertainty {
	var u Uncertainty
	prepared := make([]Prepared, len(lots))
	for i := range lots {
		prepared[i] = m.Prepare(&lots[i])
	}
	here := m.Mix(prepared, shares)
	at := here.Lab()
	var variance float64
	for i := range lots {
		v := sensitivity(m, prepared, shares, i, &lots[i], at) * sigmas[i]
		variance += v * v
	}
	u.Lots = math.Sqrt(variance)
	u.Model = calibrated
	if calibrated == 0 {
		u.Model = max(1, spread(lots, shares)/2)
	}
	u.Sigma = math.Hypot(u.Lots, u.Model)
	return u
}

// sensitivity is by how much the blend moves when lot i moves by 1, the root
// mean square over the three axes of Lab.
func sensitivity(m Model, prepared []Prepared, shares []float64, i int, lot *colour.Reflectance, at colour.Lab) float64 {
	const h = 2
	keep := prepared[i]
	defer func() { prepared[i] = keep }()
	from := lot.Lab()
	shift := [3]colour.Lab{{L: h}, {A: h}, {B: h}}
	if from.L > 95 {
		shift[0].L = -h
	}
	var sum float64
	for _, d := range shift {
		// Light axes can leave the gamut; the clipped colour still gives a
		// quotient as long as it moved.
		r, _ := colour.Lab{L: from.L + d.L, A: from.A + d.A, B: from.B + d.B}.Linear().Reflectance()
		moved := colour.CIEDE2000(from, r.Lab())
		if moved < 1e-6 {
			continue
		}
		prepared[i] = m.Prepare(&r)
		blend := m.Mix(prepared, shares)
		q := colour.CIEDE2000(at, blend.Lab()) / moved
		sum += q * q / 3
	}
	return math.Sqrt(sum)
}

// spread is the root mean square CIEDE2000 between the three models with
// their usual parameters.
func spread(lots []colour.Reflectance, shares []float64) float64 {
	var labs [3]colour.Lab
	for i, m := range []Model{Default(), {Friele, 0.28}, {KubelkaMunk, 0}} {
		r := m.Even(lots, shares)
		labs[i] = r.Lab()
	}
	a := colour.CIEDE2000(labs[0], labs[1])
	b := colour.CIEDE2000(labs[0], labs[2])
	c := colour.CIEDE2000(labs[1], labs[2])
	return math.Sqrt((a*a + b*b + c*c) / 3)
}

// Around returns four colours that lie about sigma (CIEDE2000) from c: lighter,
// warmer, darker, cooler. They show what an uncertainty looks like.
func Around(c colour.Lab, sigma float64) [4]colour.Lab {
	const warm = 70 * math.Pi / 180
	dirs := [4]colour.Lab{
		{L: 1},
		{A: math.Cos(warm), B: math.Sin(warm)},
		{L: -1},
		{A: -math.Cos(warm), B: -math.Sin(warm)},
	}
	var out [4]colour.Lab
	for i, d := range dirs {
		lo, hi := 0.0, 60.0
		var q colour.Lab
		for range 24 {
			k := (lo + hi) / 2
			q = colour.Lab{L: min(max(c.L+k*d.L, 0), 100), A: c.A + k*d.A, B: c.B + k*d.B}
			if colour.CIEDE2000(c, q) < sigma {
				lo = k
			} else {
				hi = k
			}
		}
		out[i] = q
	}
	return out
}
