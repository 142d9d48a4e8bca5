package scale

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// 60.3 g went in and 56.5 g came off: 6.302 % were lost. Of an addition all that is
// there counts: 36 g and 4 g make 39 g, and 2.5 % were lost.
func TestLossIsOfAllThatWentIn(t *testing.T) {
	near := func(want float64, got *float64) {
		require.NotNil(t, got)
		assert.InDelta(t, want, *got, 5e-6)
	}
	off := 56.5
	w := Weighout{Units: []WeighoutUnit{{WeighedG: 60.3, OffG: &off, Done: true}, {WeighedG: 30, OffG: &off}, {WeighedG: 60.3, Done: true}}}
	w.lose(store.Weighout{})
	near(0.06302, w.Units[0].LostShare)
	assert.Nil(t, w.Units[1].LostShare, "not all is weighed")
	assert.Nil(t, w.Units[2].LostShare, "nothing came off yet")
	off = 39
	added := Weighout{Units: []WeighoutUnit{{WeighedG: 4, OffG: &off, Done: true}}}
	added.lose(store.Weighout{AddedToMg: 36000})
	near(0.025, added.Units[0].LostShare)
}

// TestWeighoutsAddUpByLay: whatever is planned or weighed, the lays of a
// component add up to its cell in every unit, in whole steps of the scale, and
// their totals to the component's.
func TestWeighoutsAddUpByLay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n, units := rapid.IntRange(1, 5).Draw(t, "n"), rapid.IntRange(1, 6).Draw(t, "units")
		r := store.Weighout{Units: units, StepMg: unit.Milligrams(rapid.SampledFrom([]int{10, 100, 1000}).Draw(t, "step"))}
		w := Weighout{Units: make([]WeighoutUnit, units)}
		for i := range n {
			r.Components = append(r.Components, store.WeighoutComponent{Position: i})
			for range rapid.IntRange(0, 4).Draw(t, "lays") {
				r.Lays = append(r.Lays, store.WeighoutLay{Position: i, PlanLay: store.PlanLay{Grams: rapid.Float64Range(0.01, 30).Draw(t, "grams")}})
			}
		}
		for u := range units {
			for i := range n {
				c := store.WeighoutCell{Unit: u, Position: i, TargetMg: r.StepMg * unit.Milligrams(rapid.IntRange(0, 500).Draw(t, "steps"))}
				if rapid.Bool().Draw(t, "weighed") {
					c.Done, c.WeighedMg = true, c.TargetMg+unit.Milligrams(rapid.IntRange(0, 900).Draw(t, "over"))
				}
				r.Cells = append(r.Cells, c)
			}
		}
		w.divide(r)
		for i := range n {
			var total float64
			for u := range units {
				var sum float64
				any := false
				for _, l := range w.Lays {
					if l.Component == i {
						sum += l.Grams[u]
						any = true
						assert.GreaterOrEqual(t, l.Grams[u], 0.0)
					}
				}
				if any {
					assert.InDelta(t, floor.InGrams(floor.NowOf(r.Cells[u*n+i])), sum, 1e-9)
				}
				total += sum
			}
			var lays float64
			for _, l := range w.Lays {
				if l.Component == i {
					lays += l.TotalG
				}
			}
			assert.InDelta(t, total, lays, 1e-6)
		}
	})
}
