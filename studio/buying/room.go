// Package buying is what is missing: claims on fibre that is promised, lists to buy and what came of them. It asks
// yarns, recipe and shelf.
package buying

import (
	"fairtangle/core/buy"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
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
	yarns    *yarns.Room

	Till Till // of what went

	splits *floor.Memo[buy.Plan]
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room, shelf *shelf.Room, recipe *recipe.Room, yarns *yarns.Room) *Room {
	return &Room{Floor: f, workshop: workshop, shelf: shelf, recipe: recipe, yarns: yarns, Till: Till{f}, splits: floor.NewMemo[buy.Plan](floor.Few)}
}
