// Package reachpages serves photos, samples, scraps and gradients.
package reachpages

import (
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/recipepages"
	"fairtangle/web/pages/shelfpages"
)

// Room is what its handlers share.
type Room struct {
	*frame.Frame
	shelf  *shelfpages.Room
	recipe *recipepages.Room
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame, shelf *shelfpages.Room, recipe *recipepages.Room) *Room {
	return &Room{Frame: f, shelf: shelf, recipe: recipe}
}
