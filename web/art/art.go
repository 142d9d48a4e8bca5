// Package art draws fibre as SVG: the tuft, the share band, the strand. The
// same request gives the same picture, so that pictures can be cached for ever.
package art

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
)

// Fibre is what a drawing needs to know of a fibre.
type Fibre struct {
	Hexes  []string  // its colours
	Shares []float64 // of the colours; nil means equal
	Family string
	Crimp  string
	Lustre string
	Prep   string
	Length float64 // px along the fibre
	Seed   uint64
}

// chance is a small generator (SplitMix64; Steele, Lea and Flood, 2014):
// pictures need only to look irregular and to be the same every time.
type chance uint64

func (c *chance) next() float64 {
	*c += 0x9e3779b97f4a7c15
	z := uint64(*c)
	z = (z ^ z>>30) * 0xbf58476d1ce4e5b9
	z = (z ^ z>>27) * 0x94d049bb133111eb
	return float64((z^z>>31)>>11) / (1 << 53)
}

// spread is uniform from -1 to 1.
func (c *chance) spread() float64 { return 2*c.next() - 1 }

type svg struct {
	strings.Builder
	w, h float64
}

func newSVG(w, h float64) *svg {
	s := &svg{w: w, h: h}
	fmt.Fprintf(
		s,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %s %s" width="%s" height="%s" fill="none" stroke-linecap="round">`,
		n1(w),
		n1(h),
		n1(w),
		n1(h),
	)
	return s
}

func (s *svg) done() []byte {
	s.WriteString("</svg>")
	return []byte(s.String())
}

func n1(v float64) string { return strconv.FormatFloat(math.Round(v*10)/10, 'f', -1, 64) }

// curve strokes a smooth line through points.
func (s *svg) curve(points []point, hex string, width, opacity float64) {
	s.WriteString(`<path d="M`)
	s.WriteString(n1(points[0].x) + " " + n1(points[0].y))
	for i := 1; i < len(points)-1; i++ {
		p, q := points[i], points[i+1]
		s.WriteString("Q" + n1(p.x) + " " + n1(p.y) + " " + n1((p.x+q.x)/2) + " " + n1((p.y+q.y)/2))
	}
	last := points[len(points)-1]
	s.WriteString("L" + n1(last.x) + " " + n1(last.y) + `" stroke="` + hex + `" stroke-width="` + strconv.FormatFloat(width, 'f', 2, 64) + `"`)
	if opacity < 1 {
		s.WriteString(` opacity="` + strconv.FormatFloat(opacity, 'f', 2, 64) + `"`)
	}
	s.WriteString("/>")
}

type point struct{ x, y float64 }

// shade multiplies a colour's light by f and adds a little white.
func shade(hex string, f, white float64) string {
	c, err := colour.ParseHex(hex)
	if err != nil {
		c = colour.Linear{0.3, 0.3, 0.3}
	}
	for i := range c {
		c[i] = c[i]*f + white
	}
	return c.Hex()
}

// wave is the length and the height of a crimp wave in px at 0.75 px per mm, enlarged so
// that it can be seen; what does not crimp bends slowly.
func (f Fibre) wave() (length, height float64) {
	const larger, highest = 2.7, 1.9
	if f.Prep == "locks" || f.Prep == "washed_locks" {
		return 15, 3.4
	}
	if long, _ := fibre.Wave(f.Crimp); long > 0 {
		return larger * long, min(highest, 0.24*larger*long)
	}
	return 60, 0.7
}

func (f Fibre) gloss() float64 {
	return map[string]float64{"matt": 0.02, "semi": 0.07, "bright": 0.15, "mirror": 0.3}[f.Lustre]
}

// pick chooses a colour by the shares.
func (f Fibre) pick(r float64) string {
	if len(f.Hexes) == 0 {
		return "#808080"
	}
	if len(f.Shares) != len(f.Hexes) {
		return f.Hexes[min(int(r*float64(len(f.Hexes))), len(f.Hexes)-1)]
	}
	for i, s := range f.Shares {
		if r -= s; r < 0 {
			return f.Hexes[i]
		}
	}
	return f.Hexes[len(f.Hexes)-1]
}
