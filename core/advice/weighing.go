package advice

import (
	"math"

	"fairtangle/core/losses"
	"fairtangle/core/unit"
)

// spread is how far the heaviest and the lightest lie from the mean, in parts of it.
func spread(grams []float64) (worst float64) {
	var mean float64
	for _, g := range grams {
		mean += g / float64(len(grams))
	}
	for _, g := range grams {
		worst = math.Max(worst, math.Abs(g-mean)/math.Max(mean, near))
	}
	return worst
}

func drift(l *look) {
	if !l.known(len(l.Told.BattsG) > 1, "what the batts weigh") {
		return
	}
	lo, hi := l.Told.BattsG[0], l.Told.BattsG[0]
	for _, g := range l.Told.BattsG {
		lo, hi = math.Min(lo, g), math.Max(hi, g)
	}
	if d := (hi - lo) / math.Max(lo, near); above(d, l.b("weight")) {
		l.find(Caution, values{"differ": d, "limit": l.b("weight")}, "The batts weigh from %s to %s.", tenths(lo), tenths(hi))
	}
}

func bobbins(l *look) {
	if !l.known(len(l.Told.BobbinsG) > 0, "what each bobbin gets") || len(l.Told.BobbinsG) < 2 {
		return
	}
	if d := spread(l.Told.BobbinsG); above(d, l.b("weight")) {
		l.find(Caution, values{"differ": d, "limit": l.b("weight")}, "The parts for the bobbins differ from their mean by up to %g %%.", percent(d))
	}
}

func noAllowance(l *look) {
	if !l.known(l.Told.TargetG != nil, "what is to come off") || !l.known(l.TotalG > 0, "the weight of it") ||
		!l.known(l.Told.LossPct != nil || l.Passes > 0, "how many passes") {
		return
	}
	need := *l.Told.TargetG / math.Max(l.yield(), 0.05)
	for _, more := range []*float64{l.Told.ClothG, l.Told.SampleG} {
		if more != nil {
			need += *more
		}
	}
	if below(l.TotalG, need-l.StepG) {
		l.find(Caution, values{"grams": l.TotalG, "limit": need}, "%s are weighed in for %s that are to come off; it takes %s.",
			tenths(l.TotalG), tenths(*l.Told.TargetG), tenths(need))
	}
}

// yield is the part of what is weighed in that comes off after all passes: as told, else by what each fibre
// usually loses from the pass at which it joins.
func (l *look) yield() (part float64) {
	if l.Told.LossPct != nil {
		return 1 - *l.Told.LossPct/100
	}
	var off float64 // weighed in for so much that comes off
	for _, f := range l.Fibres {
		way := losses.Way{Fall: losses.Fall{First: f.Kind.LossPct.Mid() / 100, Decay: f.Kind.Decay}, Alone: f.Alone, Joins: f.Joins, Passes: l.Passes}
		off += f.Share / math.Max(way.Yield(), 0.05)
	}
	return 1 / math.Max(off, 1)
}

func noSample(l *look) {
	if !l.known(l.Told.Sampled != nil, "whether a sample was carded") || *l.Told.Sampled {
		return
	}
	if above(l.TotalG, l.b("grams")) || float64(len(l.Fibres)) >= l.b("fibres") {
		l.find(Hint, values{"grams": l.TotalG, "limit": l.b("grams"), "fibres": float64(len(l.Fibres))},
			"%s of %d fibres, and no sample was carded.", tenths(l.TotalG), len(l.Fibres))
	}
}

func stockShort(l *look) {
	told := false
	for _, f := range l.Fibres {
		told = told || f.HaveG != nil
	}
	if !l.known(told, "what is on the shelf") || !l.known(l.TotalG > 0, "the weight of it") {
		return
	}
	for i, f := range l.Fibres {
		if need := f.Share * l.TotalG; f.HaveG != nil && above(need, *f.HaveG) {
			l.find(Stop, values{"grams": need, "limit": *f.HaveG}, "It takes %s of %s, and there are %s.", tenths(need), f.Name, tenths(*f.HaveG)).of(i)
		}
	}
}

func scaleCoarse(l *look) {
	if !l.known(l.TotalG > 0, "the weight of it") || !l.known(l.StepG > 0, "the step of the scale") {
		return
	}
	for i, f := range l.Fibres {
		grams := f.Share * l.TotalG / float64(max(1, l.Units))
		if f.Share > 0 && below(grams, l.b("steps")*l.StepG) {
			l.find(Hint, values{"grams": grams, "limit": l.b("steps") * l.StepG}, "%s of %s in a batt is hardly weighed on steps of %s.",
				tenths(grams), f.Name, unit.Grams(l.StepG)).of(i)
		}
	}
}
