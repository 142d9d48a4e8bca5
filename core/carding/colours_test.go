package carding

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// gramsOf adds up what lies of each slot.
func gramsOf(p Plan) []float64 {
	out := make([]float64, len(p.Components))
	for _, layer := range p.Layers {
		for _, v := range layer {
			out[v.Component] += v.Grams
		}
	}
	return out
}

// Whatever lies how: of the component every gram is there, each lay stays in its place, of each colour there is its share but for
// the run that the lays end in, and the same seed lays the same.
func TestEveryColourKeepsItsGrams(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 6).Draw(t, "colours")
		c := &Coloured{
			Lies: rapid.SampledFrom([]Lies{Along, Across, Patches, Tips}).Draw(t, "lies"), Fed: rapid.SampledFrom([]Fed{InOrder, Abreast, TornUp}).Draw(t, "fed"),
			Abreast: rapid.IntRange(1, 5).Draw(t, "abreast"), PieceG: rapid.Float64Range(0.05, 3).Draw(t, "piece"),
		}
		var sum, longest float64
		for range n {
			c.RunsG = append(c.RunsG, rapid.Float64Range(0.2, 8).Draw(t, "run"))
			sum += c.RunsG[len(c.RunsG)-1]
			longest = max(longest, c.RunsG[len(c.RunsG)-1])
		}
		for _, g := range c.RunsG {
			c.Shares = append(c.Shares, g/sum)
		}
		p := Plan{Bed: Bed{WidthMM: 200, LengthMM: 580, FullG: 90}, Components: []Component{{}, {Joins: 2}}}
		var all float64
		for range rapid.IntRange(1, 5).Draw(t, "lays") {
			from := rapid.Float64Range(0, 0.6).Draw(t, "from")
			v := Lay{Component: 1, From: from, To: from + rapid.Float64Range(0.1, 0.4).Draw(t, "wide"), End: 1, Grams: rapid.Float64Range(0.1, 30).Draw(t, "grams"),
				Method: rapid.SampledFrom([]Method{FeedIt, PaintIt}).Draw(t, "method")}
			all += v.Grams
			p.Layers = append(p.Layers, []Lay{v, {Component: 0, To: 1, End: 1, Grams: 1, Method: FeedIt}})
		}
		seed := rapid.Uint64().Draw(t, "seed")
		out, slots := p.Part([]*Coloured{nil, c}, seed)
		require.Len(t, slots, n+1)
		again, _ := p.Part([]*Coloured{nil, c}, seed)
		assert.Equal(t, out.Layers, again.Layers)
		grams := gramsOf(out)
		assert.InDelta(t, float64(len(p.Layers)), grams[0], 1e-9)
		var have float64
		for k, g := range grams[1:] {
			have += g
			off := 1e-9 * all
			if c.Lies == Along && c.Fed != TornUp { // an end within a run
				off = longest * float64(len(p.Layers)*c.Abreast)
				if c.Fed == InOrder {
					off = longest
				}
			}
			assert.InDelta(t, c.Shares[k]*all, g, off+1e-9)
			assert.Equal(t, 2, out.Components[k+1].Joins)
		}
		assert.InDelta(t, all, have, 1e-9*all)
		for y, layer := range out.Layers {
			was := p.Layers[y][0]
			for _, v := range layer[:len(layer)-1] {
				require.GreaterOrEqual(t, v.From, was.From-1e-9)
				require.LessOrEqual(t, v.To, was.To+1e-9)
				require.Less(t, v.Start, v.End)
				require.Less(t, v.From, v.To)
			}
		}
	})
}

// By hand: across, two equal shares are two half lanes; one run longer than the lay is one colour; five runs of 2 g fed as 3, 3 and
// 4 g follow each other without a gap; abreast two, each half begins at its own colour.
func TestHowColoursLieByHand(t *testing.T) {
	lay := func(grams float64) []Lay { return []Lay{{To: 1, End: 1, Grams: grams, Method: FeedIt}} }
	plan := func(layers ...[]Lay) Plan {
		return Plan{Bed: Bed{WidthMM: 200}, Components: []Component{{}}, Layers: layers}
	}
	p, _ := plan(lay(8)).Part([]*Coloured{{Shares: []float64{0.5, 0.5}, Lies: Across}}, 1)
	assert.Equal(t, [][]Lay{{{To: 0.5, End: 1, Grams: 4, Method: FeedIt}, {Component: 1, From: 0.5, To: 1, End: 1, Grams: 4, Method: FeedIt}}}, p.Layers)
	p, _ = plan(lay(8)).Part([]*Coloured{{Shares: []float64{0.9, 0.1}, RunsG: []float64{9, 1}, Lies: Along}}, 1)
	assert.Equal(t, [][]Lay{lay(8)}, p.Layers)
	five := &Coloured{Shares: []float64{0.2, 0.2, 0.2, 0.2, 0.2}, RunsG: []float64{2, 2, 2, 2, 2}, Lies: Along}
	p, _ = plan(lay(3), lay(3), lay(4)).Part([]*Coloured{five}, 1)
	var said [][2]float64
	for _, layer := range p.Layers {
		for _, v := range layer {
			said = append(said, [2]float64{float64(v.Component), v.Grams})
		}
	}
	assert.Equal(t, [][2]float64{{0, 2}, {1, 1}, {1, 1}, {2, 2}, {3, 2}, {4, 2}}, said)
	p, _ = plan(lay(2)).Part([]*Coloured{{Shares: []float64{0.5, 0.5}, RunsG: []float64{3, 3}, Lies: Along, Fed: Abreast, Abreast: 2}}, 1)
	assert.Equal(t, [][]Lay{{{To: 0.5, End: 1, Grams: 1, Method: FeedIt}, {Component: 1, From: 0.5, To: 1, End: 1, Grams: 1, Method: FeedIt}}}, p.Layers)
}

// A batt of patches is seen in its components as one of one colour: the grams of each, and what is lost.
func TestGatheredColoursAreTheirComponent(t *testing.T) {
	p := Plan{
		Bed: Bed{WidthMM: 200, LengthMM: 580, FullG: 90}, Components: []Component{{}, {}},
		Layers: [][]Lay{{{To: 1, End: 1, Grams: 20, Method: FeedIt}}, {{Component: 1, To: 1, End: 1, Grams: 12, Method: FeedIt}}},
		Passes: []Pass{{Strips: 4, Refeed: Spread}}, Loss: func(c, _ int) float64 { return 0.01 * float64(c+1) },
	}
	parted, slots := p.Part([]*Coloured{nil, {Shares: []float64{0.25, 0.75}, Lies: Patches, PieceG: 0.3}}, 3)
	of := []int{0, 1, 1}
	require.Len(t, slots, 3)
	require.NoError(t, Run(context.Background(), parted, DefaultParams(), FineGrid(200, 580).Coarse(), 3, func(stage int, b *Batt, _ []Placed) error {
		whole := b.Gathered(of, 2)
		grams, own := whole.Grams(2), b.Grams(3)
		assert.InDelta(t, grams[1], own[1]+own[2], 1e-9)
		assert.InDelta(t, 12*0.98, grams[1]/map[int]float64{1: 1, 2: 0.98}[stage], 1e-6)
		assert.InDelta(t, b.Lost(3)[1]+b.Lost(3)[2], whole.Lost(2)[1], 1e-9)
		assert.InDelta(t, own[1]*3, own[2], 1e-6, "of each colour its share, pass by pass")
		return nil
	}))
}
