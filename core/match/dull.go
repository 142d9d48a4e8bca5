package match

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
)

// The ways to take the shine off a colour.
const (
	Complement = "complement"
	Grey       = "grey"
	Brown      = "brown"
)

// Dulled is one way to dull a blend: Lot at Share of the new whole gives
// Colour. Lot is -1 where no lot on the shelf serves this way.
type Dulled struct {
	Way    string
	Lot    int
	Share  float64
	Colour colour.Reflectance
	DeltaE float64 // from the same lightness and hue with just less chroma
}

// Dull finds for each of the three ways, complement, grey and brown, the lot
// that takes the part drop (0..1) off a colour's chroma and keeps its lightness
// and hue best, with the share it needs for that. A complement lies within 50
// degrees of the opposite hue; grey has a chroma below 10; brown is a dull,
// not light yellow to red. No lot serves two ways.
func Dull(c colour.Reflectance, drop float64, lots []Lot, m mix.Model) ([3]Dulled, error) {
	out := [3]Dulled{{Way: Complement, Lot: -1}, {Way: Grey, Lot: -1}, {Way: Brown, Lot: -1}}
	at := c.Lab()
	switch {
	case !(drop > 0 && drop < 1):
		return out, fault.New("drop", "The drop of chroma lies above 0 and below 1.")
	case at.Chroma() < 3:
		return out, fault.New("colour", "This colour is as good as grey already; there is nothing to dull.")
	}
	want := colour.Lab{L: at.L, A: at.A * (1 - drop), B: at.B * (1 - drop)}
	prepared := []mix.Prepared{m.Prepare(&c), {}}
	used := map[int]bool{} // by an earlier way: each way is a choice of its own
	for w := range out {
		for i, l := range lots {
			if used[i] || !serves(out[w].Way, at, l.Colour.Lab()) {
				continue
			}
			prepared[1] = m.Prepare(&l.Colour)
			strength := l.Strength
			if strength == 0 {
				strength = 1
			}
			share, r, ok := dilute(m, prepared, strength, want.Chroma())
			if !ok {
				continue
			}
			de := colour.CIEDE2000(want, r.Lab())
			if out[w].Lot < 0 || de < out[w].DeltaE {
				out[w] = Dulled{out[w].Way, i, share, r, de}
			}
		}
		used[out[w].Lot] = true
	}
	return out, nil
}

func serves(way string, c, lot colour.Lab) bool {
	chroma := lot.Chroma()
	switch way {
	case Complement:
		turn := math.Abs(math.Mod(lot.Hue()-c.Hue()+540, 360) - 180)
		return chroma >= 10 && turn >= 130
	case Grey:
		return chroma < 10
	}
	h := lot.Hue()
	return chroma >= 10 && chroma < 40 && lot.L < 55 && h > 30 && h < 95
}

// dilute finds the least share of the second lot at which the chroma of the
// mix falls to what is wanted: stepwise until it has fallen, then by halving.
func dilute(m mix.Model, lots []mix.Prepared, strength, want float64) (share float64, r colour.Reflectance, ok bool) {
	chroma := func(x float64) float64 {
		e := x * strength / (1 - x + x*strength)
		r = m.Mix(lots, []float64{1 - e, e})
		return r.Lab().Chroma()
	}
	const steps = 200
	lo, hi := 0.0, -1.0
	for i := 1; i <= steps*8/10; i++ {
		if x := float64(i) / steps; chroma(x) <= want {
			hi = x
			break
		}
		lo = float64(i) / steps
	}
	if hi < 0 {
		return 0, r, false
	}
	for range 40 {
		if x := (lo + hi) / 2; chroma(x) > want {
			lo = x
		} else {
			hi = x
		}
	}
	chroma(hi)
	return hi, r, true
}
