package mix

import (
	"context"
	"errors"
	"math"
	"slices"

	"gonum.org/v1/gonum/blas"
	lapack "gonum.org/v1/gonum/lapack/gonum"

	"fairtangle/core/colour"
)

// fit is one least squares problem. Its unknowns x are the logarithms of the
// parameter over the usual one and of the strengths.
type fit struct {
	model     Model
	samples   []Sample
	parameter bool
	lots      []int64 // whose strength is unknown, rising
	at        [][]int // the unknown of each component of each sample; -1 for none
}

func newFit(m Model, samples []Sample, extent Extent) fit {
	f := fit{model: m, samples: samples, parameter: m.Name != KubelkaMunk, at: make([][]int, len(samples))}
	seen := map[int64]int{}
	for _, s := range samples {
		for _, l := range s.Lots {
			if l != 0 {
				seen[l]++
			}
		}
	}
	for l, n := range seen {
		if n >= samplesPerLot && extent == Strengths {
			f.lots = append(f.lots, l)
		}
	}
	slices.Sort(f.lots)
	for i, s := range samples {
		for _, l := range s.Lots {
			at, known := slices.BinarySearch(f.lots, l)
			if !known {
				at = -1
			} else if f.parameter {
				at++
			}
			f.at[i] = append(f.at[i], at)
		}
	}
	return f
}

func (f fit) unknowns() int {
	n := len(f.lots)
	if f.parameter {
		n++
	}
	return n
}

func (f fit) modelAt(x []float64) Model {
	m := f.model
	if f.parameter {
		m.Parameter = min(1, m.Parameter*math.Exp(x[0]))
	}
	return m
}

func (f fit) read(x []float64) (Model, map[int64]float64) {
	strength := map[int64]float64{}
	own := x[len(x)-len(f.lots):]
	for i, l := range f.lots {
		strength[l] = math.Exp(own[i])
	}
	return f.modelAt(x), strength
}

// spread is the standard deviation of the prior of an unknown.
func (f fit) spread(unknown int) float64 {
	if f.parameter && unknown == 0 {
		return parameterSpread
	}
	return strengthSpread
}

// row is what one sample says: how far the prediction is from what was
// measured (a vector as long as CIEDE2000), and its derivative by each unknown
// that it depends on.
type row struct {
	e     [3]float64
	sigma float64
	at    []int
	jac   [][3]float64
}

func (r *row) add(unknown int, d [3]float64) {
	if k := slices.Index(r.at, unknown); k >= 0 {
		for c := range d {
			r.jac[k][c] += d[c]
		}
		return
	}
	r.at, r.jac = append(r.at, unknown), append(r.jac, d)
}

// mixed returns the colour of a sample under a model, and its derivative by
// the share of each component.
func (f fit) mixed(i int, m Model, x []float64) (mixed colour.Linear, slope []colour.Linear) {
	s := f.samples[i]
	n := len(s.Shares)
	lots, refs := make([]Prepared, n), make([]*Prepared, n)
	strength := make([]float64, n)
	slope = make([]colour.Linear, n)
	for k := range n {
		lots[k] = m.Prepare(&s.Colours[k])
		refs[k], strength[k] = &lots[k], 1
		if u := f.at[i][k]; u >= 0 {
			strength[k] = math.Exp(x[u])
		}
	}
	return m.Slope(refs, strength, s.Shares, slope), slope
}

// says returns what sample i says at x.
func (f fit) says(i int, x []float64) row {
	s := f.samples[i]
	lin, slope := f.mixed(i, f.modelAt(x), x)
	lab, toLab := lin.LabSlope()
	r := row{e: colour.Difference(s.Measured, lab), sigma: math.Hypot(modelSigma, s.Source.Sigma())}
	const h = 1e-4
	var local [3][3]float64
	for axis, q := range [3]colour.Lab{{L: lab.L + h, A: lab.A, B: lab.B}, {L: lab.L, A: lab.A + h, B: lab.B}, {L: lab.L, A: lab.A, B: lab.B + h}} {
		d := colour.Difference(s.Measured, q)
		for c := range 3 {
			local[c][axis] = (d[c] - r.e[c]) / h
		}
	}
	apply := func(v [3]float64) (out [3]float64) {
		for c := range out {
			out[c] = local[c][0]*v[0] + local[c][1]*v[1] + local[c][2]*v[2]
		}
		return out
	}
	if f.parameter {
		var labs [2]colour.Lab
		for side, d := range [2]float64{-h, h} {
			m := f.model
			m.Parameter *= math.Exp(x[0] + d)
			lin, _ := f.mixed(i, m, x)
			labs[side] = lin.Lab()
		}
		r.add(0, apply([3]float64{(labs[1].L - labs[0].L) / (2 * h), (labs[1].A - labs[0].A) / (2 * h), (labs[1].B - labs[0].B) / (2 * h)}))
	}
	for k, u := range f.at[i] {
		if u < 0 {
			continue
		}
		// The mix depends on share times strength, so the derivative by the
		// logarithm of a strength is the share times that by the share.
		var v [3]float64
		for axis := range v {
			for ch := range 3 {
				v[axis] += toLab[axis][ch] * slope[k][ch] * s.Shares[k]
			}
		}
		r.add(u, apply(v))
	}
	return r
}

// misfit is minus twice the logarithm of the posterior, up to a constant.
func (f fit) misfit(x []float64) (sum float64) {
	m := f.modelAt(x)
	for i, s := range f.samples {
		lin, _ := f.mixed(i, m, x)
		d := colour.CIEDE2000(lin.Lab(), s.Measured) / math.Hypot(modelSigma, s.Source.Sigma())
		sum += d * d
	}
	for u, v := range x {
		v /= f.spread(u)
		sum += v * v
	}
	return sum
}

// normal returns what the samples say at x, and the normal equations of the
// step that would fit them if everything were linear: a·step = -g.
func (f fit) normal(ctx context.Context, x []float64) (rows []row, a square, g []float64) {
	a, g = square{len(x), make([]float64, len(x)*len(x))}, make([]float64, len(x))
	for i := range f.samples {
		if ctx.Err() != nil {
			return rows, a, g
		}
		r := f.says(i, x)
		w := 1 / (r.sigma * r.sigma)
		for j, u := range r.at {
			g[u] += w * dot(r.jac[j], r.e)
			for k, v := range r.at {
				if v >= u {
					*a.at(u, v) += w * dot(r.jac[j], r.jac[k])
				}
			}
		}
		rows = append(rows, r)
	}
	for u, v := range x {
		w := 1 / (f.spread(u) * f.spread(u))
		g[u] += w * v
		*a.at(u, u) += w
	}
	return rows, a, g
}

// square is a symmetric matrix, row by row, of which the upper half counts.
type square struct {
	n    int
	data []float64
}

func (a square) at(u, v int) *float64 { return &a.data[u*a.n+v] }

// factored returns its Cholesky factor, false where it is not positive.
func (a square) factored() (square, bool) {
	f := square{a.n, slices.Clone(a.data)}
	return f, lapack.Implementation{}.Dpotrf(blas.Upper, f.n, f.data, f.n)
}

// solve puts the solution in place of so many right sides, row by row; a is a Cholesky factor.
func (a square) solve(sides int, b []float64) {
	lapack.Implementation{}.Dpotrs(blas.Upper, a.n, sides, a.data, a.n, b, sides)
}

func dot(a, b [3]float64) float64 { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }

// solve finds the most likely unknowns by Gauss-Newton steps, damped where
// they do not help (Levenberg 1944, Marquardt 1963).
func (f fit) solve(ctx context.Context) ([]float64, error) {
	x := make([]float64, f.unknowns())
	value, damping := f.misfit(x), 1e-6
	for range 60 {
		_, a, g := f.normal(ctx, x)
		if err := ctx.Err(); err != nil {
			return x, err
		}
		next, here := x, value
		for ; damping < 1e6; damping *= 10 {
			if next = stepped(x, a, g, damping); next == nil {
				continue
			}
			if here = f.misfit(next); here < value {
				break
			}
		}
		if !(here < value) {
			break
		}
		gain := value - here
		x, value, damping = next, here, max(damping/10, 1e-6)
		if gain < 1e-9*(1+value) {
			break
		}
	}
	return x, nil
}

// stepped returns x after one damped step, nil where there is none.
func stepped(x []float64, a square, g []float64, damping float64) []float64 {
	damped := square{a.n, slices.Clone(a.data)}
	for u := range x {
		*damped.at(u, u) *= 1 + damping
	}
	c, ok := damped.factored()
	if !ok {
		return nil
	}
	out, step := slices.Clone(x), slices.Clone(g)
	c.solve(1, step)
	for u, v := range step {
		out[u] -= v
	}
	return out
}

var errSingular = errors.New("the samples leave no prediction")

// leftOut predicts each sample from a fit that has not seen it. The unknowns
// then are one step away from x, the step that the normal equations without
// the sample ask for; with Z = A⁻¹Jᵀ of the sample it is Z(σ²I - JZ)⁻¹e
// (Sherman, Morrison and Woodbury), so that nothing is fitted again.
func (f fit) leftOut(ctx context.Context, x []float64) ([]colour.Lab, error) {
	rows, a, _ := f.normal(ctx, x)
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	c, _ := a.factored() // the prior keeps it positive
	out := make([]colour.Lab, len(rows))
	for i, r := range rows {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		z := make([]float64, len(x)*3)
		for k, u := range r.at {
			copy(z[u*3:], r.jac[k][:])
		}
		c.solve(3, z)
		var in [9]float64
		for k, u := range r.at {
			for p, v := range r.jac[k] {
				for q := range 3 {
					in[p*3+q] -= v * z[u*3+q]
				}
			}
		}
		for k := range 3 {
			in[k*3+k] += r.sigma * r.sigma
		}
		e, pivots := r.e, make([]int, 3)
		if !(lapack.Implementation{}.Dgesv(3, 1, in[:], 3, pivots, e[:], 1)) {
			return nil, errSingular
		}
		without := slices.Clone(x)
		for u := range without {
			without[u] += dot([3]float64(z[u*3:u*3+3]), e)
		}
		lin, _ := f.mixed(i, f.modelAt(without), without)
		out[i] = lin.Lab()
	}
	return out, nil
}
