package art

import "math"

// Size of a band's tile in px; it repeats along the share bar.
const (
	BandWidth  = 300.0
	BandHeight = 76.0
)

// Band draws a tile of fibre combed across the share bar. Its tips are ragged
// above and below, its sides meet when it repeats.
func Band(f Fibre) []byte {
	c := chance(f.Seed*40503 + 5)
	s := newSVG(BandWidth, BandHeight)
	base := f.pick(0.3)
	s.WriteString(`<path d="M0 5H300V71H0Z" fill="` + shade(base, 0.8, 0) + `"/>`)
	long, high := f.wave()
	const strokes = 210
	for i := range strokes {
		x := (float64(i) + 0.9*c.next()) * BandWidth / strokes
		top, bottom := 1+6*c.next()*c.next(), BandHeight-1-6*c.next()*c.next()
		lean := 5 * c.spread()
		hex, light, white := f.pick(c.next()), 0.7+0.58*c.next(), 0.0
		if c.next() < 0.2 {
			white = f.gloss()
		}
		n := max(4, int((bottom-top)/long*3))
		phase := x/9 + 0.6*c.spread()
		for _, shift := range []float64{0, -BandWidth} {
			if shift != 0 && x < BandWidth-14 {
				continue
			}
			pts := make([]point, n+1)
			for k := range pts {
				t := float64(k) / float64(n)
				pts[k] = point{x + shift + lean*(t-0.5) + 0.7*high*math.Sin(2*math.Pi*t*(bottom-top)/long+phase), top + t*(bottom-top)}
			}
			s.curve(pts, shade(hex, light, white), 0.9+0.9*c.next(), 0.95)
		}
	}
	return s.done()
}
