package show

import (
	"regexp"
	"strconv"

	"fairtangle/core/unit"
)

var (
	quantities = regexp.MustCompile(`((?:\d+(?:\.\d+)?(?:, | or | to | and ))*\d+(?:\.\d+)?) (g/cm3|g|mm|cm)\b`)
	oneNumber  = regexp.MustCompile(`\d+(?:\.\d+)?`)
)

// ozPerCubicInch is a gram in a cubic centimetre.
const ozPerCubicInch = inchCM * inchCM * inchCM / unit.GramsPerOunce

// Prose writes the weights and lengths of a text that was written in grams and millimetres in the
// maker's units: single ones, ranges and lists.
func (u Units) Prose(s string) string {
	return quantities.ReplaceAllStringFunc(s, func(found string) string {
		m := quantities.FindStringSubmatch(found)
		var factor float64
		var word string
		switch {
		case m[2] == "g" && u.Ounces:
			factor, word = 1/unit.GramsPerOunce, "oz"
		case m[2] == "g/cm3" && (u.Ounces || u.Inches):
			factor, word = ozPerCubicInch, "oz/cu in"
		case m[2] == "mm" && u.Inches:
			factor, word = 1/(10*inchCM), "in"
		case m[2] == "cm" && u.Inches:
			factor, word = 1/inchCM, "in"
		default:
			return found
		}
		return oneNumber.ReplaceAllStringFunc(m[1], func(n string) string {
			v, _ := strconv.ParseFloat(n, 64)
			return figures(v * factor)
		}) + " " + word
	})
}

// figures writes a number to two figures, as prose does.
func figures(v float64) string {
	w, _ := strconv.ParseFloat(strconv.FormatFloat(v, 'g', 2, 64), 64)
	return Number(w)
}
