package yarn

import (
	"math"
	"slices"

	"fairtangle/core/colour"
)

// A run goes on as long as its colour stays within so much of where it began, and is no shorter
// than this part of the yarn but where a part of the batt ends.
const (
	runDE     = 6.0
	leastPart = 1.0 / 200
	looks     = 400 // places at which a yarn is looked at
)

// bounds are the places of the yarn at which a part of the batt begins in one of the plies, m.
func (y *Yarn) bounds() []float64 {
	out := []float64{0, y.PliedM}
	n := float64(PliesOf(y.Ply))
	for _, p := range y.Parts {
		m := p.FromM
		switch y.Ply {
		case Single:
		case Chain:
			m /= 3 * (1 + y.takeUp)
		default:
			m = math.Mod(m, y.SinglesM/n) / (1 + y.takeUp)
		}
		out = append(out, m)
	}
	slices.Sort(out)
	return slices.CompactFunc(out, func(a, b float64) bool { return math.Abs(b-a) < 1e-9*y.PliedM })
}

// run divides the yarn into stretches of one colour, and says what it will look like.
func (y *Yarn) run(mix func([]float64) colour.Lab) {
	bounds := y.bounds()
	buf := make([]float64, y.n)
	for i := 0; i+1 < len(bounds); i++ {
		from, to := bounds[i], bounds[i+1]
		n := max(1, int(math.Ceil((to-from)/y.PliedM*looks)))
		long := (to - from) / float64(n)
		cur := Run{FromM: from, Shares: make([]float64, y.n)}
		var begun colour.Lab
		have := 0
		for k := range n {
			y.over(from+float64(k)*long, from+float64(k+1)*long, buf)
			lab := mix(buf)
			here := from + float64(k)*long
			if have > 0 && colour.CIEDE2000(begun, lab) > runDE && here-cur.FromM >= leastPart*y.PliedM && to-here >= leastPart*y.PliedM {
				y.end(&cur, here, have, mix)
				cur, have = Run{FromM: here, Shares: make([]float64, y.n)}, 0
			}
			if have == 0 {
				begun = lab
			}
			for j, v := range buf {
				cur.Shares[j] += v
			}
			have++
		}
		y.end(&cur, to, have, mix)
	}
	y.judge(mix)
}

func (y *Yarn) end(r *Run, at float64, n int, mix func([]float64) colour.Lab) {
	for k := range r.Shares {
		r.Shares[k] /= float64(n)
	}
	r.ToM, r.Lab = at, mix(r.Shares)
	y.Runs = append(y.Runs, *r)
}

// over is the mean composition between two places of the yarn.
func (y *Yarn) over(from, to float64, into []float64) {
	clear(into)
	n := min(max(1, int((to-from)/y.step)), 60)
	one := make([]float64, y.n)
	for i := range n {
		y.Mean(from+(to-from)*(float64(i)+0.5)/float64(n), one)
		for k, v := range one {
			into[k] += v / float64(n)
		}
	}
}

// What a yarn is called (CIEDE2000): plies that differ by so much are seen as stripes of a
// barber's pole, or as a marl; a yarn whose ends differ by so much is a gradient, one with jumps
// of so much striped. A fibre of less than fleckShare that stands out shows as flecks.
const (
	poleDE     = 12.0
	marlDE     = 4.0
	jumpDE     = 9.0
	driftDE    = 8.0
	fleckShare = 0.08
	fleckDE    = 18.0
)

// judge says what the yarn will look like.
func (y *Yarn) judge(mix func([]float64) colour.Lab) {
	if n := PliesOf(y.Ply); n > 1 {
		const places = 60
		for i := range places {
			m := y.PliedM * (float64(i) + 0.5) / places
			a := mix(y.Shares(0, m))
			for p := 1; p < n; p++ {
				y.PlyDE += colour.CIEDE2000(a, mix(y.Shares(p, m))) / float64(places*(n-1))
			}
		}
	}
	var jumps int
	most, drift := 0.0, 0.0
	for i, r := range y.Runs {
		for _, o := range y.Runs[:i] {
			most = max(most, colour.CIEDE2000(r.Lab, o.Lab))
		}
		if i > 0 && colour.CIEDE2000(r.Lab, y.Runs[i-1].Lab) >= jumpDE {
			jumps++
		}
	}
	if n := len(y.Runs); n > 1 {
		drift = colour.CIEDE2000(y.Runs[0].Lab, y.Runs[n-1].Lab)
	}
	switch {
	case y.PlyDE >= poleDE:
		y.Pattern = "barber pole"
	case most >= driftDE && (jumps == 0 || jumps <= 2 && drift >= 0.8*most):
		y.Pattern = "long gradient"
	case most >= driftDE:
		y.Pattern = "stripes"
	case y.PlyDE >= marlDE:
		y.Pattern = "marl"
	case y.flecked(mix):
		y.Pattern = "flecks"
	default:
		y.Pattern = "even"
	}
}

// flecked reports whether a little of something stands out from the rest.
func (y *Yarn) flecked(mix func([]float64) colour.Lab) bool {
	all := make([]float64, y.n)
	y.over(0, y.PliedM, all)
	even := mix(all)
	for k, v := range all {
		if v <= 0.002 || v >= fleckShare {
			continue
		}
		alone := make([]float64, y.n)
		alone[k] = 1
		if colour.CIEDE2000(even, mix(alone)) >= fleckDE {
			return true
		}
	}
	return false
}
