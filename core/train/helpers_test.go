package train

import (
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/unit"
)

func unitless(v float64) unit.Grams { return unit.Grams(v) }

func degreeAt(word string) int { return slices.Index(colour.Degrees, word) }

// toward is a colour so far from p in a direction by its word.
func toward(p colour.Lab, way string, far float64) colour.Lab {
	dir := slices.Index(ways, way)
	if dir < 4 {
		return moved(p, dir, far)
	}
	for _, turn := range []int{4, 5} {
		if q := moved(p, turn, far); p != q {
			if _, first, _ := colour.Told(p, q); first == way {
				return q
			}
		}
	}
	return colour.Lab{L: 1000}
}
