// Package advising is the second look: what is found at each stop, what mends it, what was told of it, and what is
// not to be spoken of. It asks every other room.
package advising

import (
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
	"fairtangle/studio/yarns"
)

// Room is the place where that is done.
type Room struct {
	*floor.Floor
	workshop *workshop.Room
	shelf    *shelf.Room
	recipe   *recipe.Room
	reach    *reach.Room
	laying   *laying.Room
	yarns    *yarns.Room
	scale    *scale.Room
	carder   *carder.Room
}

// New is the room over those that it asks.
func New(
	f *floor.Floor,
	workshop *workshop.Room,
	shelf *shelf.Room,
	recipe *recipe.Room,
	reach *reach.Room,
	laying *laying.Room,
	yarns *yarns.Room,
	scale *scale.Room,
	carder *carder.Room,
) *Room {
	return &Room{Floor: f, workshop: workshop, shelf: shelf, recipe: recipe, reach: reach, laying: laying, yarns: yarns, scale: scale, carder: carder}
}
