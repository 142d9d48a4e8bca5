package match

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
)

// Said is a fault as a maker words it: too what, and how much.
type Said struct {
	What string `json:"what"` // light, dark, warm, cool, bright, dull, red, green
	How  string `json:"how"`  // little, clearly
}

// Whats and Hows are the words that Said may have.
var (
	Whats = []string{"light", "dark", "warm", "cool", "bright", "dull", "red", "green"}
	Hows  = []string{"little", "clearly"}
)

// amounts are what the words are taken to mean in CIEDE2000: the middles of
// the ranges that colour.Words names so.
var amounts = map[string]float64{"little": 2.75, "clearly": 7}

// Saying returns the colour that a blend has when it was to be c and came out as
// the words say: c moved in each direction until CIEDE2000 is as much as the
// word means.
func Saying(c colour.Lab, words []Said) (colour.Lab, error) {
	for _, w := range words {
		amount, ok := amounts[w.How]
		if !ok {
			return c, fault.New("how", "Say little or clearly.")
		}
		dir, ok := direction(c, w.What)
		if !ok {
			return c, fault.New("what", "Say too light, dark, warm, cool, bright, dull, red or green.")
		}
		c = moved(c, dir, amount)
	}
	return c, nil
}

// direction is a unit step in Lab. Warm is yellow to orange, as in
// colour.Words.
func direction(c colour.Lab, what string) (colour.Lab, bool) {
	const warm = 70 * math.Pi / 180
	chroma := max(c.Chroma(), 1e-9)
	switch what {
	case "light":
		return colour.Lab{L: 1}, true
	case "dark":
		return colour.Lab{L: -1}, true
	case "warm":
		return colour.Lab{A: math.Cos(warm), B: math.Sin(warm)}, true
	case "cool":
		return colour.Lab{A: -math.Cos(warm), B: -math.Sin(warm)}, true
	case "bright":
		return colour.Lab{A: c.A / chroma, B: c.B / chroma}, true
	case "dull":
		return colour.Lab{A: -c.A / chroma, B: -c.B / chroma}, true
	case "red":
		return colour.Lab{A: math.Sin(warm), B: -math.Cos(warm)}, true
	case "green":
		return colour.Lab{A: -math.Sin(warm), B: math.Cos(warm)}, true
	}
	return c, false
}

// moved goes from c in a direction until the difference is amount. Lightness
// stays within 0..100 and dulling stops at grey.
func moved(c, dir colour.Lab, amount float64) colour.Lab {
	dull := dir.A*c.A+dir.B*c.B < 0 && math.Abs(dir.A*c.B-dir.B*c.A) < 1e-6*c.Chroma()
	at := func(k float64) colour.Lab {
		q := colour.Lab{L: min(max(c.L+k*dir.L, 0), 100), A: c.A + k*dir.A, B: c.B + k*dir.B}
		if dull && k > c.Chroma() {
			q.A, q.B = 0, 0
		}
		return q
	}
	lo, hi := 0.0, 80.0
	for range 40 {
		if k := (lo + hi) / 2; colour.CIEDE2000(c, at(k)) < amount {
			lo = k
		} else {
			hi = k
		}
	}
	return at(lo)
}
