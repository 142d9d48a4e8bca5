// Package match searches for proportions: of a blend that has a colour wanted,
// of what to add to a blend that came out wrong, of what takes the shine off
// one. All weights are whole steps of the scale.
package match

import (
	"context"
	"fmt"
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
)

// Limits of a search.
const (
	MaxLots       = 200
	MaxComponents = 12
	MaxSteps      = 1_000_000
	MaxCount      = 50
)

// Lot is fibre that may go into a blend. Available is in grams, +Inf where
// nothing limits it. Least above 0 makes it compulsory. Strength is how much
// a gram of it counts for the colour, 0 meaning 1. Cost is per gram, NaN where
// it is not known.
type Lot struct {
	Colour      colour.Reflectance
	Strength    float64
	Available   float64
	Least, Most float64 // shares of the blend
	Cost        float64
	InGroup     bool // counts towards Query.GroupLeast
}

// Query is what is asked of a search.
type Query struct {
	Target     colour.Lab
	Lots       []Lot
	Model      mix.Model
	Components int     // the most lots in a blend
	Total      float64 // grams, a whole number of steps
	Step       float64 // grams
	Count      int     // the most answers
	// GroupLeast is the least share of the lots that are InGroup together,
	// such as "at least 60 % wool".
	GroupLeast float64
	// Thorough examines every set even where that takes long.
	Thorough bool
	// Watch is told from time to time how far the search is; false stops it
	// and the best so far is answered. It may be nil.
	Watch func(Progress) bool
}

// Progress is how many sets of lots were examined of how many, and the least
// difference so far.
type Progress struct {
	Done, Of int
	Best     float64
}

// Blend is an answer: which lots, how many steps of each, and what it gives.
type Blend struct {
	Set    []int // indexes of lots, rising
	Steps  []int
	DeltaE float64 // CIEDE2000 of the rounded weights from the target
	Slip   float64 // RMS CIEDE2000 when any one weight is a step off
	Colour colour.Reflectance
	Cost   float64 // NaN where a cost is not known

	scarce float64 // the largest part of a lot that it takes
}

// Answer is the outcome of a search, best first.
type Answer struct {
	Blends   []Blend
	Examined int
	Complete bool // every allowed set was examined
}

// Find searches for the blends of at most q.Components lots that come closest
// to the target, in whole steps and within all limits. The order is: those
// within Tie of the best first, by fewest lots, least slip, what the shelf has
// plenty of and cost; then the others by difference. The closest of all is
// always among them, and no two have the same set of lots.
//
// Small searches try every weighing there is; middling ones every set of lots,
// each solved on the simplex and rounded by hill climbing; large ones follow
// the most promising sets (a beam), unless Thorough. Equal queries give equal
// answers. A search whose ctx is cancelled ends within some milliseconds with its
// error.
func Find(ctx context.Context, q Query) (Answer, error) {
	s, err := newSearch(ctx, q)
	if err != nil {
		return Answer{}, err
	}
	s.run()
	if err := ctx.Err(); err != nil {
		return Answer{}, err
	}
	a := Answer{Examined: s.examined, Complete: s.complete}
	a.Blends = s.answers()
	return a, nil
}

// Check finds what is wrong with a query. Fields are those of the API.
func (q *Query) Check() error {
	var l fault.List
	if n := len(q.Lots); n == 0 || n > MaxLots {
		l.Add("components", "There are 1 to %d lots to choose from.", MaxLots)
		return l
	}
	if q.Components < 1 || q.Components > MaxComponents {
		l.Add("max_components", "A blend that is searched for has 1 to %d components.", MaxComponents)
	}
	if q.Count < 1 || q.Count > MaxCount {
		l.Add("count", "Between 1 and %d answers can be given.", MaxCount)
	}
	if !(q.GroupLeast >= 0 && q.GroupLeast <= 1) {
		l.Add("group_least", "The least share lies from 0 to 1.")
	}
	checkSteps(&l, "total_g", q.Total, q.Step)
	for i, v := range q.Lots {
		at := fmt.Sprintf("components[%d].", i)
		checkAvailable(&l, at, v)
		if !(v.Least >= 0 && v.Least <= 1) {
			l.Add(at+"min_share", "A share lies from 0 to 1.")
		}
		if !(v.Most >= 0 && v.Most <= 1) {
			l.Add(at+"max_share", "A share lies from 0 to 1.")
		} else if v.Most < v.Least {
			l.Add(at+"max_share", "The most is less than the least, %g.", v.Least)
		}
	}
	return l.Err()
}

func checkAvailable(l *fault.List, at string, v Lot) {
	if !(v.Available >= 0) {
		l.Add(at+"available_g", "What is available is %s or more.", unit.Grams(0))
	}
	if v.Cost < 0 || math.IsInf(v.Cost, 0) {
		l.Add(at+"cost_per_100g", "A cost is 0 or more.")
	}
}

// checkSteps finds a weight that is no whole number of steps.
func checkSteps(l *fault.List, field string, grams, step float64) {
	switch n := grams / step; {
	case !(step >= 0.001 && step <= 1000):
		l.Add("step_g", "The scale's step lies from %s to %s.", unit.Grams(0.001), unit.Grams(1000))
	case !(grams > 0) || math.IsInf(grams, 0):
		l.Add(field, "The weight is above %s.", unit.Grams(0))
	case n > MaxSteps:
		l.Add(field, "The weight is more than %d steps of the scale.", MaxSteps)
	case math.Abs(n-math.Round(n)) > 1e-6 || n < 0.5:
		l.Add(field, "The weight is a whole number of scale steps of %s.", unit.Grams(step))
	}
}
