package unit

import (
	"fmt"
	"math"
	"strconv"
)

// Millimetres is a length in millimetres.
type Millimetres float64

// Words writes quantities in somebody's units: 11 g or 0.39 oz, 190 mm or 7.5 in.
type Words interface {
	WriteWeight(g Grams) string
	WriteLength(mm Millimetres) string
}

// Sentence is a sentence with quantities in it, which become words only where it
// is read. The zero Sentence is empty.
type Sentence struct {
	format string
	args   []any
}

// Say makes a sentence as fmt.Sprintf does; arguments that are Grams or
// Millimetres stand at a %s and are written by whoever reads it.
func Say(format string, args ...any) Sentence { return Sentence{format, args} }

// In writes the sentence in the units of w.
func (s Sentence) In(w Words) string {
	args := make([]any, len(s.args))
	for i, a := range s.args {
		switch v := a.(type) {
		case Grams:
			args[i] = w.WriteWeight(v)
		case Millimetres:
			args[i] = w.WriteLength(v)
		default:
			args[i] = a
		}
	}
	return fmt.Sprintf(s.format, args...)
}

// Quantity is one of the quantities of a sentence, in exactly one of its forms.
type Quantity struct {
	Grams       *Grams       `json:"grams,omitempty"`
	Millimetres *Millimetres `json:"mm,omitempty"`
	Number      *float64     `json:"number,omitempty"`
	Name        *string      `json:"name,omitempty"`
}

// Quantities returns what stands in the sentence, in its order.
func (s Sentence) Quantities() []Quantity {
	out := make([]Quantity, len(s.args))
	for i, a := range s.args {
		switch v := a.(type) {
		case Grams:
			out[i].Grams = &v
		case Millimetres:
			out[i].Millimetres = &v
		case float64:
			out[i].Number = &v
		case int:
			n := float64(v)
			out[i].Number = &n
		default:
			name := fmt.Sprint(a)
			out[i].Name = &name
		}
	}
	return out
}

// String writes it in grams and millimetres, as the API does.
func (s Sentence) String() string { return s.In(Metric{}) }

// MarshalText is String.
func (s Sentence) MarshalText() ([]byte, error) { return []byte(s.String()), nil }

// Metric writes grams and millimetres as the API does: four figures, and all of a large number.
type Metric struct{}

func (Metric) WriteWeight(g Grams) string        { return figures(float64(g)) + " g" }
func (Metric) WriteLength(mm Millimetres) string { return figures(float64(mm)) + " mm" }

func figures(v float64) string {
	if math.Abs(v) >= 1000 {
		return strconv.FormatFloat(v, 'f', 0, 64)
	}
	return strconv.FormatFloat(v, 'g', 4, 64)
}
