// Package yarns is what a piece of work takes and becomes: its need, its yarn, samples and skeins. It asks laying,
// recipe and shelf.
package yarns

import (
	"fairtangle/core/carding"
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

	fields *floor.Memo[carding.Field]
	yarns  *floor.Memo[*SpunYarn]
	looks  *floor.Memo[Yarn]
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room, shelf *shelf.Room, recipe *recipe.Room, laying *laying.Room) *Room {
	return &Room{
		Floor:    f,
		workshop: workshop,
		shelf:    shelf,
		recipe:   recipe,
		laying:   laying,
		fields:   floor.NewMemo[carding.Field](floor.Few),
		yarns:    floor.NewMemo[*SpunYarn](floor.Few),
		looks:    floor.NewMemo[Yarn](floor.Few),
	}
}
