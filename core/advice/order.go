package advice

import (
	"fairtangle/core/layup"
	"fairtangle/core/unit"
)

// laid reports whether it is known how the fibre lies on pins.
func (l *look) laid() bool {
	return l.known(l.Bed != nil, "the equipment") && l.Bed.Pins() && l.known(len(l.Layers) > 0, "how it is laid")
}

func (l *look) fibreOf(v layup.Lay) (Fibre, bool) {
	if v.Component < 0 || v.Component >= len(l.Fibres) {
		return Fibre{}, false
	}
	return l.Fibres[v.Component], true
}

func baseLayer(l *look) {
	if l.Bare || !l.laid() {
		return
	}
	if l.holds("first", "bare") && !above(l.Sum(Fibre.slippery), 0.15) { // fine with fibre that grips
		return
	}
	want := l.b("depth") * l.UnitG()
	var seen, grips float64
	for i, y := range l.Layers {
		for _, v := range y.Lays {
			f, ok := l.fibreOf(v)
			if !ok || v.Grams <= 0 || f.Joins > 1 { // what joins later lies on what was there before
				continue
			}
			if f.sparkle() || f.texture() || f.slippery() {
				l.find(Caution, values{"share": f.Share}, "%s lies first, where it is hardest to lift.", f.Name).of(v.Component).at(i)
				return
			}
			seen += v.Grams
			if f.grippyWool() {
				grips += v.Grams
			}
		}
		if seen >= want-near {
			break
		}
	}
	if seen > 0 && below(grips/seen, l.b("grippy")) {
		l.find(Caution, values{"share": grips / seen, "limit": l.b("grippy")},
			"Only %g %% of what lies first is wool that grips and lifts the rest.", percent(grips/seen)).at(0)
	}
}

func coverLayer(l *look) {
	if !l.laid() {
		return
	}
	last := len(l.Layers) - 1
	for _, v := range l.Layers[last].Lays {
		if f, ok := l.fibreOf(v); ok && f.loose() && v.Grams > 0 {
			l.find(Caution, values{"share": f.Share}, "%s lies last and bare; it drops when the batt comes off.", f.Name).of(v.Component).at(last)
			return
		}
	}
}

func fragileEarly(l *look) {
	if !l.known(l.Passes > 0, "how many passes") || l.Passes < 2 {
		return
	}
	for i, f := range l.Fibres {
		if f.Kind.Family == "wool" && l.fineBase() { // it wears no more than what carries it
			continue
		}
		if f.Kind.Fragile && f.body() && !above(f.Share, l.b("share")) && max(f.Joins, 1) < l.Passes {
			weight := Caution
			if l.holds("delicate", "between") {
				weight = Hint
			}
			l.find(weight, values{"pass": float64(max(f.Joins, 1)), "limit": float64(l.Passes)}, "%s comes in at pass %d of %d, and each pass wears it.",
				f.Name, max(f.Joins, 1), l.Passes).of(i)
		}
	}
}

func locksLast(l *look) {
	for i, f := range l.Fibres {
		if !f.lock() || f.Share <= 0 {
			continue
		}
		if !l.laid() {
			return
		}
		switch {
		case l.fed(i):
			l.find(Caution, values{"share": f.Share}, "%s go in from the tray, which pulls their curl straight.", f.Name).of(i)
		case l.Passes > max(f.Joins, 1) && l.drum():
			l.find(Caution, values{"pass": float64(max(f.Joins, 1)), "limit": float64(l.Passes)},
				"A pass follows after %s are in, and opens their curl.", f.Name).of(i)
		default:
			for y, layer := range l.Layers {
				for _, v := range layer.Lays {
					if v.Component == i && y < len(l.Layers)-2 {
						l.find(Caution, values{"layer": float64(y)}, "%s lie deep, where nobody sees their curl.", f.Name).of(i).at(y)
						return
					}
				}
			}
		}
	}
}

func locksAcross(l *look) {
	if l.Product != "rolags" {
		l.known(l.Product != "", "what is made of it: a batt, rolags, punis, roving")
		return
	}
	if !l.laid() || l.Bed.Type != layup.Board || !l.known(l.Told.Rolags != nil, "into how many rolags the board is cut") {
		return
	}
	n := float64(*l.Told.Rolags)
	for y, layer := range l.Layers {
		for _, v := range layer.Lays {
			f, ok := l.fibreOf(v)
			if !ok || !f.lock() {
				continue
			}
			for cut := 1.0; cut < n; cut++ {
				if line := cut / n; v.Start < line-near && v.End > line+near {
					l.find(Hint, values{"line": line}, "%s lie across the cut at %g %% of the board.", f.Name, percent(line)).of(v.Component).at(y)
					return
				}
			}
		}
	}
}

func nepsBare(l *look) {
	if !l.laid() || !l.drum() {
		return
	}
	for y, layer := range l.Layers {
		alone, which := len(layer.Lays) > 0, -1
		for _, v := range layer.Lays {
			f, ok := l.fibreOf(v)
			alone = alone && ok && v.Method == layup.Feed && (f.dots() || f.Kind.Key == "silk_noil" || f.Preparation == "noil_waste")
			which = v.Component
		}
		if alone {
			l.find(Caution, values{"layer": float64(y)},
				"%s go through the small drum by themselves, and it throws them down.", l.Fibres[which].Name).of(which).at(y)
			return
		}
	}
}

func lickerLimits(l *look) {
	if !l.laid() || !l.drum() {
		return
	}
	for i, f := range l.Fibres {
		if f.Kind.LickerIn == "avoid" && l.fed(i) {
			l.find(Caution, values{"share": f.Share}, "%s goes in from the tray and winds round the small drum.", f.Name).of(i)
			continue
		}
		if f.Kind.LickerIn != "thin_only" || !l.fed(i) || l.Told.Turns == nil || *l.Told.Turns <= 0 || l.Bed.FeedG <= 0 {
			continue
		}
		if feed := l.UnitG() / *l.Told.Turns; above(feed, l.Bed.FeedG) {
			l.find(Caution, values{"grams_per_turn": feed, "limit": l.Bed.FeedG},
				"%s wants to go in thin; %s with each turn is too much.", f.Name, unit.Grams(feed)).of(i).beside = true
		}
	}
}

func slab(l *look) {
	if !l.known(l.Goal != "", "how it is to look") || l.Goal != "even" && l.Goal != "heather" || !l.laid() {
		return
	}
	capacity := l.Capacity()
	for y, layer := range l.Layers {
		one, grams := -1, 0.0
		for _, v := range layer.Lays {
			if one >= 0 && v.Component != one {
				one = -2
				break
			}
			one, grams = v.Component, grams+v.Grams
		}
		if one >= 0 && one < len(l.Fibres) && capacity > 0 && len(l.Fibres) > 1 && above(grams/capacity, l.b("of the cloth")) {
			l.find(Hint, values{"load": grams / capacity, "limit": l.b("of the cloth")},
				"A layer of %s alone fills %g %% of the cloth; the next lies on it rather than in it.",
				l.Fibres[one].Name, percent(grams/capacity)).of(one).at(y)
			return
		}
	}
}

func brushDirection(l *look) {
	if !l.known(l.Bed != nil, "the equipment") || l.Bed.Type != layup.Board || !l.known(l.Told.Brush != "", "which way it is brushed") {
		return
	}
	if l.Told.Brush != "down" {
		l.find(Caution, values{},
			"It is brushed %s; the pins lean down, and that lifts it off again.", map[string]string{"up": "up", "across": "across", "both": "both ways"}[l.Told.Brush])
	}
}

func tooFewPasses(l *look) {
	if !l.known(l.Goal != "", "how it is to look") || l.Goal != "even" && l.Goal != "heather" || !l.known(l.Passes > 0, "how many passes") || len(l.Fibres) < 2 {
		return
	}
	if l.holds("passes", "one") { // and keeps the streaks
		return
	}
	need := l.b("passes")
	if l.Goal == "even" {
		for _, f := range l.Fibres {
			if f.Share > 0 && below(f.Share, l.b("small")) {
				need = l.b("even")
			}
		}
	}
	if float64(l.Passes) < need {
		l.find(Hint, values{"passes": float64(l.Passes), "limit": need}, "It is to be %s, and is planned for %s.",
			map[string]string{"even": "even", "heather": "heathered"}[l.Goal], map[bool]string{true: "one pass", false: "two passes"}[l.Passes == 1])
	}
}

func tooManyPasses(l *look) {
	if !l.known(l.Passes > 0, "how many passes") {
		return
	}
	fine := l.Sum(func(f Fibre) bool { return f.Kind.Nep && f.body() && below(f.thickUM(), l.b("fine")) })
	weight := Caution
	if l.holds("passes", "look") { // as many as the eye asks for
		weight = Hint
	}
	switch {
	case above(float64(l.Passes), l.b("passes")):
		l.find(weight, values{"passes": float64(l.Passes), "limit": l.b("passes")}, "%d passes break more than they mix.", l.Passes)
	case above(float64(l.Passes), l.b("fine passes")) && atLeast(fine, l.b("share")):
		l.find(weight, values{"passes": float64(l.Passes), "limit": l.b("fine passes"), "share": fine},
			"%g %% of it is fine and rolls up into specks in %d passes.", percent(fine), l.Passes)
	}
}

func notSplit(l *look) {
	if !l.known(l.Passes > 0, "how many passes") || l.Passes < 2 || !l.known(l.Told.Strips != nil, "into how many strips it is torn between") {
		return
	}
	if *l.Told.Strips < 2 {
		l.find(Hint, values{"strips": float64(*l.Told.Strips)}, "It goes in again whole: left stays left, and it is too thick for the small drum.")
	}
}

func specks(l *look) {
	if !l.known(l.Told.Specks != nil, "the specks in a pinch") {
		return
	}
	if n := float64(*l.Told.Specks); above(n, l.b("specks")) {
		what := "%d specks in a pinch of a gram: more carding tightens them."
		if above(n, l.b("stop")) {
			what = "%d specks in a pinch of a gram: no further pass."
		}
		weight := Caution
		if l.holds("specks", "show") && !above(n, l.b("stop")) { // they come to light and can be picked out
			weight = Hint
		}
		l.find(weight, values{"specks": n, "limit": l.b("specks")}, what, *l.Told.Specks)
	}
}

func blendedAway(l *look) {
	if !l.known(l.Passes > 0, "how many passes") {
		return
	}
	for i, f := range l.Fibres {
		if (f.dots() || f.lock() || f.sparkle() || f.Kind.Key == "yarn_snips") && f.Share > 0 && l.Passes > max(f.Joins, 1) {
			l.find(Caution, values{"pass": float64(max(f.Joins, 1)), "limit": float64(l.Passes)},
				"%s come in at pass %d of %d; what follows opens and buries them.",
				f.Name, max(f.Joins, 1), l.Passes).of(i)
		}
	}
}
