package art

import "math"

// Size of a strand's picture in px.
const (
	StrandWidth  = 1280.0
	StrandHeight = 72.0
)

// Strand draws a length of sliver in the colours of a blend: separate and
// thick on the left, where the fibre is raw, drafted down and mixed towards
// the right, a twisted yarn at the end. Up to done (0 to 1) it is in full
// colour, beyond that pale. knots are the places of the stops, 0 to 1.
func Strand(f Fibre, done float64, knots []float64, pale string) []byte {
	c := chance(f.Seed*97 + 3)
	s := newSVG(StrandWidth, StrandHeight)
	mid := StrandHeight / 2
	fade := func(hex string, x float64) string {
		t := math.Max(0, math.Min(1, (x/StrandWidth-done)*14+0.5))
		return blendHex(hex, pale, 0.72*t)
	}
	const fibres = 420
	for i := range fibres {
		r := (float64(i) + c.next()) / fibres
		hex := f.pick(r)
		start := StrandWidth*1.02*c.next()*0.93 - 60
		length := 150 + 190*c.next()
		// Raw fibre lies colour by colour, drafted fibre anywhere.
		mixed := math.Min(1, math.Max(0, start/StrandWidth*1.7))
		lane := (2*r-1)*(1-mixed) + c.spread()*mixed
		light, width := 0.72+0.55*c.next(), 0.8+1.1*c.next()
		phase, stray := c.next()*2*math.Pi, 0.0
		if c.next() < 0.07 {
			stray = 14 * c.spread()
		}
		const n = 12
		pts := make([]point, n+1)
		for k := range pts {
			x := start + length*float64(k)/n
			open := envelope(x / StrandWidth)
			twist := math.Max(0, x/StrandWidth-0.8) * 5
			y := mid + lane*open*(1-0.5*twist) + math.Sin(x/90+phase)*1.4 + stray*math.Sin(math.Pi*float64(k)/n)*open/30 +
				twist*2.6*math.Sin(x/7+phase)
			pts[k] = point{x, y}
		}
		s.curve(pts, fade(shade(hex, light, 0), start+length/2), width, 0.85)
	}
	for _, k := range knots {
		knot(s, k*StrandWidth, mid, envelope(k), fade(shade(f.pick(0.2), 0.45, 0), k*StrandWidth), &c)
	}
	return s.done()
}

// envelope is half the thickness of the strand in px at x, 0 to 1.
func envelope(x float64) float64 {
	x = math.Max(0, math.Min(1, x))
	return 3 + 27*math.Pow(1-x, 1.6)
}

// knot draws a turn of yarn round the strand.
func knot(s *svg, x, y, half float64, hex string, c *chance) {
	for i := range 5 {
		dx := (float64(i) - 2) * 2.4
		h := half*0.78 + 3 - math.Abs(dx)*0.4
		s.curve([]point{{x + dx - 1.5, y - h}, {x + dx + 2.5 + c.spread(), y}, {x + dx + 0.5, y + h}}, hex, 2.1, 0.95)
	}
}

// blendHex moves a towards b by t, in gamma-encoded sRGB: it only pales a
// drawing and predicts nothing.
func blendHex(a, b string, t float64) string {
	p, q := channels(a), channels(b)
	const digits = "0123456789abcdef"
	out := []byte{'#'}
	for i := range p {
		v := int(p[i] + (q[i]-p[i])*t + 0.5)
		out = append(out, digits[v>>4], digits[v&15])
	}
	return string(out)
}

func channels(hex string) (v [3]float64) {
	for i := range v {
		for _, d := range hex[1+2*i : 3+2*i] {
			n := float64(d - '0')
			if d >= 'a' {
				n = float64(d-'a') + 10
			}
			v[i] = v[i]*16 + n
		}
	}
	return v
}
