package studio

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
)

// planned is a weigh-out of 60 g of white and navy in two units.
func planned(t require.TestingT, s *Studio, making int64, lots []shelf.Lot) scale.Weighout {
	return plannedFor(t, s, making, lots, 2)
}

func plannedFor(t require.TestingT, s *Studio, making int64, lots []shelf.Lot, units int) scale.Weighout {
	ctx := contextOf(t)
	b, err := s.Recipe.CreateBlend(ctx, making, recipe.BlendInput{Name: "b", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{
		{LotID: &lots[0].ID, Parts: 3}, {LotID: &lots[1].ID, Parts: 2}, {LotID: &lots[6].ID, Parts: 1},
	}})
	require.NoError(t, err)
	w, err := s.Scale.CreateWeighout(ctx, b.ID, scale.WeighoutInput{Units: units, FinishedG: 60 / float64(units), Passes: 2, StepG: 0.1})
	require.NoError(t, err)
	return w
}

// Whatever is weighed and taken back, of any place and in any order: a place that
// is taken back is open, its fibre is back on the shelf, the others keep what was
// weighed, and with all of it taken back the plan is as it was at first.
func TestAnyWeighingIsTakenBack(t *testing.T) {
	s, lots, m := shelfOf(t)
	few(t, 25)
	rapid.Check(t, func(t *rapid.T) {
		ctx := t.Context()
		w := planned(t, s, m.ID, lots)
		plan := cellsOf(w)
		shelf := onShelf(t, s, lots)
		var done []scale.Cell
		for i := 0; i < 8 && w.Next != nil; i++ {
			at := scale.Cell{Unit: w.Next.Unit, Component: w.Next.Component}
			c := w.Units[at.Unit].Cells[at.Component]
			var err error
			w, err = s.Scale.Weigh(ctx, w.ID, scale.Reading{
				Key: fmt.Sprintf("back-%06d-%d", w.ID, i), Version: w.Version, Unit: at.Unit, Component: at.Component,
				Grams:  max(0.1, c.TargetG-c.WeighedG+float64(rapid.IntRange(-9, 9).Draw(t, "off"))/10),
				Policy: rapid.SampledFrom([]string{"keep-shares", "keep-total", scale.AsIs}).Draw(t, "policy"),
			})
			require.NoError(t, err)
			done = append(done, at)
		}
		for _, i := range rapid.Permutation(indices(len(done))).Draw(t, "order") {
			at := done[i]
			if w.Units[at.Unit].Cells[at.Component].WeighedG == 0 {
				continue // it was weighed twice, and both are back
			}
			before := w
			var err error
			w, err = s.Scale.TakeBack(ctx, w.ID, w.Version, at)
			require.NoError(t, err)
			for u, v := range w.Units {
				for c, cell := range v.Cells {
					if u == at.Unit && c == at.Component {
						assert.Zero(t, cell.WeighedG)
						assert.Equal(t, cell.TargetG == 0, cell.Done, "of what nothing is wanted any more nothing is open")
					} else {
						assert.Equal(t, before.Units[u].Cells[c].WeighedG, cell.WeighedG, "the others keep theirs")
					}
				}
			}
		}
		assert.Equal(t, plan, cellsOf(w), "all of it taken back, the plan is as it was")
		assert.Equal(t, shelf, onShelf(t, s, lots), "and so is the shelf")
	})
}

func cellsOf(w scale.Weighout) (out []scale.WeighoutCell) {
	for _, u := range w.Units {
		out = append(out, u.Cells...)
	}
	return out
}

func onShelf(t require.TestingT, s *Studio, lots []shelf.Lot) (out []float64) {
	for _, l := range lots {
		now, err := s.Shelf.Lot(contextOf(t), l.ID)
		require.NoError(t, err)
		out = append(out, now.Grams)
	}
	return out
}

// One request books what is fine and asks about what is not; with its answer it is
// booked, and what was asked before booked nothing.
func TestOneRequestBooksOrAsks(t *testing.T) {
	s, lots, m := shelfOf(t)
	w := planned(t, s, m.ID, lots)
	want := w.Units[0].Cells[0].TargetG
	in := scale.Reading{Key: "reading-0001", Version: w.Version, Grams: want + 0.1}
	fine, ask, err := s.Scale.Enter(t.Context(), w.ID, in)
	require.NoError(t, err)
	require.Nil(t, ask, "one step of the scale is fine")
	assert.True(t, fine.Units[0].Cells[0].Done)
	in = scale.Reading{Key: "reading-0002", Version: fine.Version, Component: 1, Grams: fine.Units[0].Cells[1].TargetG + 2}
	_, ask, err = s.Scale.Enter(t.Context(), w.ID, in)
	require.NoError(t, err)
	require.NotNil(t, ask)
	assert.Equal(t, "over", ask.Verdict)
	assert.InDelta(t, 2, ask.OffG, 1e-9)
	still, err := s.Scale.Weighout(t.Context(), w.ID)
	require.NoError(t, err)
	assert.Equal(t, fine.Version, still.Version, "asking books nothing")
	for _, o := range ask.Options {
		in.Policy, in.Key = o.Policy, "reading-"+o.Policy
		in.Version = still.Version
		then, ask, err := s.Scale.Enter(t.Context(), w.ID, in)
		require.NoError(t, err)
		require.Nil(t, ask)
		assert.InDelta(t, o.TotalG, then.Units[0].TotalG, 1e-9, "%s: it is as was shown", o.Policy)
		assert.Equal(t, o.Hex, then.Units[0].Hex, o.Policy)
		still, err = s.Scale.UndoWeighing(t.Context(), w.ID, then.Version)
		require.NoError(t, err)
	}
}

// With nothing left that could give way, the total cannot be kept, and that is not
// offered; every fibre that falls short is named.
func TestWhatCannotGiveWayIsNotOffered(t *testing.T) {
	s, lots, m := shelfOf(t)
	b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: "b", TotalG: 100, Passes: 1, Components: []recipe.BlendComponent{
		{LotID: &lots[5].ID, Parts: 15}, {LotID: &lots[6].ID, Parts: 45}, {LotID: &lots[1].ID, Parts: 40},
	}})
	require.NoError(t, err)
	w, err := s.Scale.CreateWeighout(t.Context(), b.ID, scale.WeighoutInput{Units: 1, FinishedG: 100, Passes: 1, StepG: 0.1})
	require.NoError(t, err)
	book := func(component int, grams float64, policy string) {
		w, err = s.Scale.Weigh(t.Context(), w.ID, scale.Reading{
			Key: fmt.Sprintf("way-%d-%v-%s", component, grams, policy), Version: w.Version, Component: component, Grams: grams, Policy: policy,
		})
		require.NoError(t, err)
	}
	c, err := s.Scale.Consider(t.Context(), w.ID, scale.Reading{Component: 2, Grams: 80})
	require.NoError(t, err)
	ways := map[string]scale.Option{}
	for _, o := range c.Options {
		ways[o.Policy] = o
	}
	require.Contains(t, ways, "keep-total")
	var short []string
	for _, v := range ways["keep-shares"].Short {
		short = append(short, v.Name)
		assert.Positive(t, v.Grams)
	}
	assert.ElementsMatch(t, []string{"film", "silk"}, short, "twice the navy takes twice of both")
	book(0, w.Units[0].Cells[0].TargetG, scale.AsIs)
	book(1, w.Units[0].Cells[1].TargetG, scale.AsIs)
	c, err = s.Scale.Consider(t.Context(), w.ID, scale.Reading{Component: 2, Grams: 80})
	require.NoError(t, err)
	for _, o := range c.Options {
		assert.NotEqual(t, "keep-total", o.Policy)
	}
}

// A note is kept beside the weighing, and one from an old window is told.
func TestWhatCameOffIsKept(t *testing.T) {
	s, lots, m := shelfOf(t)
	w := planned(t, s, m.ID, lots)
	off := 29.4
	noted, err := s.Scale.NoteUnit(t.Context(), w.ID, 1, scale.NoteInput{OffG: &off, Note: "soft"})
	require.NoError(t, err)
	require.NotNil(t, noted.Units[1].OffG)
	assert.Equal(t, 29.4, *noted.Units[1].OffG)
	assert.Equal(t, "soft", noted.Units[1].Note)
	assert.Equal(t, w.Version, noted.Version, "at the scale it goes on")
	_, err = s.Scale.NoteUnit(t.Context(), w.ID, 1, scale.NoteInput{Note: "from another window"})
	var stale store.Stale
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, "soft", stale.Current.(scale.Weighout).Units[1].Note)
	for _, wrong := range []float64{-1, 1e12} {
		_, err = s.Scale.NoteUnit(t.Context(), w.ID, 1, scale.NoteInput{Version: noted.Units[1].NoteVersion, OffG: &wrong})
		l, ok := fault.From(err)
		require.True(t, ok)
		assert.Equal(t, "off_g", l[0].Field)
	}
	_, err = s.Scale.NoteUnit(t.Context(), w.ID, 2, scale.NoteInput{})
	_, ok := fault.From(err)
	assert.True(t, ok, "there is no third unit")
}
