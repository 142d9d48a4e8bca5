// Package studio puts the rooms together in which the use cases are done: they load what the core
// needs, call it, and keep what comes out. Pages and API call only them.
package studio

import (
	"context"

	"fairtangle/store"
	"fairtangle/studio/advising"
	"fairtangle/studio/buying"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/lessons"
	"fairtangle/studio/notebook"
	"fairtangle/studio/practising"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
	"fairtangle/studio/teaching"
	"fairtangle/studio/workshop"
	"fairtangle/studio/yarns"
)

// Studio is all rooms over one store.
type Studio struct {
	*floor.Floor

	Workshop *workshop.Room
	Lessons  *lessons.Room
	Shelf    *shelf.Room
	Recipe   *recipe.Room
	Reach    *reach.Room
	Laying   *laying.Room
	Yarns    *yarns.Room
	Scale    *scale.Room
	Carder   *carder.Room
	Notebook *notebook.Room
	Buying   *buying.Room
	Advising *advising.Room
	Practice *practising.Room
	Teaching *teaching.Room
}

// New makes a studio over a store and furnishes an empty workshop with the equipment presets.
func New(ctx context.Context, s *store.Store) (*Studio, error) {
	st := &Studio{Floor: &floor.Floor{Store: s}}
	st.Workshop = workshop.New(st.Floor)
	st.Lessons = lessons.New(st.Floor, st.Workshop)
	st.Shelf = shelf.New(st.Floor, st.Workshop, st.Lessons)
	st.Recipe = recipe.New(st.Floor, st.Workshop, st.Shelf)
	st.Reach = reach.New(st.Floor, st.Workshop, st.Shelf, st.Recipe)
	st.Laying = laying.New(st.Floor, st.Workshop, st.Shelf, st.Recipe)
	st.Yarns = yarns.New(st.Floor, st.Workshop, st.Shelf, st.Recipe, st.Laying)
	st.Scale = scale.New(st.Floor, st.Workshop, st.Shelf, st.Recipe, st.Laying)
	st.Carder = carder.New(st.Floor, st.Workshop, st.Lessons, st.Shelf, st.Recipe, st.Reach, st.Laying, st.Scale)
	st.Notebook = notebook.New(st.Floor, st.Workshop, st.Lessons, st.Recipe, st.Reach, st.Yarns, st.Carder)
	st.Buying = buying.New(st.Floor, st.Workshop, st.Shelf, st.Recipe, st.Yarns)
	st.Advising = advising.New(st.Floor, st.Workshop, st.Shelf, st.Recipe, st.Reach, st.Laying, st.Yarns, st.Scale, st.Carder)
	st.Practice = practising.New(st.Floor)
	st.Teaching = teaching.New(st.Floor, st.Workshop, st.Shelf, st.Recipe, st.Laying, st.Scale)
	// What a room asks of one that is built on it.
	st.Shelf.Places = st.Scale
	st.Scale.Cloths = st.Carder
	st.Reach.Promises = st.Buying
	st.Recipe.BlendMender, st.Laying.LayupMender, st.Carder.Adviser = st.Advising, st.Advising, st.Advising
	if err := st.Workshop.Furnish(ctx); err != nil {
		return st, err
	}
	return st, st.Notebook.Arrange(ctx)
}
