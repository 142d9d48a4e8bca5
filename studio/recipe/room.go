// Package recipe is makings and their blends: shares, amounts, colours, how a blend came out. It asks the shelf.
package recipe

import (
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// Room is the place where that is done.
type Room struct {
	*floor.Floor
	workshop *workshop.Room
	shelf    *shelf.Room

	BlendMender BlendMender
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room, shelf *shelf.Room) *Room {
	return &Room{Floor: f, workshop: workshop, shelf: shelf}
}
