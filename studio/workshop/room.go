// Package workshop is the workshop itself: settings, equipment, kinds of fibre, scales and containers, sources
// and what they offer, and what was told to questions of the second look. It asks no other room.
package workshop

import (
	"fairtangle/studio/floor"
)

// Room is the place where that is done.
type Room struct {
	*floor.Floor
	Rack  Rack // of tools
	Vault *Vault
	Doors Doors
}

// New is the room over those that it asks.
func New(f *floor.Floor) *Room {
	s := &Room{Floor: f, Rack: Rack{f}, Doors: Doors{f}}
	s.Vault = &Vault{room: s}
	return s
}
