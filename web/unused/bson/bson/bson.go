// Package bson stands in for the one that Gin imports and that is not used here: nothing is asked or
// answered in it.
package bson

import "errors"

var errNotSpoken = errors.New("BSON is not spoken here")

// Marshal refuses.
func Marshal(any) ([]byte, error) { return nil, errNotSpoken }

// Unmarshal refuses.
func Unmarshal([]byte, any) error { return errNotSpoken }
