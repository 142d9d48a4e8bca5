package train

import (
	"maps"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/core/unit"
)

// Layer is one of a lay-up as it is shown: of which lot, how much, and how it goes on.
type Layer struct {
	Lot   Lot
	Grams unit.Grams
	How   string
}

// reasons are what can be wrong with a layer, with the rule of the second look that it is.
var reasons = []struct{ rule, words string }{
	{"R24", "it does not grip the cloth, and lies deepest"},
	{"R25", "it lies on top with nothing over it, and drops"},
	{"R27", "it lies too deep: its curl opens, and is not seen"},
	{"R29", "by itself the small drum throws it down"},
	{"R31", "it is a block, so that the next colour lies on it instead of in it"},
}

// layersHow are ways on to the cloth in words.
var layersHow = map[layup.Method]string{layup.Feed: "from the tray", layup.Paint: "by hand", layup.Place: "by hand"}

// What the layers of these exercises are of: wool that carries, what slides, what is loose, and locks.
var (
	wools  = []string{"corriedale", "romney"}
	slides = []string{"silk_mulberry", "bamboo_viscose"}
)

// Fibres of a pile by their place in its plan.
const (
	wool = iota
	second
	sliding
	loose
	locks
)

// pile is a lay-up that is wrong in places.
type pile struct {
	advice.Plan
	lots []Lot
}

// laying shows a lay-up: which of its layers are wrong, why, and what mends the first of them?
func laying(e *Exercise, c *chance) {
	for !wrongPile(e, c) {
	}
}

func wrongPile(e *Exercise, c *chance) bool {
	p := piled(c)
	if len(p.wrong()) > 0 {
		return false
	}
	n := [MostLevel]int{1, 1, 2, 2, 3}[e.Level-1]
	for _, k := range c.order(len(spoil))[:n] {
		spoil[k](&p)
	}
	wrong := p.wrong()
	if len(wrong) != n {
		return false
	}
	first := slices.Min(slices.Collect(maps.Keys(wrong)))
	if first < 0 {
		return false
	}
	mend, ok := p.mends(c, first, wrong[first])
	if !ok {
		return false
	}
	e.Asked = unit.Say("This is to be carded on a hand drum once, to come off heathered. Layer 1 lies on the cloth. " +
		"Which layers are wrong, and why? Then mend the first of them.")
	best := []int{}
	for i, l := range p.Layers {
		v := l.Lays[0]
		e.Pile = append(e.Pile, Layer{p.lots[v.Component], unit.Grams(v.Grams), layersHow[v.Method]})
		ask := Choice{Asked: "Layer " + string(rune('1'+i)), Menu: true, Options: []unit.Sentence{unit.Say("it is fine")}}
		for _, r := range reasons {
			ask.Options = append(ask.Options, unit.Say("%s", r.words))
		}
		e.Choices = append(e.Choices, ask)
		best = append(best, slices.IndexFunc(reasons, func(r struct{ rule, words string }) bool { return r.rule == wrong[i] })+1)
	}
	ask := Choice{Asked: "What mends the lowest layer that is wrong?"}
	for _, m := range mend.offered {
		ask.Options = append(ask.Options, unit.Say("%s", m))
	}
	e.Choices, best = append(e.Choices, ask), append(best, mend.best)
	e.truth.best = Answer{Chosen: best}
	text, _ := advice.TextOf(wrong[first])
	why := []unit.Sentence{unit.Say("Layer %d is wrong: %s", first+1, text.Why), unit.Say("What helps: %s", text.Do)}
	e.truth.judge = func(a Answer) Judged { return Judged{Score: pileScore(a.Chosen, best), Why: why} }
	return true
}

// pileScore is the score of what was said of each layer, and last of what mends.
func pileScore(chosen, best []int) (score float64) {
	const forMend, twice = 30.0, 2.0 // a layer that is wrong counts twice as much as one that is fine
	var all, right float64
	last := len(best) - 1
	for i, b := range best[:last] {
		weight := 1.0
		if b > 0 {
			weight = twice
		}
		all += weight
		if chosen[i] == b {
			right += weight
		}
	}
	score = (100 - forMend) * right / all
	if chosen[last] == best[last] {
		score += forMend
	}
	return score
}

// piled draws a lay-up as it should be: wool on the cloth, layers by turns, what is loose under a cover, locks last.
func piled(c *chance) pile {
	kinds := []struct{ kind, prep, what string }{
		wool: {wools[c.one(len(wools))], "carded_sliver", "wool"}, second: {wools[c.one(len(wools))], "carded_sliver", "wool"},
		sliding: {slides[c.one(len(slides))], "combed_top", ""}, loose: {"silk_noil", "noil_waste", "silk noil"}, locks: {"locks_wool", "locks", "locks"},
	}
	p := pile{Plan: advice.Plan{Bed: &drum, Passes: 1, Goal: "heather", Product: "batt", Units: 1, StepG: 0.1, Uses: []string{}}}
	for i, l := range fibres(c, len(kinds), false) {
		kind, _ := fibre.FindKind(kinds[i].kind)
		what := kinds[i].what
		if what == "" {
			what = map[string]string{"silk_mulberry": "silk", "bamboo_viscose": "viscose"}[kinds[i].kind]
		}
		p.lots = append(p.lots, Lot{l.Name + " " + what, l.Hex})
		p.Fibres = append(p.Fibres, advice.Fibre{Name: l.Name + " " + what, Kind: kind, Preparation: kinds[i].prep, StapleMM: kind.StapleMM.Mid(), Joins: 1})
	}
	half := func(low, n int) float64 { return float64(low) + 0.5*float64(c.one(n)) }
	p.lay(wool, half(7, 5), layup.Feed)
	p.lay(sliding, half(4, 4), layup.Feed)
	p.lay(second, half(5, 6), layup.Feed)
	p.lay(loose, half(1, 3), layup.Place)
	p.lay(wool, half(6, 5), layup.Feed)
	if c.one(2) == 0 {
		p.lay(locks, half(2, 4), layup.Paint)
	}
	p.share()
	return p
}

func (p *pile) lay(component int, grams float64, how layup.Method) {
	p.Layers = append(p.Layers, layup.Layer{Lays: []layup.Lay{{Component: component, To: 1, End: 1, Grams: grams, Method: how}}})
}

// share counts the shares and the weight of what lies there.
func (p *pile) share() {
	p.TotalG = 0
	of := make([]float64, len(p.Fibres))
	for _, l := range p.Layers {
		of[l.Lays[0].Component] += l.Lays[0].Grams
		p.TotalG += l.Lays[0].Grams
	}
	p.Fibres = slices.Clone(p.Fibres)
	for i := range of {
		p.Fibres[i].Share = of[i] / p.TotalG
	}
}

// at is the lowest layer of a component; -1: there is none.
func (p *pile) at(component int) int {
	return slices.IndexFunc(p.Layers, func(l layup.Layer) bool { return l.Lays[0].Component == component })
}

// move puts a layer at another place.
func (p *pile) move(from, to int) {
	l := p.Layers[from]
	p.Layers = slices.Insert(slices.Delete(slices.Clone(p.Layers), from, from+1), to, l)
}

// spoil are ways to make a lay-up wrong.
var spoil = []func(*pile){
	func(p *pile) { p.move(p.at(sliding), 0) },
	func(p *pile) { p.move(p.at(loose), len(p.Layers)-1) },
	func(p *pile) {
		if i := p.at(locks); i > 0 {
			p.move(i, 2)
		}
	},
	func(p *pile) { p.method(p.at(loose), layup.Feed) },
	func(p *pile) { p.grams(p.at(second), 16) },
}

func (p *pile) method(i int, how layup.Method) { p.change(i, func(v *layup.Lay) { v.Method = how }) }

func (p *pile) grams(i int, g float64) {
	p.change(i, func(v *layup.Lay) { v.Grams = g })
	p.share()
}

// change changes a layer, and none of the piles that it was taken from.
func (p *pile) change(i int, to func(*layup.Lay)) {
	v := p.Layers[i].Lays[0]
	to(&v)
	p.Layers = slices.Clone(p.Layers)
	p.Layers[i] = layup.Layer{Lays: []layup.Lay{v}}
}

// wrong are the rules that layers break, by layer; below 0 those that all of it does.
func (p pile) wrong() map[int]string {
	out := map[int]string{}
	for _, f := range advice.Judge(p.Plan, advice.Defaults()).Findings {
		for _, r := range reasons {
			if f.Rule == r.rule {
				out[f.Layer] = f.Rule
			}
		}
	}
	return out
}

// mended are what could be done with a layer, and what it makes of the pile.
var mended = []struct {
	words string
	do    func(p *pile, i int)
	less  bool // it makes another blend of it, and so mends nothing
}{
	{"lay a thin layer of wool on the cloth first", func(p *pile, _ int) { p.veil(0) }, false},
	{"lay a thin layer of wool over all of it", func(p *pile, _ int) { p.veil(len(p.Layers)) }, false},
	{"put it on last, by hand", func(p *pile, i int) { p.move(i, len(p.Layers)-1); p.method(len(p.Layers)-1, layup.Paint) }, false},
	{"scatter it by hand where it is", func(p *pile, i int) { p.method(i, layup.Place) }, false},
	{"lay it in three equal parts between the other layers", func(p *pile, i int) { p.parted(i) }, false},
	{"put all of it through once more", func(p *pile, _ int) { p.Passes++ }, false},
	{"take half of it away", func(p *pile, i int) { p.grams(i, p.Layers[i].Lays[0].Grams/2) }, true},
}

// veil lays a thin layer of wool at a place.
func (p *pile) veil(at int) {
	const thin = 6.0
	p.Layers = slices.Insert(slices.Clone(p.Layers), at, layup.Layer{Lays: []layup.Lay{{Component: wool, To: 1, End: 1, Grams: thin, Method: layup.Feed}}})
	p.share()
}

// parted lays a layer in three, each between others.
func (p *pile) parted(i int) {
	v := p.Layers[i].Lays[0]
	v.Grams /= 3
	one := layup.Layer{Lays: []layup.Lay{v}}
	rest := slices.Delete(slices.Clone(p.Layers), i, i+1)
	for _, at := range []int{1, 3, 5} {
		rest = slices.Insert(rest, min(at, len(rest)), one)
	}
	p.Layers = rest
}

// offer is what is offered to mend a layer, of which one does.
type offer struct {
	offered []string
	best    int
}

// mends offers four ways to mend a layer, in an order by chance: one ends what is wrong with it and brings nothing new, the others leave
// it as it is.
func (p pile) mends(c *chance, i int, rule string) (out offer, ok bool) {
	was := p.wrong()
	right, useless := []string{}, []string{}
	for _, m := range mended {
		after := p
		m.do(&after, i)
		now := after.wrong()
		switch still := slices.Contains(slices.Collect(maps.Values(now)), rule); {
		case still:
			useless = append(useless, m.words)
		case len(now) < len(was) && !m.less:
			right = append(right, m.words)
		}
	}
	const offered = 4
	if len(right) == 0 || len(useless) < offered-1 {
		return out, false
	}
	list := []string{right[c.one(len(right))]}
	for _, k := range c.order(len(useless))[:offered-1] {
		list = append(list, useless[k])
	}
	for at, k := range c.order(offered) {
		out.offered = append(out.offered, list[k])
		if k == 0 {
			out.best = at
		}
	}
	return out, true
}
