package carding

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

// What the simulation must give, from properties that follow from its structure and
// from a prototype of it (the numbers beside the laws).

func hexes(t testing.TB, list ...string) Palette {
	var out []colour.Reflectance
	for _, h := range list {
		c, err := colour.ParseHex(h)
		require.NoError(t, err)
		r, _ := c.Reflectance()
		out = append(out, r)
	}
	return NewPalette(mix.Default(), out, nil)
}

var standard = Bed{WidthMM: 200, LengthMM: 600, FullG: 60}

func empty(t testing.TB, seed uint64, p Params, slots int) *Batt {
	b, err := New(standard, FineGrid(200, 600), p, seed, slots)
	require.NoError(t, err)
	return b
}

func card(t testing.TB, b *Batt, strips int, how Refeed) {
	require.NoError(t, b.Card(Pass{Strips: strips, Refeed: how}))
}

// layered are eight thin full layers of two colours in turn, 48 g.
func layered(t testing.TB, seed uint64) *Batt {
	b := empty(t, seed, DefaultParams(), 2)
	for i := range 8 {
		require.NoError(t, b.Feed(i%2, 6, 0, 200, Teased))
	}
	return b
}

// lanes are n lanes side by side, each of its own component, 8 layers of them.
func lanes(t testing.TB, seed uint64, n int) *Batt {
	b := empty(t, seed, DefaultParams(), n)
	for range 8 {
		for k := range n {
			require.NoError(t, b.Feed(k, 48.0/8/float64(n), 200*float64(k)/float64(n), 200*float64(k+1)/float64(n), Teased))
		}
	}
	return b
}

func seen(b *Batt, p *Palette, side Side) Spreads {
	var v View
	b.Show(&v, side, len(p.Linear))
	return b.Spread(v.Colours(p, nil))
}

func TestNavyAndWhiteMixAsReached(t *testing.T) {
	p := hexes(t, "#1f2a44", "#f4f1ea")
	b := layered(t, 1)
	want := map[Side][]float64{
		Face: {12.5, 7.6, 3.4, 1.3, 0.7, 0.5}, Back: {22.9, 7.7, 3.4, 1.2, 0.6, 0.4}, Cut: {9.3, 3.9, 1.5, 0.5, 0.3, 0.2},
	}
	looks := []Look{Streaky, Marled, Heathered, Even, Even, Even}
	for stage := range 6 {
		if stage > 0 {
			card(t, b, 4, OwnPlace)
		}
		worst := 0.0
		for side, list := range want {
			d := seen(b, &p, side).Patch
			assert.InDelta(t, list[stage], d, 0.1+0.1*list[stage], "stage %d, %s", stage+1, side)
			if stage > 0 || side != Back {
				worst = max(worst, d)
			}
		}
		assert.Equal(t, looks[stage], LookOf(worst), "stage %d", stage+1)
	}
}

func TestIrregularityAsReached(t *testing.T) {
	b := layered(t, 1)
	for stage, want := range [][2]float64{{11.2, 4.08}, {6.0, 2.24}, {2.5, 1.28}, {1.33, 1.04}, {1.11, 1.01}, {1.05, 1.01}} {
		if stage > 0 {
			card(t, b, 4, Spread)
		}
		ir := b.Irregular(2)
		for k := range 2 {
			assert.InEpsilon(t, want[0], ir.Section[k], 0.06, "stage %d", stage+1)
			assert.InEpsilon(t, want[1], ir.Strand[k], 0.06, "stage %d", stage+1)
		}
	}
}

// TestSpreadDoubles follows the law of doublings: strips laid over the whole width one
// after the other average that many random lanes, so the variance between lanes falls
// to (1 - S/L)/(1 - 1/L)/S; of a gradient, where neighbours are alike, to 1/S².
func TestSpreadDoubles(t *testing.T) {
	p := DefaultParams()
	p.Unopened, p.SpreadMM, p.EdgeMM = 0, 0, 0
	const wide = 96.0
	for _, s := range []int{2, 4, 8} {
		var ratios []float64
		for seed := range uint64(40) {
			b := empty(t, seed, p, 2)
			d := key(seed, 0, 0, 0)
			for x := range int(wide) {
				part := math.Floor(d.next() * 2)
				require.NoError(t, b.Feed(int(part), 0.5, 200*float64(x)/wide, 200*float64(x+1)/wide, Teased))
			}
			before := b.Across(int(wide), 2).Spread(0)
			card(t, b, s, Spread)
			after := b.Across(int(wide), 2).Spread(0)
			ratios = append(ratios, after*after/before/before)
		}
		f := float64(s)
		law := (1 - f/wide) / (1 - 1/wide) / f
		assert.InDelta(t, law, stat.Mean(ratios, nil), 3*stat.StdDev(ratios, nil)/math.Sqrt(40), "S = %d", s)
	}
	for _, s := range []int{2, 4, 8} {
		b := empty(t, 1, p, 2)
		for x := range int(wide) {
			require.NoError(t, b.Feed(0, 0.5*float64(x)/wide+0.001, 200*float64(x)/wide, 200*float64(x+1)/wide, Teased))
			require.NoError(t, b.Feed(1, 0.5-0.5*float64(x)/wide, 200*float64(x)/wide, 200*float64(x+1)/wide, Teased))
		}
		before := b.Across(int(wide), 2).Spread(0)
		card(t, b, s, Spread)
		assert.InEpsilon(t, 1/float64(s), b.Across(int(wide), 2).Spread(0)/before, 0.02, "a gradient, S = %d", s)
	}
}

// TestOwnPlaceKeepsLanes compares the lanes of later passes with those of the first.
func TestOwnPlaceKeepsLanes(t *testing.T) {
	worst := []float64{1, 1, 1}
	for seed := range uint64(5) {
		b := lanes(t, seed, 7)
		first := b.Across(96, 7)
		for stage := range worst {
			card(t, b, 4, OwnPlace)
			now := b.Across(96, 7)
			for k := range 7 {
				worst[stage] = min(worst[stage], stat.Correlation(column(first, k), column(now, k), nil))
			}
		}
	}
	for stage, want := range []float64{0.989, 0.975, 0.960} {
		assert.InDelta(t, want, worst[stage], 0.012, "stage %d", stage+2)
	}
	b := lanes(t, 1, 7)
	for range 2 {
		card(t, b, 4, Spread)
	}
	low, high := math.Inf(1), math.Inf(-1)
	for _, g := range b.Across(96, 7).Grams {
		var number float64
		for k, v := range g {
			number += float64(k) * v / total(g)
		}
		low, high = min(low, number), max(high, number)
	}
	assert.InDelta(t, 2.9, low, 0.3, "spread twice, the gradient is gone")
	assert.InDelta(t, 3.1, high, 0.3)
}

func column(s Shares, k int) []float64 {
	out := make([]float64, len(s.Grams))
	for i, g := range s.Grams {
		out[i] = g[k] / total(g)
	}
	return out
}

// TestABorderSoftens measures the border of two halves from 10 to 90 %, the mean of
// ten batts, against 2.563 times the root of the summed squares of what spreads it.
func TestABorderSoftens(t *testing.T) {
	var batts []*Batt
	for seed := range uint64(10) {
		batts = append(batts, lanes(t, seed, 2))
	}
	for stage := range 5 {
		share := make([]float64, 96)
		for _, b := range batts {
			if stage > 0 {
				card(t, b, 4, OwnPlace)
			}
			for x, v := range column(b.Across(96, 2), 1) {
				share[x] += v / float64(len(batts))
			}
		}
		at := func(level float64) float64 {
			x := slices.IndexFunc(share, func(v float64) bool { return v >= level })
			return float64(x-1) + (level-share[x-1])/(share[x]-share[x-1])
		}
		p := DefaultParams()
		law := 2.563 * math.Sqrt(p.EdgeMM*p.EdgeMM+float64(stage)*p.SpreadMM*p.SpreadMM)
		assert.InEpsilon(t, law, (at(0.9)-at(0.1))*200/96, 0.1, "stage %d", stage+1)
	}
}

// TestPaintIsBuried looks at how much of what was painted on top shows.
func TestPaintIsBuried(t *testing.T) {
	b := empty(t, 1, DefaultParams(), 2)
	for range 8 {
		require.NoError(t, b.Feed(0, 5.77, 0, 200, Teased))
	}
	for i := range 5 {
		from := 20 + 34*float64(i)
		require.NoError(t, b.Paint(1, 0.365, from, from+16, 0, 0.8))
	}
	var v View
	for stage, want := range []float64{0.20, 0.044, 0.040} {
		if stage > 0 {
			card(t, b, 4, Spread)
		}
		b.Show(&v, Face, 2)
		var sum float64
		for i := range v.Cover {
			sum += float64(v.Shares[2*i+1])
		}
		assert.InDelta(t, want, sum/float64(len(v.Cover)), 0.02+0.2*want, "stage %d", stage+1)
	}
}

// TestSparkle compares one spot with five portions: how far strips of some 10 g then
// differ.
func TestSparkle(t *testing.T) {
	spot := func(portions int) *Batt {
		b := empty(t, 2, DefaultParams(), 2)
		for i := range 8 {
			require.NoError(t, b.Feed(0, 5.88, 0, 200, Teased))
			if portions == 1 && i == 4 {
				require.NoError(t, b.Feed(1, 0.96, 80, 120, Teased))
			}
			if portions > 1 && i < portions {
				require.NoError(t, b.Feed(1, 0.96/float64(portions), 0, 200, Teased))
			}
		}
		return b
	}
	one, five := spot(1), spot(5)
	for stage := range 4 {
		if stage > 0 {
			card(t, one, 4, Spread)
			card(t, five, 4, Spread)
		}
		a, b := 100*one.Across(6, 2).Spread(1), 100*five.Across(6, 2).Spread(1)
		t.Logf("stage %d: one spot %.2f, five portions %.2f %% points", stage+1, a, b)
		if stage == 0 {
			assert.Greater(t, a, 4*b)
		}
		if stage == 3 {
			assert.Less(t, max(a, b), 0.25)
		}
	}
}

// TestWhatIsSeenAddsUp: the shares that are seen add up to 1, cut through they are those
// by weight, and what lies on top is seen from the face alone.
func TestWhatIsSeenAddsUp(t *testing.T) {
	e := Eye{Palette: hexes(t, "#1f2a44", "#f4f1ea")}
	b := empty(t, 1, DefaultParams(), 2)
	require.NoError(t, b.Feed(0, 45, 0, 200, Teased))
	require.NoError(t, b.Feed(1, 15, 0, 200, Teased))
	s := e.Measure(b, 1)
	for _, v := range s.Spreads {
		assert.InDelta(t, 1, v.Shares[0]+v.Shares[1], 1e-6)
	}
	assert.Greater(t, s.Spreads[Face].Shares[1], 0.9)
	assert.Less(t, s.Spreads[Back].Shares[1], 0.1)
	assert.InDelta(t, 0.25, s.Spreads[Cut].Shares[1], 0.03, "thick places hide no more than they weigh")
}

// The strengths of a mix are those of its fibres by mass: 10 g of 100 mm and 30 g of 60 mm are 70 mm.
func TestTheStrengthsOfAMix(t *testing.T) {
	usual := DefaultParams()
	p := usual.For([]Fibre{
		{Grams: 10, StapleMM: 100, Density: 1.3, Thickness: 26}, {Grams: 30, StapleMM: 60, Density: 1.3, Thickness: 39}, {Grams: 5, StapleMM: 80},
	})
	assert.InDelta(t, 70, p.StapleMM, 1e-9)
	assert.InDelta(t, usual.StreakMM*70/usual.StapleMM, p.StreakMM, 1e-9)
	assert.InDelta(t, (10*math.Pi/4*20*26/1000+30*math.Pi/4*30*39/1000)/40, p.TexMgPerM, 1e-9)
	assert.InDelta(t, (10*math.Pi/4*26+30*math.Pi/4*39)/40, p.HidingGsm, 1e-9)
	assert.Equal(t, usual, usual.For(nil))
}

// What goes in at a pass, with what lay there, is what comes off and what it lost: 40.1 g and 21.2 g that join give 61.3 g.
func TestAPassLosesOfAllThatGoesIn(t *testing.T) {
	p := Plan{
		Bed: standard, Components: []Component{{}, {Joins: 2}},
		Layers: [][]Lay{{{Component: 0, To: 1, End: 1, Grams: 41, Method: FeedIt}}, {{Component: 1, To: 1, End: 1, Grams: 21.2, Method: FeedIt}}},
		Passes: []Pass{{Strips: 4, Refeed: Spread}}, Loss: func(c, n int) float64 { return []float64{0.022, 0.03}[c] / float64(n) },
	}
	var off, lost []float64
	require.NoError(t, Run(t.Context(), p, DefaultParams(), FineGrid(200, 600).Coarse(), 1, func(_ int, b *Batt, _ []Placed) error {
		off = append(off, total(b.Grams(2)))
		lost = append(lost, total(b.Lost(2)))
		return nil
	}))
	assert.InDelta(t, 41, off[0]+lost[0], 1e-6)
	assert.InDelta(t, off[0]+21.2, off[1]+lost[1], 1e-6)
	assert.InDelta(t, 40.098*0.011+21.2*0.03, lost[1], 1e-6)
}
