package match

import (
	"cmp"
	"context"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
)

// MaxAdded is the most kinds of fibre that a correction adds.
const MaxAdded = 4

// Mend is what is asked of a correction: a blend of Made grams that has a
// colour, and what may be added. Least, Most and InGroup of the lots are not
// used.
type Mend struct {
	Made       float64 // grams
	Colour     colour.Reflectance
	Strength   float64 // of a gram of the blend, as Lot.Strength
	Target     colour.Lab
	Lots       []Lot
	Model      mix.Model
	Components int     // the most lots to add
	MostAdded  float64 // grams, together
	Step       float64 // grams
	Count      int
}

// Addition is one correction.
type Addition struct {
	Set    []int
	Steps  []int
	Added  float64 // grams
	DeltaE float64 // CIEDE2000 from the target afterwards
	Colour colour.Reflectance
}

// worth is the least improvement, in CIEDE2000, that counts as one.
const worth = 0.1

// Correct finds what to add to a blend so that it comes closest to the target,
// and returns the difference before. Additions that reach at least half of the
// best improvement are ranked by improvement per gram; the one that comes
// closest is always among them. None at all means that nothing in reach makes
// it better by worth.
//
// Every lot and every pair of lots is tried; larger sets extend the best ones.
// Cancelling ctx ends it within some milliseconds.
func Correct(ctx context.Context, m Mend) (before float64, out []Addition, err error) {
	if err := m.check(); err != nil {
		return 0, nil, err
	}
	c := newCorrection(m)
	before = colour.CIEDE2000(m.Target, m.Colour.Lab())
	best := c.run(ctx)
	if err := ctx.Err(); err != nil {
		return before, nil, err
	}
	var good []Addition
	for _, a := range best {
		if a.DeltaE <= before-worth {
			good = append(good, a)
		}
	}
	if len(good) == 0 {
		return before, nil, nil
	}
	slices.SortFunc(good, func(a, b Addition) int {
		return cmp.Or(cmp.Compare(a.DeltaE, b.DeltaE), slices.Compare(a.Set, b.Set))
	})
	first := good[0]
	good = slices.DeleteFunc(good, func(a Addition) bool { return before-a.DeltaE < (before-first.DeltaE)/2 })
	gain := func(a Addition) float64 { return (before - a.DeltaE) / a.Added }
	slices.SortStableFunc(good, func(a, b Addition) int { return cmp.Compare(gain(b), gain(a)) })
	at := slices.IndexFunc(good, func(a Addition) bool { return slices.Equal(a.Set, first.Set) })
	if at >= m.Count {
		good[m.Count-1] = first
	}
	return before, good[:min(len(good), m.Count)], nil
}

func (m *Mend) check() error {
	var l fault.List
	if n := len(m.Lots); n == 0 || n > MaxLots {
		l.Add("components", "There are 1 to %d lots to choose from.", MaxLots)
	}
	if m.Components < 1 || m.Components > MaxAdded {
		l.Add("max_components", "A correction adds 1 to %d components.", MaxAdded)
	}
	if m.Count < 1 || m.Count > MaxCount {
		l.Add("count", "Between 1 and %d answers can be given.", MaxCount)
	}
	if !(m.Made > 0 && m.Made <= 1e6) {
		l.Add("made.grams", "The blend weighs above %s and at most %s.", unit.Grams(0), unit.MaxGrams)
	}
	if !(m.MostAdded > 0 && m.MostAdded <= 1e6) {
		l.Add("max_added_g", "What may be added is above %s and at most %s.", unit.Grams(0), unit.MaxGrams)
	}
	if !(m.Step >= 0.001 && m.Step <= 1000) {
		l.Add("step_g", "The scale's step lies from %s to %s.", unit.Grams(0.001), unit.Grams(1000))
	}
	for i, v := range m.Lots {
		checkAvailable(&l, field(i, ""), v)
	}
	return l.Err()
}

// correction searches over shares of the blend that comes out, the blend that
// was made being its first lot, and then over whole steps added.
type correction struct {
	solver
	m     Mend
	mostN int
	hiN   []int // steps of each lot that may be added
}

func newCorrection(m Mend) *correction {
	p := prepare(m.Target, m.Model, m.Lots, 1)
	n := len(m.Lots)
	p.prepared[n], p.strength[n] = m.Model.Prepare(&m.Colour), m.Strength
	if m.Strength == 0 {
		p.strength[n] = 1
	}
	c := &correction{solver: solver{problem: &p}, m: m, mostN: int(math.Floor(m.MostAdded/m.Step + 1e-6)), hiN: make([]int, n)}
	for i, v := range m.Lots {
		c.hiN[i] = int(math.Floor(min(v.Available/m.Step+1e-6, float64(c.mostN))))
		added := float64(c.hiN[i]) * m.Step
		p.hi[i] = added / (m.Made + added)
	}
	p.lo[n], p.hi[n] = m.Made/(m.Made+float64(c.mostN)*m.Step), 1
	return c
}

func (c *correction) run(ctx context.Context) (out []Addition) {
	level := [][]int{{}}
	for size := 1; size <= min(c.m.Components, len(c.m.Lots)); size++ {
		var next []Addition
		seen := map[setKey]bool{}
		for _, set := range level {
			for i := range c.m.Lots {
				if ctx.Err() != nil {
					return nil
				}
				at, in := slices.BinarySearch(set, i)
				if in || c.hiN[i] == 0 {
					continue
				}
				bigger := slices.Insert(slices.Clone(set), at, i)
				if k := keyOf(bigger); !seen[k] {
					seen[k] = true
					next = append(next, c.add(bigger))
				}
			}
		}
		slices.SortFunc(next, func(a, b Addition) int {
			return cmp.Or(cmp.Compare(a.DeltaE, b.DeltaE), slices.Compare(a.Set, b.Set))
		})
		level = level[:0]
		for i, a := range next {
			if i < polished && ctx.Err() == nil {
				a = c.settle(a)
				out = append(out, a)
			}
			if size == 1 || i < beam {
				level = append(level, a.Set)
			}
		}
	}
	return slices.DeleteFunc(out, func(a Addition) bool { return a.Added == 0 || slices.Contains(a.Steps, 0) })
}

// add solves a set in shares and rounds it down to steps.
func (c *correction) add(set []int) Addition {
	made := len(c.m.Lots)
	c.load(append(slices.Clone(set), made), false)
	start := make([]float64, c.k)
	for j := range set {
		start[j] = min(0.05, c.hi[j]/2)
	}
	start[c.k-1] = 1
	c.start(start)
	c.improve(false, rounds)
	a := Addition{Set: set, Steps: make([]int, len(set)), DeltaE: c.deltaE()}
	left := c.mostN
	for j, i := range set {
		grams := c.m.Made * c.shares[j] / c.shares[c.k-1]
		a.Steps[j] = min(int(math.Round(grams/c.m.Step)), c.hiN[i], left)
		left -= a.Steps[j]
	}
	return a
}

// settle moves whole steps, large ones first, as long as that brings the blend
// closer; every added hundredth of the blend has to earn a little.
func (c *correction) settle(a Addition) Addition {
	c.load(append(slices.Clone(a.Set), len(c.m.Lots)), false)
	const price = 0.5
	score := func() float64 {
		var added float64
		for _, n := range a.Steps {
			added += float64(n) * c.m.Step
		}
		_, de := c.mixed(a.Steps)
		return de + price*added/c.m.Made
	}
	here := score()
	fits := func() bool {
		sum := 0
		for j, n := range a.Steps {
			if n < 0 || n > c.hiN[a.Set[j]] {
				return false
			}
			sum += n
		}
		return sum <= c.mostN
	}
	try := func(j, d, l, e int) bool {
		a.Steps[j] += d
		a.Steps[l] += e
		if fits() {
			if v := score(); v < here-1e-12 {
				here = v
				return true
			}
		}
		a.Steps[j] -= d
		a.Steps[l] -= e
		return false
	}
	for size := max(1, c.mostN/16); ; size /= 4 {
		for moved := true; moved; {
			moved = false
			for j := range a.Steps {
				moved = try(j, size, j, 0) || try(j, -size, j, 0) || moved
				for l := range a.Steps {
					if l != j {
						moved = try(j, size, l, -size) || moved
					}
				}
			}
		}
		if size <= 1 {
			break
		}
		size = max(size, 4)
	}
	for _, n := range a.Steps {
		a.Added += float64(n) * c.m.Step
	}
	a.Colour, a.DeltaE = c.mixed(a.Steps)
	return a
}

// mixed returns what comes out when these steps of the loaded lots are added.
func (c *correction) mixed(steps []int) (colour.Reflectance, float64) {
	total := c.m.Made
	for _, n := range steps {
		total += float64(n) * c.m.Step
	}
	for j, n := range steps {
		c.trial[j] = float64(n) * c.m.Step / total
	}
	c.trial[len(steps)] = c.m.Made / total
	r := c.reflectance(c.trial[:len(steps)+1])
	return r, colour.CIEDE2000(c.m.Target, r.Lab())
}
