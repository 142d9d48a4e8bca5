package carding

import (
	"context"
	"testing"

	"github.com/stretchr/testify/require"
)

// twelve are twelve components in layers, each of as many colours, with one pass after it.
func twelve(colours int) Plan {
	p := Plan{Bed: Bed{WidthMM: 200, LengthMM: 580, FullG: 90}, Components: make([]Component, 12), Passes: []Pass{{Strips: 4, Refeed: Spread}}}
	many := make([]*Coloured, 12)
	for i := range many {
		p.Layers = append(p.Layers, []Lay{{Component: i, To: 1, End: 1, Grams: 4, Method: FeedIt}})
		c := &Coloured{Lies: Patches, PieceG: 0.4}
		for range colours {
			c.Shares = append(c.Shares, 1/float64(colours))
		}
		if colours > 1 {
			many[i] = c
		}
	}
	out, _ := p.Part(many, 1)
	return out
}

// Twelve components of four colours beside the same of one: 48 slots are followed at once.
func BenchmarkManyColours(b *testing.B) {
	for name, colours := range map[string]int{"one": 1, "four": 4} {
		p := twelve(colours)
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				require.NoError(b, Run(context.Background(), p, DefaultParams(), FineGrid(200, 580), 1, func(int, *Batt, []Placed) error { return nil }))
			}
		})
	}
}

func TestFortyEightColoursAreFollowed(t *testing.T) {
	p := twelve(4)
	require.Equal(t, MaxSlots, p.Slots())
	var grams []float64
	require.NoError(t, Run(context.Background(), p, DefaultParams(), FineGrid(200, 580).Coarse(), 1, func(_ int, b *Batt, _ []Placed) error {
		grams = b.Grams(48)
		return nil
	}))
	for _, g := range grams {
		require.InDelta(t, 1, g, 1e-6)
	}
}
