// Package shelf is what is there: lots, their movements and the stock-taking, photos, and what a fibre counts in
// a mixture. It asks the workshop, and what the runs have taught.
package shelf

import (
	"fairtangle/studio/floor"
	"fairtangle/studio/lessons"
	"fairtangle/studio/workshop"
)

// Room is the place where that is done.
type Room struct {
	*floor.Floor
	workshop *workshop.Room
	lessons  *lessons.Room

	fitted lastFit
	seen   lastPicture

	Places Places
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room, lessons *lessons.Room) *Room {
	return &Room{Floor: f, workshop: workshop, lessons: lessons}
}
