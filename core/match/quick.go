package match

import (
	"cmp"
	"context"
	"math"
	"slices"
)

// hands is how many of the best sets Quick extends, glances how many it looks
// at twice.
const (
	hands   = 2
	glances = 12
)

// Quick answers Find's question with one blend, fast enough to follow a target
// that is being dragged: it adds one lot at a time to the best few sets. The
// blend is near the best there is, not always the best; ok is false where the
// limits leave none that it finds.
func Quick(ctx context.Context, q Query) (b Blend, err error) {
	s, err := newSearch(ctx, q)
	if err != nil {
		return Blend{}, err
	}
	level := []candidate{{set: slices.Clone(s.must)}}
	if len(s.must) > 0 {
		level[0] = s.solved(s.must, nil, 4)
	}
	best := level[0]
	if len(s.must) == 0 {
		best.value = math.Inf(1)
	}
	for size := len(s.must); size < s.q.Components; size++ {
		seen := map[setKey]bool{}
		var next []candidate
		for _, c := range level {
			next = append(next, s.extended(c, seen)...)
		}
		next = closest(next, glances)
		for i, c := range next {
			next[i] = s.solved(c.set, c.shares, 4)
		}
		level = closest(next, hands)
		for _, c := range closest(next, len(next)) {
			if c.fits && (!best.fits || c.value < best.value-0.01) {
				best = c
				break
			}
		}
	}
	if !best.fits || s.gone() {
		return Blend{}, ctx.Err()
	}
	s.load(best.set, false)
	s.start(best.shares)
	s.improve(true, 4)
	steps := make([]int, s.k)
	s.nearest(best.set, steps)
	s.climb(best.set, steps, 1)
	s.keep(best.set, steps)
	return s.answers()[0], nil
}

// closest returns the n best candidates.
func closest(list []candidate, n int) []candidate {
	slices.SortFunc(list, func(a, b candidate) int {
		return cmp.Or(cmp.Compare(a.value, b.value), slices.Compare(a.set, b.set))
	})
	return list[:min(len(list), n)]
}

func (s *search) solved(set []int, from []float64, rounds int) candidate {
	c := candidate{set: set, fits: s.feasible(set)}
	s.load(set, !c.fits)
	s.start(from)
	c.value = s.improve(false, rounds)
	c.shares = slices.Clone(s.shares[:s.k])
	return c
}

func (s *search) extended(c candidate, seen map[setKey]bool) (out []candidate) {
	for _, f := range s.free {
		if s.gone() {
			break
		}
		at, in := slices.BinarySearch(c.set, f)
		if in {
			continue
		}
		set := slices.Insert(slices.Clone(c.set), at, f)
		k := keyOf(set)
		if seen[k] {
			continue
		}
		seen[k] = true
		from := make([]float64, len(c.shares))
		for i, v := range c.shares {
			from[i] = 0.8 * v
		}
		out = append(out, s.solved(set, slices.Insert(from, at, 0.2), 1))
	}
	return out
}
