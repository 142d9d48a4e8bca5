package advice

import (
	"math"

	"fairtangle/core/unit"
)

// main is the fibre that there is most of.
func (l *look) main() (f Fibre, ok bool) {
	for _, v := range l.Fibres {
		if v.body() && v.Share > f.Share {
			f, ok = v, true
		}
	}
	return f, ok
}

func rolagDensity(l *look) {
	if l.Product == "punis" || !l.known(l.Told.RolagG != nil && l.Told.RolagCM3 != nil && *l.Told.RolagCM3 > 0, "what a rolag weighs and measures") {
		return
	}
	switch d := *l.Told.RolagG / *l.Told.RolagCM3; {
	case above(d, l.b("tight")):
		l.find(Caution, values{"g_per_cm3": d, "limit": l.b("tight")}, "The rolag is rolled tight: it grips itself and drafts in jerks.")
	case below(d, l.b("loose")):
		l.find(Caution, values{"g_per_cm3": d, "limit": l.b("loose")}, "The rolag is rolled loose: it sheds and drifts apart.")
	}
}

func wrapLength(l *look) {
	if !l.known(l.Told.DrawOffMM != nil, "how much is drawn off for a rolag") {
		return
	}
	if f, ok := l.main(); ok && f.staple() > 0 {
		if times := *l.Told.DrawOffMM / f.staple(); below(times, l.b("short")) || above(times, l.b("long")) {
			l.find(Caution, values{"times": times, "low": l.b("short"), "high": l.b("long")}, "%s are %.1f staples; one and a half to two hold and still draft.",
				unit.Millimetres(*l.Told.DrawOffMM), times)
		}
	}
}

func dowel(l *look) {
	if !l.known(l.Told.DowelMM != nil, "how thick the rod is") {
		return
	}
	round := math.Pi * *l.Told.DowelMM
	short, long := math.Inf(1), 0.0
	for _, f := range l.Fibres {
		if f.body() && atLeast(f.Share, 0.10) {
			short, long = math.Min(short, f.staple()), math.Max(long, f.staple())
		}
	}
	if long == 0 {
		return
	}
	if above(round, l.b("of the shortest")*short) || below(round, l.b("of the longest")*long) {
		l.find(Hint, values{"mm": *l.Told.DowelMM}, "A rod of %s does not suit a staple of %s.", unit.Millimetres(*l.Told.DowelMM), unit.Millimetres(short))
	}
}

func puni(l *look) {
	if !l.known(l.Product != "", "what is made of it: a batt, rolags, punis, roving") || l.Product != "rolags" {
		return
	}
	if short := l.Sum(shortFibre); above(short, l.b("short")) {
		l.find(Hint, values{"share": short, "limit": l.b("short")}, "%g %% of it is short; as rolags it has too little to hold on to.", percent(short)).beside = true
	}
}

func dizz(l *look) {
	if !l.known(l.Product != "", "what is made of it: a batt, rolags, punis, roving") || l.Product != "roving" {
		return
	}
	if !l.known(l.Told.PullAcross != nil || l.Told.DizzMM != nil, "how it is drawn off") {
		return
	}
	hole := l.Told.DizzMM != nil && (below(*l.Told.DizzMM, l.b("from")) || above(*l.Told.DizzMM, l.b("to")))
	if is(l.Told.PullAcross) || hole {
		l.find(Hint, values{}, "Drawn across the fibre, or through a hole that does not suit, it folds and catches.")
	}
}

func stripping(l *look) {
	if l.known(l.Told.LiftedWrong != nil, "how it is lifted off") && *l.Told.LiftedWrong {
		l.find(Caution, values{}, "Lifted sideways, against the lean or with the drum going forward, the web tears and pins bend.")
	}
}

func label(l *look) {
	if !l.known(l.Told.ForSale != nil || l.Told.Labelled != nil, "whether it is for sale") {
		return
	}
	switch {
	case is(l.Told.ForSale) && is(l.Told.Labelled):
		l.find(Hint, values{}, "It is for sale: what its label has to say follows the law of your country.")
	case is(l.Told.ForSale), l.Told.Labelled != nil && !*l.Told.Labelled:
		l.find(Hint, values{}, "Whoever buys it, or finds it in a year, wants to read what is in it.")
	}
}
