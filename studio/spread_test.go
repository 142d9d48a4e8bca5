package studio

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

// Lots that lie opposite each other turn muddy, and the share that stays clear is one that does; picked lots become a blend in equal
// parts that the shelf suffices for, in a new making, whole or not at all.
func TestColoursTogether(t *testing.T) {
	s, _, _ := shelfOf(t)
	var ids []int64
	for _, v := range [][2]string{{"blue", "#2f7fd0"}, {"amber", "#c98a2f"}, {"red", "#c03028"}} {
		l, err := s.Shelf.CreateLots(t.Context(), []shelf.NewLot{{LotInput: shelf.LotInput{
			Name: v[0], Kind: "corriedale", Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: v[1], Share: 1}},
		}, Grams: 60}}, "")
		require.NoError(t, err)
		ids = append(ids, l[0].ID)
	}
	v, err := s.Reach.SpreadOut(t.Context(), reach.SpreadQuery{Lot: ids[0], Scheme: "opposite", Picked: ids})
	require.NoError(t, err)
	require.NotNil(t, v.InHand)
	require.NotNil(t, v.Picked)
	require.Len(t, v.Picked.Lots, 3)
	require.Len(t, v.Picked.Pairs, 1, "blue and amber")
	pair := v.Picked.Pairs[0]
	assert.Less(t, pair.Left, 0.4)
	assert.Greater(t, pair.Clear, 0.0)
	assert.Less(t, pair.Clear, 0.5)
	for _, set := range v.Sets {
		assert.GreaterOrEqual(t, len(set.Lots), 3)
	}
	_, err = s.Reach.SpreadOut(t.Context(), reach.SpreadQuery{Lot: ids[0], Scheme: "pentagon"})
	assert.Error(t, err)
	b, err := s.Reach.BlendOf(t.Context(), 0, "three", ids)
	require.NoError(t, err)
	assert.Len(t, b.Components, 3)
	for _, c := range b.Components {
		assert.InDelta(t, 1.0/3, c.Share, 1e-9)
		assert.LessOrEqual(t, c.Grams, 60.0)
	}
	before, err := s.Recipe.MakingNames(t.Context())
	require.NoError(t, err)
	_, err = s.Reach.BlendOf(t.Context(), 0, "none", []int64{99_999})
	assert.Error(t, err)
	after, err := s.Recipe.MakingNames(t.Context())
	require.NoError(t, err)
	assert.Equal(t, before, after, "no making is left behind")
}

// The range of a blend: its grams add up to what each weighs, what it says of its colour is what the blend then has, the jumps of a side
// are even, and blends are made of all but the base, once.
func TestTintsAndShadesOfABlend(t *testing.T) {
	s, lots, m := shelfOf(t)
	b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: "base", TotalG: 50, Passes: 2, Components: []recipe.BlendComponent{
		{LotID: &lots[0].ID, Parts: 2}, {LotID: &lots[2].ID, Parts: 1},
	}})
	require.NoError(t, err)
	out, err := s.Reach.RangeOf(t.Context(), b.ID, reach.RangeQuery{LighterSteps: 3, DarkerSteps: 2})
	require.NoError(t, err)
	require.Len(t, out.Blends, 6)
	for i, v := range out.Blends {
		sum := 0.0
		for _, g := range v.Grams {
			sum += g
		}
		assert.InDelta(t, 50, sum, 1e-9, v.Name)
		assert.Equal(t, i-3, v.Place)
	}
	assert.Equal(t, b.Hex, out.Blends[3].Hex)
	assert.InEpsilon(t, out.Blends[0].Jump, out.Blends[1].Jump, 0.06)
	assert.InEpsilon(t, out.Blends[0].Jump, out.Blends[2].Jump, 0.06)
	assert.InEpsilon(t, out.Blends[3].Jump, out.Blends[4].Jump, 0.06)
	making, err := s.Reach.MakeRange(t.Context(), b.ID, reach.RangeQuery{LighterSteps: 3, DarkerSteps: 2})
	require.NoError(t, err)
	blends, err := s.Recipe.BlendsOf(t.Context(), making)
	require.NoError(t, err)
	require.Len(t, blends, 6)
	for _, v := range out.Blends {
		if v.Place == 0 {
			continue
		}
		i := slices.IndexFunc(blends, func(o recipe.Blend) bool { return o.Name == v.Name })
		require.GreaterOrEqual(t, i, 0, v.Name)
		x, _ := colour.ParseHex(v.Hex)
		y, _ := colour.ParseHex(blends[i].Hex)
		assert.Less(t, colour.CIEDE2000(x.Lab(), y.Lab()), 0.8, "%s: to the scale and to 8 bits", v.Name)
	}
	for _, q := range []reach.RangeQuery{{}, {LighterSteps: 40}, {LighterSteps: 1, Lighter: 99_999}} {
		_, err := s.Reach.MakeRange(t.Context(), b.ID, q)
		assert.Error(t, err, "%+v", q)
	}
	after, err := s.Recipe.BlendsOf(t.Context(), making)
	require.NoError(t, err)
	assert.Len(t, after, 6)
}

// The blends of a making side by side: in the order asked for, what all hold is found, and changed in all of them or in none.
func TestAFamilyAroundOneBase(t *testing.T) {
	s, lots, m := shelfOf(t)
	var ids []int64
	for i := range 3 {
		b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: "b", TotalG: 30, Components: []recipe.BlendComponent{
			{LotID: &lots[0].ID, Parts: float64(i + 1)}, {LotID: &lots[2].ID, Parts: 1},
		}})
		require.NoError(t, err)
		ids = append(ids, b.ID)
	}
	f, err := s.Reach.FamilyOf(t.Context(), m.ID, []int64{ids[2], ids[0]})
	require.NoError(t, err)
	assert.Equal(t, []int64{ids[2], ids[0], ids[1]}, []int64{f.Blends[0].ID, f.Blends[1].ID, f.Blends[2].ID})
	require.Len(t, f.Common, 2)
	assert.InDelta(t, 0.5, f.Common[0].Low, 1e-9)
	assert.InDelta(t, 0.75, f.Common[0].High, 1e-9)
	assert.Positive(t, f.Blends[0].Jump)
	assert.Zero(t, f.Blends[2].Jump)
	n, err := s.Reach.ChangeBase(t.Context(), m.ID, lots[0].ID, lots[1].ID)
	require.NoError(t, err)
	assert.Equal(t, 3, n)
	for i, id := range ids {
		b, err := s.Recipe.Blend(t.Context(), id)
		require.NoError(t, err)
		assert.Equal(t, lots[1].ID, *b.Components[0].LotID)
		assert.InDelta(t, float64(i+1)/float64(i+2), b.Components[0].Share, 1e-9, "its share stays")
	}
	_, err = s.Reach.ChangeBase(t.Context(), m.ID, lots[1].ID, lots[2].ID)
	assert.Error(t, err, "they hold that already")
	b, err := s.Recipe.Blend(t.Context(), ids[0])
	require.NoError(t, err)
	assert.Equal(t, lots[1].ID, *b.Components[0].LotID, "none was changed")
}
