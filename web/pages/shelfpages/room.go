// Package shelfpages serves the shelf: lots, what comes in and goes out.
package shelfpages

import (
	"embed"

	"fairtangle/web/pages/frame"
)

//go:embed static templates
var files embed.FS

// Room is what its handlers share.
type Room struct {
	*frame.Frame
}

// New is the room over those whose pages it shows parts of.
func New(f *frame.Frame) *Room {
	f.Add(files)
	return &Room{Frame: f}
}
