// Package carder is what happens at the carder: runs, their entries, what comes off and onto the shelf, cleanings,
// raw fleeces, and what one carder has shown. It asks the scale and all below it.
package carder

import (
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/lessons"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// Room is the place where that is done.
type Room struct {
	*floor.Floor
	workshop *workshop.Room
	lessons  *lessons.Room
	shelf    *shelf.Room
	recipe   *recipe.Room
	reach    *reach.Room
	laying   *laying.Room
	scale    *scale.Room

	Adviser Adviser
}

// New is the room over those that it asks.
func New(
	f *floor.Floor,
	workshop *workshop.Room,
	lessons *lessons.Room,
	shelf *shelf.Room,
	recipe *recipe.Room,
	reach *reach.Room,
	laying *laying.Room,
	scale *scale.Room,
) *Room {
	return &Room{Floor: f, workshop: workshop, lessons: lessons, shelf: shelf, recipe: recipe, reach: reach, laying: laying, scale: scale}
}
