// Package yarnspages serves needs, yarn, samples and skeins.
package yarnspages

import (
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/pages/recipepages"
	"fairtangle/web/pages/shelfpages"
)

// Room is what its handlers share.
type Room struct {
	*frame.Frame
	shelf  *shelfpages.Room
	recipe *recipepages.Room
	laying *layingpages.Room
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame, shelf *shelfpages.Room, recipe *recipepages.Room, laying *layingpages.Room) *Room {
	return &Room{Frame: f, shelf: shelf, recipe: recipe, laying: laying}
}
