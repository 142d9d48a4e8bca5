package train

import (
	"fmt"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/core/unit"
)

// troubles are things that can go wrong, as a maker says them, with the rules of the second look that they are.
var troubles = []struct {
	words string
	rules []string
}{
	{"some of its fibre is far longer than the rest", []string{"R01", "R02"}},
	{"fine wool rolls up beside coarse", []string{"R04"}},
	{"it prickles on the skin", []string{"R05"}},
	{"a fibre in it is too fine for the pins of this cloth", []string{"R06"}},
	{"a fibre in it is too coarse for the pins of this cloth", []string{"R07"}},
	{"it slides: too little in it grips", []string{"R08", "R09"}},
	{"short fibre has too little to hold on to", []string{"R13"}},
	{"it does not spring back as it should", []string{"R14"}},
	{"the drum is overfull", []string{"R16", "R17"}},
	{"a batt so light does not come off whole", []string{"R18"}},
	{"it goes through too seldom for what it is to be", []string{"R33"}},
	{"it goes through too often for what is in it", []string{"R34"}},
	{"the wash shrinks a part of it", []string{"R58"}},
}

// What the plans of these exercises are made of, and for.
var (
	carded = []struct{ kind, prep string }{
		{"merino", "combed_top"}, {"merino_superfine", "combed_top"}, {"corriedale", "carded_sliver"}, {"romney", "carded_sliver"}, {"lincoln", "combed_top"},
		{"gotland", "carded_sliver"}, {"herdwick", "carded_sliver"}, {"bluefaced_leicester", "combed_top"}, {"mohair_adult", "combed_top"},
		{"alpaca_suri", "combed_top"}, {"silk_mulberry", "combed_top"}, {"bamboo_viscose", "combed_top"}, {"cotton_upland", "carded_sliver"},
		{"flax_top", "combed_top"}, {"nylon", "combed_top"}, {"cashmere", "carded_sliver"}, {"silk_noil", "noil_waste"},
	}
	worn = []struct{ key, words string }{
		{"", "for nothing special"}, {"next-to-skin", "to be worn next to the skin"}, {"socks", "for socks"}, {"machine-wash", "to be washed by machine"},
	}
	looks = []struct{ key, words string }{{"even", "to be one even colour"}, {"streaky", "to be streaky"}}
)

// drum is the carder of these plans: a hand drum of usual size (mm, pins in a square inch, grams, minutes).
var drum = layup.Bed{Type: layup.Drum, WidthMM: 200, LengthMM: 580, ToothMM: 10, TPI: 72, Smooth: 90, Lofty: 50, FeedG: 0.3, Minutes: 22}

// faults shows a plan: what of five things goes wrong with it?
func faults(e *Exercise, c *chance) {
	const asked = 5
	for {
		p, words := planned(c, e.Level)
		a := advice.Judge(p, advice.Defaults())
		var wrong, right []int
		for i, v := range troubles {
			found := slices.ContainsFunc(a.Findings, func(f advice.Finding) bool { return slices.Contains(v.rules, f.Rule) })
			judged := !slices.ContainsFunc(v.rules, func(r string) bool { return !slices.Contains(a.Checked, r) })
			switch {
			case found:
				wrong = append(wrong, i)
			case judged:
				right = append(right, i)
			}
		}
		if most := min(3, 1+e.Level/2); len(wrong) == 0 || len(wrong) > most || len(right) < asked-len(wrong) {
			continue
		}
		e.Steps = words
		e.Asked = unit.Say("A batt of %s is planned on a hand drum, %s wide, with %.0f pins in a square inch. What goes wrong?",
			unit.Grams(p.TotalG), unit.Millimetres(drum.WidthMM), drum.TPI)
		e.put(c, a, wrong, right, asked)
		return
	}
}

// planned draws a plan, with its fibres in words.
func planned(c *chance, level int) (p advice.Plan, words []string) {
	n := 2 + c.one(min(3, 1+level/2))
	use, look := worn[c.one(len(worn))], looks[c.one(len(looks))]
	p = advice.Plan{Bed: &drum, Passes: 1 + c.one(4), Goal: look.key, Product: "batt", Units: 1, StepG: 0.1, Uses: []string{}}
	p.TotalG = []float64{12, 40, 60, 90, 130}[c.one(5)]
	if use.key != "" {
		p.Uses = []string{use.key}
	}
	parts := parted(c, n, 2)
	for i, k := range c.order(len(carded))[:n] {
		kind, _ := fibre.FindKind(carded[k].kind)
		share := step * parts[i]
		f := advice.Fibre{Name: kind.Name, Kind: kind, Preparation: carded[k].prep, Share: share, StapleMM: kind.StapleMM.Mid(), Joins: 1}
		p.Fibres = append(p.Fibres, f)
		words = append(words, fmt.Sprintf("%.0f\u00a0%% %s", 100*share, kind.Name))
	}
	words = append(words, []string{"", "one pass", "two passes", "three passes", "four passes"}[p.Passes], look.words, use.words)
	return p, words
}

// put asks of things that go wrong and of some that do not, in an order by chance.
func (e *Exercise) put(c *chance, a advice.Answer, wrong, right []int, asked int) {
	offered := slices.Clone(wrong)
	for _, k := range c.order(len(right))[:asked-len(wrong)] {
		offered = append(offered, right[k])
	}
	var best []int
	for _, k := range c.order(len(offered)) {
		choice := Choice{Asked: troubles[offered[k]].words, Options: []unit.Sentence{unit.Say("yes, that goes wrong"), unit.Say("no, that is fine")}}
		e.Choices = append(e.Choices, choice)
		if k < len(wrong) {
			best = append(best, 0)
		} else {
			best = append(best, 1)
		}
	}
	e.truth.best = Answer{Chosen: best}
	first := slices.IndexFunc(a.Findings, func(f advice.Finding) bool { return slices.Contains(troubles[wrong[0]].rules, f.Rule) })
	text, _ := advice.TextOf(a.Findings[first].Rule)
	why := []unit.Sentence{a.Findings[first].What, unit.Say("%s", text.Do)}
	e.truth.judge = func(a Answer) Judged {
		j := Judged{Why: why}
		for i, n := range a.Chosen {
			if n == best[i] {
				j.Score += 100 / float64(len(best))
			}
		}
		return j
	}
}
