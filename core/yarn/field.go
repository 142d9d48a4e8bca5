// Package yarn works out the yarn that a batt becomes: how it is divided, in which order its
// parts are spun and how they are plied decide where each colour comes to lie.
package yarn

import "math"

// Field is a batt as a spinner takes hold of it: grams of N components in cells along the
// fibre and lanes across, component fastest, then cell, then lane.
type Field struct {
	WidthMM, LengthMM float64
	Lanes, Cells, N   int
	Grams             []float64
}

// sums are running totals of a field, so that what lies in any window is found at once.
type sums struct {
	lanes, cells, n int
	of              []float64 // (lanes+1) × (cells+1) × n
}

func (f Field) sums() sums {
	s := sums{f.Lanes, f.Cells, f.N, make([]float64, (f.Lanes+1)*(f.Cells+1)*f.N)}
	for x := range f.Lanes {
		for c := range f.Cells {
			for k := range f.N {
				s.of[s.at(x+1, c+1)+k] = f.Grams[(x*f.Cells+c)*f.N+k] + s.of[s.at(x, c+1)+k] + s.of[s.at(x+1, c)+k] - s.of[s.at(x, c)+k]
			}
		}
	}
	return s
}

func (s sums) at(lane, cell int) int { return (lane*(s.cells+1) + cell) * s.n }

// corner is a place between cells, ready to be looked up.
type corner struct {
	i, j   int
	fx, fc float64
}

func (s sums) corner(x, c float64) corner {
	x, c = min(max(x, 0), float64(s.lanes)), min(max(c, 0), float64(s.cells))
	i, j := min(int(x), s.lanes-1), min(int(c), s.cells-1)
	return corner{i, j, x - float64(i), c - float64(j)}
}

// add adds to each component, times a sign, its grams between the corner of the field and a place;
// between whole cells they are divided in proportion.
func (s sums) add(p corner, sign float64, into []float64) {
	a, b := s.of[s.at(p.i, p.j):][:len(into)], s.of[s.at(p.i, p.j+1):][:len(into)]
	d, e := s.of[s.at(p.i+1, p.j):][:len(into)], s.of[s.at(p.i+1, p.j+1):][:len(into)]
	w := [4]float64{sign * (1 - p.fx) * (1 - p.fc), sign * (1 - p.fx) * p.fc, sign * p.fx * (1 - p.fc), sign * p.fx * p.fc}
	for k := range into {
		into[k] += w[0]*a[k] + w[1]*b[k] + w[2]*d[k] + w[3]*e[k]
	}
}

// window is the grams of each component between places across and along.
func (s sums) window(x0, x1, c0, c1 float64, into []float64) (total float64) {
	clear(into)
	s.add(s.corner(x1, c1), 1, into)
	s.add(s.corner(x0, c1), -1, into)
	s.add(s.corner(x1, c0), -1, into)
	s.add(s.corner(x0, c0), 1, into)
	for k, v := range into {
		into[k] = max(0, v)
		total += into[k]
	}
	return total
}

// unit gives numbers between 0 and 1 that depend on nothing but the seed.
type unit struct{ state uint64 }

func (u *unit) next() float64 {
	u.state += 0x9E3779B97F4A7C15
	z := u.state
	z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
	z = (z ^ z>>27) * 0x94D049BB133111EB
	return (float64((z^z>>31)>>11) + 0.5) / (1 << 53)
}

func (u *unit) normal() float64 { return math.Sqrt2 * math.Erfinv(2*u.next()-1) }
