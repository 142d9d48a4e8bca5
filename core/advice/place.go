package advice

import (
	"fmt"
	"slices"
)

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

// belongs are the rules that are spoken of in a place, the first of a rule's places being its home:
// there it is counted, and usually mended.
var belongs = func() map[string][]Place {
	out := map[string][]Place{}
	put := func(places []Place, rules ...int) {
		for _, n := range rules {
			out[fmt.Sprintf("R%02d", n)] = places
		}
	}
	put([]Place{AtBlend, AtFibres, AtGradient, AtYarn}, 1, 2)
	put([]Place{AtLayup, AtBlend, AtFibres}, 3)
	put([]Place{AtBlend, AtFibres, AtGradient}, 4, 6, 7, 15)
	put([]Place{AtBlend, AtNeed, AtFibres, AtYarn}, 5, 14)
	put([]Place{AtBlend, AtFibres}, 8, 9, 10, 11, 12, 13)
	put([]Place{AtLayup, AtBlend}, 16, 17, 18)
	put([]Place{AtLayup}, 19, 20, 24, 25, 28, 29, 30, 31)
	put([]Place{AtCard, AtLayup}, 21, 22, 23, 32)
	put([]Place{AtLayup, AtBlend, AtCard}, 26, 27, 35, 37)
	put([]Place{AtBlend, AtNeed, AtLayup, AtCard}, 33, 34)
	put([]Place{AtCard}, 36, 41, 51, 57, 65, 67, 68, 69, 70, 71, 72, 73)
	put([]Place{AtBlend, AtNeed, AtGradient}, 38)
	put([]Place{AtGradient, AtNeed, AtBlend}, 39)
	put([]Place{AtCard, AtGradient, AtWeigh}, 40)
	put([]Place{AtFibres, AtBlend, AtGradient, AtWeigh}, 42)
	put([]Place{AtYarn, AtCard}, 43)
	put([]Place{AtYarn, AtWeigh}, 44)
	put([]Place{AtNeed, AtBlend, AtWeigh}, 45)
	put([]Place{AtBlend, AtNeed, AtWeigh}, 46, 47)
	put([]Place{AtBlend, AtWeigh}, 48)
	put([]Place{AtFibres, AtBlend, AtWeigh, AtCard}, 49, 50, 52, 53, 54, 55, 56, 59)
	put([]Place{AtNeed, AtBlend, AtYarn}, 58)
	put([]Place{AtYarn}, 60, 62, 64, 74)
	put([]Place{AtLayup, AtYarn}, 61, 63)
	put([]Place{AtYarn, AtNeed}, 66)
	for n := 1; n <= laidOnly; n++ {
		out[fmt.Sprintf("L%02d", n)] = []Place{AtLayup}
	}
	out["L03"] = []Place{AtLayup, AtWeigh}
	return out
}()

// Belongs reports whether a rule is spoken of in a place.
func Belongs(rule string, at Place) bool { return slices.Contains(belongs[rule], at) }

// Home is the place where a rule's findings are counted.
func Home(rule string) Place { return belongs[rule][0] }
