// Package shelfpages serves the shelf: lots, what comes in and goes out.
package shelfpages

import "fairtangle/web/pages/frame"

// Room is what its handlers share.
type Room struct {
	*frame.Frame
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame) *Room {
	return &Room{Frame: f}
}
