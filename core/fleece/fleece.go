// Package fleece is the way of a raw fleece to the carder: its stages, what is left after
// each, and what is still to be expected.
package fleece

import (
	"fairtangle/core/fibre"
	"fairtangle/core/unit"
)

// Stage is one stage of the work. Keeps is which part of the weight is usually left after it.
type Stage struct {
	Key, Name string
	Keeps     fibre.Range
	Wet       bool // a weight taken here says nothing of the yield
	// Preparation is what the fleece is after it.
	Preparation string
	How         string
}

// The stages by their number, counted from 1.
const (
	Skirted = iota + 1
	Sorted
	Washed
	Dried
	Picked
)

// Stages are the stages in their order. What they keep multiplies to the loss of raw fleece
// until it can be carded (25 to 60 %); picking alone to that of washed locks.
func Stages() []Stage {
	return []Stage{
		{"skirted", "Skirted", fibre.Range{Low: 0.80, High: 0.95}, false, "raw_fleece", "Spread it out flesh side down; take off the dirty edges, belly and tags."},
		{"sorted", "Sorted", fibre.Range{Low: 0.97, High: 1}, false, "raw_fleece", "Part it by coat, by colour, or by both; each part becomes a lot of its own."},
		{"washed", "Washed", fibre.Range{Low: 1, High: 1}, true, "washed_locks", "Hot water, little movement, rinse at the same heat. Wet weight says nothing."},
		{"dried", "Dried", fibre.Range{Low: 0.606, High: 0.823}, false, "washed_locks", "Dry it through, a day or two in the room where you weigh."},
		{"picked", "Picked", fibre.Range{Low: 0.85, High: 0.96}, false, "picked_cloud", "Open the locks, shake out what falls; then it can be carded."},
	}
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

// Part is a fleece, or a part of it: its weight after each stage, by the stage's number; 0:
// not weighed.
type Part struct{ Weights [Picked + 1]unit.Milligrams }

// Last is the stage at which it was weighed last, of those that say something; 0: at none.
func (p Part) Last() (stage int, mg unit.Milligrams) {
	for i, s := range Stages() {
		if w := p.Weights[i+1]; w > 0 && !s.Wet {
			stage, mg = i+1, w
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
	return Stages()[max(stage, 1)-1].Preparation
}

// Keep is which part of a weight is usually left from after one stage until after another.
func Keep(after, until int) fibre.Range {
	out := fibre.Range{Low: 1, High: 1}
	for i, s := range Stages() {
		if i+1 > after && i+1 <= until {
			out = fibre.Range{Low: out.Low * s.Keeps.Low, High: out.High * s.Keeps.High}
		}
	}
	return out
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
func Foretell(raw unit.Milligrams, whole Part, parts []Part, greasy bool) Forecast {
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
		g := float64(mg.Grams())
		k := Keep(stage, Picked)
		if greasy && p.Unwashed(whole) {
			k, stage = Stages()[Dried-1].Keeps, Sorted
		}
		now += g
		f.Grams = fibre.Range{Low: f.Grams.Low + g*k.Low, High: f.Grams.High + g*k.High}
		f.Estimated = f.Estimated || stage < Picked
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
		r := float64(raw.Grams())
		f.SoFar, f.Share = now/r, fibre.Range{Low: f.Grams.Low / r, High: f.Grams.High / r}
	}
	return f
}

// Totals are the weights of all of it after each stage, by its number, 0 being raw: as weighed,
// or from where to where they are expected.
func Totals(raw unit.Milligrams, whole Part, parts []Part) (out [Picked + 1]fibre.Range) {
	r := float64(raw.Grams())
	out[0] = fibre.Range{Low: r, High: r}
	parted := false
	for _, p := range parts {
		s, _ := p.Last()
		parted = parted || s > 0
	}
	for n := Skirted; n <= Picked; n++ {
		if !parted || n < Sorted {
			out[n] = whole.after(n, raw)
			continue
		}
		for _, p := range parts {
			a := p.after(n, 0)
			out[n] = fibre.Range{Low: out[n].Low + a.Low, High: out[n].High + a.High}
		}
	}
	return out
}

// after is the weight after a stage: as it was weighed, or from the last weighing before.
func (p Part) after(n int, raw unit.Milligrams) fibre.Range {
	stage, mg := 0, raw
	for i := 1; i <= n; i++ {
		if w := p.Weights[i]; w > 0 && !Stages()[i-1].Wet {
			stage, mg = i, w
		}
	}
	k, g := Keep(stage, n), float64(mg.Grams())
	out := fibre.Range{Low: g * k.Low, High: g * k.High}
	for i := n + 1; i <= Picked; i++ { // what is there later was there before
		if w := float64(p.Weights[i].Grams()); !Stages()[i-1].Wet {
			out = fibre.Range{Low: max(out.Low, w), High: max(out.High, w)}
		}
	}
	return out
}
