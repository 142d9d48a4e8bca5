// Package toml stands in for the one that Gin imports and that is not used here: nothing is asked or
// answered in it.
package toml

import (
	"errors"
	"io"
)

var errNotSpoken = errors.New("TOML is not spoken here")

// Decoder refuses.
type Decoder struct{}

// NewDecoder returns one that refuses.
func NewDecoder(io.Reader) *Decoder { return &Decoder{} }

// Decode refuses.
func (*Decoder) Decode(any) error { return errNotSpoken }

// Marshal refuses.
func Marshal(any) ([]byte, error) { return nil, errNotSpoken }
