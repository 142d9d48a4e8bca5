package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/studio/reach"
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
