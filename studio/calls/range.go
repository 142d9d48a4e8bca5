package calls

import (
	"fmt"
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/gradient"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/studio/workshop"
)

// RangePart is fibre of a range.
type RangePart struct {
	Name   string               `json:"name"`
	Colour workshop.ColourInput `json:"colour"`
	ManyColours
	Parts float64 `json:"parts"`
}

// RangeRequest asks for tints and shades of a blend.
type RangeRequest struct {
	Base         []RangePart          `json:"base"`
	Lighter      *RangePart           `json:"lighter"`
	Darker       *RangePart           `json:"darker"`
	LighterSteps int                  `json:"lighter_steps"`
	DarkerSteps  int                  `json:"darker_steps"`
	Spacing      string               `json:"spacing"`
	LargestShare float64              `json:"largest_share"`
	EachG        float64              `json:"each_g"`
	StepG        float64              `json:"step_g"`
	Model        *workshop.ModelInput `json:"model"`
}

// RangeShare is a component of a blend of the range.
type RangeShare struct {
	Name  string  `json:"name"`
	Share float64 `json:"share"`
	Grams float64 `json:"grams"`
}

// RangeBlend is a blend of the range: its place is 0 of the base, below it lighter, above it darker.
type RangeBlend struct {
	Place      int                   `json:"place"`
	Components []RangeShare          `json:"components"`
	Colour     workshop.ColourOutput `json:"colour"`
	JumpToNext *float64              `json:"jump_to_next"` // null of the last
}

// RangeAnswer is the range, lightest first, and what it takes of each fibre.
type RangeAnswer struct {
	Blends []RangeBlend       `json:"blends"`
	Totals map[string]float64 `json:"component_totals_g"`
}

// MostRange is the share of what lightens or darkens in the last blend where nothing is told.
const MostRange = 0.8

// ranging is a request made ready.
type ranging struct {
	names         []string
	base          gradient.Range
	lights, darks gradient.Range
	q             RangeRequest
}

// RangeOf plans tints and shades of a blend from nothing but the request.
func RangeOf(q RangeRequest) (RangeAnswer, error) {
	r, err := q.ready()
	if err != nil {
		return RangeAnswer{}, err
	}
	a := RangeAnswer{Blends: []RangeBlend{}, Totals: map[string]float64{}}
	var labs []colour.Lab
	add := func(place int, of gradient.Range, added string, share float64) {
		b := RangeBlend{Place: place, Components: []RangeShare{}}
		for i, v := range of.Shares {
			b.Components = append(b.Components, RangeShare{Name: r.names[i], Share: v * (1 - share)})
		}
		if share > 0 {
			b.Components = append(b.Components, RangeShare{Name: added, Share: share})
		}
		r.weigh(b.Components)
		for _, c := range b.Components {
			a.Totals[c.Name] = unit.Clean(a.Totals[c.Name] + c.Grams)
		}
		seen := of.At(share)
		b.Colour = workshop.ColourOut(seen)
		labs, a.Blends = append(labs, seen.Lab()), append(a.Blends, b)
	}
	lights, err := r.lights.Places()
	if err != nil {
		return a, named(err, "lighter_steps")
	}
	darks, err := r.darks.Places()
	if err != nil {
		return a, named(err, "darker_steps")
	}
	for i := len(lights) - 1; i >= 0; i-- {
		add(-i-1, r.lights, q.Lighter.Name, lights[i])
	}
	add(0, r.base, "", 0)
	for i, share := range darks {
		add(i+1, r.darks, q.Darker.Name, share)
	}
	for i := range a.Blends[:len(a.Blends)-1] {
		jump := colour.CIEDE2000(labs[i], labs[i+1])
		a.Blends[i].JumpToNext = &jump
	}
	return a, nil
}

// named puts what is wrong with the steps of a side at its own field.
func named(err error, field string) error {
	list, ok := fault.From(err)
	for i := range list {
		if ok && list[i].Field == "steps" {
			list[i].Field = field
		}
	}
	return err
}

// weigh fills in the grams of a blend in whole steps of the scale.
func (r ranging) weigh(list []RangeShare) {
	exact := make([]float64, len(list))
	for i, c := range list {
		exact[i] = c.Share * r.q.EachG / r.q.StepG
	}
	for i, n := range weigh.Apportion(exact, int64(math.Round(r.q.EachG/r.q.StepG))) {
		list[i].Grams = unit.Clean(float64(n) * r.q.StepG)
	}
}

// figures fills in what was left out, and finds what can not be.
func (q *RangeRequest) figures(l *fault.List) {
	if q.LargestShare == 0 {
		q.LargestShare = MostRange
	}
	if q.StepG == 0 {
		q.StepG = 0.1
	}
	for field, v := range map[string]float64{"each_g": q.EachG, "step_g": q.StepG} {
		if !(v >= 0 && v <= float64(unit.MaxGrams)) || field == "step_g" && !(v >= 0.001) {
			l.Add(field, "A weight lies from %s to %s.", unit.Grams(0), unit.MaxGrams)
		}
	}
	if q.Spacing != "" && q.Spacing != "even" && q.Spacing != "shares" {
		l.Add("spacing", "A range is spaced even or by shares.")
	}
	for field, side := range map[string]struct {
		part  *RangePart
		steps int
	}{"lighter": {q.Lighter, q.LighterSteps}, "darker": {q.Darker, q.DarkerSteps}} {
		if side.steps > 0 && side.part == nil {
			l.Add(field, "Say what makes it %s.", field)
		}
	}
}

// ready reads the request.
func (q RangeRequest) ready() (ranging, error) {
	var l fault.List
	m, err := q.Model.Model()
	l.Take("", err)
	r := ranging{}
	if n := len(q.Base); n == 0 || n > weigh.MaxComponents {
		l.Add("base", "There are 1 to %d components.", weigh.MaxComponents)
		return r, l
	}
	q.figures(&l)
	read := func(at string, p *RangePart) (c colour.Reflectance) {
		if p == nil {
			return c
		}
		if p.any() {
			return p.one(&p.Colour, m, at+".", &l)
		}
		c, _, err := p.Colour.Read()
		l.Take(at+".colour", err)
		return c
	}
	base := gradient.Range{Most: q.LargestShare, Even: q.Spacing != "shares", Model: m}
	var sum float64
	for i := range q.Base {
		p := &q.Base[i]
		at := fmt.Sprintf("base[%d]", i)
		if p.Parts == 0 && len(q.Base) == 1 {
			p.Parts = 1
		}
		if !(p.Parts > 0 && p.Parts <= 1e6) {
			l.Add(at+".parts", "Parts are above 0.")
		}
		base.Base = append(base.Base, read(at, p))
		base.Shares, r.names = append(base.Shares, p.Parts), append(r.names, p.Name)
		sum += p.Parts
	}
	for i := range base.Shares {
		base.Shares[i] /= math.Max(sum, 1e-9)
	}
	r.base, r.lights, r.darks = base, base, base
	r.lights.Added, r.lights.Steps = read("lighter", q.Lighter), q.LighterSteps
	r.darks.Added, r.darks.Steps = read("darker", q.Darker), q.DarkerSteps
	r.q = q
	return r, l.Err()
}
