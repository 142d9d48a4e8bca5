package carding

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// drawn lays anything anywhere, and cards it in any way.
func drawn(t *rapid.T, workers int) *Batt {
	bed := Bed{WidthMM: 50, LengthMM: 150, FullG: 15}
	b, err := New(bed, FineGrid(50, 150), DefaultParams(), rapid.Uint64().Draw(t, "seed"), MaxSlots)
	require.NoError(t, err)
	b.workers = workers
	for range rapid.IntRange(1, 6).Draw(t, "lays") {
		c := rapid.IntRange(0, 2).Draw(t, "component")
		grams := rapid.Float64Range(0.01, 5).Draw(t, "grams")
		from := rapid.Float64Range(0, 40).Draw(t, "from")
		to := from + rapid.Float64Range(1, 10).Draw(t, "wide")
		switch rapid.IntRange(0, 3).Draw(t, "how") {
		case 0:
			require.NoError(t, b.Feed(c, grams, from, to, Teased))
		case 1:
			require.NoError(t, b.Paint(c, grams, from, to, 0.2, 0.7))
		case 2:
			_, err = b.Place(c, 3, 0.6, 90, from, to, 0, 1)
			require.NoError(t, err)
		case 3:
			require.NoError(t, b.Burnish(15))
		}
	}
	for range rapid.IntRange(0, 4).Draw(t, "passes") {
		p := Pass{
			Strips: rapid.SampledFrom(stripCounts).Draw(t, "strips"),
			Refeed: rapid.SampledFrom([]Refeed{OwnPlace, Spread, Pieces}).Draw(t, "refeed"),
			Turned: rapid.Bool().Draw(t, "turned"), ByHand: rapid.Bool().Draw(t, "by hand"), Turns: rapid.IntRange(0, 5).Draw(t, "turns"),
		}
		if rapid.Bool().Draw(t, "loses") {
			p.Loss = func(c, n int) float64 { return 0.01 * float64(c+n) }
		}
		if rapid.Bool().Draw(t, "joined") {
			when := rapid.SampledFrom([]When{Before, Between}).Draw(t, "when")
			p.Joins = []Join{{Component: 2, Grams: rapid.Float64Range(0.1, 5).Draw(t, "joining"), From: 0, To: 50, When: when, Chunky: Teased}}
		}
		if err := b.Card(p); err != nil {
			require.ErrorContains(t, err, "sorts of fibre")
			break
		}
	}
	return b
}

// TestMassIsKept adds up every cell: of each slot as much as the ledger says, and no
// cell below nothing.
func TestMassIsKept(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := drawn(t, 1)
		for k, s := range b.slots {
			var sum float64
			for z := range b.grid.Layers {
				for x := range b.grid.Lanes {
					for _, v := range b.row(z, x, k) {
						if v < 0 {
							t.Fatalf("%g g in a cell", v)
						}
						sum += float64(v)
					}
				}
			}
			require.InDelta(t, s.ledger, sum, 1e-9*s.ledger)
		}
	})
}

// TestGoroutinesChangeNothing cards the same batt on one and on two.
func TestGoroutinesChangeNothing(t *testing.T) {
	for _, how := range []Refeed{OwnPlace, Spread, Pieces} {
		one, two := layered(t, 9), layered(t, 9)
		two.workers = 2
		for range 3 {
			card(t, one, 4, how)
			card(t, two, 4, how)
			require.Equal(t, one.m, two.m, how)
		}
	}
}

func TestMassIsKeptForTwoHundredPasses(t *testing.T) {
	b := layered(t, 4)
	for i := range 200 {
		card(t, b, stripCounts[i%6], []Refeed{OwnPlace, Spread, Pieces}[i%3])
	}
	var sum float64
	for _, v := range b.m {
		sum += float64(v)
	}
	assert.InDelta(t, 48, sum, 48e-11)
}

func TestLossesAreOfEachComponent(t *testing.T) {
	b := layered(t, 1)
	p := Pass{Strips: 4, Refeed: Spread, Loss: func(c, n int) float64 { return [2]float64{0.02, 0.05}[c] * float64(n) }}
	require.NoError(t, b.Card(p))
	assert.InDeltaSlice(t, []float64{24 * 0.96, 24 * 0.90}, b.Grams(2), 1e-9)
	assert.InDeltaSlice(t, []float64{24 * 0.04, 24 * 0.10}, b.Lost(2), 1e-9)
	require.NoError(t, b.Card(p))
	assert.InDeltaSlice(t, []float64{24 * 0.96 * 0.94, 24 * 0.90 * 0.85}, b.Grams(2), 1e-9)
}

// TestOneComponentIsEven says exactly 1 and 0, not nearly.
func TestOneComponentIsEven(t *testing.T) {
	p := hexes(t, "#7f9296")
	b := empty(t, 1, DefaultParams(), 1)
	require.NoError(t, b.Feed(0, 30, 0, 200, Teased))
	assert.Equal(t, []float64{1}, b.Irregular(1).Section)
	s := seen(b, &p, Face)
	assert.InDelta(t, 0, s.Patch, 1e-4)
	assert.Equal(t, Even, LookOf(s.Patch))
}

// TestRolagsAddUp divides a board that was drawn over evenly, and one half of it.
func TestRolagsAddUp(t *testing.T) {
	b, err := New(Bed{WidthMM: 300, LengthMM: 300, FullG: 30, Open: true}, FineGrid(300, 300), DefaultParams(), 3, 2)
	require.NoError(t, err)
	require.NoError(t, b.Draw(0, 14.4, 0, 300, 0, 1))
	require.NoError(t, b.Draw(1, 3, 0, 300, 0, 0.5))
	rolags := b.Rolags(3, 2)
	var sum [2]float64
	for i, g := range rolags {
		t.Logf("rolag %d: %.2f and %.2f g", i+1, g[0], g[1])
		sum[0], sum[1] = sum[0]+g[0], sum[1]+g[1]
		assert.InDelta(t, 4.8, g[0], 0.5, "an even board has even rolags")
	}
	assert.InDelta(t, 14.4, sum[0], 1e-6)
	assert.InDelta(t, 3, sum[1], 1e-6)
	assert.Greater(t, rolags[0][1], 8*rolags[2][1])
}

// TestSectionsFollowTheLaw compares the scatter of lane sections with the root of
// p(1-p)·u·g/(T·max(1, b/l)), for streaks of g fibres in sections of T.
func TestSectionsFollowTheLaw(t *testing.T) {
	b := layered(t, 2)
	for stage := range 6 {
		if stage > 0 {
			card(t, b, 4, Spread)
		}
		s := b.slots[0]
		ir := b.Irregular(2).Section[0]
		fibres := 48e6 / 96 / 600 / b.TexMgPerM // 48 g over 96 lanes of 600 mm, mg/m
		got := math.Sqrt((ir*ir - 1) * 0.25 / fibres)
		wide := max(1, s.clump/(b.ClumpGsm*1e-6*b.StreakMM)/b.lane)
		law := math.Sqrt(0.25 * s.unopened * s.clump * 1e6 / b.StreakMM / b.TexMgPerM / (fibres * wide))
		t.Logf("stage %d: %.4f, law %.4f", stage+1, got, law)
		assert.InEpsilon(t, law, got, 0.35, "stage %d", stage+1)
	}
}

func TestNothingIsAllocatedInAPass(t *testing.T) {
	b := layered(t, 1)
	p := Pass{Strips: 4, Refeed: Spread}
	for range 6 { // until there is room for as many clumps as there ever are
		require.NoError(t, b.Card(p))
	}
	assert.Zero(t, testing.AllocsPerRun(3, func() { _ = b.Card(p) }))
	b = layered(t, 1)
	assert.Zero(t, testing.AllocsPerRun(3, func() { _ = b.Feed(0, 1, 0, 200, Teased) }))
}

// TestWhatHidesFollowsTheExponential compares the quick exponential with the slow one.
func TestWhatHidesFollowsTheExponential(t *testing.T) {
	for x := 0.0; x < 15; x += 0.01 {
		require.InDelta(t, math.Exp(-x), exp(float32(x)), 1.5e-4, x)
	}
}

// TestABoardFillsFromBelow draws two colours one over the other: the second lies on top,
// and the heights add up to what was drawn.
func TestABoardFillsFromBelow(t *testing.T) {
	b, err := New(Bed{WidthMM: 300, LengthMM: 300, FullG: 30, Open: true}, FineGrid(300, 300), DefaultParams(), 3, 2)
	require.NoError(t, err)
	require.NoError(t, b.Draw(0, 10, 0, 300, 0, 1))
	require.NoError(t, b.Draw(1, 10, 0, 300, 0, 1))
	assert.InDelta(t, 20, total(b.high), 1e-6)
	depth := func(k int) (mean float64) {
		for z := range b.grid.Layers {
			mean += float64(z) * b.sum[z*b.k+k] / 10
		}
		return mean
	}
	assert.InDelta(t, 11.0/6, depth(0), 0.5, "the lower third of eleven layers")
	assert.InDelta(t, 3*11.0/6, depth(1), 0.9, "the middle third")
}

// stripCounts are the ways to divide a batt that its lanes allow.
var stripCounts = []int{1, 2, 3, 4, 6, 8}
