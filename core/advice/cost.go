package advice

import (
	"cmp"
	"math"

	"fairtangle/core/day"
)

// Cost is what is at stake if a finding is left as it is, where that can be worked out: grams of
// fibre that may be lost, shed or spoiled, minutes of work more, and by how much the look goes
// astray (chroma, or CIEDE2000).
type Cost struct {
	Grams   float64
	Minutes float64
	Look    float64
}

// stakes are what the cost of a finding is worked out from: the grams of all and of the fibre that it
// is about, the units, and the minutes that one takes.
type stakes struct {
	Plan
	Finding
	all, part, units, minutes float64
}

// cost works out what is at stake.
func (p Plan) cost(f Finding) Cost {
	r := byID[f.Rule]
	if r == nil || r.stake == nil {
		return Cost{}
	}
	s := stakes{Plan: p, Finding: f, all: p.TotalG, units: float64(max(1, p.Units))}
	if s.all == 0 {
		s.all = p.UnitG() * s.units
	}
	s.part = s.all
	if f.Component >= 0 && f.Component < len(p.Fibres) {
		s.part = s.all * p.Fibres[f.Component].Share
	}
	if p.Bed != nil {
		s.minutes = p.Bed.Minutes
	}
	return r.stake(&s)
}

// spoiled: the whole batt is, or the cloth with it.
func spoiled(s *stakes) Cost { return Cost{Grams: s.all} }

// thatFibre tangles, sheds or is hidden.
func thatFibre(s *stakes) Cost { return Cost{Grams: s.part} }

// beyond: what is beyond the figure is not held.
func beyond(s *stakes) Cost {
	return Cost{Grams: s.all * math.Max(0, s.Values["share"]-s.Values["limit"])}
}

// abovePins: what stands above them, and a unit more.
func abovePins(s *stakes) Cost {
	return Cost{Grams: math.Max(0, s.Values["grams"]-s.Values["capacity_g"]) * s.units, Minutes: s.minutes}
}

// onceMore: a unit more than there need be.
func onceMore(s *stakes) Cost { return Cost{Minutes: s.minutes} }

// firstTenth stays in the cloth.
func firstTenth(s *stakes) Cost { return Cost{Grams: 0.1 * s.all} }

// tornThere: what lies in the strip at which the batt tears.
func tornThere(s *stakes) Cost {
	v := s.Values
	return Cost{Grams: math.Abs(v["load"]-v["mean"]) * (v["to"] - v["from"]) * s.Capacity() * s.units}
}

// worn: each pass wears it.
func worn(s *stakes) Cost {
	return Cost{Grams: s.part * s.Fibres[max(0, s.Component)].Kind.LossPct.Mid() / 100 * (s.Values["limit"] - s.Values["pass"])}
}

// passesMore than there need be.
func passesMore(s *stakes) Cost {
	return Cost{Minutes: s.minutes * s.units * math.Max(0, s.Values["passes"]-s.Values["limit"])}
}

// jumped: by how much a step of a gradient is larger than most.
func jumped(s *stakes) Cost { return Cost{Look: math.Max(0, s.Values["delta_e"]-s.Values["median"])} }

// cleaned: a full cleaning.
func cleaned(*stakes) Cost { return Cost{Minutes: day.FullMin} }

// bled: what is pale enough to show it.
func bled(s *stakes) Cost { return Cost{Grams: s.all * s.Values["share"]} }

// lacking: what there is too little of.
func lacking(s *stakes) Cost { return Cost{Grams: math.Abs(s.Values["limit"] - s.Values["grams"])} }

// dulled is the colour that opposite colours lose to each other: the mean chroma that goes.
func dulled(s *stakes) (c Cost) {
	if s.Mix == nil {
		return c
	}
	var mean float64
	for _, v := range s.Fibres {
		if v.Lab != nil {
			mean += v.Share * v.Lab.Chroma()
		}
	}
	return Cost{Look: mean * (1 - s.Values["left"])}
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
