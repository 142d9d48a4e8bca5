package carding

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// TestPartsAddUpToTheBatt: whatever lies there and however it is divided, the parts hold
// all of it, lie side by side, and those by weight weigh the same.
func TestPartsAddUpToTheBatt(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := drawn(t, 1)
		n, byWeight := rapid.IntRange(1, 12).Draw(t, "parts"), rapid.Bool().Draw(t, "by weight")
		parts := b.Across(24, 3).Parts(50, n, byWeight)
		sum, all := make([]float64, 3), b.Grams(3)
		at := 0.0
		for _, p := range parts {
			require.InDelta(t, at, p.From, 1e-9)
			require.GreaterOrEqual(t, p.To, p.From)
			at = p.To
			for k, g := range p.Grams {
				sum[k] += g
			}
			if byWeight {
				require.InDelta(t, total(all)/float64(n), p.Total(), 1e-6)
			}
		}
		require.InDelta(t, 50, at, 1e-9)
		require.InDeltaSlice(t, all, sum, 1e-6)
	})
}

// TestHalvesOfAnUnevenBatt: 30 g in the left half and 10 g in the right; the half by
// weight ends at two thirds of the left one.
func TestHalvesOfAnUnevenBatt(t *testing.T) {
	p := DefaultParams()
	p.EdgeMM, p.Unopened = 0, 0
	b := empty(t, 1, p, 2)
	require.NoError(t, b.Feed(0, 30, 0, 100, Teased))
	require.NoError(t, b.Feed(1, 10, 100, 200, Teased))
	width := b.Across(24, 2).Parts(200, 2, false)
	assert.InDeltaSlice(t, []float64{30, 0}, width[0].Grams, 0.05)
	halves := b.Across(24, 2).Parts(200, 2, true)
	assert.InDelta(t, 100*20.0/30, halves[0].To, 0.5)
	assert.InDeltaSlice(t, []float64{20, 0}, halves[0].Grams, 0.05)
	assert.InDeltaSlice(t, []float64{10, 10}, halves[1].Grams, 0.05)

	palette := hexes(t, "#1f2a44", "#f4f1ea")
	_, each, from, most := palette.Differences(width)
	require.Len(t, each, 2)
	assert.InDelta(t, 0, each[0][0]-palette.Linear[0][0], 1e-6)
	assert.Greater(t, from[1], from[0], "three quarters of it are navy")
	assert.Greater(t, most, 50.0)
	_, _, from, most = palette.Differences([]Part{{Grams: []float64{3, 1}}, {Grams: []float64{6, 2}}})
	assert.InDelta(t, 0, most, 1e-6)
	assert.InDelta(t, 0, from[0], 1e-6)
}

// TestEveryClothHasAGrid: whatever cloth a forecast takes, it takes it finely and
// coarsely, and strips divide the lanes.
func TestEveryClothHasAGrid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		bed := Bed{WidthMM: rapid.Float64Range(LeastWide, MostWide).Draw(t, "wide"), LengthMM: rapid.Float64Range(LeastLong, MostLong).Draw(t, "long"), FullG: 40}
		g := FineGrid(bed.WidthMM, bed.LengthMM)
		for _, g := range []Grid{g, g.Coarse()} {
			require.NoError(t, check(bed, g, 1), "%v", g)
			for _, n := range stripCounts {
				require.Zero(t, g.Lanes%n)
			}
		}
		require.LessOrEqual(t, g.Coarse().Lanes*g.Coarse().Cells, g.Lanes*g.Cells)
	})
}

// What lies nowhere is not irregular, and what differs by chance alone is not said to.
func TestMostIrregular(t *testing.T) {
	s := Stage{Grams: []float64{4, 2, 0}, Lost: []float64{0.1, 0.2, 0}, Irregular: Irregularity{Section: []float64{1.2, 2.4, 7}}}
	at, index, ok := s.MostIrregular()
	assert.True(t, ok)
	assert.Equal(t, 1, at)
	assert.InDelta(t, 2.4, index, 0)
	assert.InDelta(t, 6, s.TotalG(), 1e-9)
	assert.InDelta(t, 0.3, s.LostG(), 1e-9)
	s.Irregular.Section = []float64{1, 1.004, 7}
	_, _, ok = s.MostIrregular()
	assert.False(t, ok)
}

// What is still in clumps is a part of each fibre, of a few hundredths of a gram too.
func TestUnopenedIsAPart(t *testing.T) {
	b := empty(t, 1, DefaultParams(), 2)
	require.NoError(t, b.Feed(0, 20, 0, 200, Teased))
	require.NoError(t, b.Feed(1, 0.3, 0, 200, Teased))
	f := b.Field(2)
	for k, v := range f.Unopened {
		assert.InDelta(t, DefaultParams().Unopened, v, 1e-6, k)
	}
}
