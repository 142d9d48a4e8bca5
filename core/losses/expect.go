package losses

import "math"

// Lines part what a fibre loses into what is weighed apart from each other and what never is: droppings,
// specks picked by hand, and what flies; parts of 1 (losses.md, section 2).
type Lines struct{ Droppings, Picked, Fly float64 }

// Without is the part of a loss that no line tells where those were weighed; what flies never is.
func (l Lines) Without(droppings, picked bool) float64 {
	part := l.Fly
	if !droppings {
		part += l.Droppings
	}
	if !picked {
		part += l.Picked
	}
	return part
}

// Unweighed is what is usually lost of fibres, grams, by the lines that were not weighed: part gives of each
// kind what part of its loss that is.
func Unweighed(parts []Went, usual func(kind string) Belief, part func(kind string) float64) Belief {
	var mean, variance float64
	for _, p := range parts {
		b, g := usual(p.Kind), p.Grams*p.times()*part(p.Kind)
		mean += g * b.Mean
		variance += g * b.SD * g * b.SD
	}
	return Belief{mean, math.Sqrt(variance)}
}
