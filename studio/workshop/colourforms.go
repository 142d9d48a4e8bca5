package workshop

import (
	"fmt"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
)

// ColourInput is a colour in exactly one of three forms.
type ColourInput struct {
	Hex         *string   `json:"hex,omitempty"`
	Lab         []float64 `json:"lab,omitempty"`
	Reflectance []float64 `json:"reflectance,omitempty"`
}

// Read returns the colour's reflectance; met is false where sRGB or no fibre can
// have the colour and the nearest was taken. Faults are on the form that is
// wrong.
func (c ColourInput) Read() (r colour.Reflectance, met bool, err error) {
	forms := 0
	for _, given := range []bool{c.Hex != nil, c.Lab != nil, c.Reflectance != nil} {
		if given {
			forms++
		}
	}
	if forms != 1 {
		return r, false, fault.New("", "A colour is given as exactly one of hex, lab and reflectance.")
	}
	switch {
	case c.Hex != nil:
		lin, err := colour.ParseHex(*c.Hex)
		if err != nil {
			return r, false, err
		}
		r, met = lin.Reflectance()
		return r, met, nil
	case c.Lab != nil:
		if len(c.Lab) != 3 || !(c.Lab[0] >= 0 && c.Lab[0] <= 100) || !(abs(c.Lab[1]) <= 200) || !(abs(c.Lab[2]) <= 200) {
			return r, false, fault.New("lab", "Lab is three numbers: L from 0 to 100, a and b from -200 to 200.")
		}
		r, met = colour.Lab{L: c.Lab[0], A: c.Lab[1], B: c.Lab[2]}.Linear().Reflectance()
		return r, met, nil
	}
	if len(c.Reflectance) != colour.Bands {
		return r, false, fault.New("reflectance", "A reflectance has 36 numbers, 380 to 730 nm by 10 nm; this has %d.", len(c.Reflectance))
	}
	for i, v := range c.Reflectance {
		if !(v >= 0 && v <= 1) {
			return r, false, fault.New(fmt.Sprintf("reflectance[%d]", i), "A reflectance lies between 0 and 1.")
		}
		r[i] = v
	}
	return r, true, nil
}

func abs(v float64) float64 { return max(v, -v) }

// Note says something about a field of a request that is no fault: that a colour
// no fibre can have was moved to the nearest one.
type Note struct {
	Field   string `json:"field"`
	Message string `json:"message"`
}

// NoteMoved notes a Lab that no reflectance has, with the colour taken in its place.
func (c ColourInput) NoteMoved(notes *[]Note, field string) {
	if len(c.Lab) != 3 {
		return
	}
	r, _, err := c.Read()
	if err != nil {
		return
	}
	want, got := colour.Lab{L: c.Lab[0], A: c.Lab[1], B: c.Lab[2]}, r.Lab()
	if d := colour.CIEDE2000(want, got); d > movedDelta {
		*notes = append(*notes, Note{field, fmt.Sprintf(
			"No fibre can have this colour; the nearest, L %.1f, a %.1f, b %.1f, was taken, %.1f CIEDE2000 from it.", got.L, got.A, got.B, d)})
	}
}

// NoteMovedDelta is the CIEDE2000 from which a colour counts as moved.
const movedDelta = 0.1

// ColourOutput is a colour in all three forms. InGamut is only said, as false,
// when the hex of it or of a component had to be clipped.
type ColourOutput struct {
	Hex         string                `json:"hex"`
	Lab         [3]float64            `json:"lab"`
	Reflectance [colour.Bands]float64 `json:"reflectance"`
	InGamut     *bool                 `json:"in_gamut,omitempty"`
}

// ColourOut is a colour in all its forms, and whether a screen can not show it.
func ColourOut(r colour.Reflectance) ColourOutput {
	lin := r.Linear()
	lab := lin.Lab()
	out := ColourOutput{Hex: lin.Hex(), Lab: [3]float64{lab.L, lab.A, lab.B}, Reflectance: r}
	if !lin.InGamut() {
		out.InGamut = new(bool)
	}
	return out
}

// ModelInput names a mixing model; left out it is the default.
type ModelInput struct {
	Name      string  `json:"name"`
	Parameter float64 `json:"parameter"`
}

// Model is the mixing model that is named.
func (m *ModelInput) Model() (mix.Model, error) {
	if m == nil {
		return mix.Default(), nil
	}
	return mix.NewModel(mix.Name(m.Name), m.Parameter)
}

// ReadLab reads a colour that is only compared with, which need not be one that
// fibre can have.
func (c ColourInput) ReadLab() (colour.Lab, error) {
	r, _, err := c.Read()
	if err != nil {
		return colour.Lab{}, err
	}
	switch {
	case c.Hex != nil:
		lin, err := colour.ParseHex(*c.Hex)
		return lin.Lab(), err
	case c.Lab != nil:
		return colour.Lab{L: c.Lab[0], A: c.Lab[1], B: c.Lab[2]}, nil
	}
	return r.Lab(), nil
}
