package advice

import (
	"math"

	"fairtangle/core/layup"
	"fairtangle/core/unit"
)

// units divides the whole over so many units; what lies on the cloth follows.
func (p *Plan) units(n int) {
	was := max(1, p.Units)
	for y := range p.Layers {
		for k := range p.Layers[y].Lays {
			p.Layers[y].Lays[k].Grams *= float64(was) / float64(n)
		}
	}
	if p.TotalG == 0 {
		p.TotalG = p.UnitG() * float64(n)
	}
	p.Units = n
}

func unitsSaid(p Plan) unit.Sentence {
	if p.Units == 1 {
		return unit.Say("One unit of %s.", tenths(p.UnitG()))
	}
	return unit.Say("%d units of %s.", p.Units, tenths(p.UnitG()))
}

// mended is how full a unit is at most that was too full.
const mended = 0.9

// mendUnits fills each unit to nine tenths of what is full at most.
func mendUnits(p Plan, _ Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	capacity := p.Capacity()
	if capacity <= 0 {
		return p, "", unit.Sentence{}, false
	}
	p.units(layup.Units(p.UnitG()*float64(max(1, p.Units)), math.Min(1, b("from"))*capacity, mended))
	return p, "units", unitsSaid(p), true
}

func mendFewer(p Plan, _ Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	all, capacity := p.UnitG()*float64(max(1, p.Units)), p.Capacity()
	n := max(1, int(all/(math.Max(0.5, b("load"))*capacity)))
	if n >= max(1, p.Units) {
		return p, "", unit.Sentence{}, false
	}
	p.units(n)
	return p, "units", unitsSaid(p), true
}

func mendTurns(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	turns := math.Ceil(p.UnitG() / p.Bed.FeedG)
	p.answer("turns", -1, turns)
	return p, "tell", unit.Say("%g turns of the drum.", turns), true
}

func mendWisps(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	p.answer("wisps", -1, 1)
	return p, "tell", unit.Say("A step before it: pull into wisps of one staple, lay them on the tray, let go."), true
}

func mendPace(p Plan, f Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	turns := 25.0
	if f.Values["limit"] < b("turns") {
		turns = 18
	}
	turns = math.Min(turns, f.Values["limit"])
	p.answer("per_minute", -1, turns)
	return p, "tell", unit.Say("%g turns a minute.", turns), true
}

// veil takes so much of a unit from the lays of a wool, as a layer over the whole width.
func (p *Plan) veil(part float64) (layup.Layer, string, bool) {
	at := p.carrierOf(func(Fibre) bool { return false })
	if at < 0 {
		return layup.Layer{}, "", false
	}
	want, have := part*p.UnitG(), 0.0
	if p.StepG > 0 { // in steps of the scale, and no less
		want = math.Ceil(want/p.StepG-near) * p.StepG
	}
	for _, y := range p.Layers {
		for _, v := range y.Lays {
			if v.Component == at {
				have += v.Grams
			}
		}
	}
	if have <= want {
		return layup.Layer{}, "", false
	}
	for y := range p.Layers {
		for k := range p.Layers[y].Lays {
			if v := &p.Layers[y].Lays[k]; v.Component == at {
				v.Grams *= 1 - want/have
			}
		}
	}
	method := layup.Feed
	if p.Bed != nil && p.Bed.Type != layup.Drum {
		method = layup.Paint
	}
	return layup.Layer{Lays: []layup.Lay{{Component: at, From: 0, To: 1, Start: 0, End: 1, Grams: want, Method: method}}}, p.Fibres[at].Name, true
}

func mendBase(p Plan, _ Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	y, name, ok := p.veil(b("depth"))
	if !ok {
		return p, "", unit.Sentence{}, false
	}
	p.Layers = append([]layup.Layer{y}, p.Layers...)
	return p, "order", unit.Say("%s of %s first, over the whole width.", tenths(y.Lays[0].Grams), name), true
}

func mendCover(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	y, name, ok := p.veil(0.05)
	if !ok {
		return p, "", unit.Sentence{}, false
	}
	p.Layers = append(p.Layers, y)
	return p, "order", unit.Say("A veil of %s of %s over it.", tenths(y.Lays[0].Grams), name), true
}

func mendJoins(p Plan, f Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	p.Fibres[f.Component].Joins = p.Passes
	return p, "joins", unit.Say("%s comes in at the last pass.", p.Fibres[f.Component].Name), true
}

// mendLocks places locks by hand in the last layer, at the last pass.
func mendLocks(p Plan, f Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	if len(p.Layers) == 0 {
		return p, "", unit.Sentence{}, false
	}
	var moved []layup.Lay
	for y := range p.Layers {
		var rest []layup.Lay
		for _, v := range p.Layers[y].Lays {
			if v.Component == f.Component {
				v.Method = layup.Place
				moved = append(moved, v)
			} else {
				rest = append(rest, v)
			}
		}
		p.Layers[y].Lays = rest
	}
	kept := p.Layers[:0]
	for _, y := range p.Layers {
		if len(y.Lays) > 0 {
			kept = append(kept, y)
		}
	}
	p.Layers = append(kept, layup.Layer{Lays: moved})
	p.Fibres[f.Component].Joins = max(p.Passes, 1)
	return p, "method", unit.Say("%s placed by hand, last of all.", p.Fibres[f.Component].Name), true
}

// by lays a component in another way.
func (p *Plan) by(component int, m layup.Method) {
	for y := range p.Layers {
		for k := range p.Layers[y].Lays {
			if v := &p.Layers[y].Lays[k]; v.Component == component {
				v.Method = m
			}
		}
	}
}

func mendDots(p Plan, f Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	p.by(f.Component, layup.Place)
	return p, "method", unit.Say("%s scattered by hand on the drum.", p.Fibres[f.Component].Name), true
}

func mendLicker(p Plan, f Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	p.by(f.Component, layup.Paint)
	return p, "method", unit.Say("%s held against the drum, between layers of wool.", p.Fibres[f.Component].Name), true
}

func mendBrush(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	p.answer("brush", -1, 0)
	return p, "tell", unit.Say("Light strokes from the handle down, packed after each layer."), true
}

func mendPasses(p Plan, f Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	p.Passes = int(f.Values["limit"])
	return p, "passes", unit.Say("%d passes.", p.Passes), true
}

func mendOnce(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	p.Passes = 1
	return p, "passes", unit.Say("One pass: the colours stay apart."), true
}

func mendStrips(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	n := 4
	if p.Bed != nil && p.Bed.WidthMM > 0 {
		n = max(2, int(math.Ceil(p.Bed.WidthMM/40-near)))
	}
	p.Told.Strips = &n
	return p, "division", unit.Say("Torn into %d strips, each drawn thin.", n), true
}

func mendClean(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	p.answer("cleaned", -1, 1)
	return p, "tell", unit.Say("Clean it first, and run some grams of scrap wool through."), true
}

func mendTotal(p Plan, f Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	step := math.Max(p.StepG, 0.01)
	total := math.Ceil(f.Values["limit"]/step-near) * step
	p.rescale(total / p.TotalG)
	return p, "total", unit.Say("%s weighed in.", tenths(p.TotalG)), true
}

// rescale makes all of it so many times as heavy.
func (p *Plan) rescale(by float64) {
	p.TotalG *= by
	for y := range p.Layers {
		for k := range p.Layers[y].Lays {
			p.Layers[y].Lays[k].Grams *= by
		}
	}
}

func mendStock(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	part := 1.0
	for _, f := range p.Fibres {
		if f.HaveG != nil && f.Share > 0 {
			part = math.Min(part, *f.HaveG/(f.Share*p.TotalG))
		}
	}
	if part <= 0 {
		return p, "", unit.Sentence{}, false
	}
	p.rescale(part)
	return p, "total", unit.Say("%s in all, which the shelf has.", tenths(p.TotalG)), true
}
