package yarns

import (
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/stash"
)

const notAColour = "A colour is # and six digits or letters a to f, or a word such as rust or pale grey-blue."

// colourNamed is a colour that was written or named in words.
func colourNamed(text string) (colour.Linear, bool) {
	if c, err := colour.ParseHex(text); err == nil {
		return c, true
	}
	c, err := colour.ParseHex(stash.ColourOf(text))
	return c, err == nil
}

// mostDepth is how much of a dye is foretold, of what makes white its colour.
const mostDepth = 4.0

// dyeOf is what becomes of a colour by the dye of a plan; of none, or of one that can not be read, the colour.
func dyeOf(p WholePlan, l *fault.List) func(colour.Linear) colour.Linear {
	dye, ok := colourNamed(p.Dye)
	if !ok && p.Dye != "" {
		l.Add("dye", notAColour)
	}
	depth := or(p.Depth, 1)
	if !(depth > 0 && depth <= mostDepth) {
		l.Add("depth", "It is above 0 and at most %g %%.", 100*mostDepth)
	}
	if p.Dye == "" || len(*l) > 0 {
		return func(c colour.Linear) colour.Linear { return c }
	}
	over, _ := dye.Reflectance()
	return func(c colour.Linear) colour.Linear {
		fibre, _ := c.Reflectance()
		r := mix.Overdyed(&fibre, &over, depth)
		return r.Linear()
	}
}
