package advice

import (
	"math"

	"fairtangle/core/unit"
)

// done is a mender for what is put right by hand and then told.
func done(said string, list ...Telling) mender {
	return func(p Plan, f Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
		for _, a := range list {
			at := -1
			if q, _ := QuestionOf(a.Key); q.Of == OfLot {
				at = f.Component
			}
			p.answer(a.Key, at, a.Value)
		}
		return p, "tell", unit.Say("%s", said), true
	}
}

func tells(key string, v float64) Telling { return Telling{Key: key, Fibre: -1, Value: v} }

func mendSample(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	p.Told.Sampled = yes(1)
	return p, "sample", unit.Say("Weigh out a sample of a few grams first."), true
}

// mendCloth takes other equipment of the same sort whose cloth suits all fibres: the coarsest such
// where it was too coarse, the finest where it was too fine.
func mendCloth(p Plan, f Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	best := -1
	for i, c := range p.Others {
		if c.Bed.Type != p.Bed.Type || c.Bed.TPI <= 0 || best >= 0 && (c.Bed.TPI > p.Others[best].Bed.TPI) == (f.Rule == "R06") {
			continue
		}
		suits := true
		for _, v := range p.Fibres {
			suits = suits && (!v.body() || v.Share < b("share")-near || !below(c.Bed.TPI, v.Kind.MinTPI)) &&
				(v.Share < b("share")-near || v.Kind.MaxTPI <= 0 || !above(c.Bed.TPI, v.Kind.MaxTPI))
		}
		if suits {
			best = i
		}
	}
	if best < 0 {
		return p, "", unit.Sentence{}, false
	}
	p.Bed, p.cloth = p.Others[best].Bed, p.Others[best].ID
	return p, "equipment", unit.Say("On %s.", p.Others[best].Name), true
}

// rods are the thicknesses that there are, mm.
var rods = []float64{6, 8, 10, 12, 15}

// mendRod takes the rod round which 0.35 of the staple laps.
func mendRod(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	var sum, share float64
	for _, f := range p.Fibres {
		if f.body() && atLeast(f.Share, 0.10) {
			sum, share = sum+f.Share*f.staple(), share+f.Share
		}
	}
	want := 0.35 * sum / math.Max(share, near) / math.Pi
	best := rods[0]
	for _, r := range rods {
		if math.Abs(r-want) < math.Abs(best-want) {
			best = r
		}
	}
	p.answer("dowel_mm", -1, best)
	return p, "tell", unit.Say("A rod of %s.", unit.Millimetres(best)), true
}

// mendHole draws off along the fibre through a hole that suits it.
func mendHole(p Plan, _ Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	hole := 6.0
	for _, f := range p.Fibres {
		if f.body() && atLeast(f.Share, 0.10) && below(f.thickUM(), 22) {
			hole = 4
		}
	}
	hole = math.Min(math.Max(hole, b("from")), b("to"))
	p.answer("pull_across", -1, 0)
	p.answer("dizz_mm", -1, hole)
	return p, "tell", unit.Say("Round the drum, through a hole of %s, half a staple at a time.", unit.Millimetres(hole)), true
}
