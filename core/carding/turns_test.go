package carding

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestTurnAboutLiesInAsManyPlaces: what joins is fed n times between portions of the strips, so that through the depth of the
// batt its share rises and falls n times, with the batt itself at the bottom and on top; fed all along it does neither.
func TestTurnAboutLiesInAsManyPlaces(t *testing.T) {
	assert.Equal(t, []int{16}, turns(1), "in the middle of the strips")
	assert.Equal(t, []int{8, 16, 24}, turns(3))
	assert.Len(t, turns(0), bins)
	for _, n := range []int{0, 1, 2, 3} {
		params := DefaultParams()
		params.Unopened, params.ClumpG = 0.05, 0.01
		b, err := New(Bed{WidthMM: 200, LengthMM: 580, FullG: 70}, FineGrid(200, 580), params, 3, 4)
		require.NoError(t, err)
		require.NoError(t, b.Feed(0, 60, 0, 200, 1))
		require.NoError(t, b.Card(Pass{Strips: 4, Refeed: OwnPlace, Turns: n, Joins: []Join{{Component: 1, Grams: 6, To: 200, When: Between, Chunky: 1}}}))
		sums := make([][2]float64, b.grid.Layers)
		for z := range sums {
			for k, s := range b.slots {
				sums[z][s.component] += b.sum[z*b.k+k]
			}
		}
		var part []float64
		for _, v := range sums {
			if v[0]+v[1] > 1 {
				part = append(part, v[1]/(v[0]+v[1]))
			}
		}
		peaks := 0
		for z := 1; z+1 < len(part); z++ {
			if part[z] > 0.15 && part[z] >= part[z-1] && part[z] > part[z+1] {
				peaks++
			}
		}
		assert.Equal(t, n, peaks, "%d times: %.2f", n, part)
		if n > 0 {
			assert.Less(t, part[0], 0.05)
			assert.Less(t, part[len(part)-1], 0.05)
		}
	}
}
