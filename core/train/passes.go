package train

import (
	"context"
	"math"

	"fairtangle/core/carding"
	"fairtangle/core/unit"
)

// mostPasses is how often a batt of these exercises is carded at most.
const mostPasses = 6

// inWords are passes in words.
var inWords = [mostPasses + 1]string{
	1: "the first pass", 2: "the second pass", 3: "the third pass",
	4: "the fourth pass", 5: "the fifth pass", 6: "the sixth pass",
}

// passes shows a batt after its first pass: after which will its colours be heathered, or even?
func passes(e *Exercise, c *chance) {
	var apart []float64
	first := 0
	wanted, means := carding.Heathered, "heathered: to be seen near by, one colour from across the room"
	if c.one(3) > 0 {
		wanted, means = carding.Even, "even: one colour from near by too"
	}
	for first < 2 || unclear(apart, first, wanted) {
		e.Lots = fibres(c, [MostLevel]int{2, 2, 3, 3, 3}[e.Level-1], e.ByLightness)
		e.Layers, e.Strips, e.Lanes, e.OwnPlace = 1+c.one(2), 2+c.one(4), c.one(2) == 0, c.one(2) == 0
		e.truth.best.Parts = parted(c, len(e.Lots), 4)
		apart = patchesOf(*e)
		first = reached(apart, wanted)
	}
	parts := e.truth.best.Parts
	e.truth.shown = parts
	laid, again := "in layers over each other", "spread over the whole width"
	if e.Lanes {
		laid = "in stripes side by side"
	}
	if e.OwnPlace {
		again = "fed again where it was"
	}
	e.Asked = unit.Say("It was laid %s, and this came off after the first pass. From then on it is torn into %d strips along its length, each %s. "+
		"After which pass are the colours %s?", laid, e.Strips, again, means)
	options := Choice{Asked: "It is " + string(wanted) + " after"}
	for p := 2; p <= mostPasses; p++ {
		options.Options = append(options.Options, unit.Say("%s", inWords[p]))
	}
	options.Options = append(options.Options, unit.Say("more than six"))
	e.Choices = []Choice{options}
	e.truth.best = Answer{Chosen: []int{first - 2}}
	e.truth.judge = func(a Answer) Judged {
		const forEach = 40.0 // off the score for each pass beside it
		j := Judged{Score: math.Max(0, 100-forEach*math.Abs(float64(a.Chosen[0]-(first-2))))}
		limit := wanted.Upper()
		if first <= mostPasses {
			j.Why = []unit.Sentence{unit.Say("Patches of it lie %.1f apart by CIEDE2000 after the first pass, and %.1f after %s; %s is below %.1f.",
				apart[0], apart[first-1], inWords[first], string(wanted), limit)}
		} else {
			j.Why = []unit.Sentence{unit.Say("Patches of it lie %.1f apart by CIEDE2000 after the first pass, and still %.1f after the sixth; %s is below %.1f.",
				apart[0], apart[mostPasses-1], string(wanted), limit)}
		}
		j.Why = append(j.Why, unit.Say("Strips spread over the whole width mix its sides; fed again where they were, they keep stripes and gradients."))
		return j
	}
}

// patchesOf is how far patches of a batt lie from each other after each pass, CIEDE2000.
func patchesOf(e Exercise) (apart []float64) {
	l, err := e.Laying(e.truth.best.Parts, mostPasses-1)
	if err != nil {
		return nil
	}
	_ = carding.Run(context.Background(), l.Plan, l.Params, l.Grid, l.Seed, func(_ int, b *carding.Batt, _ []carding.Placed) error {
		worst, _ := l.Eye.Patch(b)
		apart = append(apart, worst)
		return nil
	})
	return apart
}

// reached is the first pass after which a batt has a look; one more than there are where it never has, 0 where that is not known.
func reached(apart []float64, look carding.Look) int {
	for i, far := range apart {
		if far < look.Upper() {
			return i + 1
		}
	}
	if len(apart) == 0 {
		return 0
	}
	return len(apart) + 1
}

// unclear reports whether the pass before, or the one itself, lies near the bound: then either answer would be right.
func unclear(apart []float64, first int, look carding.Look) bool {
	bound := look.Upper()
	for _, p := range []int{first - 1, first} {
		if p >= 1 && p <= len(apart) && math.Abs(apart[p-1]-bound) < clear/2*bound {
			return true
		}
	}
	return false
}
