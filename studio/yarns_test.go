package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"

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
