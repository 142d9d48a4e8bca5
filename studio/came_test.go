package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/match"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
)

// A blend that was carded and came out too light is mended: what was carded stays
// as it is, only the addition is weighed, and the colour foretold rests on what
// came out.
func TestAMendIsAnAddition(t *testing.T) {
	s, lots, m := shelfOf(t)
	b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: "b", TotalG: 40, Passes: 2, Components: []recipe.BlendComponent{
		{LotID: &lots[0].ID, Parts: 1}, {LotID: &lots[2].ID, Parts: 1},
	}})
	require.NoError(t, err)
	q := reach.MendInput{MadeG: 36, Said: []match.Said{{What: "light", How: "clearly"}}, MaxComponents: 2, MaxAddedG: 20, Count: 3}
	answer, err := s.Reach.Mend(t.Context(), b.ID, b.Input(), q)
	require.NoError(t, err)
	require.NotEmpty(t, answer.Mends)
	for _, a := range answer.Mends {
		in := b.Input()
		in.Components, in.TotalG, in.Came = a.Components, a.TotalG, &a.Came
		then, err := s.Recipe.WorkOut(t.Context(), in)
		require.NoError(t, err)
		require.NotNil(t, then.Carded)
		assert.True(t, then.Carded.Holds)
		assert.Equal(t, answer.BeforeHex, then.Carded.Hex, "it came out as was said")
		var add float64
		for i, v := range then.Carded.Add {
			add += v
			assert.GreaterOrEqual(t, v, 0.0, then.Components[i].Name)
		}
		assert.InDelta(t, a.AddedG, add, 0.01)
		assert.InDelta(t, 36+a.AddedG, then.TotalG, 0.01)
		assert.Less(t, a.DeltaE, answer.BeforeDeltaE)
		shown, err := colour.ParseHex(a.Hex)
		require.NoError(t, err)
		assert.Less(t, colour.CIEDE2000(shown.Lab(), then.Even.Lab()), 0.6, "taken, it has the colour that the mend showed")
	}
	in := b.Input()
	a := answer.Mends[0]
	in.Components, in.TotalG, in.Came = a.Components, a.TotalG, &a.Came
	kept, err := s.Recipe.SaveBlend(t.Context(), b.ID, b.Version, in, "mend")
	require.NoError(t, err)
	w, err := s.Scale.CreateAddition(t.Context(), kept.ID)
	require.NoError(t, err)
	assert.InDelta(t, a.AddedG, w.TotalG, 0.1*float64(len(w.Components)), "only what is added is weighed")
	for _, c := range w.Components {
		assert.NotNil(t, c.LotID)
	}
	// A recipe that no longer contains what was carded says so.
	less := kept.Input()
	less.Components = less.Components[1:]
	off, err := s.Recipe.WorkOut(t.Context(), less)
	require.NoError(t, err)
	assert.False(t, off.Carded.Holds)
	_, err = s.Scale.CreateAddition(t.Context(), b.ID)
	assert.NoError(t, err)
	forgot, err := s.Recipe.Apply(t.Context(), kept.Input(), recipe.Change{Verb: "forget"})
	require.NoError(t, err)
	assert.Nil(t, forgot.Carded)
	copied, err := s.Recipe.CopyBlend(t.Context(), kept.ID)
	require.NoError(t, err)
	assert.Nil(t, copied.Carded, "a copy was not carded")
}

// What was weighed so far, half of one fibre and none of the other, is what is
// there; its colour is that fibre's.
func TestAMendStartsFromWhatWasWeighed(t *testing.T) {
	s, lots, m := shelfOf(t)
	w := planned(t, s, m.ID, lots)
	_, err := s.Reach.Mend(
		t.Context(),
		w.BlendID,
		inputFor(t, s, w.BlendID),
		reach.MendInput{There: "weighed", Target: "#6b7a80", MaxComponents: 2, MaxAddedG: 20},
	)
	assert.ErrorContains(t, err, "Nothing of it was weighed yet")
	want := w.Units[0].Cells[0].TargetG
	_, err = s.Scale.Weigh(t.Context(), w.ID, scale.Reading{Key: "weighed-0001", Version: w.Version, Grams: want})
	require.NoError(t, err)
	answer, err := s.Reach.Mend(
		t.Context(),
		w.BlendID,
		inputFor(t, s, w.BlendID),
		reach.MendInput{There: "weighed", Target: "#6b7a80", MaxComponents: 2, MaxAddedG: 20, Count: 2},
	)
	require.NoError(t, err)
	assert.Equal(t, "#ece6d8", answer.BeforeHex, "only the white is there")
	require.NotEmpty(t, answer.Mends)
	for _, a := range answer.Mends {
		assert.InDelta(t, want*0.985*(1-0.015*0.6)+a.AddedG, a.TotalG, 0.02, "1.5 % is lost in the first pass, six tenths of it in the second")
	}
}

// What is drawn out of a blend leaves the rest with the colour that was foretold, and nothing to weigh.
func TestAStrandIsDrawnOut(t *testing.T) {
	s, lots, m := shelfOf(t)
	b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: "b", TotalG: 40, Passes: 0, Components: []recipe.BlendComponent{
		{LotID: &lots[0].ID, Parts: 1}, {LotID: &lots[2].ID, Parts: 1},
	}})
	require.NoError(t, err)
	answer, err := s.Reach.Mend(t.Context(), b.ID, b.Input(), reach.MendInput{
		MadeG: 40, Said: []match.Said{{What: "dark", How: "clearly"}}, MaxComponents: 1, MaxAddedG: 20, Count: 1,
	})
	require.NoError(t, err)
	require.NotEmpty(t, answer.TakeOut)
	for _, o := range answer.TakeOut {
		assert.Less(t, o.DeltaE, answer.BeforeDeltaE)
		assert.InDelta(t, 40, o.TotalG+o.Grams, 1e-9)
		in := b.Input()
		in.Components, in.TotalG, in.Came = o.Components, o.TotalG, &o.Came
		then, err := s.Recipe.WorkOut(t.Context(), in)
		require.NoError(t, err)
		require.True(t, then.Carded.Holds)
		assert.Equal(t, o.Hex, then.Hex)
		for _, g := range then.Carded.Add {
			assert.Zero(t, g)
		}
	}
}

func inputFor(t *testing.T, s *Studio, blend int64) recipe.BlendInput {
	b, err := s.Recipe.Blend(t.Context(), blend)
	require.NoError(t, err)
	return b.Input()
}

// Fibre of one's own is not short, and is never booked from the shelf: a painted
// top laid in another's hand has what its maker says she has.
func TestOnesOwnFibre(t *testing.T) {
	s, lots, m := shelfOf(t)
	own := bought
	own.OwnG = 25
	b, err := s.Recipe.CreateBlend(
		t.Context(),
		m.ID,
		recipe.BlendInput{Name: "b", TotalG: 40, Passes: 1, Components: []recipe.BlendComponent{own, {LotID: &lots[0].ID, Parts: 1}}},
	)
	require.NoError(t, err)
	assert.Zero(t, b.Components[0].ShortG, "20 g of 25 g")
	assert.Zero(t, b.Components[1].ShortG)
	in := b.Input()
	in.TotalG = 60
	more, err := s.Recipe.WorkOut(t.Context(), in)
	require.NoError(t, err)
	assert.InDelta(t, more.Components[0].WeighG-25, more.Components[0].ShortG, 1e-6)
}
