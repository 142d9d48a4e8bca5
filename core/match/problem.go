package match

import (
	"fmt"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
)

const most = MaxComponents + 1 // one more for the blend that is corrected

// problem is a query made ready: everything that does not depend on which lots
// are tried.
type problem struct {
	model    mix.Model
	target   colour.Lab
	metric   [3][3]float64
	prepared []mix.Prepared
	strength []float64
	lo, hi   []float64 // bounds of shares
	loN, hiN []int     // the same in steps
	group    []bool
	least    float64 // of the group
	leastN   int
	steps    int
	sure     []int // a set of lots that meets all bounds
}

func prepare(target colour.Lab, m mix.Model, lots []Lot, extra int) problem {
	n := len(lots) + extra
	p := problem{
		model: m, target: target, metric: colour.Metric(target),
		prepared: make([]mix.Prepared, n), strength: make([]float64, n),
		lo: make([]float64, n), hi: make([]float64, n), loN: make([]int, n), hiN: make([]int, n), group: make([]bool, n),
	}
	for i := range lots {
		p.prepared[i], p.strength[i] = m.Prepare(&lots[i].Colour), lots[i].Strength
		if p.strength[i] == 0 {
			p.strength[i] = 1
		}
	}
	return p
}

// newProblem readies a query for Find.
func newProblem(q *Query) (problem, error) {
	if err := q.Check(); err != nil {
		return problem{}, err
	}
	p := prepare(q.Target, q.Model, q.Lots, 0)
	p.steps = int(math.Round(q.Total / q.Step))
	p.least, p.leastN = q.GroupLeast, int(math.Ceil(q.GroupLeast*float64(p.steps)-1e-6))
	var compulsory, lows int
	for i, v := range q.Lots {
		most := min(v.Most*float64(p.steps), v.Available/q.Step)
		p.hiN[i] = int(min(math.Floor(most+1e-6), float64(p.steps)))
		p.loN[i] = int(math.Ceil(v.Least*float64(p.steps) - 1e-6))
		p.lo[i], p.hi[i] = float64(p.loN[i])/float64(p.steps), float64(p.hiN[i])/float64(p.steps)
		p.group[i] = v.InGroup
		if p.loN[i] > 0 {
			compulsory++
			lows += p.loN[i]
		}
		if p.loN[i] > p.hiN[i] {
			return p, fault.New(field(i, "available_g"), "The least share takes %s; there are %s of it within its limits.",
				unit.Grams(float64(p.loN[i])*q.Step), unit.Grams(float64(p.hiN[i])*q.Step))
		}
	}
	set, err := p.possible(q, compulsory, lows)
	p.sure = set
	return p, err
}

// possible finds limits that no blend can meet. What it answers is a set of
// lots that meets them.
func (p *problem) possible(q *Query, compulsory, lows int) ([]int, error) {
	if compulsory > q.Components {
		return nil, fault.New("max_components", "%d lots are compulsory; allow at least as many components.", compulsory)
	}
	if lows > p.steps {
		return nil, fault.New("components", "The least shares together are more than the whole.")
	}
	all, grouped := p.fullest(q.Components, false), p.fullest(q.Components, true)
	if all < p.steps {
		return nil, fault.New("total_g", "Within their limits %d of these lots give at most %s; %s are wanted.",
			min(q.Components, len(q.Lots)), unit.Grams(float64(all)*q.Step), unit.Grams(q.Total))
	}
	if grouped < p.leastN {
		return nil, fault.New("group_least", "The lots that the wish asks for give at most %s within their limits; it needs %s.",
			unit.Grams(float64(grouped)*q.Step), unit.Grams(float64(p.leastN)*q.Step))
	}
	for inside := range q.Components - compulsory + 1 {
		if set := p.roomiest(inside, q.Components-compulsory-inside); p.feasible(set) {
			return set, nil
		}
	}
	return nil, fault.New("group_least", "No %d of these lots together give %s within their limits with the wish kept; allow more components, or wish for less.",
		min(q.Components, len(q.Lots)), unit.Grams(q.Total))
}

// roomiest is the set of the compulsory lots and those others with the most
// room: so many in the group, so many outside it.
func (p *problem) roomiest(inside, outside int) (set []int) {
	byRoom := make([]int, len(p.hiN))
	for i := range byRoom {
		byRoom[i] = i
	}
	slices.SortStableFunc(byRoom, func(a, b int) int { return p.hiN[b] - p.hiN[a] })
	for _, i := range byRoom {
		left := &outside
		if p.group[i] {
			left = &inside
		}
		switch {
		case p.loN[i] > 0:
		case *left > 0 && p.hiN[i] > 0:
			*left--
		default:
			continue
		}
		set = append(set, i)
	}
	slices.Sort(set)
	return set
}

// fullest is the most steps that k lots can give, the compulsory ones among
// them, or those of them that are in the group.
func (p *problem) fullest(k int, inGroup bool) int {
	var sum, forced int
	var free []int
	for i := range p.hiN {
		counts := p.hiN[i]
		if inGroup && !p.group[i] {
			counts = 0
		}
		if p.loN[i] > 0 {
			sum += counts
			forced++
		} else {
			free = append(free, counts)
		}
	}
	for range k - forced {
		best := -1
		for j, v := range free {
			if v > 0 && (best < 0 || v > free[best]) {
				best = j
			}
		}
		if best < 0 {
			break
		}
		sum += free[best]
		free[best] = 0
	}
	return sum
}

// feasible reports whether the lots of a set alone can meet all bounds.
func (p *problem) feasible(set []int) bool {
	var hi, in, outLo int
	for _, i := range set {
		hi += p.hiN[i]
		if p.group[i] {
			in += p.hiN[i]
		} else {
			outLo += p.loN[i]
		}
	}
	return hi >= p.steps && in >= p.leastN && outLo <= p.steps-p.leastN
}

func field(i int, name string) string { return fmt.Sprintf("components[%d].%s", i, name) }
