// Package lessons is what the runs have taught: the loss of each kind over all carders and on each, and how good
// the forecasts were. It asks the workshop.
package lessons

import (
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
)

// Room is the place where that is done.
type Room struct {
	*floor.Floor
	workshop *workshop.Room

	memory memory
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room) *Room {
	return &Room{Floor: f, workshop: workshop}
}
