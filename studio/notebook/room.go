// Package notebook is what is remembered: the notebook with its pictures, and the order of a day. It asks the carder
// and all below it.
package notebook

import (
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/lessons"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/studio/yarns"
)

// Room is the place where that is done.
type Room struct {
	*floor.Floor
	workshop *workshop.Room
	lessons  *lessons.Room
	recipe   *recipe.Room
	reach    *reach.Room
	yarns    *yarns.Room
	carder   *carder.Room
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room, lessons *lessons.Room, recipe *recipe.Room, reach *reach.Room, yarns *yarns.Room, carder *carder.Room) *Room {
	return &Room{Floor: f, workshop: workshop, lessons: lessons, recipe: recipe, reach: reach, yarns: yarns, carder: carder}
}
