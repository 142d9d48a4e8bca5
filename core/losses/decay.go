package losses

import "math"

// Fall is what a fibre loses over the passes that it goes through (losses.md, section 1): most
// dust falls in the first, breakage goes on, so the pass p loses First × Decay^(p-1). Passes are
// counted from the one at which the fibre joins. Decay 0: each pass loses as much.
type Fall struct {
	First float64 // part lost in its first pass
	Decay float64
}

// In is the part lost in pass p.
func (f Fall) In(p int) float64 {
	if f.Decay == 0 {
		return f.First
	}
	return f.First * math.Pow(f.Decay, float64(p-1))
}

// Left is what is left after so many passes: the product of 1 - In(p).
func (f Fall) Left(passes int) float64 {
	left := 1.0
	for p := 1; p <= passes; p++ {
		left *= 1 - f.In(p)
	}
	return left
}

// times is how many first passes the passes from one to another lose together.
func (f Fall) times(first, last int) (sum float64) {
	for p := first; p <= last; p++ {
		sum += Fall{1, f.Decay}.In(p)
	}
	return sum
}
