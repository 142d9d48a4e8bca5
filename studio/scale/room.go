// Package scale is weighing: weigh-outs, readings and what gives way, the places at which windows weigh, and lists
// over several blends. It asks yarns, laying, recipe and shelf.
package scale

import (
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
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
	laying   *laying.Room

	plates plates
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room, shelf *shelf.Room, recipe *recipe.Room, laying *laying.Room) *Room {
	return &Room{Floor: f, workshop: workshop, shelf: shelf, recipe: recipe, laying: laying}
}
