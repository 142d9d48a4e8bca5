package advice

import (
	"math"
	"slices"

	"fairtangle/core/colour"
)

// coloured reports whether the colours are known.
func (l *look) coloured() bool {
	for _, f := range l.Fibres {
		if !l.known(f.Lab != nil, "the colours") {
			return false
		}
	}
	return len(l.Fibres) > 0
}

func muddy(l *look) {
	if !l.coloured() || l.Mix == nil || !l.known(l.Passes > 0, "how many passes") || l.Passes < 2 {
		return
	}
	shares, mean := make([]float64, len(l.Fibres)), 0.0
	for i, f := range l.Fibres {
		shares[i] = f.Share
		mean += f.Share * f.Lab.Chroma()
	}
	for i, a := range l.Fibres {
		for k := i + 1; k < len(l.Fibres); k++ {
			b := l.Fibres[k]
			if !atLeast(a.Share, l.b("share")) || !atLeast(b.Share, l.b("share")) || a.Lab.Chroma() < l.b("chroma") || b.Lab.Chroma() < l.b("chroma") {
				continue
			}
			apart := math.Abs(a.Lab.Hue() - b.Lab.Hue())
			if apart < l.b("from") || apart > l.b("to") {
				continue
			}
			if left := l.Mix(shares).Chroma() / math.Max(mean, near); below(left, l.b("left")) {
				l.find(Hint, values{"left": left, "limit": l.b("left"), "hue_deg": apart},
					"%s and %s lie opposite each other; mixed through, %g %% of their colour is left.",
					a.Name, b.Name, percent(left)).of(k)
				return
			}
		}
	}
}

func gradientJump(l *look) {
	if !l.known(l.Goal != "", "how it is to look") || l.Goal != "gradient" || !l.coloured() || len(l.Fibres) < 3 {
		return
	}
	steps := make([]float64, len(l.Fibres)-1)
	for i := range steps {
		steps[i] = colour.CIEDE2000(*l.Fibres[i].Lab, *l.Fibres[i+1].Lab)
	}
	sorted := slices.Sorted(slices.Values(steps))
	median := sorted[len(sorted)/2]
	if len(sorted)%2 == 0 {
		median = (sorted[len(sorted)/2-1] + sorted[len(sorted)/2]) / 2
	}
	for i, d := range steps {
		light := math.Abs(l.Fibres[i].Lab.L - l.Fibres[i+1].Lab.L)
		if above(d, l.b("of the median")*median) || above(light, l.b("lightness")) {
			l.find(Hint, values{"delta_e": d, "median": median, "lightness": light, "limit": l.b("of the median") * median},
				"From %s to %s the gradient jumps.", l.Fibres[i].Name, l.Fibres[i+1].Name).of(i + 1)
			return
		}
	}
}

// lightness is that of the mix, or of the lightest of a tenth or more where it can not be mixed.
func (l *look) lightness() float64 {
	if l.Mix != nil {
		shares := make([]float64, len(l.Fibres))
		for i, f := range l.Fibres {
			shares[i] = f.Share
		}
		return l.Mix(shares).L
	}
	most := 0.0
	for _, f := range l.Fibres {
		most += f.Share * f.Lab.L
	}
	return most
}

func (l *look) cleanedOrNot() bool {
	return l.Told.Cleaned != nil && *l.Told.Cleaned
}

func darkThenLight(l *look) {
	if !l.known(l.Told.BeforeL != nil, "what was on the equipment before") || !l.coloured() || l.cleanedOrNot() {
		return
	}
	if up := l.lightness() - *l.Told.BeforeL; atLeast(up, l.b("lightness")) {
		l.find(Caution, values{"lightness": up, "limit": l.b("lightness")}, "Something darker was on it before, and nothing was cleaned since.")
	}
}

func sparkleThenPlain(l *look) {
	if !l.known(l.Told.BeforeShed != nil, "whether film, dog down or coloured neps were on it before") || !*l.Told.BeforeShed || l.cleanedOrNot() {
		return
	}
	plain := l.Sum(Fibre.sparkle) == 0 && l.Sum(Fibre.dots) == 0
	if plain || l.Told.ForSale != nil && *l.Told.ForSale {
		l.find(Caution, values{}, "What was on it before sheds slivers and short hair into this for many batts.")
	}
}

func bleed(l *look) {
	told := false
	for _, f := range l.Fibres {
		told = told || f.DyedByHand != nil || f.recycled()
	}
	if !l.known(told, "whether it was dyed by hand") || !l.coloured() {
		return
	}
	for i, f := range l.Fibres {
		if !is(f.DyedByHand) && !f.recycled() || is(f.BleedTested) {
			continue
		}
		pale := l.Sum(func(o Fibre) bool { return atLeast(o.Lab.L-f.Lab.L, l.b("lightness")) })
		if atLeast(pale, l.b("share")) {
			l.find(Caution, values{"share": pale, "limit": l.b("share")},
				"%s was %s and not tested; %g %% of the blend is much lighter.", f.Name,
				map[bool]string{true: "dyed by hand", false: "made of used threads"}[is(f.DyedByHand)], percent(pale)).of(i)
			return
		}
	}
}
