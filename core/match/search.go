package match

import (
	"cmp"
	"context"
	"math"
	"slices"
)

// How wide the search goes. Found by trying: half of each still meets the
// stated optima, a quarter misses some.
const (
	beam        = 20      // sets of each sort extended by one lot
	kept        = 400     // sets of each size remembered
	polished    = 120     // of these made exact and rounded
	few         = 16      // instead, of sets of more than four lots
	rounds      = 4       // Gauss-Newton steps for a set, before it is made exact
	allSets     = 40_000  // up to here every set is examined without being asked
	allWeighing = 200_000 // up to here every weighing is tried
)

// candidate is a set of lots with the shares that suit it best.
type candidate struct {
	set    []int
	shares []float64
	value  float64 // CIEDE2000 reached
	fits   bool    // meets all bounds; others only lead to larger sets
}

type search struct {
	*solver
	ctx      context.Context
	q        Query
	must     []int // compulsory lots
	free     []int // the others that can be used at all
	of       int   // sets to examine
	examined int
	complete bool
	stopped  bool // by who watches: what was found so far is answered
	best     float64
	sizes    [][]candidate // best first, by size of set
	rounded  map[setKey]Blend
}

func newSearch(ctx context.Context, q Query) (*search, error) {
	p, err := newProblem(&q)
	if err != nil {
		return nil, err
	}
	s := &search{solver: &solver{problem: &p}, ctx: ctx, q: q, best: math.Inf(1), rounded: map[setKey]Blend{}}
	for i := range q.Lots {
		switch {
		case p.loN[i] > 0:
			s.must = append(s.must, i)
		case p.hiN[i] > 0:
			s.free = append(s.free, i)
		}
	}
	s.q.Components = min(q.Components, len(s.must)+len(s.free))
	s.sizes = make([][]candidate, s.q.Components+1)
	return s, nil
}

// halted reports whether to look at no more sets, gone whether nobody waits for
// the answer any more.
func (s *search) halted() bool { return s.stopped || s.gone() }

func (s *search) gone() bool { return s.ctx.Err() != nil }

// sets counts the sets of the allowed sizes, up to a limit.
func (s *search) sets() int {
	var sum float64
	for size := max(len(s.must), 1); size <= s.q.Components; size++ {
		sum += choose(len(s.free), size-len(s.must))
	}
	return int(min(sum, math.MaxInt32))
}

// weighings counts all ways to weigh, up to a limit.
func (s *search) weighings() float64 {
	var sum float64
	for size := max(len(s.must), 1); size <= s.q.Components; size++ {
		sum += choose(len(s.free), size-len(s.must)) * choose(s.steps-1, size-1)
	}
	return sum
}

func choose(n, k int) float64 {
	v := 1.0
	for i := range k {
		v *= float64(n-i) / float64(i+1)
	}
	return max(v, 0)
}

func (s *search) run() {
	s.of = s.sets()
	switch {
	case s.weighings() <= allWeighing:
		s.each(s.weighAll)
		s.complete = !s.stopped
		return
	case s.of <= allSets || s.q.Thorough:
		s.each(s.examine)
		s.complete = !s.stopped
	default:
		s.follow()
	}
	s.round()
}

// each calls visit with every allowed set.
func (s *search) each(visit func(set []int)) {
	set := append(make([]int, 0, most), s.must...)
	if len(set) > 0 {
		visit(sorted(set))
	}
	var add func(from int)
	add = func(from int) {
		if len(set) == s.q.Components {
			return
		}
		for f := from; f < len(s.free) && !s.halted(); f++ {
			set = append(set, s.free[f])
			visit(sorted(set))
			add(f + 1)
			set = set[:len(set)-1]
		}
	}
	add(0)
}

func sorted(set []int) []int {
	out := slices.Clone(set)
	slices.Sort(out)
	return out
}

// examine solves one set and remembers it.
func (s *search) examine(set []int) { s.consider(set, nil) }

// consider solves a set from a starting point and remembers it with those of
// its size.
func (s *search) consider(set []int, from []float64) {
	if s.halted() {
		return
	}
	c := candidate{set: set, fits: s.feasible(set)}
	s.load(set, !c.fits)
	s.start(from)
	s.improve(false, rounds)
	c.value = s.deltaE()
	c.shares = slices.Clone(s.shares[:s.k])
	s.examined++
	if c.fits {
		s.best = min(s.best, c.value)
	}
	list := append(s.sizes[len(set)], c)
	if len(list) >= 4*kept {
		list = trim(list, kept)
	}
	s.sizes[len(set)] = list
	s.tell()
}

// tell reports progress now and then.
func (s *search) tell() {
	if s.q.Watch != nil && s.examined%512 == 0 && !s.q.Watch(Progress{s.examined, s.of, s.best}) {
		s.stopped = true
	}
}

// trim keeps the n best candidates of each sort, those that fit first.
func trim(list []candidate, n int) []candidate {
	slices.SortFunc(list, func(a, b candidate) int {
		if a.fits != b.fits {
			if a.fits {
				return -1
			}
			return 1
		}
		return cmp.Or(cmp.Compare(a.value, b.value), slices.Compare(a.set, b.set))
	})
	n0 := fitting(list)
	out := slices.Clone(list[:min(n, n0)])
	return append(out, list[n0:min(len(list), n0+n)]...)
}

// fitting counts the candidates that meet all bounds in a trimmed list.
func fitting(list []candidate) int {
	n, _ := slices.BinarySearchFunc(list, false, func(c candidate, _ bool) int {
		if c.fits {
			return -1
		}
		return 0
	})
	return n
}

// follow examines the compulsory lots with every single lot and every pair of
// others, then extends the best of each size by one lot at a time.
func (s *search) follow() {
	size := s.q.Components
	s.q.Components = min(size, max(len(s.must), 0)+2)
	s.each(s.examine)
	reached := s.q.Components
	if len(s.sure) > reached {
		s.examine(s.sure) // so that there is an answer wherever there can be one
	}
	s.q.Components = size
	for n := reached; n < size && !s.halted(); n++ {
		s.sizes[n] = trim(s.sizes[n], kept)
		seen := map[setKey]bool{}
		for _, c := range widest(s.sizes[n]) {
			s.extend(c, seen)
		}
	}
}

// widest returns the candidates to extend: the best that fit, and the best of
// those that only lead to larger sets.
func widest(list []candidate) (out []candidate) {
	var fit, part int
	for _, c := range list {
		switch {
		case c.fits && fit < beam:
			fit++
		case !c.fits && part < beam:
			part++
		default:
			continue
		}
		out = append(out, c)
	}
	return out
}

func (s *search) extend(c candidate, seen map[setKey]bool) {
	for _, f := range s.free {
		at, in := slices.BinarySearch(c.set, f)
		if in {
			continue
		}
		set := slices.Insert(slices.Clone(c.set), at, f)
		if k := keyOf(set); seen[k] {
			continue
		} else {
			seen[k] = true
		}
		// The newcomer starts with a tenth, the others make room.
		from := make([]float64, len(c.shares))
		for i, v := range c.shares {
			from[i] = 0.9 * v
		}
		s.consider(set, slices.Insert(from, at, 0.1))
	}
}

// setKey names a set of lots.
type setKey [most]int16

func keyOf(set []int) (k setKey) {
	for i := range k {
		k[i] = -1
		if i < len(set) {
			k[i] = int16(set[i])
		}
	}
	return k
}
