package price

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// brute tries every table there is.
func brute(wares []Ware, minutes, wanted float64) (takes, time float64, enough bool) {
	takes, time = 0, 0
	bestEnough := math.Inf(1)
	var walk func(i int, money, spent float64)
	walk = func(i int, money, spent float64) {
		if spent > minutes+1e-9 {
			return
		}
		if i == len(wares) {
			if money >= wanted-1e-9 {
				enough = true
				bestEnough = min(bestEnough, spent)
			} else if money > takes+1e-9 || math.Abs(money-takes) < 1e-9 && spent < time {
				takes, time = money, spent
			}
			return
		}
		for n := 0; n <= wares[i].Most; n++ {
			walk(i+1, money+float64(n)*wares[i].Price, spent+float64(n)*wares[i].Minutes)
		}
	}
	walk(0, 0, 0)
	if enough {
		return 0, bestEnough, true
	}
	return takes, time, false
}

// Against every table that there is: the same time where it is enough, the same money where it is not; no more of anything than there is
// fibre for, and its sums are those of its counts.
func TestAStallIsTheBestThereIs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		wares := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) Ware {
			return Ware{Price: float64(rapid.IntRange(1, 60).Draw(t, "halves")) / 2, Minutes: float64(rapid.IntRange(0, 40).Draw(t, "minutes")),
				Most: rapid.IntRange(0, 5).Draw(t, "most")}
		}), 0, 5).Draw(t, "wares")
		minutes, wanted := float64(rapid.IntRange(1, 300).Draw(t, "time")), float64(rapid.IntRange(1, 200).Draw(t, "wanted"))
		got, err := Fair(wares, minutes, wanted)
		require.NoError(t, err)
		takes, time, enough := brute(wares, minutes, wanted)
		require.Equal(t, enough, got.Enough)
		if enough {
			assert.InDelta(t, time, got.Minutes, 1e-6)
			assert.GreaterOrEqual(t, got.Takes, wanted-1e-6)
		} else {
			assert.InDelta(t, takes, got.Takes, 1e-6)
		}
		money, spent := 0.0, 0.0
		for i, n := range got.Counts {
			assert.LessOrEqual(t, n, wares[i].Most)
			money += float64(n) * wares[i].Price
			spent += float64(n) * wares[i].Minutes
		}
		assert.InDelta(t, got.Takes, money, 1e-6)
		assert.InDelta(t, got.Minutes, spent, 1e-6)
		assert.LessOrEqual(t, spent, minutes+1e-6)
	})
}

func TestAStallIsAskedForSensibly(t *testing.T) {
	for _, c := range [][2]float64{{0, 10}, {10, 0}, {math.NaN(), 1}, {10, 1e9}} {
		_, err := Fair([]Ware{{1, 1, 1}}, c[0], c[1])
		assert.Error(t, err)
	}
	got, err := Fair(nil, 60, 10)
	require.NoError(t, err)
	assert.False(t, got.Enough)
}
