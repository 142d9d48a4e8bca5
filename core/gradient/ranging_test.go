package gradient

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

// A range that is even to the eye has jumps within 5 % of each other on its side, rising shares, and ends at the largest.
func TestRangesAreEven(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		any := func(label string) colour.Reflectance {
			v := rapid.SliceOfN(rapid.Float64Range(0.01, 0.95), 3, 3).Draw(t, label)
			r, _ := colour.Linear{v[0], v[1], v[2]}.Reflectance()
			return r
		}
		r := Range{Base: []colour.Reflectance{any("a"), any("b")}, Shares: []float64{0.7, 0.3}, Added: any("added"), Model: mix.Default(), Even: true,
			Steps: rapid.IntRange(1, 6).Draw(t, "steps"), Most: rapid.Float64Range(0.2, 0.95).Draw(t, "most")}
		list, err := r.Places()
		require.NoError(t, err)
		require.Len(t, list, r.Steps)
		assert.InDelta(t, r.Most, list[len(list)-1], 1e-9)
		before, from := 0.0, r.At(0)
		var jumps []float64
		for _, s := range list {
			assert.Greater(t, s, before)
			here := r.At(s)
			jumps = append(jumps, colour.CIEDE2000(from.Lab(), here.Lab()))
			before, from = s, here
		}
		for _, j := range jumps {
			if jumps[0] > 0.5 {
				assert.InDelta(t, jumps[0], j, 0.05*jumps[0])
			}
		}
	})
}

func TestRangesByShares(t *testing.T) {
	none, err := Range{Base: make([]colour.Reflectance, 1), Shares: []float64{1}, Most: 0.8, Model: mix.Default()}.Places()
	require.NoError(t, err)
	assert.Empty(t, none)
	r := Range{Base: make([]colour.Reflectance, 1), Shares: []float64{1}, Steps: 4, Most: 0.8, Model: mix.Default()}
	list, err := r.Places()
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{0.2, 0.4, 0.6, 0.8}, list, 1e-12)
	for _, bad := range []Range{{Steps: 13, Most: 0.5}, {Steps: -1, Most: 0.5}, {Steps: 1, Most: 0}, {Steps: 1, Most: 1}} {
		_, err := bad.Places()
		assert.Error(t, err)
	}
}

// From any shares, settling makes the jumps alike; the least number of bridges that keeps to a jump is the one that makes it.
func TestSettledJumpsAreAlike(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		stop := func(name, hex string) Stop {
			c, err := colour.ParseHex(rapid.StringMatching(hex).Draw(t, name))
			require.NoError(t, err)
			r, _ := c.Reflectance()
			return Stop{Colour: r, Grams: 10}
		}
		p := newPath(mix.Default(), stop("dark", `#([0-5][0-9a-f]){3}`), stop("pale", `#([a-f][0-9a-f]){3}`))
		k := rapid.IntRange(1, 4).Draw(t, "bridges")
		shares := make([]float64, k)
		for i := range shares {
			shares[i] = float64(i+1) / float64(k+1)
		}
		p.settle(shares)
		low, high := p.jumps(shares)
		require.LessOrEqual(t, high, 1.1*low)
		_, jump := p.even(k)
		require.LessOrEqual(t, p.enough(jump), k)
	})
}
