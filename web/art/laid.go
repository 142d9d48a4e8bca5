package art

import (
	"fmt"
	"html"
	"math"
	"slices"
	"strings"
)

// Stripe is a lay of a layer, or a fibre of a bar: where it lies in parts of the whole, across and along, and how much it weighs.
type Stripe struct {
	Fibre
	Letter     string
	From, To   float64 // across
	Start, End float64 // along
	Grams      float64
}

// Size of the pictures in px.
const (
	barWide, barHigh   = 1200.0, 160.0
	swatchSide         = 600.0
	layersWide         = 480.0
	layerHigh, layerAt = 16.0, 18.0
	bedLongest         = 900.0
	letterWide         = 14.0
)

// Bar draws a share bar as combed fibre, each with its letter.
func Bar(parts []Stripe) []byte {
	s := newSVG(barWide, barHigh)
	for _, p := range parts {
		s.inside(p.From*barWide, 0, Band(p.Fibre, Tile{(p.To - p.From) * barWide, barHigh}))
	}
	for _, p := range parts {
		if (p.To-p.From)*barWide > 2*letterWide {
			s.letter(p.From*barWide, 0, 2, p.Letter)
		}
	}
	return s.done()
}

// Swatch draws a colour by itself.
func Swatch(hex string) []byte {
	s := newSVG(swatchSide, swatchSide)
	fmt.Fprintf(s, `<path d="M0 0H%[1]sV%[1]sH0Z" fill="%[2]s"/>`, n1(swatchSide), shade(hex, 1, 0))
	return s.done()
}

// Layers draws what is laid as a pile, the cloth below: every lay with its letter, so that it can be read without colours. Lays of one
// layer that lie over the same place stand above each other in it.
func Layers(layers [][]Stripe) []byte {
	var rows [][]Stripe // from the cloth up
	for _, layer := range layers {
		rows = append(rows, apart(layer)...)
	}
	s := newSVG(layersWide, max(layerAt, float64(len(rows))*layerAt))
	for i, row := range rows {
		y := float64(len(rows)-1-i) * layerAt
		for _, p := range row {
			x, wide := p.From*layersWide, (p.To-p.From)*layersWide
			fmt.Fprintf(s, `<path d="M%s %sh%sv%sh-%sZ" fill="%s" stroke="#1c1b19" stroke-width=".5"/>`, n1(x), n1(y), n1(wide), n1(layerHigh), n1(wide),
				shade(p.pick(0.3), 1, 0))
			s.letter(x, y, 1, p.Letter)
		}
	}
	return s.done()
}

// apart puts lays into as few rows as it takes without one over another.
func apart(layer []Stripe) (rows [][]Stripe) {
	const near = 1e-9
	for i, p := range layer {
		if slices.ContainsFunc(layer[:i], func(q Stripe) bool { return q.Letter == p.Letter && q.From == p.From && q.To == p.To }) {
			continue // the same further along the cloth
		}
		at := slices.IndexFunc(rows, func(row []Stripe) bool {
			return !slices.ContainsFunc(row, func(q Stripe) bool { return p.From < q.To-near && q.From < p.To-near })
		})
		if at < 0 {
			rows, at = append(rows, nil), len(rows)
		}
		rows[at] = append(rows[at], p)
	}
	return rows
}

// Bed draws what is laid as one looks down on it: the cloth, and on it the fibre of every lay, the last above. Wide and long are the
// sides of the cloth in any unit.
func Bed(layers [][]Stripe, wide, long float64) []byte {
	if !(wide > 0 && long > 0) {
		wide, long = 1, 1
	}
	k := bedLongest / math.Max(wide, long)
	s := newSVG(wide*k, long*k)
	fmt.Fprintf(s, `<path d="M0 0H%[1]sV%[2]sH0Z" fill="#8f8d88"/>`, n1(s.w), n1(s.h))
	c := chance(11)
	for _, layer := range layers {
		for _, p := range layer {
			s.lay(p, &c)
		}
	}
	return s.done()
}

// lay draws the fibres of a lay along the cloth, closer together the more of it lies there.
func (s *svg) lay(p Stripe, c *chance) {
	x0, x1, y0, y1 := p.From*s.w, p.To*s.w, p.Start*s.h, p.End*s.h
	wide, long := x1-x0, y1-y0
	if !(wide > 0 && long > 0) {
		return
	}
	strokes := int(math.Min(160, math.Max(6, wide/5*math.Min(2, 0.5+p.Grams/5))))
	wave, high := p.wave()
	for i := range strokes {
		x := x0 + (float64(i)+c.next())*wide/float64(strokes)
		from, to := y0+long*0.06*c.next(), y1-long*0.06*c.next()
		n := int(math.Min(24, math.Max(4, (to-from)/wave*2)))
		phase, light, hex := 6*c.next(), 0.75+0.5*c.next(), p.pick(c.next())
		pts := make([]point, n+1)
		for j := range pts {
			t := float64(j) / float64(n)
			pts[j] = point{x + high*math.Sin(2*math.Pi*t*float64(n)/2+phase), from + t*(to-from)}
		}
		s.curve(pts, shade(hex, light, 0), 2.6+3*c.next(), 0.95)
	}
}

// letter writes a letter on light ground at the upper left of x, y.
func (s *svg) letter(x, y, times float64, letter string) {
	fmt.Fprintf(s, `<path d="M%s %sh%sv%sh-%sZ" fill="#f4f2ee"/><text x="%s" y="%s" font-size="%s" font-family="sans-serif" fill="#1c1b19">%s</text>`,
		n1(x), n1(y), n1(letterWide*times), n1(layerHigh*times), n1(letterWide*times), n1(x+3*times), n1(y+12.5*times), n1(11*times), html.EscapeString(letter))
}

// inside puts a drawing into another one.
func (s *svg) inside(x, y float64, drawn []byte) {
	s.WriteString(strings.Replace(string(drawn), "<svg ", fmt.Sprintf(`<svg x="%s" y="%s" `, n1(x), n1(y)), 1))
}
