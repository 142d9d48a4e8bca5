package train

import (
	"context"
	"math"
	"slices"

	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/unit"
	"fairtangle/core/yarn"
)

// become is what a yarn is called, as core/yarn does, and in words.
var become = []struct{ pattern, words string }{
	{"long gradient", "one long gradient, from the first colour to the last"},
	{"stripes", "stripes: colours come back again and again"},
	{"barber pole", "a barber’s pole: plies of different colours wound about each other"},
	{"even", "one even colour"},
}

// spinnings are ways to divide and spin a batt, in words.
var spinnings = []struct {
	words            string
	way, order, from string
	most             int // pieces at most; 0: it says itself how many
}{
	{"torn along its length into %d strips, which are spun one after the other from left to right, each from its end", yarn.Strips, yarn.LeftToRight, yarn.End, 8},
	{"torn along its length into %d strips, which are spun one after the other from left to right, each across from its side", yarn.Strips, yarn.LeftToRight,
		yarn.Across, 5},
	{"rolled up across its width into %d rolags, each with all the stripes side by side, spun from its end", yarn.Rolags, yarn.LeftToRight, yarn.End, 6},
	{"torn along its length into two halves, one spun after the other", yarn.Halves, yarn.LeftToRight, yarn.End, 0},
	{"left whole, and drafted across all its width at once", yarn.Whole, yarn.LeftToRight, yarn.End, 0},
}

// pliesIn are plies in words.
var pliesIn = []struct{ ply, words string }{
	{yarn.Single, "left as a single"}, {yarn.Chain, "chain-plied"}, {yarn.Two, "wound off in two halves and plied from both"},
}

// splitting shows a batt of stripes side by side: what becomes of its gradient as it is divided, spun and plied?
func splitting(e *Exercise, c *chance) {
	var of *yarn.Yarn
	for of == nil {
		e.Lots = inOrder(fibres(c, [MostLevel]int{2, 2, 3, 3, 4}[e.Level-1], e.ByLightness))
		e.Layers, e.Lanes = 1, true
		e.truth.shown = parted(c, len(e.Lots), 4)
		s, p := spinnings[c.one(len(spinnings))], pliesIn[c.one(min(len(pliesIn), e.Level+1))]
		n := 2 + c.one(max(1, s.most-1))
		of = e.spun(yarn.Request{Way: s.way, Parts: n, Order: s.order, From: s.from, Ply: p.ply})
		said := s.words
		args := []any{}
		if s.most > 0 {
			args = append(args, n)
		}
		e.Asked = unit.Say("It was laid in stripes side by side, and carded once. Now it is "+said+"; the yarn is "+p.words+". What is the yarn like?", args...)
	}
	ask := Choice{Asked: "It is"}
	best := 0
	for i, b := range become {
		ask.Options = append(ask.Options, unit.Say("%s", b.words))
		if b.pattern == of.Pattern {
			best = i
		}
	}
	e.Choices = []Choice{ask}
	e.truth.best = Answer{Chosen: []int{best}}
	why := []unit.Sentence{whyBecome(of), unit.Say("A gradient survives where colours are spun one after the other: in narrow strips, in their order, " +
		"as a single or chain-plied.")}
	e.truth.judge = func(a Answer) Judged {
		j := Judged{Why: why}
		if a.Chosen[0] == best {
			j.Score = 100
		}
		return j
	}
}

// inOrder puts lots from the darkest to the lightest, as a gradient is laid.
func inOrder(lots []Lot) []Lot {
	out := slices.Clone(lots)
	slices.SortFunc(out, func(a, b Lot) int {
		return int(math.Copysign(1, labOf(a.Hex).L-labOf(b.Hex).L))
	})
	return out
}

// whyBecome says what of a yarn makes it what it is called.
func whyBecome(y *yarn.Yarn) unit.Sentence {
	switch y.Pattern {
	case "barber pole":
		return unit.Say("Plies that lie side by side differ by %.0f by CIEDE2000: they come from different places of the row.", y.PlyDE)
	case "even":
		return unit.Say("No two stretches of it look different: all colours are drafted at once.")
	case "stripes":
		return unit.Say("Along the yarn the colour changes %d times, and colours come back: the pieces hold several of them side by side.", len(y.Stretches)-1)
	}
	return unit.Say("Along the yarn the colour changes %d times, and none comes back.", len(y.Stretches)-1)
}

// spun is the yarn of the batt that is shown; nil where it is called none of what is asked, or not so by every hand and at every usual
// thickness.
func (e Exercise) spun(q yarn.Request) (out *yarn.Yarn) {
	var err error
	if q.Field, q.Mix, err = e.carded(e.truth.shown); err != nil {
		return nil
	}
	for _, by := range []struct {
		tex  float64
		seed uint64
	}{{1.5 * yarn.UsualTex, 3}, {0.6 * yarn.UsualTex, 2}, {yarn.UsualTex, 1}} {
		q.Tex, q.Seed, q.TakeUp = by.tex, by.seed, 0.05
		y, err := yarn.Plan(q)
		if err != nil || out != nil && y.Pattern != out.Pattern {
			return nil
		}
		out = y
	}
	for _, b := range become {
		if b.pattern == out.Pattern {
			return out
		}
	}
	return nil
}

// carded is the batt of so many parts of the lots, as who spins it takes hold of it, and the colours that shares of them have.
func (e Exercise) carded(parts []float64) (out yarn.Field, mix func([]float64) colour.Lab, err error) {
	l, err := e.Laying(parts, e.Passes)
	if err != nil {
		return out, nil, err
	}
	last := len(l.Plan.Passes) + 1
	err = carding.Run(context.Background(), l.Plan, l.Params, l.Grid, l.Seed, func(stage int, b *carding.Batt, _ []carding.Placed) error {
		if stage == last {
			f := b.Field(len(e.Lots))
			out = yarn.Field{WidthMM: f.WidthMM, LengthMM: f.LengthMM, Lanes: f.Lanes, Cells: f.Cells, N: f.N, Grams: f.Grams}
		}
		return nil
	})
	return out, l.Mix, err
}
