package advice

import (
	"strings"

	"fairtangle/core/fibre"
)

func greasy(l *look) {
	for i, f := range l.Fibres {
		if f.Preparation == "raw_fleece" && f.Share > 0 {
			l.find(Stop, values{"share": f.Share}, "%s is raw: its grease stays in the cloth.", f.Name).of(i)
		}
	}
}

// each looks at what may have been told of every fibre.
func (l *look) each(told func(Fibre) bool, what string, such func(int, Fibre)) {
	any := false
	for i, f := range l.Fibres {
		if told(f) {
			any = true
			such(i, f)
		}
	}
	l.known(any, what)
}

func is(b *bool) bool { return b != nil && *b }

func residualGrease(l *look) {
	l.each(func(f Fibre) bool { return f.Tacky != nil }, "whether washed fibre is still tacky", func(i int, f Fibre) {
		if is(f.Tacky) {
			l.find(Caution, values{}, "%s is tacky still.", f.Name).of(i)
		}
	})
}

func dust(l *look) {
	if is(l.Told.DustCared) || !l.known(l.TotalG > 0, "the weight of it") || !above(l.UnitG(), l.b("grams")) {
		return
	}
	for i, f := range l.Fibres {
		camelid := strings.HasPrefix(f.Kind.Key, "alpaca") || strings.HasPrefix(f.Kind.Key, "llama") || strings.HasPrefix(f.Kind.Key, "camel")
		if f.Preparation == "raw_fleece" || is(f.Dusty) || f.Kind.Family == "bast" || f.Kind.Family == "cotton" || f.Kind.Key == "dog_down" || camelid {
			l.find(Caution, values{"share": f.Share}, "%s throws dust.", f.Name).of(i)
			return
		}
	}
}

func plants(l *look) {
	l.each(func(f Fibre) bool { return f.PlantPct != nil || f.Burrs != nil }, "how much of plants is in it", func(i int, f Fibre) {
		if is(f.Burrs) {
			l.find(Caution, values{}, "There are burrs in %s.", f.Name).of(i)
		} else if f.PlantPct != nil && above(*f.PlantPct, l.b("share")) {
			l.find(Caution, values{"pct": *f.PlantPct, "limit": l.b("share")}, "%g %% of %s are bits of plants.", *f.PlantPct, f.Name).of(i)
		}
	})
}

func secondCuts(l *look) {
	l.each(func(f Fibre) bool { return f.SecondCutsPct != nil }, "how many second cuts are in it", func(i int, f Fibre) {
		if above(*f.SecondCutsPct, l.b("share")) {
			l.find(Caution, values{"pct": *f.SecondCutsPct, "limit": l.b("share")}, "%g %% of %s are second cuts.", *f.SecondCutsPct, f.Name).of(i)
		}
	})
}

func brittle(l *look) {
	l.each(func(f Fibre) bool { return f.Tender != nil }, "whether the tips are sound", func(i int, f Fibre) {
		if is(f.Tender) {
			l.find(Caution, values{}, "The tips of %s break.", f.Name).of(i)
		}
	})
}

func doubleCoat(l *look) {
	for i, f := range l.Fibres {
		if fibre.TwoCoats(f.Kind, f.Preparation) && l.known(f.Parted != nil, "whether the coats were parted") && !is(f.Parted) {
			l.find(Caution, values{"share": f.Share}, "%s has two coats, and nobody has said what becomes of them.", f.Name).of(i)
		}
	}
}

func damp(l *look) {
	l.each(func(f Fibre) bool { return f.Damp != nil || f.WashedHours != nil || f.OverWeightPct != nil }, "when it was washed", func(i int, f Fibre) {
		switch {
		case is(f.Damp):
			l.find(Stop, values{}, "%s is damp.", f.Name).of(i)
		case f.WashedHours != nil && below(*f.WashedHours, l.b("hours")):
			l.find(Stop, values{"hours": *f.WashedHours, "limit": l.b("hours")},
				"%s was washed %g hours ago and is not dry through.", f.Name, *f.WashedHours).of(i)
		case f.OverWeightPct != nil && above(*f.OverWeightPct, l.b("over")):
			l.find(Stop, values{"pct": *f.OverWeightPct, "limit": l.b("over")}, "%s weighs %g %% more than when it is dry.", f.Name, *f.OverWeightPct).of(i)
		}
	})
}

func static(l *look) {
	if !l.known(l.Told.HumidityPct != nil, "how humid the room is") {
		return
	}
	share := l.Sum(func(f Fibre) bool { return f.Kind.Static })
	if atLeast(share, l.b("share")) && below(*l.Told.HumidityPct, l.b("humidity")) {
		l.most(l.find(Caution, values{"share": share, "humidity_pct": *l.Told.HumidityPct, "limit": l.b("humidity")},
			"%g %% of it charges up, and the room has %g %% humidity.", percent(share), *l.Told.HumidityPct), func(f Fibre) bool { return f.Kind.Static })
	}
}

func feltingMix(l *look) {
	if !l.used("machine-wash", "felting") {
		return
	}
	felts := l.Sum(Fibre.felts)
	not := l.Sum(func(f Fibre) bool { return !f.felts() })
	if atLeast(felts, l.b("share")) && atLeast(not, l.b("share")) {
		l.find(Caution, values{"share": felts, "other": not, "limit": l.b("share")},
			"%g %% of it felts in the wash and %g %% does not.", percent(felts), percent(not))
	}
}

func moths(l *look) {
	l.each(func(f Fibre) bool { return f.MothSigns != nil }, "whether there are signs of moths", func(i int, f Fibre) {
		if is(f.MothSigns) {
			l.find(Stop, values{}, "There are signs of moths in %s.", f.Name).of(i)
		}
	})
}

func stored(l *look) {
	if !l.known(l.Told.Stored != "" || l.Told.AgeMonths != nil, "how it is stored") {
		return
	}
	if l.Told.Stored == "compressed" || l.Told.Stored == "sealed" || l.Told.AgeMonths != nil && above(*l.Told.AgeMonths, l.b("months")) {
		l.find(Hint, values{}, "Squeezed, sealed or long forgotten, a batt sets flat and moths find it.")
	}
}
