package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
)

// 34 stitches of 12 mm are 0.408 m of yarn in a row; 240 m of batts of 81.2 m are three, and two
// for each where the plies are a batt each. What misses by a hand's breadth is not enough.
func TestRowsAndBattsByHand(t *testing.T) {
	y := yarns.Yarn{YarnPlan: yarns.YarnPlan{Stitches: 34, StitchMM: 12}, PliedM: 81.2, NeedM: 240, NeedPlyM: 240}
	assert.InDelta(t, 32.84, y.RowsIn(13.4), 0.005)
	assert.Equal(t, 3, y.Batts())
	y.Pair = "mirrored"
	assert.Equal(t, 6, y.Batts())
	assert.Equal(t, 2, yarns.Yarn{PliedM: 99.95, NeedPlyM: 100}.Batts())
	assert.Equal(t, 1, yarns.Yarn{PliedM: 100, NeedPlyM: 100}.Batts())
}

// Two skeins of 100 m and 30 g, and one of 15 g whose length was not measured: 250 m in all, 10 m
// more than are needed.
func TestASkeinWithoutALengthCountsByItsWeight(t *testing.T) {
	n := &yarns.Need{NeedPlan: yarns.NeedPlan{Way: "yarn", Length: 240}, Enough: true, YarnG: 72}
	list := []yarns.Skein{
		{SkeinTold: yarns.SkeinTold{LengthM: 100, WeightG: 30}},
		{SkeinTold: yarns.SkeinTold{LengthM: 100, WeightG: 30}},
		{SkeinTold: yarns.SkeinTold{WeightG: 15}},
	}
	a := yarns.AgainstNeed(list, n)
	assert.InDelta(t, 250, a.LengthM, 1e-9)
	assert.InDelta(t, 10, a.SpareM, 1e-9)
	assert.True(t, a.Enough)
	assert.False(t, yarns.AgainstNeed(list[:2], n).Enough)
	assert.False(t, yarns.AgainstNeed(list, nil).Told, "no need, nothing to meet")
}

// A figure is needed part by part: what was weighed adds up and is given to its blends; what is taken by eye has no weight and is left
// as it is.
func TestAFigureIsNeededPartByPart(t *testing.T) {
	s, lots, m := shelfOf(t)
	var ids []int64
	for i, name := range []string{"body", "mane", "patch"} {
		b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: name, TotalG: 10, Components: []recipe.BlendComponent{{LotID: &lots[i].ID, Parts: 1}}})
		require.NoError(t, err)
		ids = append(ids, b.ID)
	}
	n, err := s.Yarns.StartNeed(t.Context(), m.ID, yarns.NeedPlan{What: "a fox", Way: "figure", Parts: []yarns.NeedPart{
		{BlendID: ids[0], Parts: 42.5}, {BlendID: ids[1], Parts: 6}, {BlendID: ids[2], Parts: 0},
	}})
	require.NoError(t, err)
	assert.True(t, n.Enough)
	assert.InDelta(t, 48.5, n.FibreG, 1e-9)
	assert.Equal(t, []float64{42.5, 6, 0}, []float64{n.Blends[0].WantG, n.Blends[1].WantG, n.Blends[2].WantG})
	assert.Equal(t, []bool{false, false, true}, []bool{n.Blends[0].Eye, n.Blends[1].Eye, n.Blends[2].Eye})
	n, err = s.Yarns.GiveWeights(t.Context(), n.ID)
	require.NoError(t, err)
	assert.Equal(t, []float64{42.5, 6, 10}, []float64{n.Blends[0].NowG, n.Blends[1].NowG, n.Blends[2].NowG})
	n, err = s.Yarns.ChangeNeed(t.Context(), n.ID, n.Version, yarns.NeedChange{Verb: "part", Key: ids[0], Value: 0})
	require.NoError(t, err)
	assert.InDelta(t, 6, n.FibreG, 1e-9)
	n, err = s.Yarns.ChangeNeed(t.Context(), n.ID, n.Version, yarns.NeedChange{Verb: "part", Key: ids[1], Value: 0})
	require.NoError(t, err)
	assert.False(t, n.Enough, "all by eye: nothing is worked out")
	n, err = s.Yarns.ChangeNeed(t.Context(), n.ID, n.Version, yarns.NeedChange{Verb: "set", Field: "way", Text: "batts"})
	require.NoError(t, err)
	assert.Equal(t, 42.5, n.Blends[0].Parts, "grams are not taken for parts")
}
