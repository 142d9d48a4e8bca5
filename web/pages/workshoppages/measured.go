package workshoppages

import (
	"strings"

	"fairtangle/core/unit"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// measured is a number of a form, in the maker's units.
type measured struct {
	field, label string
	measure      string // length, pins, weight, usual (it may be left out), or empty for a plain number
}

// unit is the unit in which a field is typed.
func (n measured) unit(u show.Units) string {
	switch n.measure {
	case "length":
		return u.LengthUnit()
	case "pins":
		return map[bool]string{true: "in", false: "mm"}[u.Inches]
	case "weight":
		return u.Weight()
	}
	return ""
}

// text writes a stored value as it is typed.
func (n measured) text(v float64, u show.Units) string {
	switch {
	case n.measure == "length":
		return u.PlainLength(v)
	case n.measure == "pins" && u.Inches:
		return show.Number(v / unit.MMPerInch)
	case n.measure == "weight":
		return u.Amount(v)
	}
	return show.Number(v)
}

// read reads a field; what stands there as it was shown is what was stored.
func (n measured) read(r *frame.Reader, u show.Units, stored float64) float64 {
	text := strings.TrimSpace(r.Values.Get(n.field))
	if text != "" && text == n.text(stored, u) {
		return stored
	}
	switch n.measure {
	case "length":
		v, err := u.ReadLength(n.field, text)
		r.Add(err)
		return v
	case "weight":
		return r.Grams(u, n.field)
	case "usual":
		return r.OrUsual(n.field, "a number")
	case "pins":
		v := r.Number(n.field, "a height")
		if u.Inches {
			v *= unit.MMPerInch
		}
		return v
	}
	return r.Number(n.field, "a number")
}

// labelled are fields with what they are called, and their units.
func labelled(list []measured, u show.Units) []frame.Option {
	out := make([]frame.Option, len(list))
	for i, n := range list {
		out[i] = frame.Option{Value: n.field, Label: n.label}
		if unit := n.unit(u); unit != "" {
			out[i].Label += ", " + unit
		}
	}
	return out
}
