package laying

import (
	"fairtangle/core/hands"
)

// Motions are what hands do at each step of the work of a lay-up.
func (out Layup) Motions() [][]hands.Motion {
	return hands.For(hands.Work{Plan: out.LaidPlan, Bed: out.Bed, Fibres: out.LaidFibres, Last: out.LastPass}, out.Steps)
}
