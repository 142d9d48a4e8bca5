package match

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

func evenOf(lots ...colour.Reflectance) func([]float64) colour.Lab {
	return func(grams []float64) colour.Lab {
		var all float64
		for _, g := range grams {
			all += g
		}
		shares := make([]float64, len(grams))
		for i, g := range grams {
			shares[i] = g / all
		}
		r := mix.Default().Even(lots, shares)
		return r.Lab()
	}
}

// TestTakingOutGoesBack: what was put in too much of is found, and drawing it out makes the mix what it was before.
func TestTakingOutGoesBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 5).Draw(t, "fibres")
		lots, grams := make([]colour.Reflectance, n), make([]float64, n)
		for i := range n {
			c, err := colour.ParseHex(rapid.StringMatching(`#[0-9a-f]{6}`).Draw(t, "hex"))
			require.NoError(t, err)
			lots[i], _ = c.Reflectance()
			grams[i] = float64(rapid.IntRange(20, 300).Draw(t, "steps")) / 10
		}
		even := evenOf(lots...)
		target := even(grams)
		too, more := rapid.IntRange(0, n-1).Draw(t, "too much of"), rapid.Float64Range(0.1, 0.9).Draw(t, "more")
		put := append([]float64{}, grams...)
		steps := int(put[too] * more * 10)
		put[too] += float64(steps) / 10
		now := even(put)
		before := colour.CIEDE2000(target, now)
		found := TakeOut(put, even, now, target, 0.1)
		for _, d := range found {
			assert.LessOrEqual(t, d.DeltaE, before-worth)
			assert.LessOrEqual(t, float64(d.Steps)*0.1, put[d.Of]*MostDrawn+1e-9)
		}
		if before > 2*worth {
			require.NotEmpty(t, found)
			assert.LessOrEqual(t, found[0].DeltaE, 0.05*before+0.05, "the best is as good as drawing out what was too much")
		}
	})
}

func TestNothingIsTakenOut(t *testing.T) {
	white, _ := colour.ParseHex("#eeeeee")
	blue, _ := colour.ParseHex("#223377")
	a, _ := white.Reflectance()
	b, _ := blue.Reflectance()
	even := evenOf(a, b)
	assert.Empty(t, TakeOut([]float64{10, 10}, even, even([]float64{10, 10}), even([]float64{10, 10}), 0.1), "it is as wanted")
	assert.Empty(t, TakeOut([]float64{10, 10}, even, even([]float64{10, 10}), even([]float64{1, 0}), 20), "the scale cannot tell it")
	pale := TakeOut([]float64{10, 10}, even, even([]float64{10, 10}), even([]float64{10, 6}), 0.1)
	require.Len(t, pale, 1)
	assert.Equal(t, []int{1, 40}, []int{pale[0].Of, pale[0].Steps}, "4 g of the blue")
}
