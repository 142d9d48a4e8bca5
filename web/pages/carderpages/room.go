// Package carderpages serves runs, their records, raw fleeces, and the book of a carder.
package carderpages

import (
	"embed"

	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/pages/scalepages"
)

//go:embed templates static
var files embed.FS

// Room is what its handlers share.
type Room struct {
	*frame.Frame
	laying *layingpages.Room
	scale  *scalepages.Room
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame, laying *layingpages.Room, scale *scalepages.Room) *Room {
	f.Add(files)
	return &Room{Frame: f, laying: laying, scale: scale}
}
