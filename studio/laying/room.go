// Package laying is what lies where, and what carding makes of it: lay-ups, builders, the order of the work, the
// batt foretold. It asks recipe and shelf.
package laying

import (
	"fairtangle/core/appearance"
	"fairtangle/core/carding"
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

	sheets *floor.Memo[*appearance.Sheet]
	stages *floor.Memo[[]carding.Stage]
	rolled *floor.Memo[[]carding.Part]

	LayupMender LayupMender
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room, shelf *shelf.Room, recipe *recipe.Room) *Room {
	return &Room{
		Floor:    f,
		workshop: workshop,
		shelf:    shelf,
		recipe:   recipe,
		sheets:   floor.NewMemo[*appearance.Sheet](floor.Few),
		stages:   floor.NewMemo[[]carding.Stage](floor.Few),
		rolled:   floor.NewMemo[[]carding.Part](floor.Few),
	}
}
