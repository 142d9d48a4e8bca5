// Package recipepages serves makings and their blends, with the search for proportions.
package recipepages

import (
	"embed"

	"fairtangle/web/pages/frame"
)

//go:embed templates static
var files embed.FS

// Room is what its handlers share.
type Room struct {
	*frame.Frame
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame) *Room {
	f.Add(files)
	return &Room{Frame: f}
}
