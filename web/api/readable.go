package api

import (
	"bytes"
	"compress/gzip"
	_ "embed"
	"encoding/json"
)

//go:generate go run fairtangle/scripts/readable openapi.yaml readable.json.gz

//go:embed readable.json.gz
var readable []byte

// Page is what people are shown of the API's description.
type Page struct {
	Title, Version string
	About          []string
	Groups         []Group
}

// Group is calls that belong together.
type Group struct {
	Name  string
	Calls []Call
}

// Call is one call with what it is asked and answers.
type Call struct {
	Method, Path, Summary, Description, Request, Answer string
}

// Readable is what people are shown of openapi.yaml, which ships beside it.
func Readable() (p Page, err error) {
	r, err := gzip.NewReader(bytes.NewReader(readable))
	if err != nil {
		return p, err
	}
	return p, json.NewDecoder(r).Decode(&p)
}
