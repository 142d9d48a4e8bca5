// Package workshoppages serves the workshop: settings, equipment, scales, kinds of fibre, and the bin.
package workshoppages

import "fairtangle/web/pages/frame"

// Room is what its handlers share.
type Room struct {
	*frame.Frame
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame) *Room {
	return &Room{Frame: f}
}
