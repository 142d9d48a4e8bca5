package advice

import (
	"math"
	"slices"

	"fairtangle/core/unit"
)

// tenths are grams as they are spoken of.
func tenths(g float64) unit.Grams { return unit.Grams(math.Round(10*g) / 10) }

// load is how full the cloth is, and whether that is known.
func (l *look) load() (load float64, ok bool) {
	if !l.known(l.Bed != nil, "the equipment") || !l.Bed.Pins() {
		return 0, false
	}
	grams := l.UnitG()
	if !l.known(grams > 0, "the weight of a unit") {
		return 0, false
	}
	return grams / l.Capacity(), true
}

func overloaded(l *look) {
	if load, ok := l.load(); ok && above(load, l.b("from")) && !above(load, l.b("to")) {
		l.find(Caution, values{"load": load, "limit": l.b("from"), "grams": l.UnitG(), "capacity_g": l.Capacity()},
			"%s lie on a cloth that holds %s of this mix.", tenths(l.UnitG()), tenths(l.Capacity()))
	}
}

func farOverloaded(l *look) {
	if load, ok := l.load(); ok && above(load, l.b("from")) {
		l.find(Stop, values{"load": load, "limit": l.b("from"), "grams": l.UnitG(), "capacity_g": l.Capacity()},
			"%s are far more than the %s that the cloth holds of this mix.", tenths(l.UnitG()), tenths(l.Capacity()))
	}
}

func underloaded(l *look) {
	load, ok := l.load()
	if !ok || !l.known(l.Product != "", "what is made of it: a batt, rolags, punis, roving") {
		return
	}
	if l.Product == "batt" && below(load, l.b("load")) && !l.holds("loading", "thin") {
		l.find(Hint, values{"load": load, "limit": l.b("load")},
			"%s fill the cloth to %g %%; a web so thin hardly holds together.", tenths(l.UnitG()), percent(load))
	}
}

// lane is a strip of the cloth and how full it is.
type lane struct{ from, to, load float64 }

// lanes are the strips between the sides of all lays, and their mean load.
func (l *look) lanes() (out []lane, mean float64) {
	cuts := []float64{0, 1}
	for _, y := range l.Layers {
		for _, v := range y.Lays {
			cuts = append(cuts, v.From, v.To)
		}
	}
	slices.Sort(cuts)
	capacity := l.Capacity()
	if capacity <= 0 {
		return nil, 0
	}
	for i := 0; i+1 < len(cuts); i++ {
		from, to := cuts[i], cuts[i+1]
		if to-from < 0.02 { // a seam, no lane
			continue
		}
		grams := 0.0
		for _, y := range l.Layers {
			for _, v := range y.Lays {
				if over := min(v.To, to) - max(v.From, from); over > 0 && v.To > v.From {
					grams += v.Grams * over / (v.To - v.From)
				}
			}
		}
		out = append(out, lane{from, to, grams / (capacity * (to - from))})
	}
	var wide float64
	for _, v := range out {
		mean += v.load * (v.to - v.from)
		wide += v.to - v.from
	}
	return out, mean / math.Max(wide, near)
}

func (l *look) lanesKnown() bool {
	return l.known(l.Bed != nil, "the equipment") && l.Bed.Pins() && l.known(len(l.Layers) > 0, "how it is laid")
}

func laneOverloaded(l *look) {
	if l.Uneven || !l.lanesKnown() {
		return
	}
	lanes, mean := l.lanes()
	for i, v := range lanes {
		if above(v.load, l.b("of the mean")*mean) || above(v.load, l.b("load")) {
			l.find(Caution, values{"load": v.load, "mean": mean, "lane": float64(i), "from": v.from, "to": v.to, "limit": l.b("of the mean") * mean},
				"From %g to %g %% of the width it is filled to %g %%, on the whole to %g %%.", percent(v.from), percent(v.to), percent(v.load), percent(mean))
			return
		}
	}
}

func laneThin(l *look) {
	if l.Uneven || !l.lanesKnown() {
		return
	}
	lanes, mean := l.lanes()
	for i, v := range lanes {
		if below(v.load, l.b("of the mean")*mean) {
			l.find(Caution, values{"load": v.load, "mean": mean, "lane": float64(i), "from": v.from, "to": v.to, "limit": l.b("of the mean") * mean},
				"From %g to %g %% of the width it is filled to %g %%, on the whole to %g %%.", percent(v.from), percent(v.to), percent(v.load), percent(mean))
			return
		}
	}
}

func feedTooThick(l *look) {
	if !l.known(l.Bed != nil, "the equipment") || !l.drum() || !l.known(l.Told.Turns != nil, "the turns of the drum") {
		return
	}
	if !l.known(l.Bed.FeedG > 0, "what the carder takes in a turn") || *l.Told.Turns <= 0 {
		return
	}
	times, limit := l.UnitG() / *l.Told.Turns / l.Bed.FeedG, l.b("feed")
	if slices.ContainsFunc(l.leads(), func(f Fibre) bool { return f.slippery() || f.body() && below(f.thickUM(), l.b("fine")) }) {
		limit = l.b("fine feed")
	}
	if above(times, limit) {
		l.find(Caution, values{"times": times, "limit": limit, "grams_per_turn": l.UnitG() / *l.Told.Turns},
			"%s go in with each turn, and the carder takes %s.", unit.Grams(l.UnitG() / *l.Told.Turns), unit.Grams(l.Bed.FeedG))
	}
}

// leads are the fibres that lead the layers; where nothing is laid, the first of the blend.
func (l *look) leads() (out []Fibre) {
	for _, y := range l.Layers {
		if len(y.Lays) > 0 {
			if f, ok := l.fibreOf(y.Lays[0]); ok {
				out = append(out, f)
			}
		}
	}
	if len(out) == 0 && len(l.Fibres) > 0 {
		out = l.Fibres[:1]
	}
	return out
}

func holdingBack(l *look) {
	for i, f := range l.Fibres {
		if f.Preparation == "combed_top" && l.known(l.Told.Wisps != nil, "whether the top is pulled into wisps") && !*l.Told.Wisps {
			l.find(Caution, values{"share": f.Share}, "%s is a rope: fed as it is, it holds itself back.", f.Name).of(i)
			return
		}
	}
}

func tooFast(l *look) {
	if l.Bed != nil && !l.drum() || !l.known(l.Told.PerMinute != nil, "how fast you turn") { // nothing else is turned
		return
	}
	limit := l.b("turns")
	fine := l.Sum(func(f Fibre) bool { return f.body() && below(f.thickUM(), l.b("fine")) }) > 0
	if fine || atLeast(l.Sum(Fibre.slippery), l.b("slippery")) {
		limit = l.b("fine turns")
	}
	if above(*l.Told.PerMinute, limit) {
		l.find(Caution, values{"turns": *l.Told.PerMinute, "limit": limit},
			"%g turns a minute jerk rather than comb; %g are enough for this.", *l.Told.PerMinute, limit)
	}
}
