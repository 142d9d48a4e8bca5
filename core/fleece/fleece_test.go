package fleece

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/fibre"
	"fairtangle/core/unit"
)

// The stages together keep what the table of preparations says: raw fleece loses 25 to 60 %
// until it can be carded, washed locks 4 to 15 %.
func TestStagesAgreeWithThePreparations(t *testing.T) {
	raw, ok := fibre.FindPreparation("raw_fleece")
	require.True(t, ok)
	k := Keep(0, Picked)
	assert.InDelta(t, 1-raw.ReadyLossPct.High/100, k.Low, 0.005)
	assert.InDelta(t, 1-raw.ReadyLossPct.Low/100, k.High, 0.005)
	locks, _ := fibre.FindPreparation("washed_locks")
	k = Keep(Dried, Picked)
	assert.InDelta(t, 1-locks.ReadyLossPct.High/100, k.Low, 1e-9)
	assert.InDelta(t, 1-locks.ReadyLossPct.Low/100, k.High, 1e-9)
	for _, s := range Stages() {
		_, ok := fibre.FindPreparation(s.Preparation)
		assert.True(t, ok, s.Key)
	}
}

func weighed(pairs ...int) (p Part) {
	for i := 0; i < len(pairs); i += 2 {
		p.Weights[pairs[i]] = unit.Milligrams(pairs[i+1] * 1000)
	}
	return p
}

// 2,000 g raw, 1,700 skirted, parted in 900 and 780 (20 g fell out); the first dried at
// 600 g and picked at 540, the second not washed yet: it becomes 780 g × 0.606 × 0.85 to
// 780 g × 0.823 × 0.96.
func TestAFleeceByHand(t *testing.T) {
	f := Foretell(2_000_000, weighed(Skirted, 1700), []Part{weighed(Sorted, 900, Washed, 1400, Dried, 600, Picked, 540), weighed(Sorted, 780)}, true)
	assert.InDelta(t, 540+780*0.606*0.85, f.Grams.Low, 0.01)
	assert.InDelta(t, 540+780*0.823*0.96, f.Grams.High, 0.01)
	assert.InDelta(t, (540+780)/2000.0, f.SoFar, 1e-9)
	assert.Equal(t, unit.Milligrams(20_000), f.LeftOver)
	assert.True(t, f.Estimated)
}

func TestBeforeAnythingWasWeighed(t *testing.T) {
	f := Foretell(1_000_000, Part{}, nil, true)
	assert.InDelta(t, 1, f.SoFar, 1e-9)
	assert.InDelta(t, 400, f.Grams.Low, 5)
	assert.Zero(t, Foretell(0, Part{}, nil, true).Share)
}

// Each weighing narrows the range or leaves it, as long as what it says lies in what was
// expected; at the end nothing is estimated any more.
func TestTheRangeNarrows(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		raw := unit.Milligrams(rapid.Int64Range(500_000, 4_000_000).Draw(t, "raw"))
		var p Part
		left := float64(raw)
		before := Foretell(raw, p, nil, true)
		for i, s := range Stages() {
			if s.Wet || i+1 == Sorted {
				continue
			}
			low, high := Keep(max(i, 0), i+1).Low, Keep(i, i+1).High
			if i+1 == Dried {
				low, high = Keep(Skirted, Dried).Low, Keep(Skirted, Dried).High
			}
			left *= rapid.Float64Range(low, high).Draw(t, s.Key)
			p.Weights[i+1] = unit.Milligrams(left)
			now := Foretell(raw, p, nil, true)
			require.GreaterOrEqual(t, now.Grams.Low, before.Grams.Low-0.01)
			require.LessOrEqual(t, now.Grams.High, before.Grams.High+0.01)
			before = now
		}
		require.False(t, before.Estimated)
		require.InDelta(t, before.Grams.Low, before.Grams.High, 1e-9)
	})
}

// What is weighed stands as it is; what is not is expected from what was weighed last, and
// never more than before.
func TestTotalsByHand(t *testing.T) {
	out := Totals(2_000_000, weighed(Skirted, 1700), []Part{weighed(Sorted, 900, Dried, 600), weighed(Sorted, 780)})
	assert.Equal(t, fibre.Range{Low: 2000, High: 2000}, out[0])
	assert.Equal(t, fibre.Range{Low: 1700, High: 1700}, out[Skirted])
	assert.Equal(t, fibre.Range{Low: 1680, High: 1680}, out[Sorted])
	assert.InDelta(t, 600+780*0.606, out[Dried].Low, 0.01)
	f := Foretell(2_000_000, weighed(Skirted, 1700), []Part{weighed(Sorted, 900, Dried, 600), weighed(Sorted, 780)}, true)
	assert.InDelta(t, f.Grams.High, out[Picked].High, 1e-9)
	for n := 1; n < len(out); n++ {
		assert.LessOrEqual(t, out[n].High, out[n-1].High)
	}
}

// Picked without a washing, wool stays raw: as a lot, and in what can be carded; an alpaca has no grease to wash out. A washing of the
// whole fleece counts for its parts.
func TestUnwashedStaysUnwashed(t *testing.T) {
	greasy, clean := weighed(Sorted, 900, Picked, 850), weighed(Sorted, 900, Dried, 600, Picked, 560)
	assert.Equal(t, "raw_fleece", PreparationOf(greasy, Part{}, Picked, true))
	assert.Equal(t, "picked_cloud", PreparationOf(greasy, Part{}, Picked, false))
	assert.Equal(t, "picked_cloud", PreparationOf(clean, Part{}, Picked, true))
	assert.Equal(t, "picked_cloud", PreparationOf(greasy, weighed(Dried, 1200), Picked, true))
	assert.Equal(t, "washed_locks", PreparationOf(weighed(Dried, 600), Part{}, Dried, true))
	f := Foretell(1_000_000, Part{}, []Part{greasy}, true)
	assert.InDelta(t, 850*0.606, f.Grams.Low, 1e-6)
	assert.InDelta(t, 850*0.823, f.Grams.High, 1e-6)
	assert.True(t, f.Estimated)
	f = Foretell(1_000_000, Part{}, []Part{greasy}, false)
	assert.InDelta(t, 850, f.Grams.High, 1e-6)
}

// Whatever was weighed and whatever was not: after no stage more is expected than after the one before.
func TestAFleeceNeverGrows(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var p Part
		left := rapid.Int64Range(100, 5000).Draw(t, "raw")
		raw := unit.Milligrams(left * 1000)
		for n := Skirted; n <= Picked; n++ {
			left = left * rapid.Int64Range(40, 100).Draw(t, "keeps") / 100
			if rapid.Bool().Draw(t, "weighed") && n != Washed {
				p.Weights[n] = unit.Milligrams(left * 1000)
			}
		}
		all := Totals(raw, p, nil)
		for n := Skirted; n <= Picked; n++ {
			if all[n].High > all[n-1].High+1e-6 || all[n].Low > all[n-1].Low+1e-6 {
				t.Fatalf("after %s %g to %g, before %g to %g", Stages()[n-1].Key, all[n].Low, all[n].High, all[n-1].Low, all[n-1].High)
			}
		}
	})
}
