// Package photo reads colours out of a picture: the robust mean of an area, the
// balance that a grey or white card gives, and a palette.
package photo

import (
	"cmp"
	"context"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/piles"
)

// Picture is an sRGB picture, three bytes a pixel, row by row.
type Picture struct {
	W, H int
	Pix  []uint8
}

// Area is a part of a picture in fractions of its width and height, 0..1.
type Area struct{ X0, Y0, X1, Y1 float64 }

// Reading is what an area of a picture shows.
type Reading struct {
	Colour colour.Linear // the robust mean
	Spread float64       // RMS CIEDE2000 of the pixels it rests on
	Pixels int           // how many those are
}

// Balance multiplies each channel of linear light, so that a card comes out
// neutral and as light as it is (von Kries' rule in the camera's channels).
type Balance [3]float64

// Unbalanced leaves a picture as it is.
var Unbalanced = Balance{1, 1, 1}

// Limits of a reading.
const (
	leastPixels = 9
	sampled     = 4000 // of a larger area, so many pixels evenly spread
	clippedMost = 0.03 // part of the pixels that may be at the camera's end
	outlying    = 2.5  // times the median distance
)

// Read returns the robust mean of an area: pixels further from the median colour
// than 2.5 times the median distance (glints, shadows between fibres) are left
// out. It refuses an area in which the camera's range was left.
func (p *Picture) Read(a Area, b Balance) (Reading, error) {
	pixels, clipped := p.sample(a)
	if len(pixels) < leastPixels {
		return Reading{}, fault.New("area", "This spot is too small; it covers %d pixels and %d are needed.", len(pixels), leastPixels)
	}
	if float64(clipped) > clippedMost*float64(len(pixels)) {
		return Reading{}, fault.New(
			"area",
			"%.0f %% of this spot is brighter or darker than the picture can show, so its colour is not known. Choose another spot, or take the picture with "+
				"less or more light.",
			100*float64(clipped)/float64(len(pixels)),
		)
	}
	labs := make([]colour.Lab, len(pixels))
	for i, c := range pixels {
		pixels[i] = b.apply(c)
		labs[i] = pixels[i].Lab()
	}
	middle := median(pixels).Lab()
	far := make([]float64, len(labs))
	for i, l := range labs {
		far[i] = distance(l, middle)
	}
	limit := outlying * max(quantile(far, 0.5), 0.5)
	var r Reading
	for i, c := range pixels {
		if far[i] <= limit {
			r.Pixels++
			for ch := range c {
				r.Colour[ch] += c[ch]
			}
		}
	}
	for ch := range r.Colour {
		r.Colour[ch] /= float64(r.Pixels)
	}
	mean := r.Colour.Lab()
	for i, l := range labs {
		if far[i] <= limit {
			d := colour.CIEDE2000(mean, l)
			r.Spread += d * d
		}
	}
	r.Spread = math.Sqrt(r.Spread / float64(r.Pixels))
	return r, nil
}

// Card returns the balance from an area that shows a neutral card of a known
// reflectance (0..1; a grey card 0.18, a white one about 0.9).
func (p *Picture) Card(a Area, reflectance float64) (Balance, Reading, error) {
	if !(reflectance >= 0.03 && reflectance <= 1) {
		return Unbalanced, Reading{}, fault.New("reflects", "A card reflects 3 to 100 %% of the light; a grey card 18 %%, a white one about 90 %%.")
	}
	r, err := p.Read(a, Unbalanced)
	if err != nil {
		return Unbalanced, r, err
	}
	var b Balance
	for ch := range b {
		if r.Colour[ch] < 1e-3 {
			return Unbalanced, r, fault.New("area", "This spot is too dark to balance by.")
		}
		b[ch] = reflectance / r.Colour[ch]
	}
	if m := slices.Max(b[:]) / slices.Min(b[:]); m > 6 {
		return Unbalanced, r, fault.New("area", "This spot is strongly coloured; a card is grey or white.")
	}
	return b, r, nil
}

func (b Balance) apply(c colour.Linear) colour.Linear {
	for ch := range c {
		c[ch] *= b[ch]
	}
	return c
}

// linear decodes bytes of sRGB (IEC 61966-2-1).
var linear = func() (t [256]float64) {
	for i := range t {
		v := float64(i) / 255
		if v <= 0.04045 {
			t[i] = v / 12.92
		} else {
			t[i] = math.Pow((v+0.055)/1.055, 2.4)
		}
	}
	return t
}()

// sample returns up to sampled pixels of an area and counts those at the end of
// the camera's range.
func (p *Picture) sample(a Area) (out []colour.Linear, clipped int) {
	at := func(v float64, n int) int {
		if math.IsNaN(v) {
			return 0
		}
		return int(math.Round(min(max(v, 0), 1) * float64(n)))
	}
	x0, x1 := at(a.X0, p.W), at(a.X1, p.W)
	y0, y1 := at(a.Y0, p.H), at(a.Y1, p.H)
	step := max(1, int(math.Ceil(math.Sqrt(float64(max(0, x1-x0)*max(0, y1-y0))/sampled))))
	for y := y0; y < y1; y += step {
		for x := x0; x < x1; x += step {
			q := p.Pix[3*(y*p.W+x):]
			if max(q[0], q[1], q[2]) >= 254 || max(q[0], q[1], q[2]) <= 1 {
				clipped++
			}
			out = append(out, colour.Linear{linear[q[0]], linear[q[1]], linear[q[2]]})
		}
	}
	return out, clipped
}

func median(pixels []colour.Linear) (m colour.Linear) {
	v := make([]float64, len(pixels))
	for ch := range m {
		for i, c := range pixels {
			v[i] = c[ch]
		}
		m[ch] = quantile(v, 0.5)
	}
	return m
}

func quantile(v []float64, q float64) float64 {
	s := slices.Clone(v)
	slices.Sort(s)
	return s[int(q*float64(len(s)-1))]
}

func distance(a, b colour.Lab) float64 {
	return math.Hypot(math.Hypot(a.L-b.L, a.A-b.A), a.B-b.B)
}

// Swatch is a colour of a palette with the part of the picture that is nearest
// to it among the palette's colours.
type Swatch struct {
	Colour colour.Lab
	Part   float64
}

// Palette limits.
const (
	LeastColours = 3
	MostColours  = 8
)

// Palette returns the k colours that stand best for a picture. The pixels are
// gathered in boxes of Lab; of these the ones that stand for the others are
// chosen by the rule that sorts scraps, each box with the root of its pixels as
// its weight, so that a small bright spot still counts. Cancelling ctx ends it
// within some milliseconds.
func (p *Picture) Palette(ctx context.Context, k int, b Balance) ([]Swatch, error) {
	if k < LeastColours || k > MostColours {
		return nil, fault.New("colours", "A palette has %d to %d colours.", LeastColours, MostColours)
	}
	boxes := p.boxes(ctx, b)
	scraps := make([]piles.Scrap, len(boxes))
	for i, x := range boxes {
		scraps[i] = piles.Scrap{Colour: x.lab, Grams: math.Sqrt(x.n)}
	}
	var out []Swatch
	for _, m := range piles.Medoids(ctx, scraps, k) {
		out = append(out, Swatch{Colour: boxes[m].lab})
	}
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	var all float64
	for _, x := range boxes {
		best := 0
		for i := range out {
			if distance(x.lab, out[i].Colour) < distance(x.lab, out[best].Colour) {
				best = i
			}
		}
		out[best].Part += x.n
		all += x.n
	}
	for i := range out {
		out[i].Part /= all
	}
	slices.SortStableFunc(out, func(a, b Swatch) int { return cmp.Compare(b.Part, a.Part) })
	return out, nil
}

type box struct {
	lab colour.Lab
	n   float64
}

const mostBoxes = 260

// boxes gathers the whole picture's pixels by colour, the fullest boxes first.
func (p *Picture) boxes(ctx context.Context, b Balance) []box {
	type key [3]int
	sums := map[key]*box{}
	step := max(1, int(math.Ceil(math.Sqrt(float64(p.W*p.H)/40000))))
	for y := 0; y < p.H && ctx.Err() == nil; y += step {
		for x := 0; x < p.W; x += step {
			q := p.Pix[3*(y*p.W+x):]
			c := b.apply(colour.Linear{linear[q[0]], linear[q[1]], linear[q[2]]}).Clipped()
			l := c.Lab()
			k := key{int(math.Floor(l.L / 6)), int(math.Floor(l.A / 7)), int(math.Floor(l.B / 7))}
			s := sums[k]
			if s == nil {
				s = &box{}
				sums[k] = s
			}
			s.lab.L += l.L
			s.lab.A += l.A
			s.lab.B += l.B
			s.n++
		}
	}
	out := make([]box, 0, len(sums))
	for _, s := range sums {
		out = append(out, box{colour.Lab{L: s.lab.L / s.n, A: s.lab.A / s.n, B: s.lab.B / s.n}, s.n})
	}
	slices.SortFunc(out, func(a, b box) int {
		return cmp.Or(cmp.Compare(b.n, a.n), cmp.Compare(a.lab.L, b.lab.L), cmp.Compare(a.lab.A, b.lab.A), cmp.Compare(a.lab.B, b.lab.B))
	})
	return out[:min(len(out), mostBoxes)]
}
