package yarn

import (
	"cmp"
	"math"
	"slices"
)

// In place of a yarn (yarn.md, section 9): what is to be spun where an old pattern asks for so many metres in so many grams.

// Old is a yarn as a pattern tells it. Gauge is that of its washed swatch; WrapsLoose 0 where it is not known.
type Old struct {
	MetresPer100g float64
	Plies         int
	Gauge         Gauge
	Metres        float64 // that the piece takes
	WrapsLoose    float64
}

// Instead is what is spun; its ways are compared by how near they come to the thickness.
type Instead struct {
	Tex, SinglesTex float64 // of the yarn, and of a washed single of Plies
	Plies           int
	StitchMM        float64 // of yarn in a stitch of its gauge
	Firmness        float64 // √tex by the stitch, mm; from 0.9 to 1.6 is usual
	Packing         float64 // of a single of it; 0 where no wraps were told
	Grams           float64
	Ways            []InsteadWay
}

// InsteadWay is a way to draw and prepare it, with the wraps that it then has.
type InsteadWay struct {
	Draw, Prepared string
	Wraps          float64
	Packing        float64
	Off            float64 // of the packing that is wanted, as a part; without one, of short-backward from roving
}

// InsteadOf works out what is spun in place of a yarn, of fibre of a density and a factor of crimp, in so many plies (0: round and even,
// three of a yarn of three and more, else as it was).
func InsteadOf(o Old, plies int, takeUp, density, crimp float64) Instead {
	if plies == 0 {
		plies = min(max(o.Plies, 1), 3)
	}
	out := Instead{Plies: plies, Tex: 100_000 / o.MetresPer100g, Grams: 100 * o.Metres / o.MetresPer100g}
	up := takeUp
	if plies == 1 {
		up = 0
	}
	out.SinglesTex = out.Tex / (float64(plies) * (1 + up))
	if o.Gauge.Stitches > 0 && o.Gauge.Rows > 0 {
		out.StitchMM = KnitMM(o.Gauge.Stitches, o.Gauge.Rows)
		out.Firmness = math.Sqrt(out.Tex) / out.StitchMM
	}
	n := float64(plies)
	flat := 1.0
	if plies > 1 {
		flat = n / ((1 + n/math.Pi) * (1 + n/math.Pi))
	}
	want := packed["short-backward"]["roving"]
	if o.WrapsLoose > 0 {
		d := mmPerInch / (looseWraps * o.WrapsLoose)
		out.Packing = 4 * out.Tex / (1000 * math.Pi * density * d * d) / flat
		want = out.Packing / crimp
	}
	for _, draw := range Draws {
		for _, prepared := range Prepared {
			phi := packed[draw][prepared]
			s, _ := SizeOf(out.SinglesTex, up, plies, draw, prepared, density, crimp)
			out.Ways = append(out.Ways, InsteadWay{draw, prepared, s.WrapsPerInch, phi, math.Abs(phi-want) / want})
		}
	}
	return out
}

// carded is by how much nearer what comes off a carder counts than combed top (own judgement): it is what she makes.
const carded = 0.03

// Nearest are the ways that come nearest, so many.
func (i Instead) Nearest(n int) []InsteadWay {
	out := slices.Clone(i.Ways)
	off := func(w InsteadWay) float64 {
		if w.Prepared == "top" {
			return w.Off + carded
		}
		return w.Off
	}
	slices.SortStableFunc(out, func(a, b InsteadWay) int { return cmp.Compare(off(a), off(b)) })
	return out[:min(n, len(out))]
}
