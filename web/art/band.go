package art

import (
	"fmt"
	"math"
)

// Tile is the size of a band's tile in px; it repeats along a share bar.
type Tile struct{ W, H float64 }

// The tile of a share bar, and that of a small one in a list, which is drawn for a
// page of thirty.
var (
	WholeTile = Tile{300, 76}
	SmallTile = Tile{100, 30}
)

// Band draws a tile of fibre combed across the share bar. Its tips are ragged
// above and below, its sides meet when it repeats.
func Band(f Fibre, tile Tile) []byte {
	c := chance(f.Seed*40503 + 5)
	s := newSVG(tile.W, tile.H)
	base := f.pick(0.3)
	fmt.Fprintf(s, `<path d="M0 5H%sV%sH0Z" fill="%s"/>`, n1(tile.W), n1(tile.H-5), shade(base, 0.8, 0))
	long, high := f.wave()
	strokes := int(tile.W * 0.7)
	for i := range strokes {
		x := (float64(i) + 0.9*c.next()) * tile.W / float64(strokes)
		top, bottom := 1+6*c.next()*c.next(), tile.H-1-6*c.next()*c.next()
		lean := 5 * c.spread()
		hex, light, white := f.pick(c.next()), 0.7+0.58*c.next(), 0.0
		if c.next() < 0.2 {
			white = f.gloss()
		}
		n := max(4, int((bottom-top)/long*3))
		phase := x/9 + 0.6*c.spread()
		for _, shift := range []float64{0, -tile.W} {
			if shift != 0 && x < tile.W-14 {
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
