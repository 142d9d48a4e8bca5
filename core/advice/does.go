package advice

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/unit"
)

// Does is what a mend of shares does to a blend beside ending its finding.
type Does struct {
	Colour *Recoloured // nil: nothing is known of the colour, or it is no mend of shares
	Moved  []Moved     // fibres of which more or less is taken, by a step of a tenth of a gram at least
}

// Recoloured is the colour of the even mix before and after.
type Recoloured struct {
	Before, After colour.Lab
	colour.Apart
}

// Moved is a fibre with what is taken of it beyond what was.
type Moved struct {
	Name string
	By   unit.Grams
}

// leastMoved is the weight below which a fibre counts as not moved, in grams: half of what is shown.
const leastMoved = 0.05

// Does tells what a mend does to the plan that it mends.
func (m *Mend) Does(p Plan) (out Does) {
	if m.Verb != "share" && m.Verb != "add" {
		return out
	}
	fibres, mix := p.Fibres, p.Mix
	if m.Add != 0 { // the last was not there before
		fibres, mix = m.After.Fibres, m.After.Mix
	}
	before, after := make([]float64, len(fibres)), make([]float64, len(fibres))
	for i, f := range fibres {
		if i < len(p.Fibres) {
			before[i] = p.Fibres[i].Share
		}
		after[i] = m.After.Fibres[i].Share
		if by := (after[i] - before[i]) * p.TotalG; math.Abs(by) >= leastMoved {
			out.Moved = append(out.Moved, Moved{f.Name, unit.Grams(math.Round(10*by) / 10)})
		}
	}
	if mix != nil {
		a, b := mix(before), mix(after)
		out.Colour = &Recoloured{a, b, colour.Compare(a, b)}
	}
	return out
}
