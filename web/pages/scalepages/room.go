// Package scalepages serves weighing out, the live plate, lists over several blends, and stock-taking.
package scalepages

import (
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/recipepages"
)

// Room is what its handlers share.
type Room struct {
	*frame.Frame
	recipe *recipepages.Room
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame, recipe *recipepages.Room) *Room {
	return &Room{Frame: f, recipe: recipe}
}
