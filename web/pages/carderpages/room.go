// Package carderpages serves runs, their records, raw fleeces, and the book of a carder.
package carderpages

import (
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/pages/scalepages"
)

// Room is what its handlers share.
type Room struct {
	*frame.Frame
	laying *layingpages.Room
	scale  *scalepages.Room
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame, laying *layingpages.Room, scale *scalepages.Room) *Room {
	return &Room{Frame: f, laying: laying, scale: scale}
}
