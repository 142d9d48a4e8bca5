// Package teaching is what a class cards in a lesson: a mixture for each pupil from the bags on the table, laid up for the carder that is
// there and ready to be weighed. It asks the shelf, the workshop, recipes, lay-ups and the scale.
package teaching

import (
	"context"
	"errors"
	"slices"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/train"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
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
	scale    *scale.Room
}

// New is the room over those that it asks.
func New(f *floor.Floor, workshop *workshop.Room, shelf *shelf.Room, recipe *recipe.Room, laying *laying.Room, scale *scale.Room) *Room {
	return &Room{f, workshop, shelf, recipe, laying, scale}
}

// Lesson is what a class is to card.
type Lesson struct {
	Name      string
	Bags      []int64 // lots on the table
	Equipment int64   // that it is carded on
	Pupils    []string
	EachG     float64 // that comes off for each
	Passes    int
	Same      bool // all card the same, equal parts of all bags; else each a mixture of its own
}

// The most of a lesson.
const (
	MostPupils  = 24
	mostBags    = 6
	mostEachG   = 200
	mostPasses  = 5
	longestName = 40
)

func (v *Lesson) check() error {
	var l fault.List
	floor.CheckText(&l, "name", "the lesson", &v.Name, floor.MaxName, true)
	slices.Sort(v.Bags)
	v.Bags = slices.Compact(v.Bags) // a bag that is named twice lies there once
	switch least := 2; {
	case v.Same && len(v.Bags) < 1, !v.Same && len(v.Bags) < least:
		l.Add("bags", "Choose the bags on the table: two at least, or one where all card the same.")
	case len(v.Bags) > mostBags:
		l.Add("bags", "There are at most %d bags in a lesson.", mostBags)
	}
	if v.Equipment <= 0 {
		l.Add("equipment", "Choose what it is carded on.")
	}
	if !(v.EachG >= 1 && v.EachG <= mostEachG) {
		l.Add("each", "A sample weighs %s to %s.", unit.Grams(1), unit.Grams(mostEachG))
	}
	if v.Passes < 1 || v.Passes > mostPasses {
		l.Add("passes", "It goes through 1 to %d times.", mostPasses)
	}
	seen := map[string]bool{}
	for i, name := range v.Pupils {
		floor.CheckText(&l, "pupils", "each pupil", &name, longestName, true)
		v.Pupils[i] = strings.Join(strings.Fields(name), " ")
		switch key := strings.ToLower(v.Pupils[i]); {
		case seen[key]:
			l.Add("pupils", "%s stands there twice: add a letter.", v.Pupils[i])
		default:
			seen[key] = true
		}
	}
	if len(v.Pupils) < 1 || len(v.Pupils) > MostPupils {
		l.Add("pupils", "Write 1 to %d names, each in a line of its own.", MostPupils)
	}
	return l.Err()
}

// Prepare makes the lesson: a making with a blend for each pupil, laid up on the equipment, and a weigh-out of each. It is whole or not
// done.
func (s *Room) Prepare(ctx context.Context, v Lesson) (making int64, err error) {
	if err := v.check(); err != nil {
		return 0, err
	}
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (int64, error) { return s.prepare(ctx, v) })
}

func (s *Room) prepare(ctx context.Context, v Lesson) (int64, error) {
	names := make([]string, len(v.Bags))
	for i, id := range v.Bags {
		lot, err := s.shelf.Lot(ctx, id)
		if errors.Is(err, floor.ErrNotFound) {
			return 0, fault.New("bags", "One of the bags is not on the shelf any more.")
		}
		if err != nil {
			return 0, err
		}
		names[i] = lot.Name
	}
	m, err := s.recipe.CreateMaking(ctx, recipe.MakingInput{Name: v.Name, Note: "A lesson: " + strings.Join(names, ", ") + "."})
	if err != nil {
		return 0, err
	}
	tasks := train.Tasks(len(v.Bags), len(v.Pupils))
	var all []recipe.BlendInput
	for i, pupil := range v.Pupils {
		in := recipe.BlendInput{Name: pupil, TotalG: v.EachG, Passes: v.Passes}
		for k := range v.Bags {
			parts := 1
			if !v.Same {
				parts = tasks[i][k]
			}
			if parts > 0 {
				in.Components = append(in.Components, recipe.BlendComponent{LotID: &v.Bags[k], Parts: float64(parts)})
			}
		}
		all = append(all, in)
	}
	blends, err := s.recipe.CreateBlends(ctx, m.ID, all)
	if err != nil {
		return 0, err
	}
	on, err := s.workshop.OneEquipment(ctx, v.Equipment)
	if errors.Is(err, floor.ErrNotFound) {
		return 0, fault.New("equipment", "That equipment is not there any more.")
	}
	if err != nil {
		return 0, err
	}
	for _, b := range blends {
		if err := s.layUp(ctx, b, v, on.Type); err != nil {
			return 0, err
		}
	}
	_, err = s.scale.WeighOutAll(ctx, m.ID, nil)
	return m.ID, err
}

// layUp lays a blend as is usual on the equipment.
func (s *Room) layUp(ctx context.Context, b recipe.Blend, v Lesson, on string) error {
	builder := layup.Sandwich
	if layup.Type(on) == layup.Board {
		builder = layup.StripesAlong
	}
	_, err := s.laying.BuildOnto(ctx, b.ID, v.Equipment, 0, b.Name, laying.BuildInput{Builder: builder, Passes: v.Passes})
	list, refused := fault.From(err)
	if !refused {
		return err
	}
	for i := range list { // what does not go there is said where it was chosen
		list[i].Field = "equipment"
	}
	return list
}
