package carding

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestTipsLieAtTheEndsOfTheirStaples: a tip lies in the lane and layer of its body and behind it along the drum, clump for clump,
// after one pass as well as laid; two colours that have nothing to do with each other do not. Grams are kept either way.
func TestTipsLieAtTheEndsOfTheirStaples(t *testing.T) {
	for _, tips := range []bool{true, false} {
		params := DefaultParams()
		params.Unopened, params.ClumpG = 0.95, 0.6
		p := Plan{
			Bed: Bed{WidthMM: 200, LengthMM: 580, FullG: 70}, Components: []Component{{}, {}},
			Layers: [][]Lay{{{Component: 0, To: 1, End: 1, Grams: 8, Method: FeedIt}, {Component: 1, To: 1, End: 1, Grams: 2, Method: FeedIt}}},
			Passes: []Pass{{Strips: 4, Refeed: OwnPlace}},
		}
		if tips {
			body := 0
			p.Components[1].TipOf, p.Components[1].Tip = &body, 0.2
		}
		err := Run(context.Background(), p, params, FineGrid(200, 580), 5, func(stage int, b *Batt, _ []Placed) error {
			alone, all := 0, 0
			for z := range b.grid.Layers {
				for x := range b.grid.Lanes {
					var clumps [2]bool
					for k := range b.slots {
						row := b.row(z, x, k)
						least, most := row[0], row[0]
						for _, v := range row {
							least, most = min(least, v), max(most, v)
						}
						clumps[b.slots[k].component] = clumps[b.slots[k].component] || most > 2*least+1e-5
					}
					if clumps[1] {
						all++
						if !clumps[0] {
							alone++
						}
					}
				}
			}
			require.Positive(t, all)
			if tips {
				assert.LessOrEqual(t, alone, all/20, "stage %d: tips have their staples, but where a body is spread too thin to be told", stage)
			} else {
				assert.Greater(t, alone, all/4, "stage %d", stage)
			}
			grams := b.Grams(2)
			assert.InDelta(t, 8, grams[0], 1e-9)
			assert.InDelta(t, 2, grams[1], 1e-9)
			return nil
		})
		require.NoError(t, err)
	}
}
