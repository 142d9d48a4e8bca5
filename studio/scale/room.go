// Package scale is weighing: weigh-outs, readings and what gives way, the places at which windows weigh, and lists
// over several blends. It asks yarns, laying, recipe and shelf.
package scale

import (
	"context"

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

	// Cloths is asked what the cloth of equipment holds before a weigh-out is carded on it.
	Cloths Cloths

	plates plates
}

// Cloths knows what lies in cloths.
type Cloths interface {
	// ClothFor is what the cloth of equipment holds when a weigh-out begins there, and the most that it can, grams.
	ClothFor(ctx context.Context, weighout int64, e workshop.Equipment) (now, most float64, err error)
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room, shelf *shelf.Room, recipe *recipe.Room, laying *laying.Room) *Room {
	return &Room{Floor: f, workshop: workshop, shelf: shelf, recipe: recipe, laying: laying}
}
