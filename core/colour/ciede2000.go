package colour

import "math"

// CIEDE2000 is the colour difference of CIE 142-2001 with kL = kC = kH = 1, in
// the formulation of Sharma, Wu and Dalal ("The CIEDE2000 color-difference
// formula", 2005). It is symmetric, 0 for equal colours; about 1 is just seen
// side by side.
func CIEDE2000(p, q Lab) float64 {
	dl, dc, dh, rt := differenceTerms(p, q)
	return math.Sqrt(max(0, dl*dl+dc*dc+dh*dh+rt*dc*dh))
}

const (
	rad     = math.Pi / 180
	pow25_7 = 6103515625.0 // 25^7
)

// differenceTerms returns the weighted differences q - p in lightness, chroma
// and hue (each divided by its S) and the rotation factor R_T.
func differenceTerms(p, q Lab) (dl, dc, dh, rt float64) {
	c7 := math.Pow((p.Chroma()+q.Chroma())/2, 7)
	g := 0.5 * (1 - math.Sqrt(c7/(c7+pow25_7)))
	a1, a2 := p.A*(1+g), q.A*(1+g)
	c1, c2 := math.Hypot(a1, p.B), math.Hypot(a2, q.B)
	h1, h2 := hueDegrees(a1, p.B), hueDegrees(a2, q.B)

	var dhue float64
	hbar := h1 + h2
	if c1*c2 != 0 {
		dhue = h2 - h1
		// A difference of exactly half a turn must not flip by rounding.
		const half = 180 + 1e-9
		switch {
		case dhue > half:
			dhue -= 360
		case dhue < -half:
			dhue += 360
		}
		switch {
		case math.Abs(h1-h2) <= half:
			hbar /= 2
		case hbar < 360:
			hbar = (hbar + 360) / 2
		default:
			hbar = (hbar - 360) / 2
		}
	}
	dH := 2 * math.Sqrt(c1*c2) * math.Sin(dhue/2*rad)

	lbar, cbar := (p.L+q.L)/2, (c1+c2)/2
	t := 1 - 0.17*math.Cos((hbar-30)*rad) + 0.24*math.Cos(2*hbar*rad) +
		0.32*math.Cos((3*hbar+6)*rad) - 0.20*math.Cos((4*hbar-63)*rad)
	l50 := (lbar - 50) * (lbar - 50)
	sl := 1 + 0.015*l50/math.Sqrt(20+l50)
	sc := 1 + 0.045*cbar
	sh := 1 + 0.015*cbar*t
	cb7 := math.Pow(cbar, 7)
	theta := 30 * math.Exp(-((hbar-275)/25)*((hbar-275)/25))
	rt = -2 * math.Sqrt(cb7/(cb7+pow25_7)) * math.Sin(2*theta*rad)
	return (q.L - p.L) / sl, (c2 - c1) / sc, dH / sh, rt
}

func hueDegrees(a, b float64) float64 {
	if a == 0 && b == 0 {
		return 0
	}
	h := math.Atan2(b, a) / rad
	if h < 0 {
		h += 360
	}
	return h
}

// Difference returns CIEDE2000 from p to q as a vector whose length is the
// difference: lightness, chroma (with the rotation term) and hue.
func Difference(p, q Lab) [3]float64 {
	dl, dc, dh, rt := differenceTerms(p, q)
	return [3]float64{dl, dc + rt/2*dh, math.Sqrt(max(0, 1-rt*rt/4)) * dh}
}

// Metric is the local form of CIEDE2000 at a colour: for a small shift d in
// Lab the difference is about the length of Metric·d. The weights S and R_T
// are taken at the colour itself.
func Metric(at Lab) (w [3][3]float64) {
	c := at.Chroma()
	c7 := math.Pow(c, 7)
	g := 1 + 0.5*(1-math.Sqrt(c7/(c7+pow25_7)))
	a := at.A * g
	c = math.Hypot(a, at.B)
	// Along and across the hue; at grey the axes themselves.
	along, across := [2]float64{g, 0}, [2]float64{0, 1}
	if c > 1e-9 {
		along = [2]float64{a / c * g, at.B / c}
		across = [2]float64{-at.B / c * g, a / c}
	}
	// The S and R_T of differenceTerms, read off a tiny shift along each.
	const h = 1e-4
	sl, _, _, _ := differenceTerms(at, Lab{at.L + h, at.A, at.B})
	_, dc, _, rt := differenceTerms(at, Lab{at.L, at.A + h*along[0]/g/g, at.B + h*along[1]})
	_, _, dh, _ := differenceTerms(at, Lab{at.L, at.A + h*across[0]/g/g, at.B + h*across[1]})
	sc, sh := math.Abs(dc/h), math.Abs(dh/h)
	if c <= 1e-9 {
		sc, sh, rt = 1, 1, 0
	}
	w[0][0] = math.Abs(sl / h)
	skew, rest := rt/2, math.Sqrt(max(0, 1-rt*rt/4))
	for i := range 2 {
		w[1][i+1] = sc*along[i] + skew*sh*across[i]
		w[2][i+1] = rest * sh * across[i]
	}
	return w
}
