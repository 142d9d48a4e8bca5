package weigh

import (
	"fmt"
	"math"

	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
)

// Limits of a plan; they keep every count of steps exact.
const (
	MaxUnits      = 500
	MaxComponents = 200
	maxSteps      = 1e9
)

// Component is one line of a weigh-out.
type Component struct {
	Share    float64 // of the finished weight; the shares add up to 1
	LossPass float64 // part lost in its first pass, 0 up to 1
	Decay    float64 // what each pass loses of what the one before did; 0: as much
	JoinsAt  int     // first pass it goes through, 1 (or 0) for the first
	Alone    int     // how often it is carded alone before
}

// Order is what is to come off.
type Order struct {
	Components []Component
	Units      int
	Finished   unit.Grams // of each unit
	Passes     int
	Step       unit.Grams // of the scale
}

// Plan is a weigh-out that adds up. Counts are whole steps of the scale.
type Plan struct {
	Counts          [][]int64 // units × components
	UnitTotals      []int64
	ComponentTotals []int64
	Total           int64
	Step            unit.Grams
	Exact           []unit.Grams // of each component in each unit, before rounding
	Finished        unit.Grams   // all units together, expected
	FinishedShares  []float64    // expected, all units together
	WorstShareError float64      // largest difference of a unit's finished share from the share asked for
}

// Way is the way of a component through so many passes.
func (c Component) Way(passes int) losses.Way {
	return losses.Way{Fall: losses.Fall{First: c.LossPass, Decay: c.Decay}, Alone: c.Alone, Joins: c.JoinsAt, Passes: passes}
}

// check names what is wrong with an order. Fields are those of the API.
func (o Order) check() error {
	var l fault.List
	if n := len(o.Components); n == 0 || n > MaxComponents {
		l.Add("components", "A weigh-out has 1 to %d components.", MaxComponents)
	}
	var sum float64
	for i, c := range o.Components {
		if !(c.Share >= 0 && c.Share <= 1) {
			l.Add(fmt.Sprintf("components[%d].share", i), "A share lies between 0 and 1.")
		}
		if !(c.LossPass >= 0 && c.LossPass <= 0.9) {
			l.Add(fmt.Sprintf("components[%d].loss_pct", i), "A loss lies between 0 and 90 %% a pass.")
		}
		if !(c.Decay >= 0 && c.Decay <= 1) {
			l.Add(fmt.Sprintf("components[%d].decay", i), "What a pass loses of what the one before did lies between 0 and 1.")
		}
		if c.JoinsAt < 0 || c.JoinsAt > max(o.Passes, 1) {
			l.Add(fmt.Sprintf("components[%d].joins_at_pass", i), "A component joins at one of the passes, 1 to %d.", max(o.Passes, 1))
		}
		if c.Alone < 0 || c.Alone > losses.MaxAlone {
			l.Add(fmt.Sprintf("components[%d].alone_first", i), "A component is carded alone 0 to %d times.", losses.MaxAlone)
		}
		sum += c.Share
	}
	if len(l) == 0 && math.Abs(sum-1) > 1e-3+1e-12 {
		l.Add("components", "The shares add up to %.4g, not to 1.", sum)
	}
	if o.Units < 1 || o.Units > MaxUnits {
		l.Add("units", "The number of units is a whole number from 1 to %d.", MaxUnits)
	}
	if !(o.Finished > 0 && o.Finished <= unit.MaxGrams) {
		l.Add("finished_g", "The finished weight is above %s and at most %s.", unit.Grams(0), unit.MaxGrams)
	}
	if o.Passes < 0 || o.Passes > losses.MaxPasses {
		l.Add("passes", "The number of passes is a whole number from 0 to %d.", losses.MaxPasses)
	}
	if !(o.Step > 0 && o.Step <= 1000) {
		l.Add("step_g", "The scale's step is above %s and at most %s.", unit.Grams(0), unit.Grams(1000))
	} else if o.Finished/o.Step > maxSteps {
		l.Add("step_g", "The scale's step is too fine for this weight.")
	}
	return l.Err()
}

// Make works out the weigh-out: component i is weighed in as
// share·finished/yield in each unit, rounded by RoundAlike.
func Make(o Order) (Plan, error) {
	if err := o.check(); err != nil {
		return Plan{}, err
	}
	n := len(o.Components)
	var sum float64
	for _, c := range o.Components {
		sum += c.Share
	}
	shares, yields, exact := make([]float64, n), make([]float64, n), make([]float64, n)
	p := Plan{Step: o.Step, Exact: make([]unit.Grams, n)}
	for i, c := range o.Components {
		shares[i] = c.Share / sum
		yields[i] = c.Way(o.Passes).Yield()
		p.Exact[i] = o.Finished * unit.Grams(shares[i]/yields[i])
		exact[i] = float64(p.Exact[i] / o.Step)
	}
	p.Counts = RoundAlike(exact, o.Units)
	p.add(shares, yields)
	return p, nil
}

// add fills in the totals and what is expected to come off.
func (p *Plan) add(shares, yields []float64) {
	n := len(shares)
	p.UnitTotals = make([]int64, len(p.Counts))
	p.ComponentTotals = make([]int64, n)
	finished := make([]float64, n)
	row := make([]float64, n)
	for u, counts := range p.Counts {
		var off float64
		for i, c := range counts {
			p.UnitTotals[u] += c
			p.ComponentTotals[i] += c
			row[i] = float64(c) * float64(p.Step) * yields[i]
			finished[i] += row[i]
			off += row[i]
		}
		p.Total += p.UnitTotals[u]
		for i := range row {
			p.WorstShareError = max(p.WorstShareError, math.Abs(over(row[i], off)-shares[i]))
		}
	}
	for _, f := range finished {
		p.Finished += unit.Grams(f)
	}
	p.FinishedShares = make([]float64, n)
	for i, f := range finished {
		p.FinishedShares[i] = over(f, float64(p.Finished))
	}
}

// over is a/b, and 0 for an empty whole: a unit lighter than one step.
func over(a, b float64) float64 {
	if b == 0 {
		return 0
	}
	return a / b
}
