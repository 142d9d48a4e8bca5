// Package scalepages serves weighing out, the live plate, lists over several blends, and stock-taking.
package scalepages

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
