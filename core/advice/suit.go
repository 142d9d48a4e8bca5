package advice

import (
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/unit"
)

// Figures come as sums of parts; a bound is met where it is met but for their rounding.
const near = 1e-9

func above(v, bound float64) bool   { return v > bound+near }
func atLeast(v, bound float64) bool { return v >= bound-near }
func below(v, bound float64) bool   { return v < bound-near }

func percent(v float64) float64 { return math.Round(1000*v) / 10 }

// staples are the components with the longest and the shortest staple among those of a share.
func (l *look) staples(share float64) (long, short int, ratio float64) {
	long, short = -1, -1
	for i, f := range l.Fibres {
		if !f.body() || !atLeast(f.Share, share) || f.staple() <= 0 {
			continue
		}
		if long < 0 || f.staple() > l.Fibres[long].staple() {
			long = i
		}
		if short < 0 || f.staple() < l.Fibres[short].staple() {
			short = i
		}
	}
	if long < 0 || long == short {
		return -1, -1, 1
	}
	return long, short, l.Fibres[long].staple() / l.Fibres[short].staple()
}

func stapleMismatch(l *look) {
	long, short, ratio := l.staples(l.b("share"))
	_, _, clash := l.staples(l.b("clash")) // that is a rule of its own
	if long >= 0 && above(ratio, l.b("ratio")) && !above(clash, l.b("to")) {
		l.find(Caution, values{"ratio": ratio, "limit": l.b("ratio")},
			"%s is %.1f times as long as %s.", l.Fibres[long].Name, ratio, l.Fibres[short].Name).of(long)
	}
}

func stapleClash(l *look) {
	long, short, ratio := l.staples(l.b("share"))
	if long >= 0 && above(ratio, l.b("ratio")) {
		l.find(Stop, values{"ratio": ratio, "limit": l.b("ratio")}, "%s is %.1f times as long as %s; they do not travel together.",
			l.Fibres[long].Name, ratio, l.Fibres[short].Name).of(short)
	}
}

func tooLongForDrum(l *look) {
	if !l.known(l.Bed != nil, "the equipment") || !l.drum() || !l.known(len(l.Layers) > 0, "how it is laid") {
		return
	}
	for i, f := range l.Fibres {
		long := f.staple()
		if f.PreparedMM > 0 {
			long = f.PreparedMM
		}
		if atLeast(f.Share, l.b("share")) && l.fed(i) && above(long, l.b("mm")) {
			l.find(Caution, values{"length_mm": long, "limit": l.b("mm")}, "%s is %s long and goes in from the tray.", f.Name, unit.Millimetres(long)).of(i)
		}
	}
}

func diameterMismatch(l *look) {
	for i, fine := range l.Fibres {
		for k, coarse := range l.Fibres {
			if !animal(fine) || !animal(coarse) || !atLeast(fine.Share, l.b("share")) || !atLeast(coarse.Share, l.b("share")) || i == k {
				continue
			}
			ratio := coarse.thickUM() / fine.thickUM()
			if fine.Kind.Nep && !above(fine.thickUM(), l.b("fine")) && above(ratio, l.b("ratio")) {
				l.find(Caution, values{"ratio": ratio, "limit": l.b("ratio")}, "%s is %.1f times as thick as %s.", coarse.Name, ratio, fine.Name).of(k)
			}
		}
	}
}

func animal(f Fibre) bool {
	return f.body() && (f.Kind.Family == "wool" || f.Kind.Family == "hair" || f.Kind.Family == "down")
}

// used reports whether it is known to be used for one of these.
func (l *look) used(these ...string) bool {
	if !l.known(l.Uses != nil, "what it is used for") {
		return false
	}
	for _, v := range these {
		if slices.Contains(l.Uses, v) {
			return true
		}
	}
	return false
}

// extras is how much too many extras weigh for who holds to one school or the other.
func (l *look) extras() Severity {
	if l.holds("extras", "free") {
		return Hint
	}
	return Caution
}

func prickle(l *look) {
	if !l.used("next-to-skin") {
		return
	}
	thick := func(f Fibre) bool { return f.body() && above(f.thickUM(), l.b("thick")) }
	share := l.Sum(thick)
	if atLeast(share, l.b("share")) {
		l.most(l.find(Hint, values{"share": share, "limit": l.b("share")},
			"%g %% of it is thicker than %g µm, next to the skin.", percent(share), l.b("thick")), thick)
	}
}

func (l *look) cloth() bool {
	if !l.known(l.Bed != nil, "the equipment") || !l.Bed.Pins() {
		return false
	}
	return l.known(l.Bed.TPI > 0, "how many pins the cloth has in a square inch")
}

func clothTooCoarse(l *look) {
	if !l.cloth() {
		return
	}
	for i, f := range l.Fibres {
		if f.body() && atLeast(f.Share, l.b("share")) && below(l.Bed.TPI, f.Kind.MinTPI) {
			l.find(Caution, values{"tpi": l.Bed.TPI, "limit": f.Kind.MinTPI},
				"%s wants %g pins in a square inch; here are %g.", f.Name, f.Kind.MinTPI, l.Bed.TPI).of(i)
		}
	}
}

func clothTooFine(l *look) {
	if !l.cloth() {
		return
	}
	for i, f := range l.Fibres {
		if atLeast(f.Share, l.b("share")) && f.Kind.MaxTPI > 0 && above(l.Bed.TPI, f.Kind.MaxTPI) {
			l.find(Caution, values{"tpi": l.Bed.TPI, "limit": f.Kind.MaxTPI}, "%s packs tight between %g pins in a square inch; %g is the most for it.",
				f.Name, l.Bed.TPI, f.Kind.MaxTPI).of(i)
		}
	}
}

func slipperyHigh(l *look) {
	share := l.Sum(Fibre.slippery)
	if above(share, l.b("from")) && !above(share, l.b("to")) {
		l.most(l.find(Caution, values{"share": share, "limit": l.b("from")}, "%g %% of it is slippery.", percent(share)), Fibre.slippery)
	}
}

func slipperyExtreme(l *look) {
	if !l.known(l.Bed != nil, "the equipment") {
		return
	}
	share, carrier := l.Sum(Fibre.slippery), l.Sum(Fibre.carrier)
	if l.drum() && above(share, l.b("from")) && below(carrier, l.b("carrier")) {
		l.most(l.find(Stop, values{"share": share, "limit": l.b("from"), "carrier": carrier}, "%g %% of it is slippery, and only %g %% is wool that carries.",
			percent(share), percent(carrier)), Fibre.slippery)
	}
}

func usualShare(l *look) {
	if l.alone() { // it is all there is, on purpose
		return
	}
	for i, f := range l.Fibres {
		if most := f.Kind.MaxPct / 100; most > 0 && above(f.Share, most) {
			l.find(Caution, values{"share": f.Share, "limit": most},
				"%s is usually at most %g %% of a blend; here it is %g %%.", f.Name, f.Kind.MaxPct, percent(f.Share)).of(i)
		}
	}
}

func sparkleHigh(l *look) {
	if share := l.Sum(Fibre.sparkle); above(share, l.b("share")) {
		l.most(l.find(l.extras(), values{"share": share, "limit": l.b("share")}, "%g %% of it glitters.", percent(share)), Fibre.sparkle)
	}
}

func textureHigh(l *look) {
	dots, all := l.Sum(Fibre.dots), l.Sum(Fibre.texture)
	switch {
	case above(dots, l.b("dots")):
		l.most(l.find(l.extras(), values{"share": dots, "limit": l.b("dots")}, "%g %% of it are neps and knops, which bind nothing.", percent(dots)), Fibre.dots)
	case above(all, l.b("share")):
		l.most(l.find(l.extras(), values{"share": all, "limit": l.b("share")}, "%g %% of it is texture, which binds nothing.", percent(all)), Fibre.texture)
	}
}

// shortFibre reports whether it is short.
func shortFibre(f Fibre) bool { return f.body() && f.staple() < 45 }

func shortAlone(l *look) {
	if !l.known(l.Product != "", "what is made of it: a batt, rolags, punis, roving") || l.Product == "punis" {
		return
	}
	short, carrier := l.Sum(shortFibre), l.Sum(Fibre.carrier)
	if atLeast(short, l.b("short")) && below(carrier, l.b("carrier")) {
		l.most(l.find(Caution, values{"share": short, "limit": l.b("short"), "carrier": carrier}, "%g %% of it is short, and only %g %% is wool that carries.",
			percent(short), percent(carrier)), shortFibre)
	}
}

func lowElasticity(l *look) {
	if !l.used("socks") {
		return
	}
	share := l.Sum(func(f Fibre) bool { return f.Kind.Crimp == "none" || f.Kind.Crimp == "low" })
	if above(share, l.b("share")) {
		l.most(l.find(Hint, values{"share": share, "limit": l.b("share")},
			"%g %% of it has little crimp, and the piece has to spring.", percent(share)), func(f Fibre) bool { return f.Kind.Crimp == "none" || f.Kind.Crimp == "low" })
	}
}

// coverage looks at two colours: where two fibres have the same one, nobody sees which of them covers more.
func coverage(l *look) {
	round := func(f Fibre) bool { return !f.sparkle() && !f.dots() && f.Share > 0 && f.Kind.Thickness() > 0 }
	thin, thick, most := -1, -1, 0.0
	for i, f := range l.Fibres {
		for k, o := range l.Fibres {
			if !round(f) || !round(o) || f.Lab != nil && o.Lab != nil && colour.CIEDE2000(*f.Lab, *o.Lab) < colour.HardlyTo {
				continue
			}
			if ratio := o.Kind.Thickness() / f.Kind.Thickness(); ratio > most {
				thin, thick, most = i, k, ratio
			}
		}
	}
	if thin >= 0 && above(most, l.b("ratio")) {
		l.find(Hint, values{"ratio": most, "limit": l.b("ratio")}, "A gram of %s colours %.1f times as much as one of %s.",
			l.Fibres[thin].Name, most, l.Fibres[thick].Name).of(thin)
	}
}
