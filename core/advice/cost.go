package advice

import (
	"cmp"
	"fairtangle/core/day"
	"math"
)

// Cost is what is at stake if a finding is left as it is, where that can be worked out: grams of
// fibre that may be lost, shed or spoiled, minutes of work more, and by how much the look goes
// astray (chroma, or CIEDE2000).
type Cost struct {
	Grams   float64
	Minutes float64
	Look    float64
}

// cleanMinutes is what a full cleaning takes.
const cleanMinutes = day.FullMin

// cost works out what is at stake. What spoils the batt costs all of it, what sheds or stays
// in the cloth costs what there is of it, what is out of place has to be done again.
func (p Plan) cost(f Finding) (c Cost) {
	all, units := p.TotalG, float64(max(1, p.Units))
	if all == 0 {
		all = p.UnitG() * units
	}
	part := all
	if f.Component >= 0 && f.Component < len(p.Fibres) {
		part = all * p.Fibres[f.Component].Share
	}
	unitMinutes := 0.0
	if p.Bed != nil {
		unitMinutes = p.Bed.Minutes
	}
	switch f.Rule {
	case "R02", "R09", "R17", "R49", "R56", "R59": // the batt is spoiled, or the cloth with it
		c.Grams = all
	case "R01", "R03", "R04", "R06", "R07", "R10", "R11", "R25", "R27", "R29", "R30", "R37", "R52", "R53", "R54": // that fibre tangles, sheds or is hidden
		c.Grams = part
	case "R08", "R12", "R13": // what is beyond the figure is not held
		c.Grams = all * math.Max(0, f.Values["share"]-f.Values["limit"])
	case "R16": // above the pins
		c.Grams = math.Max(0, f.Values["grams"]-f.Values["capacity_g"]) * units
		c.Minutes = unitMinutes
	case "R24": // the first tenth stays in the cloth
		c.Grams = 0.1 * all
	case "R19", "R20": // the batt is torn there
		c.Grams = math.Abs(f.Values["load"]-f.Values["mean"]) * (f.Values["to"] - f.Values["from"]) * p.Capacity() * units
	case "R26": // each pass wears it
		c.Grams = part * p.Fibres[max(0, f.Component)].Kind.LossPct.Mid() / 100 * (f.Values["limit"] - f.Values["pass"])
	case "R34":
		c.Minutes = unitMinutes * units * math.Max(0, f.Values["passes"]-f.Values["limit"])
	case "R38":
		c.Look = p.dulled(f)
	case "R39":
		c.Look = math.Max(0, f.Values["delta_e"]-f.Values["median"])
	case "R40", "R41":
		c.Minutes = cleanMinutes
	case "R42":
		c.Grams = all * f.Values["share"]
	case "R45", "R47":
		c.Grams = math.Abs(f.Values["limit"] - f.Values["grams"])
	case "R18":
		c.Minutes = unitMinutes
	}
	return c
}

// dulled is the colour that opposite colours lose to each other: the mean chroma that goes.
func (p Plan) dulled(f Finding) float64 {
	if p.Mix == nil {
		return 0
	}
	var mean float64
	for _, v := range p.Fibres {
		if v.Lab != nil {
			mean += v.Share * v.Lab.Chroma()
		}
	}
	return mean * (1 - f.Values["left"])
}

// Dearer orders findings: stops, cautions, hints; within those what costs more fibre, then more
// time, then more of the look.
func Dearer(a, b Finding) int {
	rank := map[Severity]int{Stop: 0, Caution: 1, Hint: 2}
	return cmp.Or(
		cmp.Compare(rank[a.Severity], rank[b.Severity]), cmp.Compare(b.Cost.Grams, a.Cost.Grams), cmp.Compare(b.Cost.Minutes, a.Cost.Minutes),
		cmp.Compare(b.Cost.Look, a.Cost.Look),
	)
}
