package yarn

import (
	"math"
	"slices"

	"fairtangle/core/colour"
)

// Neighbouring stretches differ by so much (CIEDE2000), and none is shorter than this part of the yarn.
const (
	runDE     = 6.0
	leastPart = 1.0 / 80
	looks     = 400 // places at which a yarn is looked at
)

// bounds are the places of the yarn at which a part of the batt begins in one of the plies, m.
func (y *Yarn) bounds() []float64 {
	out := []float64{0, y.PliedM}
	n := float64(PliesOf(y.Ply))
	for _, p := range y.Parts {
		m := p.FromM
		switch {
		case y.Ply == Single:
		case y.Ply == Chain:
			m /= 3 * (1 + y.takeUp)
		case y.second > 0 && m >= y.second && y.turned:
			m = (y.SinglesM - m) / (1 + y.takeUp)
		case y.second > 0:
			m = math.Mod(m, y.second) / (1 + y.takeUp)
		default:
			m = math.Mod(m, y.SinglesM/n) / (1 + y.takeUp)
		}
		if m < y.PliedM {
			out = append(out, m)
		}
	}
	slices.Sort(out)
	return slices.CompactFunc(out, func(a, b float64) bool { return math.Abs(b-a) < 1e-9*y.PliedM })
}

// stretch is a Stretch in the making.
type stretch struct {
	Stretch
	long float64
	next float64 // how far it differs from the next one
}

// apart is how far a stretch differs from the one after it.
func apart(all []stretch, i int) float64 {
	if i+1 >= len(all) {
		return 0
	}
	return colour.CIEDE2000(all[i].Lab, all[i+1].Lab)
}

// run divides the yarn into stretches of one colour, and says what it will look like: looked at
// place by place, neighbours that are alike become one, those first that cost least (the
// difference times the square root of the lengths' harmonic mean, as in Ward's clustering).
func (y *Yarn) run(mix func([]float64) colour.Lab) {
	bounds := y.bounds()
	var all []stretch
	for i := 0; i+1 < len(bounds); i++ {
		from, to := bounds[i], bounds[i+1]
		n := max(1, int(math.Ceil((to-from)/y.PliedM*looks)))
		long := (to - from) / float64(n)
		for k := range n {
			r := stretch{Stretch{FromM: from + float64(k)*long, ToM: from + float64(k+1)*long, Shares: make([]float64, y.n)}, long, 0}
			if k == n-1 {
				r.ToM = to
			}
			y.over(r.FromM, r.ToM, r.Shares)
			r.Lab = mix(r.Shares)
			all = append(all, r)
		}
	}
	for i := range all {
		all[i].next = apart(all, i)
	}
	for len(all) > 1 {
		best, cost := -1, math.Inf(1)
		for i := range len(all) - 1 {
			a, b := &all[i], &all[i+1]
			d := a.next
			if d >= runDE && min(a.long, b.long) >= leastPart*y.PliedM {
				continue
			}
			if c := d * math.Sqrt(a.long*b.long/(a.long+b.long)); c < cost {
				best, cost = i, c
			}
		}
		if best < 0 {
			break
		}
		a, b := &all[best], all[best+1]
		for k := range a.Shares {
			a.Shares[k] = (a.Shares[k]*a.long + b.Shares[k]*b.long) / (a.long + b.long)
		}
		a.ToM, a.long, a.Lab = b.ToM, a.long+b.long, mix(a.Shares)
		all = slices.Delete(all, best+1, best+2)
		for i := max(0, best-1); i <= best; i++ {
			all[i].next = apart(all, i)
		}
	}
	for _, r := range all {
		y.Stretches = append(y.Stretches, r.Stretch)
	}
	y.judge(mix)
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
// barber's pole, or as a marl; a yarn of which two stretches differ by so much is not even. It is
// striped where colours come back, or change by a jump more than twice; else it is a gradient. A
// fibre of less than fleckShare that stands out shows as flecks.
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
	const wide, close = 24, 192 // windows: how the colour goes, and how suddenly it changes
	way, near := y.windows(wide, mix), y.windows(close, mix)
	flecked := y.flecked(mix)
	y.Pattern = y.named(way, near, flecked)
	slices.Reverse(way)
	slices.Reverse(near)
	if other := y.named(way, near, flecked); slices.Index(patterns, other) < slices.Index(patterns, y.Pattern) {
		y.Pattern = other
	}
}

// patterns are what a yarn can be called; where its two ends call it differently, the first.
var patterns = []string{"barber pole", "stripes", "long gradient", "marl", "flecks", "even"}

// named is what a yarn is called, by its colours from one end on.
func (y *Yarn) named(way, near []colour.Lab, flecked bool) string {
	most := 0.0
	for i, a := range way {
		for _, b := range way[:i] {
			most = max(most, colour.CIEDE2000(a, b))
		}
	}
	jumps := jumps(near)
	drift := colour.CIEDE2000(way[0], way[len(way)-1])
	switch {
	case y.PlyDE >= poleDE:
		return "barber pole"
	case most >= driftDE && !returns(way) && (jumps == 0 || jumps <= 2 && drift >= 0.8*most):
		return "long gradient"
	case most >= driftDE:
		return "stripes"
	case y.PlyDE >= marlDE:
		return "marl"
	case flecked:
		return "flecks"
	}
	return "even"
}

// windows are the colours of so many stretches of the yarn, from end to end.
func (y *Yarn) windows(n int, mix func([]float64) colour.Lab) []colour.Lab {
	out, buf := make([]colour.Lab, n), make([]float64, y.n)
	for i := range out {
		y.over(y.PliedM*float64(i)/float64(n), y.PliedM*float64(i+1)/float64(n), buf)
		out[i] = mix(buf)
	}
	return out
}

// returns reports whether a colour comes back after another.
func returns(way []colour.Lab) bool {
	for i, a := range way {
		apart := false
		for _, b := range way[i+1:] {
			d := colour.CIEDE2000(a, b)
			if apart && d < runDE {
				return true
			}
			apart = apart || d >= driftDE+runDE
		}
	}
	return false
}

// jumps counts the places where the colour of a few windows is another than that of the few before.
func jumps(way []colour.Lab) (n int) {
	const few = 3
	in := false
	for i := few; i+few <= len(way); i++ {
		var a, b colour.Lab
		for k := range few {
			x, z := way[i-1-k], way[i+k]
			a = colour.Lab{L: a.L + x.L/few, A: a.A + x.A/few, B: a.B + x.B/few}
			b = colour.Lab{L: b.L + z.L/few, A: b.A + z.A/few, B: b.B + z.B/few}
		}
		jump := colour.CIEDE2000(a, b) >= jumpDE
		if jump && !in {
			n++
		}
		in = jump
	}
	return n
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
