package carding

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lumps is what part of a fibre is in clumps in a batt of two fibres, of which the first was carded alone so often.
func lumps(t *testing.T, alone int, m Method) (part, grams float64) {
	p := Plan{
		Bed: Bed{WidthMM: 100, LengthMM: 300, FullG: 20}, Components: []Component{{Alone: alone}, {}},
		Layers: [][]Lay{{{Component: 0, To: 1, End: 1, Grams: 5, Method: m}}, {{Component: 1, To: 1, End: 1, Grams: 5, Method: FeedIt}}},
		Loss:   func(int, int) float64 { return 0 },
	}
	require.NoError(t, Run(context.Background(), p, DefaultParams(), FineGrid(100, 300).Coarse(), 1, func(_ int, b *Batt, _ []Placed) error {
		part, grams = b.Field(2).Unopened[0], b.Grams(2)[0]
		return nil
	}))
	return part, grams
}

// Carded alone so often and then fed, fibre is in the state of a batt of one pass more: u·0.45 and so on; drawn on, in that of a
// batt of so many. All of it lies there.
func TestCardedAloneItIsOpened(t *testing.T) {
	for alone, want := range []float64{0.8, 0.36, 0.162} {
		part, grams := lumps(t, alone, FeedIt)
		assert.InDelta(t, want, part, 1e-6, "%d times", alone)
		assert.InDelta(t, 5, grams, 1e-9)
	}
	for alone, want := range []float64{1, 0.8, 0.36} {
		part, _ := lumps(t, alone, PaintIt)
		assert.InDelta(t, want, part, 1e-6, "painted, %d times", alone)
	}
}
