package frame

import (
	"fmt"
	"html/template"
	"strings"
)

// Field is a field of a form as the template "field" shows it: with its label, what may be
// typed, and what is wrong with what was typed, to which it points.
type Field struct {
	Form    Form
	Name    string
	Label   string
	Hint    string
	Figure  bool     // a number or a quantity is typed
	Choices []Option // one of these; none: it is typed
}

// NewField is a field with what else is said of it, a word and its value after the other:
// hint (text), figure (bool), choices ([]Option), words ([]string that are their own labels).
func NewField(f Form, name, label string, more ...any) (Field, error) {
	out := Field{Form: f, Name: name, Label: label}
	for i := 0; i+1 < len(more); i += 2 {
		ok := false
		switch more[i] {
		case "hint":
			out.Hint, ok = more[i+1].(string)
		case "figure":
			out.Figure, ok = more[i+1].(bool)
		case "choices":
			out.Choices, ok = more[i+1].([]Option)
		case "words":
			var list []string
			list, ok = more[i+1].([]string)
			for _, w := range list {
				out.Choices = append(out.Choices, Option{Value: w, Label: strings.ReplaceAll(w, "_", " ")})
			}
		}
		if !ok {
			return out, fmt.Errorf("field %s: %v is no such word, or has another value", name, more[i])
		}
	}
	return out, nil
}

// Value is what stands in it, Wrong what is wrong with that.
func (f Field) Value() string { return f.Form.V(f.Name) }
func (f Field) Wrong() string { return f.Form.E(f.Name) }

// ID names the sentence that says what is wrong.
func (f Field) ID() string { return f.Name + "-wrong" }

// blamed is what an input says of itself whose value is refused: where that is told, after what else it says.
func (f Field) blamed(also string) template.HTMLAttr {
	if f.Wrong() == "" {
		return ""
	}
	return template.HTMLAttr(also + `aria-describedby="` + template.HTMLEscapeString(f.ID()) + `"`)
}
