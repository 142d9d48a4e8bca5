package blend

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/unit"
)

func drawBlend(t *rapid.T, least int) Blend {
	n := rapid.IntRange(least, 8).Draw(t, "n")
	b := make(Blend, n)
	for i := range b {
		b[i] = Part{rapid.Float64Range(0.01, 1000).Draw(t, "parts"), rapid.Bool().Draw(t, "locked")}
	}
	return b
}

func sum(s []float64) (t float64) {
	for _, v := range s {
		t += v
	}
	return t
}

// Whatever is done to a blend, shares add up to 1 and locks hold.
func TestSetShareLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := drawBlend(t, 1)
		i := rapid.IntRange(0, len(b)-1).Draw(t, "i")
		x := rapid.Float64Range(-0.2, 1.2).Draw(t, "x")
		before := b.Shares()
		out, err := b.SetShare(i, x)
		assert.Equal(t, before, b.Shares(), "the old blend is left as it was")
		least, most := b.Room(i)
		if err != nil {
			assert.True(t, x <= least+1e-9 || x >= most-1e-9, "refused %v although %v..%v is free", x, least, most)
			return
		}
		after := out.Shares()
		assert.InDelta(t, 1, sum(after), 1e-9)
		assert.InDelta(t, x, after[i], 1e-9)
		assert.NoError(t, out.Check())
		for j := range b {
			if j != i && b[j].Locked {
				assert.InDelta(t, before[j], after[j], 1e-9)
			}
			for k := range b {
				if j != i && k != i && !b[j].Locked && !b[k].Locked {
					assert.InEpsilon(t, before[j]/before[k], after[j]/after[k], 1e-6, "unlocked keep their proportions")
				}
			}
		}
	})
}

func TestAddRemoveAndSlideLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := drawBlend(t, 2)
		before := b.Shares()
		x := rapid.Float64Range(0.01, 0.99).Draw(t, "x")
		if out, err := b.Add(x); err == nil {
			after := out.Shares()
			assert.InDelta(t, 1, sum(after), 1e-9)
			assert.InDelta(t, x, after[len(b)], 1e-9)
			for j := range b {
				if b[j].Locked {
					assert.InDelta(t, before[j], after[j], 1e-9)
				}
			}
			back, err := out.Remove(len(b))
			require.NoError(t, err)
			assert.InDelta(t, 1, sum(back.Shares()), 1e-9)
		}
		i := rapid.IntRange(0, len(b)-2).Draw(t, "i")
		if out, err := b.Slide(i, x); err == nil {
			after := out.Shares()
			assert.InDelta(t, 1, sum(after), 1e-9)
			for j := range b {
				if j != i && j != i+1 {
					assert.InDelta(t, before[j], after[j], 1e-9)
				}
			}
		}
		out, left, err := b.RemoveShrinking(i)
		require.NoError(t, err)
		assert.InDelta(t, 1-before[i], left, 1e-9)
		for j, s := range out.Shares() { // weights of the others are unchanged
			k := j
			if j >= i {
				k++
			}
			assert.InDelta(t, before[k], s*left, 1e-9)
		}
	})
}

func TestSetPartsKeepsLockedShares(t *testing.T) {
	b := Blend{{3, false}, {1, false}, {4, true}}
	out, err := b.SetParts(0, 5)
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{5. / 12, 1. / 12, 0.5}, out.Shares(), 1e-12)
	assert.Equal(t, 1.0, out[1].Parts, "an unlocked other keeps the number that was typed")
	free := Blend{{3, false}, {1, false}}
	out, err = free.SetParts(1, 3)
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{0.5, 0.5}, out.Shares(), 1e-12)
	for _, bad := range []float64{0, -1, math.NaN(), math.Inf(1), 1e300} {
		_, err := free.SetParts(0, bad)
		assert.Error(t, err)
	}
}

func TestRefusalNamesTheLargestShare(t *testing.T) {
	b := Blend{{50, false}, {30, false}, {20, true}}
	_, err := b.SetShare(0, 0.85)
	assert.ErrorContains(t, err, "80 %")
	_, err = Blend{{1, false}, {1, true}}.SetShare(0, 0.4)
	assert.ErrorContains(t, err, "locked")
	_, err = Blend{{1, false}}.SetShare(0, 0.4)
	assert.ErrorContains(t, err, "100 %")
	_, err = Blend{{1, false}}.Remove(0)
	assert.Error(t, err)
}

// Worked by hand: 40 g at 50 % with a yield of 0.95 carries 76 g; 30 g at 30 %
// with 0.9 carries 90 g. Ten more grams of the first: 95 g, but then the
// second limits at 90 g, so 14 g more.
func TestLargest(t *testing.T) {
	shares := []float64{0.5, 0.3, 0.2}
	stock := []Stock{{Have: 40, Yield: 0.95}, {Have: 30, Yield: 0.9}, {Endless: true, Yield: 1}}
	l := Largest(shares, stock)
	assert.Equal(t, 0, l.By)
	assert.InDelta(t, 76, float64(l.Finished), 1e-9)
	assert.InDelta(t, 14, float64(l.TenMore), 1e-9)
	none := Largest([]float64{1}, []Stock{{Endless: true}})
	assert.Equal(t, -1, none.By)
	assert.True(t, math.IsInf(float64(none.Finished), 1))
	assert.InDelta(t, 253.333333, float64(UsingAll(Stock{Have: 38, Yield: 1}, 0.15)), 1e-6)
}

// The largest blend uses up exactly the lot that limits, and none beyond.
func TestLargestUsesUpTheLimit(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		shares := drawBlend(t, 1).Shares()
		stock := make([]Stock, len(shares))
		for i := range stock {
			stock[i] = Stock{Have: unit.Grams(rapid.Float64Range(0, 500).Draw(t, "have")), Yield: rapid.Float64Range(0.5, 1).Draw(t, "yield")}
		}
		l := Largest(shares, stock)
		for i, s := range stock {
			need := float64(l.Finished) * shares[i] / s.Yield
			assert.LessOrEqual(t, need, float64(s.Have)*(1+1e-9)+1e-9)
			if i == l.By {
				assert.InDelta(t, float64(s.Have), need, 1e-6)
			}
		}
		assert.GreaterOrEqual(t, float64(l.TenMore), 0.0)
	})
}

func TestSmallestSample(t *testing.T) {
	// 5 steps of 0.1 g at 6 % : 8.33 g, up to the step 8.4 g.
	assert.Equal(t, unit.Milligrams(8400), SmallestSample([]float64{0.94, 0.06}, 100, 5))
	assert.Equal(t, unit.Milligrams(500), SmallestSample([]float64{1}, 100, 5))
}

// The worked plan beside the method: 60 % Corriedale sliver at (50 + 90)/2 =
// 70 g, 40 % slick fibre at 90 g: 1/(0.60/70 + 0.40/90) = 76.8 g.
func TestCapacityByHand(t *testing.T) {
	caps := []unit.Grams{CapacityOf("medium", "carded_sliver", 90, 50), CapacityOf("none", "combed_top", 90, 50)}
	assert.Equal(t, []unit.Grams{70, 90}, caps)
	assert.InDelta(t, 76.8, float64(Capacity([]float64{0.6, 0.4}, caps)), 0.05)
	assert.Equal(t, unit.Grams(70), CapacityOf("high", "combed_top", 90, 50))
	assert.Equal(t, unit.Grams(50), CapacityOf("high", "picked_cloud", 90, 50))
	assert.Equal(t, unit.Grams(50), CapacityOf("none", "locks", 90, 50))
}

// What of each crimp and preparation packs how close: high crimp and cloud stand
// lofty, medium in between, combed top a step closer.
func TestCapacityByCrimpAndPreparation(t *testing.T) {
	for _, c := range []struct {
		crimp, preparation string
		holds              unit.Grams
	}{
		{"high", "carded_sliver", 50}, {"high", "combed_top", 70}, {"medium", "carded_sliver", 70}, {"medium", "combed_top", 90},
		{"low", "carded_sliver", 90}, {"low", "combed_top", 90}, {"none", "batt", 90},
		{"none", "locks", 50}, {"low", "washed_locks", 50}, {"none", "picked_cloud", 50},
	} {
		assert.Equal(t, c.holds, CapacityOf(c.crimp, c.preparation, 90, 50), "%s %s", c.crimp, c.preparation)
	}
}

// A fifth of something new, beside a quarter that is locked: the others, half and a quarter, share what is
// left, 0.55, as two to one.
func TestAddByHand(t *testing.T) {
	b, err := Blend{{Parts: 2}, {Parts: 1}, {Parts: 1, Locked: true}}.Add(0.2)
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{0.55 * 2 / 3, 0.55 / 3, 0.25, 0.2}, b.Shares(), 1e-12)
	for _, x := range []float64{0, -0.1, 0.75, 1} {
		_, err := b[:3].Add(x)
		assert.ErrorContains(t, err, "components[3].share", "%g", x)
	}
}
