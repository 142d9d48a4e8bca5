package advice

import "slices"

// Station is where a maker stands along the way of a making.
type Station string

// The stations, in their order.
const (
	AtNeed     Station = "need"
	AtFibres   Station = "fibres"
	AtBlend    Station = "blend"
	AtGradient Station = "gradient"
	AtLayup    Station = "lay-up"
	AtWeigh    Station = "weigh"
	AtCard     Station = "card"
	AtYarn     Station = "yarn"
)

// Stations are all of them.
func Stations() []Station {
	return []Station{AtNeed, AtFibres, AtBlend, AtGradient, AtLayup, AtWeigh, AtCard, AtYarn}
}

// Belongs reports whether a rule is spoken of at a station.
func Belongs(rule string, at Station) bool {
	return byID[rule] != nil && slices.Contains(byID[rule].at, at)
}

// Home is the station where a rule's findings are counted.
func Home(rule string) Station { return byID[rule].at[0] }
