// Package layingpages serves lay-ups, the bench, and the batt that is foretold.
package layingpages

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
