package layup

import (
	"cmp"
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/losses"
)

// A fibre can be carded alone first: as units of its own, lifted as batts, and laid of those. What is lost of it then is weighed
// in besides what is laid, and what lies on the cloth is opened already.

// OpenedAlone is how often a component is opened alone before it is laid. What is only stirred first is laid in the state of any
// fibre of one colour (simulation.md, section 14).
func (p Plan) OpenedAlone(component int) int {
	if component < len(p.Alone) {
		return p.Alone[component]
	}
	return 0
}

// AloneOf is how often a component is carded alone before it is laid; what is stirred first is once at least.
func (p Plan) AloneOf(component int) int {
	n := p.OpenedAlone(component)
	if p.FedOf(component).How == "stirred-first" {
		n = max(n, 1)
	}
	return n
}

// LosesAlone is in how many passes a component loses before it is laid: hands lose nothing.
func (p Plan) LosesAlone(b Bed, component int) int {
	if !b.Pins() {
		return 0
	}
	return p.AloneOf(component)
}

// CanAlone reports whether a fibre can be carded alone: what binds nothing, and what is laid for its curl, can not.
func (f Fibre) CanAlone() bool { return f.Ground() }

// AloneFirst has a component of fibres carded alone so often before it is laid; -1 names all that hold together by
// themselves.
func (p Plan) AloneFirst(fibres []Fibre, component, times int) (Plan, error) {
	if times < 0 || times > losses.MaxAlone {
		return p, fault.New("alone", "It is carded alone 0 to %d times.", losses.MaxAlone)
	}
	if component >= 0 && times > 0 && !fibres[component].CanAlone() {
		return p, fault.New("alone", "%s does not hold together by itself; it is carded with the others.", fibres[component].Name)
	}
	alone := make([]int, len(fibres))
	copy(alone, p.Alone)
	for i, f := range fibres {
		if i == component || component < 0 && f.Holds() {
			alone[i] = times
		}
	}
	p.Alone = alone
	return p, nil
}

// checkAlone finds what can not be carded alone.
func (p Plan) checkAlone(l *fault.List, n int) {
	for i, times := range p.Alone {
		if i >= n || times < 0 || times > losses.MaxAlone {
			l.Add("alone_first", "For each component how often it is carded alone first, 0 to %d.", losses.MaxAlone)
			return
		}
	}
}

// Loading is fibre of one component that is carded alone before anything is laid, for all units together.
type Loading struct {
	Component int     `json:"component"`
	Passes    int     `json:"passes"`
	WeighG    float64 `json:"weigh_in_g"` // for all units
	LaidG     float64 `json:"laid_g"`     // of one unit, when it is laid
	Loads     int     `json:"loads"`      // how often the bed is filled with it
	EachG     float64 `json:"each_g"`     // of a load, weighed in
	Units     int     `json:"units"`
}

// Loadings are what is carded alone first for so many units, on a bed of which each load fills as much as it holds of that fibre
// alone.
func (p Plan) Loadings(b Bed, fibres []Fibre, units int) (out []Loading) {
	for i, f := range fibres {
		n := p.AloneOf(i)
		if n == 0 || f.Grams < speck {
			continue
		}
		laid := f.Grams
		if f.Wanted > 0 {
			laid = f.Wanted
		}
		way := losses.Way{Fall: f.Loses, Alone: p.LosesAlone(b, i)}
		l := Loading{Component: i, Passes: n, LaidG: laid, WeighG: laid / way.Laid() * float64(units), Loads: 1, Units: units}
		if full := b.capacityOf(f); full > 0 {
			l.Loads = int(max(1, math.Ceil(l.WeighG/full-1e-9)))
		}
		l.EachG = l.WeighG / float64(l.Loads)
		out = append(out, l)
	}
	return out
}

// PaleFirst are loadings from the palest to the darkest, in which no cloth has to be cleaned for the next.
func PaleFirst(list []Loading, fibres []Fibre) []Loading {
	out := slices.Clone(list)
	slices.SortStableFunc(out, func(a, b Loading) int { return cmp.Compare(fibres[b.Component].Colour.L, fibres[a.Component].Colour.L) })
	return out
}
