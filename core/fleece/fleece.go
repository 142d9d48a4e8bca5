// Package fleece is the way of a raw fleece to the carder: its stages, what is left after
// each, and what is still to be expected, by the animal that it is of.
package fleece

import (
	"math"

	"fairtangle/core/fibre"
	"fairtangle/core/unit"
)

// Stage is one stage of the work.
type Stage struct {
	Number    int
	Key, Name string
	Wet       bool // a weight taken here says nothing of the yield
	Optional  bool // it is often left out
	// Preparation is what the fleece is after it.
	Preparation string
	How         string
}

// The stages by their number, by which what is told names them; their order is that of Stages.
const (
	Skirted = iota + 1
	Sorted
	Washed
	Dried
	Picked
	Tumbled
	Flicked
	Count = Flicked
)

// Stages are the stages in the order in which they are done.
func Stages() []Stage {
	return []Stage{
		{Skirted, "skirted", "Skirted", false, false, "raw_fleece", "Spread it out flesh side down; take off the dirty edges, belly and tags."},
		{Sorted, "sorted", "Sorted", false, false, "raw_fleece", "Part it by coat, by colour, or by both; each part becomes a lot of its own."},
		{Tumbled, "tumbled", "Tumbled", false, true, "raw_fleece", "Turn it in a cage or shake it, until no more sand and chaff falls."},
		{Washed, "washed", "Washed", true, false, "washed_locks", "Hot water, little movement, rinse at the same heat. Wet weight says nothing."},
		{Dried, "dried", "Dried", false, false, "washed_locks", "Dry it through, a day or two in the room where you weigh."},
		{Flicked, "flicked", "Flicked", false, true, "washed_locks", "Hold the lock’s middle tightly and flick the tip: what is brittle comes away. Or trim it."},
		{Picked, "picked", "Picked", false, false, "picked_cloud", "Open the locks, shake out what falls; then it can be carded."},
	}
}

// StageOf is a stage by its number.
func StageOf(number int) Stage {
	for _, s := range Stages() {
		if s.Number == number {
			return s
		}
	}
	return Stage{}
}

// turn is the place of a stage in the order, from 1; 0 is raw.
func turn(number int) int {
	for i, s := range Stages() {
		if s.Number == number {
			return i + 1
		}
	}
	return 0
}

// TakeOut is what is looked for and taken out, or left on purpose.
type TakeOut struct {
	Key, Name, Why string
	// School says that one of the schools leaves it in.
	School bool
}

// TakeOuts is the checklist.
func TakeOuts() []TakeOut {
	return []TakeOut{
		{"cuts", "Second cuts", "short snips of the shears roll into specks", false},
		{"tips", "Brittle tips", "weathered tips break off in carding; trim them or flick them out", true},
		{"rise", "The rise", "the lumpy break of spring growth cards into noil", true},
		{"vm", "Plant matter", "most falls out in picking; burrs never do", false},
		{"coat", "The outer coat", "long coarse hair pulls away from the soft undercoat; parted it is a yarn of its own", true},
	}
}

// Part is a fleece, or a part of it: its weight after each stage, by the stage's number (0: not weighed), and what was done without
// being weighed.
type Part struct {
	Weights [Count + 1]unit.Milligrams
	Did     [Count + 1]bool
}

// did reports whether a stage was done, or goes without saying.
func (p Part) did(s Stage) bool { return !s.Optional || p.Weights[s.Number] > 0 || p.Did[s.Number] }

// Last is the stage at which it was weighed last, of those that say something; 0: at none.
func (p Part) Last() (stage int, mg unit.Milligrams) {
	for _, s := range Stages() {
		if w := p.Weights[s.Number]; w > 0 && !s.Wet {
			stage, mg = s.Number, w
		}
	}
	return stage, mg
}

// Unwashed reports whether it was picked without having been washed, neither as a part nor before it was parted.
func (p Part) Unwashed(whole Part) bool {
	washed := false
	for _, stage := range []int{Washed, Dried} {
		washed = washed || p.Weights[stage] > 0 || whole.Weights[stage] > 0
	}
	return p.Weights[Picked] > 0 && !washed
}

// PreparationOf is what a part is after so many stages, of an animal whose fleece is greasy or not: what was not washed stays raw.
func PreparationOf(p, whole Part, stage int, greasy bool) string {
	if greasy && p.Unwashed(whole) {
		return "raw_fleece"
	}
	if stage == 0 {
		stage = Skirted
	}
	return StageOf(stage).Preparation
}

// leftOut is what part of the dirt that a stage would have taken falls at picking where the stage is left out (fleece.md, section 4:
// six tenths of it fall later, a quarter of those at picking).
const leftOut = 0.6 * 0.25

// Keep is which part of a weight of the group is usually left from after one stage until after another, of a fleece with which p was
// done. Of a known group the half-ranges of the stages are added in squares; of an unknown one the ends are taken together.
func (g Group) Keep(p Part, after, until int) fibre.Range {
	mid, squares, low, high, left := 1.0, 0.0, 1.0, 1.0, 0.0
	for i, s := range Stages() {
		lost := g.loses(s.Number)
		lost = fibre.Range{Low: lost.Low / 100, High: lost.High / 100}
		if !p.did(s) {
			left += leftOut * lost.Mid()
			continue
		}
		if i+1 <= turn(after) || i+1 > turn(until) {
			continue
		}
		m := 1 - lost.Mid()
		half := (lost.High - lost.Low) / 2
		if s.Number == Picked {
			m, lost.Low, lost.High = m*(1-left), 1-(1-lost.Low)*(1-left), 1-(1-lost.High)*(1-left)
		}
		mid *= m
		squares += half / m * half / m
		low, high = low*(1-lost.High), high*(1-lost.Low)
	}
	if g.Key == "" {
		return fibre.Range{Low: low, High: high}
	}
	spread := math.Sqrt(squares)
	return fibre.Range{Low: mid * max(0, 1-spread), High: mid * min(1/mid, 1+spread)}
}

// Forecast is what a fleece has yielded and what is still to be expected, as grams when it
// can be carded and as parts of the raw weight; 0 where nothing was weighed.
type Forecast struct {
	SoFar     float64     // what is left now, of the raw weight
	Grams     fibre.Range // when it is picked
	Share     fibre.Range // that, of the raw weight
	LeftOver  unit.Milligrams
	Estimated bool // something of it is still expected, not weighed
}

// Foretell works out what a raw weight becomes: the whole fleece as far as it was weighed
// together, then its parts. What is greasy and was picked unwashed has its washing still before it.
func (g Group) Foretell(raw unit.Milligrams, whole Part, parts []Part, greasy bool) Forecast {
	list := parts
	known := false
	for _, p := range parts {
		if s, _ := p.Last(); s > 0 {
			known = true
		}
	}
	if !known { // not parted, or not weighed since
		list = []Part{whole}
	}
	var f Forecast
	var now float64
	for _, p := range list {
		stage, mg := p.Last()
		if stage == 0 && !known {
			mg = raw
		}
		grams := float64(mg.Grams())
		k := g.Keep(p, stage, Picked)
		if greasy && p.Unwashed(whole) {
			w := g.Wash
			k, stage = fibre.Range{Low: 1 - w.High/100, High: 1 - w.Low/100}, Sorted
		}
		now += grams
		f.Grams = fibre.Range{Low: f.Grams.Low + grams*k.Low, High: f.Grams.High + grams*k.High}
		f.Estimated = f.Estimated || stage != Picked
	}
	if known { // what the whole weighed before it was parted, and no part has
		if stage, mg := whole.Last(); stage > 0 {
			for _, p := range parts {
				mg -= p.Weights[Sorted]
			}
			f.LeftOver = mg
		}
	}
	if raw > 0 {
		all := float64(raw.Grams())
		f.SoFar, f.Share = now/all, fibre.Range{Low: f.Grams.Low / all, High: f.Grams.High / all}
	}
	return f
}

// Totals are the weights of all of it after each stage, by its number, 0 being raw: as weighed,
// or from where to where they are expected.
func (g Group) Totals(raw unit.Milligrams, whole Part, parts []Part) (out [Count + 1]fibre.Range) {
	all := float64(raw.Grams())
	out[0] = fibre.Range{Low: all, High: all}
	parted := false
	for _, p := range parts {
		s, _ := p.Last()
		parted = parted || s > 0
	}
	for i, s := range Stages() {
		if !parted || i+1 < turn(Sorted) {
			out[s.Number] = g.after(whole, i+1, raw)
			continue
		}
		for _, p := range parts {
			a := g.after(p, i+1, 0)
			out[s.Number] = fibre.Range{Low: out[s.Number].Low + a.Low, High: out[s.Number].High + a.High}
		}
	}
	return out
}

// after is the weight of a part after the n-th stage of the order: as it was weighed, or from the last weighing before.
func (g Group) after(p Part, n int, raw unit.Milligrams) fibre.Range {
	stages := Stages()
	stage, mg := 0, raw
	for _, s := range stages[:n] {
		if w := p.Weights[s.Number]; w > 0 && !s.Wet {
			stage, mg = s.Number, w
		}
	}
	k, grams := g.Keep(p, stage, stages[n-1].Number), float64(mg.Grams())
	out := fibre.Range{Low: grams * k.Low, High: grams * k.High}
	for _, s := range stages[n:] { // what is there later was there before
		if w := float64(p.Weights[s.Number].Grams()); !s.Wet {
			out = fibre.Range{Low: max(out.Low, w), High: max(out.High, w)}
		}
	}
	return out
}
