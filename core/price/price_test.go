package price

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/fault"
)

// Worked by hand: four batts of 60 g, fibre 14.40 in all, 96 minutes at 15 an hour, a machine at 1 an hour, packing 0.40, mark-up 20 %,
// fees 6 %, tax 19 %.
func TestAPriceWorkedByHand(t *testing.T) {
	p, err := Of(Work{Pieces: 4, Grams: 60, Fibre: 14.40, Minutes: 96}, Rates{Hour: 15, Machine: 1, Packing: 0.40, MarkUp: 20, Wholesale: 0, Fees: 6, Tax: 19})
	require.NoError(t, err)
	assert.InDelta(t, 3.60, p.Fibre, 1e-9)
	assert.InDelta(t, 0.40, p.Machine, 1e-9)
	assert.InDelta(t, 6.00, p.Work, 1e-9)
	assert.InDelta(t, 10.40*1.2/(1/1.19-0.06), p.Exact, 1e-9) // 15.99
	assert.Equal(t, 16.0, p.Asked)
	assert.InDelta(t, 16-16/1.19, p.Tax, 1e-9)
	assert.InDelta(t, 0.96, p.Fees, 1e-9)
	assert.InDelta(t, 16/1.19-0.96-4.40, p.Left, 1e-9)
	assert.InDelta(t, p.Left/0.4, p.LeftPerHour, 1e-9)
	assert.InDelta(t, 26.6667, p.Per100G, 1e-3)
	assert.Equal(t, 12.5, p.Wholesale) // 10.40 · 1.19 = 12.376
}

// What is asked is parted without rest, is never less than what was worked out, brings the hour what it is to bring, and rises with each cost.
func TestNothingOfAPriceIsLost(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		amount := func(name string, most float64) float64 { return rapid.Float64Range(0, most).Draw(t, name) }
		w := Work{Pieces: rapid.IntRange(1, 60).Draw(t, "pieces"), Grams: 60, Fibre: amount("fibre", 500), Minutes: amount("minutes", 3000)}
		r := Rates{Hour: amount("hour", 60), Machine: amount("machine", 10), Packing: amount("packing", 5), MarkUp: amount("mark-up", 200),
			Wholesale: amount("wholesale", 100), Fees: amount("fees", 40), Tax: amount("tax", 25)}
		p, err := Of(w, r)
		require.NoError(t, err)
		assert.InDelta(t, p.Asked, p.Tax+p.Fees+p.Fibre+p.Machine+p.Packing+p.Left, 1e-6)
		assert.GreaterOrEqual(t, p.Asked, p.Exact-0.006)
		assert.LessOrEqual(t, p.Asked, p.Exact+10)
		if w.Minutes > 1 {
			assert.GreaterOrEqual(t, p.LeftPerHour, r.Hour-0.02*60/w.Minutes*float64(w.Pieces)-1e-6)
		}
		dearer := w
		dearer.Fibre += 100
		q, err := Of(dearer, r)
		require.NoError(t, err)
		assert.Greater(t, q.Exact, p.Exact)
		assert.GreaterOrEqual(t, q.Asked, p.Asked)
	})
}

func TestWhatCanNotBePriced(t *testing.T) {
	for field, w := range map[string]Work{"pieces": {}, "minutes": {Pieces: 1, Minutes: -1}, "fibre": {Pieces: 1, Fibre: math.NaN()}} {
		_, err := Of(w, Rates{})
		l, bad := fault.From(err)
		require.True(t, bad, field)
		assert.Equal(t, field, l[0].Field)
	}
	_, err := Of(Work{Pieces: 1}, Rates{Fees: 80, Tax: 25})
	assert.Error(t, err)
	for v, want := range map[float64]float64{0: 0, 0.11: 0.2, 12.01: 12.5, 12.5: 12.5, 50.2: 51, 203: 205, 1001: 1010} {
		assert.InDelta(t, want, Table(v), 1e-9)
	}
}
