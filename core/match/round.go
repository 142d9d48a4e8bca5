package match

import (
	"cmp"
	"math"
	"slices"

	"fairtangle/core/colour"
)

// Tie is the difference below which two blends can not be told apart at the
// scale (core-colour: one gram in sixty moves a blend 0.65).
const Tie = 0.5

// round makes the best sets of each size exact, rounds them to whole steps and
// keeps what comes out, once for each set. Where nothing comes near the
// target it looks again over the whole of the best sets.
func (s *search) round() {
	reached := math.Inf(1)
	for size, list := range s.sizes {
		list = trim(list, kept)
		s.sizes[size] = list
		limit := polished
		if size > 4 {
			limit = few // four lots reach what can be reached; more only add variety
		}
		for _, c := range list[:min(limit, fitting(list))] {
			if s.gone() {
				return
			}
			s.load(c.set, false)
			s.start(c.shares)
			if c.value > 0.02 {
				s.improve(true, 8)
			}
			reached = min(reached, s.settle(c.set, 1))
		}
	}
	for _, list := range s.sizes {
		for _, c := range list[:min(few, fitting(list))] {
			if reached >= far && len(c.set) > 1 && !s.gone() {
				s.scan(c.set)
			}
		}
	}
}

// settle rounds the shares of a set, climbs from there with the first moves of
// so many steps, and keeps the weighing.
func (s *search) settle(set []int, stride int) float64 {
	steps := make([]int, len(set))
	s.nearest(set, steps)
	value := s.climb(set, steps, stride)
	s.keep(set, steps)
	return value
}

// far is the difference above which a target counts as out of reach. Far from
// it CIEDE2000 has many valleys, and edges where the hue turns over.
const far = 1.0

// scan lays a grid of some two thousand blends over a set and settles from the
// best of them.
func (s *search) scan(set []int) {
	const points, starts = 2000, 3
	k := len(set)
	parts := 2
	for parts < s.steps && choose(parts+k, k-1) <= points {
		parts++
	}
	s.load(set, false)
	type start struct {
		shares []float64
		value  float64
	}
	var best []start
	want := make([]float64, k)
	var rest func(j, left int)
	rest = func(j, left int) {
		if j < k-1 {
			for n := 0; n <= left; n++ {
				want[j] = float64(n) / float64(parts)
				rest(j+1, left-n)
			}
			return
		}
		want[j] = float64(left) / float64(parts)
		s.start(want)
		if v := s.deltaE(); len(best) < starts || v < best[len(best)-1].value {
			best = append(best[:min(len(best), starts-1)], start{slices.Clone(s.shares[:k]), v})
			slices.SortStableFunc(best, func(a, b start) int { return cmp.Compare(a.value, b.value) })
		}
	}
	rest(0, parts)
	for _, b := range best {
		s.load(set, false)
		copy(s.shares[:], b.shares)
		s.settle(set, max(s.steps/parts, 1))
	}
}

// nearest rounds the shares to steps by largest remainder within the bounds.
func (s *search) nearest(set, steps []int) {
	left, in := s.steps, 0
	for j, i := range set {
		steps[j] = min(max(int(math.Floor(s.shares[j]*float64(s.steps)+1e-9)), s.loN[i]), s.hiN[i])
		left -= steps[j]
		if s.problem.group[i] {
			in += steps[j]
		}
	}
	for left != 0 {
		d := 1
		if left < 0 {
			d = -1
		}
		best, gap := -1, 0.0
		for j, i := range set {
			next := steps[j] + d
			if next < s.loN[i] || next > s.hiN[i] || d < 0 && s.problem.group[i] && in <= s.leastN {
				continue
			}
			g := (s.shares[j]*float64(s.steps) - float64(steps[j])) * float64(d)
			if d > 0 && in < s.leastN && s.problem.group[i] {
				g += 1e6 // the group comes first
			}
			if best < 0 || g > gap {
				best, gap = j, g
			}
		}
		steps[best] += d
		if s.problem.group[set[best]] {
			in += d
		}
		left -= d
	}
}

// weigh returns CIEDE2000 between the target and the mix of these steps.
func (s *search) weigh(steps []int) float64 {
	for j, n := range steps {
		s.trial[j] = float64(n) / float64(s.steps)
	}
	r := s.reflectance(s.trial[:len(steps)])
	return colour.CIEDE2000(s.target, r.Lab())
}

// reflectance mixes the loaded lots.
func (s *solver) reflectance(shares []float64) colour.Reflectance {
	var e [most]float64
	var sum float64
	for j, v := range shares {
		e[j] = v * s.strength[j]
		sum += e[j]
	}
	for j := range shares {
		e[j] /= sum
	}
	return s.model.Blend(s.lots[:len(shares)], e[:len(shares)])
}

// climb moves weight between two and (up to six lots) among three as long as
// that brings the mix closer: first by so many steps, then by half as many,
// down to single ones. It gives the difference reached.
func (s *search) climb(set, steps []int, stride int) float64 {
	k := len(set)
	here := s.weigh(steps)
	fits := func() bool {
		in := 0
		for j, i := range set {
			if steps[j] < s.loN[i] || steps[j] > s.hiN[i] {
				return false
			}
			if s.problem.group[i] {
				in += steps[j]
			}
		}
		return in >= s.leastN
	}
	try := func(a, b, c, size int) bool { // a gains, b and c give; b == c for a pair
		move := func(d int) {
			steps[a] += d * size
			if b == c {
				steps[b] -= d * size
			} else {
				half := size / 2
				steps[b] -= d * half
				steps[c] -= d * (size - half)
			}
		}
		move(1)
		if fits() {
			if v := s.weigh(steps); v < here-1e-12 {
				here = v
				return true
			}
		}
		move(-1)
		return false
	}
	for moved := true; (moved || stride > 1) && !s.gone(); {
		if !moved {
			stride /= 2
		}
		moved = false
		for a := range k {
			for b := range k {
				if a == b {
					continue
				}
				moved = try(a, b, b, stride) || moved
				for c := b + 1; c < k && k <= 6; c++ {
					if c != a {
						moved = try(a, b, c, 2*stride) || moved
						moved = try(a, b, c, -2*stride) || moved
					}
				}
			}
		}
	}
	return here
}

// weighAll tries every weighing of a set in which all its lots take part.
func (s *search) weighAll(set []int) {
	s.examined++
	s.tell()
	if !s.feasible(set) {
		return
	}
	s.load(set, false)
	steps, best := make([]int, len(set)), make([]int, len(set))
	value := math.Inf(1)
	var rest func(j, left, in int)
	rest = func(j, left, in int) {
		i := set[j]
		lo, hi := max(s.loN[i], 1), min(s.hiN[i], left)
		if j == len(set)-1 {
			lo = max(lo, left)
		}
		for n := lo; n <= hi && !s.gone(); n++ {
			steps[j] = n
			now := in
			if s.problem.group[i] {
				now += n
			}
			if j < len(set)-1 {
				rest(j+1, left-n, now)
			} else if now >= s.leastN {
				if v := s.weigh(steps); v < value {
					value = v
					copy(best, steps)
				}
			}
		}
	}
	rest(0, s.steps, 0)
	if value < math.Inf(1) {
		s.best = min(s.best, value)
		s.keep(set, best)
	}
}

// keep remembers a weighing under the lots that really take part in it.
func (s *search) keep(set, steps []int) {
	var b Blend
	for j, n := range steps {
		if n > 0 {
			b.Set, b.Steps = append(b.Set, set[j]), append(b.Steps, n)
		}
	}
	s.load(b.Set, false)
	b.DeltaE = s.weigh(b.Steps)
	key := keyOf(b.Set)
	if old, ok := s.rounded[key]; ok && old.DeltaE <= b.DeltaE {
		return
	}
	s.rounded[key] = b
}

// answers ranks what was kept.
func (s *search) answers() []Blend {
	all := make([]Blend, 0, len(s.rounded))
	for _, b := range s.rounded {
		all = append(all, b)
	}
	slices.SortFunc(all, func(a, b Blend) int {
		return cmp.Or(cmp.Compare(a.DeltaE, b.DeltaE), slices.Compare(a.Set, b.Set))
	})
	if len(all) == 0 {
		return nil
	}
	close, _ := slices.BinarySearchFunc(all, all[0].DeltaE+Tie, func(b Blend, v float64) int { return cmp.Compare(b.DeltaE, v) })
	for i := range all[:close] {
		s.finish(&all[i])
	}
	closest := all[0]
	slices.SortStableFunc(all[:close], func(a, b Blend) int {
		return cmp.Or(
			cmp.Compare(len(a.Set), len(b.Set)),
			cmp.Compare(math.Round(a.Slip*10), math.Round(b.Slip*10)),
			cmp.Compare(math.Round(a.scarce*10), math.Round(b.scarce*10)),
			compareCost(a.Cost, b.Cost),
		)
	})
	out := all[:min(len(all), s.q.Count)]
	if !slices.ContainsFunc(out, func(b Blend) bool { return slices.Equal(b.Set, closest.Set) }) {
		out[len(out)-1] = closest
	}
	for i := range out {
		s.finish(&out[i])
	}
	return out
}

// compareCost puts what is not known last.
func compareCost(a, b float64) int {
	switch {
	case math.IsNaN(a) && math.IsNaN(b):
		return 0
	case math.IsNaN(a):
		return 1
	case math.IsNaN(b):
		return -1
	}
	return cmp.Compare(a, b)
}

// finish fills in what only answers and their ranking need.
func (s *search) finish(b *Blend) {
	s.load(b.Set, false)
	total := float64(s.steps)
	for j, n := range b.Steps {
		s.shares[j] = float64(n) / total
	}
	b.Colour = s.reflectance(s.shares[:s.k])
	at := b.Colour.Lab()
	var sum float64
	var count int
	b.Cost, b.scarce = 0, 0
	for j, i := range b.Set {
		grams := float64(b.Steps[j]) * s.q.Step
		b.Cost += grams * s.q.Lots[i].Cost
		b.scarce = max(b.scarce, grams/s.q.Lots[i].Available)
		for _, d := range []int{-1, 1} {
			for l, n := range b.Steps {
				s.trial[l] = float64(n) / (total + float64(d))
			}
			s.trial[j] = float64(b.Steps[j]+d) / (total + float64(d))
			if total+float64(d) <= 0 {
				continue
			}
			r := s.reflectance(s.trial[:s.k])
			v := colour.CIEDE2000(at, r.Lab())
			sum += v * v
			count++
		}
	}
	b.Slip = math.Sqrt(sum / float64(max(count, 1)))
}
