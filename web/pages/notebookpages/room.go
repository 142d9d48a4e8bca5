// Package notebookpages serves what was made, beside each other and as swatches, and the order of a day.
package notebookpages

import (
	"fairtangle/web/pages/carderpages"
	"fairtangle/web/pages/frame"
)

// Room is what its handlers share.
type Room struct {
	*frame.Frame
	carder *carderpages.Room
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame, carder *carderpages.Room) *Room {
	return &Room{Frame: f, carder: carder}
}
