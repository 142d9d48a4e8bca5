// Package reach is what colours can be reached: proportions for a colour, what mends a blend, gradients, families
// of scraps, palettes of photos, and the calibration by samples. It asks recipe and shelf.
package reach

import (
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// Room is the place where that is done.
type Room struct {
	*floor.Floor
	workshop *workshop.Room
	shelf    *shelf.Room
	recipe   *recipe.Room

	Promises Promises
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room, shelf *shelf.Room, recipe *recipe.Room) *Room {
	return &Room{Floor: f, workshop: workshop, shelf: shelf, recipe: recipe}
}
