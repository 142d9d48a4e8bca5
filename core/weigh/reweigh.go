package weigh

import (
	"fmt"
	"math"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Policy is what to do when a component was weighed differently from plan.
type Policy string

// The two policies.
const (
	KeepShares Policy = "keep-shares" // the others follow, the total grows
	KeepTotal  Policy = "keep-total"  // the total stays, the rest shrinks
)

// Line is one component of a unit on the scale: what was planned, and what was
// weighed if it was.
type Line struct {
	Planned unit.Grams
	Weighed unit.Grams
	Done    bool // Weighed counts
}

// Correction is the unit after a policy was applied.
type Correction struct {
	ToWeigh         []unit.Grams // what each component should weigh in the end
	Total           unit.Grams
	Shares          []float64
	WorstShareError float64 // against the planned shares
}

// Reweigh corrects a unit. keep-shares: the new total is the larger of the old
// total and weighed/share over what was weighed, and every other component
// grows to its share of it, one weighed before too. keep-total: the rest share
// what the total leaves, in proportion to plan; nothing weighed is taken out
// again, so the total is larger when more than it was weighed already. What is
// still to be weighed is rounded to the step so that the total is the nearest.
func Reweigh(lines []Line, step unit.Grams, policy Policy) (Correction, error) {
	if err := checkLines(lines, step); err != nil {
		return Correction{}, err
	}
	var total unit.Grams
	for _, l := range lines {
		total += l.Planned
	}
	to := make([]unit.Grams, len(lines))
	switch policy {
	case KeepShares:
		keepShares(lines, to, total, step)
	case KeepTotal:
		keepTotal(lines, to, total, step)
	default:
		return Correction{}, fault.New("policy", "The policy is keep-shares or keep-total.")
	}
	c := Correction{ToWeigh: to, Shares: make([]float64, len(lines))}
	for _, g := range to {
		c.Total += g
	}
	for i, g := range to {
		c.Shares[i] = over(float64(g), float64(c.Total))
		c.WorstShareError = max(c.WorstShareError, math.Abs(c.Shares[i]-float64(lines[i].Planned/total)))
	}
	return c, nil
}

func keepShares(lines []Line, to []unit.Grams, old, step unit.Grams) {
	total := old
	for _, l := range lines {
		if l.Done {
			total = max(total, l.Weighed/(l.Planned/old))
		}
	}
	fixed := unit.Grams(0)
	rest := make([]float64, len(lines))
	for i, l := range lines {
		want := l.Planned / old * total
		if l.Done && l.Weighed >= want*(1-nearWhole) {
			to[i] = l.Weighed
			fixed += l.Weighed
			continue
		}
		rest[i] = float64(want / step)
	}
	share(rest, to, total-fixed, step)
	for i, l := range lines {
		if l.Done {
			to[i] = max(to[i], l.Weighed) // never less than lies in the bowl
		}
	}
}

func keepTotal(lines []Line, to []unit.Grams, total, step unit.Grams) {
	var weighed, open unit.Grams
	for i, l := range lines {
		if l.Done {
			to[i] = l.Weighed
			weighed += l.Weighed
		} else {
			open += l.Planned
		}
	}
	left := max(0, total-weighed)
	rest := make([]float64, len(lines))
	for i, l := range lines {
		if !l.Done {
			rest[i] = float64(left * (l.Planned / open) / step)
		}
	}
	share(rest, to, left, step)
}

// share rounds rest (in steps) so that it comes to the steps nearest to sum,
// and writes it where rest is above 0.
func share(rest []float64, to []unit.Grams, sum, step unit.Grams) {
	for i, n := range Apportion(rest, nearest(float64(sum/step))) {
		if rest[i] > 0 {
			to[i] = unit.Grams(n) * step
		}
	}
}

func checkLines(lines []Line, step unit.Grams) error {
	var l fault.List
	if n := len(lines); n == 0 || n > MaxComponents {
		l.Add("components", "There are 1 to %d components.", MaxComponents)
	}
	for i, c := range lines {
		if !(c.Planned > 0 && c.Planned <= unit.MaxGrams) {
			l.Add(fmt.Sprintf("components[%d].planned_g", i), "The planned weight is above %s and at most %s.", unit.Grams(0), unit.MaxGrams)
		}
		if c.Done && !(c.Weighed >= 0 && c.Weighed <= unit.MaxGrams) {
			l.Add(fmt.Sprintf("components[%d].weighed_g", i), "The weighed amount is %s or more and at most %s.", unit.Grams(0), unit.MaxGrams)
		}
	}
	if !(step >= 1e-6 && step <= 1000) {
		l.Add("step_g", "The scale's step is above %s and at most %s.", unit.Grams(0), unit.Grams(1000))
	}
	return l.Err()
}
