package losses

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// 2 % in the first pass and six tenths of it in the second leave 0.98 × 0.988 = 0.96824.
func TestAWayByHand(t *testing.T) {
	f := Fall{First: 0.02, Decay: 0.6}
	assert.InDelta(t, 0.96824, Way{Fall: f, Joins: 1, Passes: 2}.Yield(), 1e-12)
	assert.InDelta(t, 100/0.96824, Way{Fall: f, Joins: 0, Passes: 2}.WeighIn(100), 1e-9, "0 is the first pass")
	assert.InDelta(t, 0.98, Way{Fall: f, Joins: 2, Passes: 2}.Yield(), 1e-12, "it joins at the second")
	assert.InDelta(t, 1, Way{Fall: f, Joins: 2, Passes: 2}.After(1), 0, "and is whole before")
	assert.InDelta(t, 0.98, Way{Fall: f, Joins: 5, Passes: 2}.Yield(), 1e-12, "what would join after the last joins at it")
	assert.InDelta(t, 1, Way{Fall: f, Joins: 1, Passes: 0}.Yield(), 0, "laid as it is")
	assert.InDelta(t, 0.98, Way{Fall: f, Joins: 1, Passes: 2}.After(1), 1e-12)
	assert.InDelta(t, 0.98*0.988, Way{Fall: f, Alone: 1, Joins: 2, Passes: 2}.Yield(), 1e-12, "once alone, and once in the batt")
	assert.InDelta(t, 0.98, Way{Fall: f, Alone: 1, Joins: 2, Passes: 2}.After(1), 1e-12, "it came off so, and waits")
	assert.InDelta(t, 0.98, Way{Fall: f, Alone: 1, Joins: 2, Passes: 2}.Laid(), 1e-12)
	assert.InDelta(t, 0.98, Way{Fall: f, Alone: 1}.Yield(), 1e-12, "alone, and then laid as it is")
	assert.Zero(t, Lack(10, 9.9996), "rounding lacks nothing")
	assert.InDelta(t, 0.5, Lack(10, 9.5), 1e-12)
}

// What is weighed in for so much finished leaves so much; each pass leaves less, and together they leave
// what is left at the end.
func TestWays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := Way{Fall: Fall{rapid.Float64Range(0, 0.9).Draw(t, "first"), rapid.SampledFrom([]float64{0, 0.3, 0.6, 1}).Draw(t, "decay")},
			Alone: rapid.IntRange(0, 3).Draw(t, "alone"), Joins: rapid.IntRange(0, 9).Draw(t, "joins"), Passes: rapid.IntRange(0, 8).Draw(t, "passes")}
		g := rapid.Float64Range(0, 1e6).Draw(t, "grams")
		require.InEpsilon(t, 1+g, 1+w.Finished(w.WeighIn(g)), 1e-9)
		left := w.Laid()
		require.LessOrEqual(t, left, 1.0)
		for pass := range w.Passes + 1 {
			now := w.After(pass)
			require.LessOrEqual(t, now, left+1e-15)
			if pass >= w.joins() && w.First > 1e-6 {
				require.Less(t, now, left)
			}
			left = now
		}
		require.Equal(t, w.Yield(), left)
	})
}
