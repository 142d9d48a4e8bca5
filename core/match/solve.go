package match

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

// solver holds the work space of one search, so that a set is solved without
// allocation.
type solver struct {
	*problem
	lots     [most]*mix.Prepared
	strength [most]float64
	lo, hi   [most]float64
	group    [most]bool
	least    float64
	k        int
	slope    [most]colour.Linear
	jac      [most][3]float64
	shares   [most]float64
	trial    [most]float64
}

// load chooses a set. relaxed leaves the upper bounds and the group out: for
// sets that can not stand alone but may be part of one that can.
func (s *solver) load(set []int, relaxed bool) {
	s.k, s.least = len(set), s.problem.least
	for j, i := range set {
		s.lots[j], s.strength[j] = &s.prepared[i], s.problem.strength[i]
		s.lo[j], s.hi[j], s.group[j] = s.problem.lo[i], s.problem.hi[i], s.problem.group[i]
		if relaxed {
			s.lo[j], s.hi[j] = 0, 1
		}
	}
	if relaxed {
		s.least = 0
	}
}

// start fills s.shares with a point within the bounds, near want where that is
// given (it need not be feasible), else even.
func (s *solver) start(want []float64) {
	var sum float64
	for j := range s.k {
		v := 1 / float64(s.k)
		if want != nil {
			v = want[j]
		}
		s.shares[j] = min(max(v, s.lo[j]), s.hi[j])
		sum += s.shares[j]
	}
	s.shift(1-sum, func(int) bool { return true })
	if s.least > 0 {
		var in float64
		for j := range s.k {
			if s.group[j] {
				in += s.shares[j]
			}
		}
		if need := s.least - in; need > 0 {
			s.shift(need, func(j int) bool { return s.group[j] })
			s.shift(-need, func(j int) bool { return !s.group[j] })
		}
	}
}

// shift adds amount to the shares of those that may take it, in proportion to
// their room.
func (s *solver) shift(amount float64, who func(int) bool) {
	var room float64
	gap := func(j int) float64 {
		if amount > 0 {
			return s.hi[j] - s.shares[j]
		}
		return s.shares[j] - s.lo[j]
	}
	for j := range s.k {
		if who(j) {
			room += gap(j)
		}
	}
	if room <= 0 {
		return
	}
	f := amount / max(room, math.Abs(amount))
	for j := range s.k {
		if who(j) {
			s.shares[j] += gap(j) * f
		}
	}
}

// residual returns how far the mix of shares is from the target: as a vector
// with the local metric of CIEDE2000, or (exact) as CIEDE2000 itself. With jac
// it also fills s.jac with the vector's derivative by each share.
func (s *solver) residual(shares []float64, exact, jac bool) [3]float64 {
	mixed := s.model.Slope(s.lots[:s.k], s.strength[:s.k], shares, s.slope[:s.k])
	lab, toLab := mixed.LabSlope()
	e := [3]float64{lab.L - s.target.L, lab.A - s.target.A, lab.B - s.target.B}
	w := &s.metric
	if exact {
		e = colour.Difference(s.target, lab)
	} else {
		e = apply(w, e)
	}
	if !jac {
		return e
	}
	var local [3][3]float64
	if exact {
		const h = 1e-4
		for axis, q := range [3]colour.Lab{{L: lab.L + h, A: lab.A, B: lab.B}, {L: lab.L, A: lab.A + h, B: lab.B}, {L: lab.L, A: lab.A, B: lab.B + h}} {
			d := colour.Difference(s.target, q)
			for r := range 3 {
				local[r][axis] = (d[r] - e[r]) / h
			}
		}
		w = &local
	}
	for j := range s.k {
		var v [3]float64
		for axis := range 3 {
			for ch := range 3 {
				v[axis] += toLab[axis][ch] * s.slope[j][ch]
			}
		}
		s.jac[j] = apply(w, v)
	}
	return e
}

func apply(w *[3][3]float64, v [3]float64) (out [3]float64) {
	for i := range 3 {
		out[i] = w[i][0]*v[0] + w[i][1]*v[1] + w[i][2]*v[2]
	}
	return out
}

func square(v [3]float64) float64 { return v[0]*v[0] + v[1]*v[1] + v[2]*v[2] }

// enough is the square of a difference that nobody sees and no scale reaches.
const enough = 1e-6

// improve runs Gauss-Newton steps on the shares, each step's linear least
// squares problem solved within the bounds, and gives the length of the
// residual reached.
func (s *solver) improve(exact bool, rounds int) float64 {
	shares, trial := s.shares[:s.k], s.trial[:s.k]
	e := s.residual(shares, exact, true)
	value := square(e)
	for round := range rounds {
		more := round < rounds-1
		copy(trial, shares)
		s.descend(trial, e)
		var moved float64
		for j := range shares {
			moved = max(moved, math.Abs(trial[j]-shares[j]))
		}
		if moved < 1e-5 {
			break
		}
		// The mix is not linear: go back part of the way until it helps.
		next := s.residual(trial, exact, more)
		for range 4 {
			if square(next) < value {
				break
			}
			for j := range trial {
				trial[j] = 0.3*trial[j] + 0.7*shares[j]
			}
			next = s.residual(trial, exact, more)
		}
		if square(next) >= value {
			break
		}
		gain := value - square(next)
		copy(shares, trial)
		e, value = next, square(next)
		if value < enough || gain < 1e-5*value {
			break
		}
	}
	return math.Sqrt(value)
}

// descend minimises |e + J·d| over d that keep the shares' sum, bounds and
// group: each time between the pair of lots, weight is moved as far as it
// helps. Where no exchange between two lots helps, nothing does, because
// exchanges span the directions that the bounds leave open.
func (s *solver) descend(x []float64, e [3]float64) {
	var in float64
	for j := range x {
		if s.group[j] {
			in += x[j]
		}
	}
	for range 16 {
		var moved float64
		for i := range x {
			for j := i + 1; j < len(x); j++ {
				a, b := &s.jac[i], &s.jac[j]
				u := [3]float64{a[0] - b[0], a[1] - b[1], a[2] - b[2]}
				uu := square(u)
				if uu < 1e-18 {
					continue
				}
				d := -(u[0]*e[0] + u[1]*e[1] + u[2]*e[2]) / uu
				d = min(d, s.hi[i]-x[i], x[j]-s.lo[j])
				d = max(d, s.lo[i]-x[i], x[j]-s.hi[j])
				if s.least > 0 && s.group[i] != s.group[j] {
					if s.group[i] {
						d = max(d, s.least-in)
					} else {
						d = min(d, in-s.least)
					}
				}
				x[i], x[j] = x[i]+d, x[j]-d
				if s.group[i] != s.group[j] {
					if s.group[i] {
						in += d
					} else {
						in -= d
					}
				}
				for r := range 3 {
					e[r] += d * u[r]
				}
				moved = max(moved, math.Abs(d))
			}
		}
		if moved < 1e-5 {
			return
		}
	}
}

// deltaE is CIEDE2000 between the target and the mix of s.shares.
func (s *solver) deltaE() float64 {
	return math.Sqrt(square(s.residual(s.shares[:s.k], true, false)))
}
