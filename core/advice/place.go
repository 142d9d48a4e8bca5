package advice

import "slices"

// Place is where a maker stands along the way of a making.
type Place string

// The places, in their order.
const (
	AtNeed     Place = "need"
	AtFibres   Place = "fibres"
	AtBlend    Place = "blend"
	AtGradient Place = "gradient"
	AtLayup    Place = "lay-up"
	AtWeigh    Place = "weigh"
	AtCard     Place = "card"
	AtYarn     Place = "yarn"
)

// Places are all of them.
func Places() []Place {
	return []Place{AtNeed, AtFibres, AtBlend, AtGradient, AtLayup, AtWeigh, AtCard, AtYarn}
}

// Belongs reports whether a rule is spoken of in a place.
func Belongs(rule string, at Place) bool {
	return byID[rule] != nil && slices.Contains(byID[rule].at, at)
}

// Home is the place where a rule's findings are counted.
func Home(rule string) Place { return byID[rule].at[0] }
