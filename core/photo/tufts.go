package photo

import (
	"cmp"
	"context"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
)

// Tuft is a bag or a tuft that lies on a plain ground, as a photo shows it.
type Tuft struct {
	X, Y   float64 // its middle, in fractions of the picture
	Area   Area    // around it
	Part   float64 // of the picture
	Colour colour.Linear
}

// How tufts are told from the ground (own figures, held by photos made in the tests): cells so many along the longer side; what differs
// from the ground by so much in colour, or by so much lighter or darker, is no ground; a shadow darkens and keeps the colour. Patches
// smaller than a part of the picture are specks, larger than another are no tuft.
const (
	tuftCells   = 360
	tuftChroma  = 7.0
	tuftLighter = 8.0
	tuftDarker  = 17.0
	leastTuft   = 0.0008
	mostTuft    = 0.25
	mostTufts   = 60
)

// field is a picture in cells, each the mean of light in it.
type field struct {
	w, h  int
	light []colour.Linear
	lab   []colour.Lab
}

// Tufts finds what lies apart on a plain ground, in the order of reading, each with the robust mean of its colour. The ground is the
// colour of most of the picture, as it changes evenly from side to side; a spot of it that is named (the grey card) is passed over.
func (p *Picture) Tufts(ctx context.Context, b Balance, card *Area) ([]Tuft, error) {
	f := p.cells(b)
	mask := f.apart()
	mask = f.grown(f.grown(f.grown(mask, false), true), true) // specks go, gaps close
	mask = f.grown(mask, false)
	var out []Tuft
	for _, cells := range f.joined(mask) {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		t := f.tuft(cells, mask)
		onCard := card != nil && t.Area.X0 < (card.X0+card.X1)/2 && t.Area.X1 > (card.X0+card.X1)/2 &&
			t.Area.Y0 < (card.Y0+card.Y1)/2 && t.Area.Y1 > (card.Y0+card.Y1)/2
		if t.Part >= leastTuft && t.Part <= mostTuft && !onCard {
			out = append(out, t)
		}
	}
	switch {
	case len(out) == 0:
		return nil, fault.New("photo", "Nothing lies apart on a plain ground here. Lay the tufts out with room between them, on one colour that none of them has.")
	case len(out) > mostTufts:
		return nil, fault.New("photo", "More than %d things lie here. Take a photo of fewer, on a ground without a pattern.", mostTufts)
	}
	return reading(out), nil
}

// cells is the picture in cells.
func (p *Picture) cells(b Balance) *field {
	size := max(1, (max(p.W, p.H)+tuftCells-1)/tuftCells)
	f := &field{w: p.W / size, h: p.H / size}
	f.light, f.lab = make([]colour.Linear, f.w*f.h), make([]colour.Lab, f.w*f.h)
	for y := range f.h {
		for x := range f.w {
			var sum colour.Linear
			for j := range size {
				at := 3 * ((y*size+j)*p.W + x*size)
				for i := range size {
					c := colour.Linear{linear[p.Pix[at+3*i]], linear[p.Pix[at+3*i+1]], linear[p.Pix[at+3*i+2]]}
					for k := range sum {
						sum[k] += c[k]
					}
				}
			}
			for k := range sum {
				sum[k] /= float64(size * size)
			}
			i := y*f.w + x
			f.light[i] = b.apply(sum)
			f.lab[i] = f.light[i].Lab()
		}
	}
	return f
}

// plane is a value that changes evenly over the picture: at (0, 0), across and down.
type plane [3]float64

func (q plane) at(x, y float64) float64 { return q[0] + q[1]*x + q[2]*y }

// ground is the ground's L*, a* and b* over the picture: what lies along its edge, fitted again to all that is near it.
func (f *field) ground() (out [3]plane) {
	var edge [3][]float64
	for i, v := range f.lab {
		x, y := i%f.w, i/f.w
		if x < 3 || y < 3 || x >= f.w-3 || y >= f.h-3 {
			for k, c := range [3]float64{v.L, v.A, v.B} {
				edge[k] = append(edge[k], c)
			}
		}
	}
	for k := range edge {
		out[k] = plane{quantile(edge[k], 0.5)}
	}
	near := 14.0
	for range 6 {
		var m [3][3]float64
		var v [3][3]float64 // right sides, of each channel
		for i, c := range f.lab {
			x, y := float64(i%f.w)/float64(f.w), float64(i/f.w)/float64(f.h)
			if math.Hypot(math.Hypot(c.L-out[0].at(x, y), c.A-out[1].at(x, y)), c.B-out[2].at(x, y)) > near {
				continue
			}
			row := [3]float64{1, x, y}
			for r := range 3 {
				for s := range 3 {
					m[r][s] += row[r] * row[s]
				}
				for k, value := range [3]float64{c.L, c.A, c.B} {
					v[k][r] += row[r] * value
				}
			}
		}
		for k := range out {
			if q, ok := solved(m, v[k]); ok {
				out[k] = q
			}
		}
		near = max(6, near-2)
	}
	return out
}

// solved solves three equations by Cramer's rule; not where they say too little.
func solved(m [3][3]float64, v [3]float64) (out plane, ok bool) {
	det := func(m [3][3]float64) float64 {
		return m[0][0]*(m[1][1]*m[2][2]-m[1][2]*m[2][1]) - m[0][1]*(m[1][0]*m[2][2]-m[1][2]*m[2][0]) + m[0][2]*(m[1][0]*m[2][1]-m[1][1]*m[2][0])
	}
	d := det(m)
	if math.Abs(d) < 1e-9 {
		return out, false
	}
	for c := range 3 {
		with := m
		for r := range 3 {
			with[r][c] = v[r]
		}
		out[c] = det(with) / d
	}
	return out, true
}

// apart marks the cells that are no ground.
func (f *field) apart() []bool {
	g := f.ground()
	mask := make([]bool, len(f.lab))
	for i, c := range f.lab {
		x, y := float64(i%f.w)/float64(f.w), float64(i/f.w)/float64(f.h)
		light := c.L - g[0].at(x, y)
		mask[i] = math.Hypot(c.A-g[1].at(x, y), c.B-g[2].at(x, y)) > tuftChroma || light > tuftLighter || light < -tuftDarker
	}
	return mask
}

// grown is what is marked with the cells around it, or, shrunk, without those at its edge.
func (f *field) grown(mask []bool, grow bool) []bool {
	out := make([]bool, len(mask))
	for i := range mask {
		x, y := i%f.w, i/f.w
		v := mask[i]
		for dy := -1; dy <= 1; dy++ {
			for dx := -1; dx <= 1; dx++ {
				if x+dx < 0 || y+dy < 0 || x+dx >= f.w || y+dy >= f.h {
					continue
				}
				if mask[(y+dy)*f.w+x+dx] == grow {
					v = grow
				}
			}
		}
		out[i] = v
	}
	return out
}

// joined are the marked cells that lie together.
func (f *field) joined(mask []bool) (out [][]int) {
	seen := make([]bool, len(mask))
	for i := range mask {
		if !mask[i] || seen[i] {
			continue
		}
		cells := []int{i}
		seen[i] = true
		for n := 0; n < len(cells); n++ {
			x, y := cells[n]%f.w, cells[n]/f.w
			for dy := max(0, y-1); dy <= min(f.h-1, y+1); dy++ {
				for dx := max(0, x-1); dx <= min(f.w-1, x+1); dx++ {
					if j := dy*f.w + dx; mask[j] && !seen[j] {
						seen[j] = true
						cells = append(cells, j)
					}
				}
			}
		}
		out = append(out, cells)
	}
	return out
}

// tuft is where cells lie and the robust mean of their colour: of those inside, where the ground does not show through its edge.
func (f *field) tuft(cells []int, mask []bool) (t Tuft) {
	x0, y0, x1, y1 := f.w, f.h, 0, 0
	var inner []colour.Linear
	for _, i := range cells {
		x, y := i%f.w, i/f.w
		x0, y0, x1, y1 = min(x0, x), min(y0, y), max(x1, x+1), max(y1, y+1)
		t.X, t.Y = t.X+float64(x)+0.5, t.Y+float64(y)+0.5
		if f.inside(mask, x, y, 2) {
			inner = append(inner, f.light[i])
		}
	}
	if len(inner) < leastPixels { // it is thin
		inner = inner[:0]
		for _, i := range cells {
			inner = append(inner, f.light[i])
		}
	}
	w, h, n := float64(f.w), float64(f.h), float64(len(cells))
	t.X, t.Y, t.Part = t.X/n/w, t.Y/n/h, n/(w*h)
	t.Area = Area{float64(x0) / w, float64(y0) / h, float64(x1) / w, float64(y1) / h}
	middle := median(slices.Clone(inner)).Lab()
	far := make([]float64, len(inner))
	for i, c := range inner {
		far[i] = distance(c.Lab(), middle)
	}
	limit, kept := outlying*max(quantile(slices.Clone(far), 0.5), 0.5), 0.0
	for i, c := range inner {
		if far[i] <= limit {
			kept++
			for k := range c {
				t.Colour[k] += c[k]
			}
		}
	}
	for k := range t.Colour {
		t.Colour[k] /= kept
	}
	return t
}

// inside reports whether all cells around one, so far, are marked.
func (f *field) inside(mask []bool, x, y, far int) bool {
	for dy := -far; dy <= far; dy++ {
		for dx := -far; dx <= far; dx++ {
			if x+dx < 0 || y+dy < 0 || x+dx >= f.w || y+dy >= f.h || !mask[(y+dy)*f.w+x+dx] {
				return false
			}
		}
	}
	return true
}

// reading puts tufts in the order in which one reads: rows from above, each from the left. A row ends where the next one lies wholly
// below the middle of its first.
func reading(list []Tuft) (out []Tuft) {
	slices.SortFunc(list, func(a, b Tuft) int { return cmp.Compare(a.Y, b.Y) })
	for len(list) > 0 {
		n := 1
		for n < len(list) && list[n].Area.Y0 < list[0].Y {
			n++
		}
		row := list[:n]
		slices.SortFunc(row, func(a, b Tuft) int { return cmp.Compare(a.X, b.X) })
		out, list = append(out, row...), list[n:]
	}
	return out
}
