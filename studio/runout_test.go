package studio

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
)

// short is a weigh-out of four units whose first lot has enough for two and a half.
func short(t *testing.T) (*Studio, []shelf.Lot, scale.Weighout) {
	s, _, m := shelfOf(t)
	lots := []shelf.Lot{
		shelve(t, s, "mist", "#d8d4c8", 100), shelve(t, s, "harbour", "#26324a", 100),
		shelve(t, s, "brick", "#8a3b2a", 100), shelve(t, s, "haze", "#d2cfc4", 100), shelve(t, s, "end of haze", "#d2cfc4", 3),
	}
	b, err := s.Recipe.CreateBlend(
		t.Context(),
		m.ID,
		recipe.BlendInput{Name: "b", TotalG: 40, Passes: 1, Components: []recipe.BlendComponent{{LotID: &lots[0].ID, Parts: 1},
			{LotID: &lots[1].ID, Parts: 1}}},
	)
	require.NoError(t, err)
	w, err := s.Scale.CreateWeighout(t.Context(), b.ID, scale.WeighoutInput{Units: 4, FinishedG: 10, Passes: 1, StepG: 0.1})
	require.NoError(t, err)
	_, err = s.Shelf.Move(t.Context(), lots[0].ID, shelf.MoveInput{Reason: shelf.Recount, Grams: 2.5 * w.Units[0].Cells[0].TargetG, Key: "run-short-01"})
	require.NoError(t, err)
	w, err = s.Scale.Weighout(t.Context(), w.ID)
	require.NoError(t, err)
	assert.Positive(t, w.Components[0].ShortG, "it is said before it happens")
	return s, lots, w
}

// sane fails on a number that is none.
func sane(t *testing.T, w scale.Weighout) {
	assert.False(t, math.IsNaN(w.WorstShare) || math.IsNaN(w.LargestDelta) || math.IsNaN(w.ExpectedG))
	for _, c := range w.Components {
		assert.False(t, math.IsNaN(c.FinishedShare))
	}
}

func TestWaysOnWhereALotRunsOut(t *testing.T) {
	s, lots, w := short(t)
	o, err := s.Scale.RunningOut(t.Context(), w.ID, 0)
	require.NoError(t, err)
	assert.Equal(t, 2, o.FewerUnits)
	assert.InDelta(t, o.HaveG/4, o.SpreadG, 1e-9)
	assert.Positive(t, o.SpreadDeltaE)
	require.NotEmpty(t, o.Instead)
	for i, v := range o.Instead {
		assert.Equal(t, lots[0].Kind, v.Lot.Kind)
		assert.Equal(t, v.Lot.Grams > 3, v.Enough)
		assert.NotContains(t, []int64{lots[0].ID, lots[1].ID}, v.Lot.ID)
		if i > 0 {
			assert.GreaterOrEqual(t, v.DeltaE, o.Instead[i-1].DeltaE)
		}
	}
	_, err = s.Scale.RunningOut(t.Context(), w.ID, 9)
	require.Error(t, err)
	for _, way := range []string{"fly", "instead"} {
		_, err = s.Scale.GoOn(t.Context(), w.ID, w.Version, 0, way, 0)
		require.Error(t, err, way)
	}
	_, err = s.Scale.GoOn(t.Context(), w.ID, w.Version, 0, "instead", lots[1].ID)
	require.ErrorContains(t, err, "already")
	_, err = s.Scale.GoOn(t.Context(), w.ID, w.Version-1, 0, "spread", 0)
	require.ErrorAs(t, err, &floor.Stale{})
}

// TestTheRestFromAnotherLot: what was weighed stays with the first lot, also when it is
// taken back; the rest leaves the other one.
func TestTheRestFromAnotherLot(t *testing.T) {
	s, lots, w := short(t)
	ctx := t.Context()
	wanted := w.Units[0].Cells[0].TargetG
	had, err := s.Shelf.Lot(ctx, lots[0].ID)
	require.NoError(t, err)
	w, err = s.Scale.Weigh(ctx, w.ID, scale.Reading{Key: "instead-0001", Version: w.Version, Grams: wanted})
	require.NoError(t, err)
	o, err := s.Scale.RunningOut(ctx, w.ID, 0)
	require.NoError(t, err)
	other := o.Instead[0].Lot
	w, err = s.Scale.GoOn(ctx, w.ID, w.Version, 0, "instead", other.ID)
	require.NoError(t, err)
	assert.Equal(t, other.Name+", for "+lots[0].Name, w.Components[0].Name)
	sane(t, w)
	kept(t, s, w)
	w, err = s.Scale.Weigh(ctx, w.ID, scale.Reading{Key: "instead-0002", Version: w.Version, Unit: 1, Grams: wanted})
	require.NoError(t, err)
	left := func(id int64) float64 { l, err := s.Shelf.Lot(ctx, id); require.NoError(t, err); return l.Grams }
	assert.InDelta(t, had.Grams-wanted, left(lots[0].ID), 1e-9)
	assert.InDelta(t, other.Grams-wanted, left(other.ID), 1e-9)
	w, err = s.Scale.TakeBack(ctx, w.ID, w.Version, scale.Cell{Unit: 0, Component: 0})
	require.NoError(t, err)
	assert.InDelta(t, had.Grams, left(lots[0].ID), 1e-9)
	assert.InDelta(t, other.Grams-wanted, left(other.ID), 1e-9)
	kept(t, s, w)
}

// TestFewerUnitsAndASmallerShare: either way what there is suffices, to the milligram.
func TestFewerUnitsAndASmallerShare(t *testing.T) {
	s, _, w := short(t)
	fewer, err := s.Scale.GoOn(t.Context(), w.ID, w.Version, 0, "fewer", 0)
	require.NoError(t, err)
	assert.True(t, fewer.Units[3].Done && fewer.Units[2].Done)
	assert.False(t, fewer.Units[1].Done)
	assert.Zero(t, fewer.Components[0].ShortG)
	sane(t, fewer)
	kept(t, s, fewer)

	s, _, w = short(t)
	have := *w.Components[0].HaveG
	spread, err := s.Scale.GoOn(t.Context(), w.ID, w.Version, 0, "spread", 0)
	require.NoError(t, err)
	var sum float64
	for _, u := range spread.Units {
		sum += u.Cells[0].TargetG
		assert.InDelta(t, have/4, u.Cells[0].TargetG, 0.2)
	}
	assert.InDelta(t, have, sum, 1e-9)
	assert.Zero(t, spread.Components[0].ShortG)
	sane(t, spread)
	_, err = s.Scale.GoOn(t.Context(), w.ID, spread.Version, 0, "spread", 0)
	require.ErrorContains(t, err, "enough of it")
}
