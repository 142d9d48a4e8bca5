package studio

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/carder"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// weighAll weighs everything of a weigh-out exactly as asked.
func weighAll(t require.TestingT, s *Studio, w scale.Weighout) scale.Weighout {
	for i := 0; w.Next != nil; i++ {
		at := *w.Next
		var err error
		w, err = s.Scale.Weigh(contextOf(t), w.ID, scale.Reading{
			Key: fmt.Sprintf(
				"all-%06d-%d",
				w.ID,
				i,
			), Version: w.Version, Unit: at.Unit, Component: at.Component, Grams: w.Units[at.Unit].Cells[at.Component].TargetG,
		})
		require.NoError(t, err)
	}
	return w
}

// carded is a run of a blend on the first drum, weighed and with everything come off.
func carded(t require.TestingT, s *Studio, making int64, name string, grams float64, parts []recipe.BlendComponent) carder.Run {
	ctx := contextOf(t)
	b, err := s.Recipe.CreateBlend(ctx, making, recipe.BlendInput{Name: name, TotalG: grams, Passes: 2, Components: parts})
	require.NoError(t, err)
	w, err := s.Scale.CreateWeighout(ctx, b.ID, scale.WeighoutInput{Units: 1, FinishedG: grams, Passes: 2, StepG: 0.1})
	require.NoError(t, err)
	w = weighAll(t, s, w)
	v, err := s.Carder.StartRun(ctx, w.ID, carder.StartRun{EquipmentID: drumOf(t, s)})
	require.NoError(t, err)
	v, err = s.Carder.Tell(ctx, v.ID, carder.EntryInput{Key: fmt.Sprintf("off-of-run-%d", v.ID), Pass: 2, What: "off", Grams: &w.ExpectedG})
	require.NoError(t, err)
	return v
}

func drumOf(t require.TestingT, s *Studio) int64 {
	list, err := s.Workshop.Equipment(contextOf(t))
	require.NoError(t, err)
	for _, e := range list {
		if e.Type == "drum" {
			return e.ID
		}
	}
	return 0
}

// onTheShelf puts a run onto the shelf and gives the lot.
func onTheShelf(t require.TestingT, s *Studio, v carder.Run) shelf.Lot {
	v, err := s.Carder.Shelve(contextOf(t), v.ID, carder.ShelfInput{Key: fmt.Sprintf("shelf-of-%d", v.ID), Unit: -1, Form: "batt"})
	require.NoError(t, err)
	require.Len(t, v.Shelved, 1)
	l, err := s.Shelf.Lot(contextOf(t), v.Shelved[0].LotID)
	require.NoError(t, err)
	return l
}

// A base blend that is carded once and used in another is, where all is even, the whole
// recipe mixed at once: in colour, by weight or by covering power, and in what lies in it.
func TestABlendOfBlendsIsTheWholeRecipe(t *testing.T) {
	s, lots, m := shelfOf(t)
	few(t, 12)
	rapid.Check(t, func(rt *rapid.T) {
		ctx := context.Background()
		set, err := s.Workshop.Settings(ctx)
		require.NoError(rt, err)
		_, err = s.Workshop.ChangeSettings(ctx, set.Version, func(v *workshop.Settings) { v.CoveringPower = rapid.Bool().Draw(rt, "covering") })
		require.NoError(rt, err)
		a, b, c := lots[0], lots[1], lots[2]
		x, y := rapid.Float64Range(1, 9).Draw(rt, "x"), rapid.Float64Range(1, 9).Draw(rt, "y")
		base := onTheShelf(rt, s, carded(rt, s, m.ID, "base", 6, []recipe.BlendComponent{{LotID: &a.ID, Parts: x}, {LotID: &b.ID, Parts: y}}))
		require.NotNil(rt, base.Made)
		var sum float64
		shares := map[int64]float64{}
		for _, v := range base.Made.Of {
			sum += v.Share
			shares[*v.LotID] = v.Share
		}
		require.InDelta(rt, 1, sum, 1e-9)
		require.Equal(rt, "foreseen", base.Colours[0].Source)

		p, q := rapid.Float64Range(1, 9).Draw(rt, "p"), rapid.Float64Range(1, 9).Draw(rt, "q")
		nested, err := s.Recipe.WorkOut(
			ctx,
			recipe.BlendInput{Name: "nested", TotalG: 3, Components: []recipe.BlendComponent{{LotID: &base.ID, Parts: p}, {LotID: &c.ID, Parts: q}}},
		)
		require.NoError(rt, err)
		flat, err := s.Recipe.WorkOut(ctx, recipe.BlendInput{Name: "flat", TotalG: 3, Components: []recipe.BlendComponent{
			{LotID: &a.ID, Parts: p * shares[a.ID]}, {LotID: &b.ID, Parts: p * shares[b.ID]}, {LotID: &c.ID, Parts: q},
		}})
		require.NoError(rt, err)
		lab := func(v [3]float64) colour.Lab { return colour.Lab{L: v[0], A: v[1], B: v[2]} }
		require.Less(rt, colour.CIEDE2000(lab(nested.Lab), lab(flat.Lab)), 1e-6)
		require.Greater(rt, nested.Sigma, 0.0)

		second := onTheShelf(rt, s, carded(rt, s, m.ID, "second", 4, []recipe.BlendComponent{{LotID: &base.ID, Parts: p}, {LotID: &c.ID, Parts: q}}))
		sum = 0
		for _, v := range second.Made.Of {
			require.NotEqual(rt, base.ID, *v.LotID, "down to what no run made")
			sum += v.Share
		}
		require.InDelta(rt, 1, sum, 1e-9)
	})
}

// What came off goes onto the shelf once: never more than there is, and what is taken back
// is gone from the shelf; what was taken from it since can not be taken back.
func TestWhatCameOffGoesOnTheShelfOnce(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := context.Background()
	v := carded(t, s, m.ID, "b", 20, []recipe.BlendComponent{{LotID: &lots[0].ID, Parts: 1}, {LotID: &lots[1].ID, Parts: 1}})
	off := *v.Units[0].Passes[1].OffG
	five := 5.0
	v, err := s.Carder.Shelve(ctx, v.ID, carder.ShelfInput{Key: "shelf-five-grams", Unit: 0, Form: "roving", Grams: &five})
	require.NoError(t, err)
	again, err := s.Carder.Shelve(ctx, v.ID, carder.ShelfInput{Key: "shelf-five-grams", Unit: 0, Form: "roving", Grams: &five})
	require.NoError(t, err)
	assert.Len(t, again.Units[0].Shelved, 1, "the same key puts nothing there twice")
	more := off
	_, err = s.Carder.Shelve(ctx, v.ID, carder.ShelfInput{Key: "shelf-too-much", Unit: 0, Form: "batt", Grams: &more})
	assert.ErrorContains(t, err, "is not on the shelf yet")
	v, err = s.Carder.Shelve(ctx, v.ID, carder.ShelfInput{Key: "shelf-the-rest", Unit: 0, Form: "batt"})
	require.NoError(t, err)
	assert.InDelta(t, off, v.Units[0].ShelvedG, 1e-9)
	again, err = s.Carder.Shelve(ctx, v.ID, carder.ShelfInput{Key: "shelf-the-rest", Unit: 0, Form: "batt"})
	require.NoError(t, err, "what is sent twice is there, and there once")
	assert.Len(t, again.Units[0].Shelved, 2)
	_, err = s.Carder.Shelve(ctx, v.ID, carder.ShelfInput{Key: "shelf-once-more", Unit: -1, Form: "batt"})
	assert.ErrorContains(t, err, "Nothing came off")

	first, rest := v.Units[0].Shelved[0], v.Units[0].Shelved[1]
	v, err = s.Carder.Reverse(ctx, v.ID, first.Entry, "take-off-the-shelf")
	require.NoError(t, err)
	assert.Len(t, v.Units[0].Shelved, 1)
	_, err = s.Shelf.Lot(ctx, first.LotID)
	assert.ErrorIs(t, err, floor.ErrNotFound)
	_, err = s.Shelf.Move(ctx, rest.LotID, shelf.MoveInput{Reason: shelf.Sold, Grams: 1, Key: "sold-one-gram"})
	require.NoError(t, err)
	_, err = s.Carder.Reverse(ctx, v.ID, rest.Entry, "take-off-what-is-sold")
	assert.ErrorAs(t, err, new(store.Short))
	l, err := s.Shelf.Lot(ctx, rest.LotID)
	require.NoError(t, err)
	assert.InDelta(t, off-5-1, l.Grams, 1e-9)
	drift, err := s.Store.Drift(ctx)
	require.NoError(t, err)
	assert.Empty(t, drift)
}

// Two windows: an entry that would take the place of one that its sender has not seen is
// refused with what stands there; the same key twice says nothing new.
func TestTwoWindowsTellOfOnePass(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := context.Background()
	v := carded(t, s, m.ID, "b", 20, []recipe.BlendComponent{{LotID: &lots[0].ID, Parts: 1}, {LotID: &lots[1].ID, Parts: 1}})
	none, a, b := int64(0), 19.5, 18.5
	in := carder.EntryInput{Key: "window-one-key", Pass: 1, What: "off", Grams: &a, After: &none}
	first, err := s.Carder.Tell(ctx, v.ID, in)
	require.NoError(t, err)
	again, err := s.Carder.Tell(ctx, v.ID, carder.EntryInput{Key: "window-one-key", Pass: 1, What: "off", Grams: &a})
	require.NoError(t, err)
	assert.Len(t, again.Entries, len(first.Entries))
	_, err = s.Carder.Tell(ctx, v.ID, carder.EntryInput{Key: "window-one-key", Pass: 1, What: "off", Grams: &b})
	assert.ErrorContains(t, err, "belongs to another entry")
	_, err = s.Carder.Tell(ctx, v.ID, carder.EntryInput{Key: "window-two-key", Pass: 1, What: "off", Grams: &b, After: &none})
	var stale store.Stale
	require.ErrorAs(t, err, &stale)
	now := stale.Current.(carder.Run)
	assert.InDelta(t, 19.5, *now.Units[0].Passes[0].OffG, 1e-9)
	seen := now.Units[0].Passes[0].After["off"]
	v, err = s.Carder.Tell(ctx, v.ID, carder.EntryInput{Key: "window-two-again", Pass: 1, What: "off", Grams: &b, After: &seen})
	require.NoError(t, err)
	assert.InDelta(t, 18.5, *v.Units[0].Passes[0].OffG, 1e-9)
	v, err = s.Carder.Reverse(ctx, v.ID, v.Units[0].Passes[0].After["off"], "counter-entry-key")
	require.NoError(t, err)
	assert.InDelta(t, 19.5, *v.Units[0].Passes[0].OffG, 1e-9, "what stood before stands again; both are kept")
	_, err = s.Carder.Reverse(ctx, v.ID, v.Entries[len(v.Entries)-1].ID, "counter-of-counter")
	assert.ErrorContains(t, err, "enter it anew")
}

// What can not be is refused at its field.
func TestWhatCanNotBeToldOfARun(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := context.Background()
	v := carded(t, s, m.ID, "b", 20, []recipe.BlendComponent{{LotID: &lots[0].ID, Parts: 1}, {LotID: &lots[1].ID, Parts: 1}})
	g, neg, n := 1.0, -1.0, 1.5
	for _, c := range []struct {
		in    carder.EntryInput
		field string
	}{
		{carder.EntryInput{Key: "short", Pass: 1, What: "off", Grams: &g}, "key"},
		{carder.EntryInput{Unit: 4, Pass: 1, What: "off", Grams: &g}, "unit"},
		{carder.EntryInput{Pass: 0, What: "off", Grams: &g}, "pass"},
		{carder.EntryInput{Pass: 1, What: "off"}, "grams"},
		{carder.EntryInput{Pass: 1, What: "off", Grams: &neg}, "grams"},
		{carder.EntryInput{Pass: 1, What: "residue", Grams: &g, Text: "eaten"}, "text"},
		{carder.EntryInput{Pass: 1, What: "look", Text: "lovely"}, "text"},
		{carder.EntryInput{Pass: 1, What: "count", Number: &n}, "number"},
		{carder.EntryInput{Pass: 1, What: "step", Number: &n}, "number"},
		{carder.EntryInput{Pass: 1, What: "photo", Number: &g}, "number"},
		{carder.EntryInput{Pass: 1, What: "minutes", Number: &neg}, "number"},
		{carder.EntryInput{Pass: 1, What: "tick", Text: "nothing"}, "text"},
		{carder.EntryInput{Pass: 5, What: "more"}, "pass"},
		{carder.EntryInput{Pass: 1, What: "shelved", Grams: &g}, "what"},
		{carder.EntryInput{Pass: 1, What: "sung"}, "what"},
	} {
		if c.in.Key == "" {
			c.in.Key = "a-key-of-its-own-" + c.in.What
		}
		_, err := s.Carder.Tell(ctx, v.ID, c.in)
		require.Error(t, err, "%+v", c.in)
		l, ok := fault.From(err)
		require.True(t, ok, "%+v", c.in)
		assert.Equal(t, c.field, l[0].Field, "%+v", c.in)
	}
}
