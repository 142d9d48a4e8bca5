// Package validator stands in for the one that Gin imports and that is not used here: nothing is bound to
// structs by their tags. What is asked is read by web/answer, and what is wrong is found by the rules.
package validator

// Validate finds nothing wrong.
type Validate struct{}

// New returns one that finds nothing wrong.
func New() *Validate { return &Validate{} }

// SetTagName takes a name of tags, and reads none.
func (*Validate) SetTagName(string) {}

// Struct finds nothing wrong.
func (*Validate) Struct(any) error { return nil }
