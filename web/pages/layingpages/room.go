// Package layingpages serves lay-ups, the bench, and the batt that is foretold.
package layingpages

import (
	"embed"

	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/recipepages"
)

//go:embed templates static
var files embed.FS

// Room is what its handlers share.
type Room struct {
	*frame.Frame
	recipe *recipepages.Room
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame, recipe *recipepages.Room) *Room {
	f.Add(files)
	return &Room{Frame: f, recipe: recipe}
}
