// Package fault holds the one error that a maker reads: which field is wrong
// and a sentence that says how to put it right. The same value feeds a form,
// the API's problem details and the log.
package fault

import (
	"errors"
	"strings"

	"fairtangle/core/unit"
)

// Fault is one wrong input. Field is a path such as "components[2].parts",
// empty when the request as a whole is meant.
type Fault struct {
	Field   string
	Message string // in grams and millimetres
	said    unit.Sentence
}

// In returns the message in somebody's units.
func (f Fault) In(w unit.Words) string { return f.said.In(w) }

// Quantities returns the quantities of the message, in its order.
func (f Fault) Quantities() []unit.Quantity { return f.said.Quantities() }

func say(field, format string, args []any) Fault {
	said := unit.Say(format, args...)
	return Fault{field, said.String(), said}
}

// Error returns "field: message".
func (f Fault) Error() string {
	if f.Field == "" {
		return f.Message
	}
	return f.Field + ": " + f.Message
}

// List is several faults found in one look at the input.
type List []Fault

// Error joins the faults with semicolons.
func (l List) Error() string {
	parts := make([]string, len(l))
	for i, f := range l {
		parts[i] = f.Error()
	}
	return strings.Join(parts, "; ")
}

// Add appends a fault with a formatted message; quantities stand in it as in
// unit.Say.
func (l *List) Add(field, format string, args ...any) {
	*l = append(*l, say(field, format, args))
}

// Err is nil when the list is empty, so that callers can return it as is.
func (l List) Err() error {
	if len(l) == 0 {
		return nil
	}
	return l
}

// New makes a single fault as an error.
func New(field, format string, args ...any) error {
	return List{say(field, format, args)}
}

// From finds the faults in err; ok is false when err is of another sort.
func From(err error) (l List, ok bool) {
	ok = errors.As(err, &l)
	return l, ok
}

// Under puts a path in front of every field of the faults in err. Other
// errors pass unchanged.
func Under(prefix string, err error) error {
	l, ok := From(err)
	if !ok {
		return err
	}
	out := make(List, len(l))
	for i, f := range l {
		sep := "."
		if f.Field == "" || strings.HasPrefix(f.Field, "[") {
			sep = ""
		}
		f.Field = prefix + sep + f.Field
		out[i] = f
	}
	return out
}

// Take appends the faults in err under a path. Errors of another sort become
// a fault of the path itself.
func (l *List) Take(path string, err error) {
	if err == nil {
		return
	}
	more, ok := From(err)
	if !ok {
		l.Add(path, "%s", err.Error())
		return
	}
	if path != "" {
		more, _ = From(Under(path, err))
	}
	*l = append(*l, more...)
}
