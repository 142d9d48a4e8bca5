// Package recipepages serves makings and their blends, with the search for proportions.
package recipepages

import "fairtangle/web/pages/frame"

// Room is what its handlers share.
type Room struct {
	*frame.Frame
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame) *Room {
	return &Room{Frame: f}
}
