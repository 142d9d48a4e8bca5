package carding

import (
	"context"
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// eight is a plan of eight thin layers of two colours in turn, carded again.
func eight(passes int) Plan {
	p := Plan{Bed: standard, Components: make([]Component, 2)}
	for i := range 8 {
		p.Layers = append(p.Layers, []Lay{{Component: i % 2, To: 1, End: 1, Grams: 6, Method: FeedIt}})
	}
	for range passes {
		p.Passes = append(p.Passes, Pass{Strips: 4, Refeed: OwnPlace})
	}
	return p
}

// narrow is the same on half the width and half the length, for quick tests.
func narrow(passes int) Plan {
	p := eight(passes)
	p.Bed = Bed{WidthMM: 100, LengthMM: 300, FullG: 15}
	for i := range p.Layers {
		p.Layers[i][0].Grams = 1.5
	}
	return p
}

func TestARunIsTheSameEachTime(t *testing.T) {
	e := Eye{Palette: hexes(t, "#1f2a44", "#f4f1ea")}
	p := eight(3)
	p.Loss = func(c, n int) float64 { return 0.02 }
	p.Components[1].Joins = 2
	run := func(seed uint64) (out []Stage) {
		require.NoError(t, Run(t.Context(), p, DefaultParams(), FineGrid(200, 600).Coarse(), seed, func(stage int, b *Batt, _ []Placed) error {
			out = append(out, e.Measure(b, stage))
			return nil
		}))
		return out
	}
	first := run(1)
	require.Len(t, first, 4)
	assert.Equal(t, first, run(1))
	assert.NotEqual(t, first[1].Patch, run(2)[1].Patch)
	assert.InDeltaSlice(t, []float64{24 * 0.98, 0}, first[0].Grams, 1e-9)
	assert.InDeltaSlice(t, []float64{24 * 0.98 * 0.98, 24 * 0.98}, first[1].Grams, 1e-9)
	assert.Zero(t, first[0].Patch, "one colour so far")
	assert.Positive(t, first[1].Patch)
}

func TestCardingsToALook(t *testing.T) {
	e := Eye{Palette: hexes(t, "#1f2a44", "#f4f1ea")}
	need, err := CardingsTo(t.Context(), eight(1), DefaultParams(), &e, Unknown(21), nil)
	require.NoError(t, err)
	t.Logf("heathered %v, even %v", need[Heathered], need[Even])
	assert.Equal(t, Needed{1, 1, 1}, need[Streaky])
	assert.InDelta(t, 3, need[Heathered].Median, 0)
	assert.InDelta(t, 4, need[Even].Median, 0)
	assert.LessOrEqual(t, need[Even].Low, 3)
	assert.GreaterOrEqual(t, need[Even].High, 5)
	for _, l := range Looks() {
		assert.LessOrEqual(t, need[l].Low, need[l].Median)
		assert.LessOrEqual(t, need[l].Median, need[l].High)
	}
	assert.LessOrEqual(t, need[Marled].Median, need[Heathered].Median)
	assert.LessOrEqual(t, need[Heathered].Median, need[Even].Median)
}

// TestATestBattNarrowsTheForecast simulates a maker whose carder opens little, lets her
// say the looks, and forecasts another batt.
func TestATestBattNarrowsTheForecast(t *testing.T) {
	own := Carder{1.6, 0.7}
	e := Eye{Palette: hexes(t, "#1f2a44", "#f4f1ea")}
	g := FineGrid(100, 300).Coarse()
	seen, err := patches(t.Context(), narrow(3), own.Of(DefaultParams()), g, 77, &e)
	require.NoError(t, err)
	var noted []Look
	for _, d := range seen {
		noted = append(noted, LookOf(d))
	}
	tried, all := 0, 0
	known, err := Fit(t.Context(), narrow(3), DefaultParams(), &e, noted, func(n, of int) {
		assert.Equal(t, tried+1, n, "one after the other")
		tried, all = n, of
	})
	require.NoError(t, err)
	assert.Equal(t, all, tried, "it says how many there are to try, and tries them")
	var sum float64
	for _, w := range known.Weights {
		sum += w
	}
	assert.InDelta(t, 1, sum, 1e-9)
	m := known.Mean()
	t.Logf("noted %v; clumps × %.2f, opens ^ %.2f", noted, m.Clumps, m.Opens)
	assert.Less(t, math.Abs(math.Log(m.Opens/own.Opens)), math.Abs(math.Log(1/own.Opens)), "nearer to her carder than the usual one")

	other := Eye{Palette: hexes(t, "#8a2f2f", "#d9c38a")}
	truth, err := patches(t.Context(), narrow(7), own.Of(DefaultParams()), g, 5, &other)
	require.NoError(t, err)
	before, err := CardingsTo(t.Context(), narrow(1), DefaultParams(), &other, Unknown(15), nil)
	require.NoError(t, err)
	after, err := CardingsTo(t.Context(), narrow(1), DefaultParams(), &other, known.Likely(15), nil)
	require.NoError(t, err)
	at := stageOf(truth, Even)
	t.Logf("even at %d; before %v, after %v", at, before[Even], after[Even])
	assert.LessOrEqual(t, math.Abs(float64(after[Even].Median-at)), math.Abs(float64(before[Even].Median-at)))
	assert.LessOrEqual(t, after[Even].High-after[Even].Low, before[Even].High-before[Even].Low)
}

// TestHandsMixMoreSlowly tears and lays by hand: each round doubles the layers, and no
// pins open them.
func TestHandsMixMoreSlowly(t *testing.T) {
	e := Eye{Palette: hexes(t, "#1f2a44", "#f4f1ea")}
	hands := narrow(7)
	for i := range hands.Passes {
		hands.Passes[i] = Pass{Strips: 2, Refeed: Pieces, ByHand: true}
	}
	g := FineGrid(100, 300).Coarse()
	byHand, err := patches(t.Context(), hands, DefaultParams(), g, 1, &e)
	require.NoError(t, err)
	carded, err := patches(t.Context(), narrow(7), DefaultParams(), g, 1, &e)
	require.NoError(t, err)
	t.Logf("by hand %.1f, carded %.1f", byHand, carded)
	assert.Greater(t, stageOf(byHand, Heathered), stageOf(carded, Heathered))
	assert.Less(t, byHand[7], byHand[0]/3, "but it mixes")
}

func TestWhatCanNotBeForetoldIsRefused(t *testing.T) {
	long := make([]Pass, 10_000)
	for name, change := range map[string]func(*Plan){
		"equipment: A forecast needs a cloth from 50 mm":  func(p *Plan) { p.Bed.WidthMM = math.NaN() },
		"equipment: A cloth holds above":                  func(p *Plan) { p.Bed.FullG = math.Inf(1) },
		"layers[0].lays[0].grams":                         func(p *Plan) { p.Layers[0][0].Grams = math.NaN() },
		"layers[0].lays[0].from":                          func(p *Plan) { p.Layers[0][0].From = math.NaN() },
		"layers[0].lays[0].start":                         func(p *Plan) { p.Layers[0][0].End = 1.01 },
		"layers[0].lays[0].component":                     func(p *Plan) { p.Layers[0][0].Component = 7 },
		"layers[0].lays[0].method":                        func(p *Plan) { p.Layers[0][0].Method = "throw" },
		"layers: Lay something":                           func(p *Plan) { p.Layers = nil },
		"layers: A forecast follows at most 2000 lays":    func(p *Plan) { p.Layers[0] = make([]Lay, 3000) },
		"passes: A forecast follows at most 20":           func(p *Plan) { p.Passes = long },
		"passes[0].split: The batt is divided":            func(p *Plan) { p.Passes[0].Strips = 5 },
		"passes[0].split: The batt is divided into":       func(p *Plan) { p.Passes[0].Strips = 9 },
		"passes[0].refeed":                                func(p *Plan) { p.Passes[0].Refeed = "upside down" },
		"components: A forecast follows at most 48 sorts": func(p *Plan) { many(p) },
	} {
		p := eight(1)
		change(&p)
		err := Run(t.Context(), p, DefaultParams(), FineGrid(200, 600).Coarse(), 1, nil)
		require.ErrorContains(t, err, name)
	}
}

func many(p *Plan) {
	p.Components = make([]Component, MaxSlots+1)
	for i := range p.Components {
		p.Layers = append(p.Layers, []Lay{{Component: i, To: 1, End: 1, Grams: 1, Method: FeedIt}})
	}
}

func TestARunThatNobodyWaitsForEnds(t *testing.T) {
	e := Eye{Palette: hexes(t, "#1f2a44", "#f4f1ea")}
	ctx, cancel := context.WithTimeout(t.Context(), 20*time.Millisecond)
	defer cancel()
	began := time.Now()
	_, err := CardingsTo(ctx, eight(19), DefaultParams(), &e, Unknown(1000), nil)
	require.ErrorIs(t, err, context.DeadlineExceeded)
	t.Logf("ended %v after it was left", time.Since(began)-20*time.Millisecond)
}

// The pieces of carding beside a plain copy of a grid of eight slots, which is what
// there is to move at least.

func BenchmarkPass(b *testing.B) {
	for _, how := range []Refeed{OwnPlace, Spread} {
		b.Run(string(how), func(b *testing.B) {
			batt := benched(b)
			for b.Loop() {
				if err := batt.Card(Pass{Strips: 4, Refeed: how}); err != nil {
					b.Fatal(err)
				}
			}
		})
		b.Run(string(how)+"Floor", copied)
	}
}

func BenchmarkFace(b *testing.B) {
	batt := benched(b)
	var v View
	for b.Loop() {
		batt.Show(&v, Face, 8)
	}
}

func BenchmarkFaceFloor(b *testing.B) { copied(b) }

func BenchmarkFaceMixedAndMeasured(b *testing.B) {
	batt := benched(b)
	p := hexes(b, "#1f2a44", "#f4f1ea", "#8a2f2f", "#d9c38a", "#5b7d96", "#6b7a4a", "#b0764a", "#3c3c3c")
	var v View
	cells := v.Colours(&p, nil)
	for b.Loop() {
		batt.Show(&v, Face, 8)
		cells = v.Colours(&p, cells)
		batt.Spread(cells)
	}
}

func BenchmarkFaceMixedAndMeasuredFloor(b *testing.B) { copied(b) }

func benched(b *testing.B) *Batt {
	batt, err := New(standard, FineGrid(200, 600), DefaultParams(), 1, 8)
	require.NoError(b, err)
	for k := range 8 {
		require.NoError(b, batt.Feed(k, 6, 0, 200, Teased))
	}
	require.NoError(b, batt.Card(Pass{Strips: 4, Refeed: Spread}))
	return batt
}

func copied(b *testing.B) {
	from, to := make([]float32, 96*256*12*8), make([]float32, 96*256*12*8)
	for b.Loop() {
		copy(to, from)
	}
}

// TestThereIsRoomForEverySort lays what is fed, painted and placed in different amounts.
func TestThereIsRoomForEverySort(t *testing.T) {
	for _, open := range []bool{false, true} {
		p := Plan{Bed: Bed{WidthMM: 200, LengthMM: 300, FullG: 30, Open: open}, Components: make([]Component, 2)}
		for i, m := range []Method{FeedIt, PaintIt, PlaceIt, FeedIt, PlaceIt, PlaceIt} {
			p.Layers = append(p.Layers, []Lay{{Component: i % 2, To: 1, End: 1, Grams: 1.3 + 0.7*float64(i), Method: m}})
		}
		require.NoError(t, Run(t.Context(), p, DefaultParams(), FineGrid(200, 300), 1, func(int, *Batt, []Placed) error { return nil }))
	}
}

// TestWhatIsFedOverItHidesIt places things on top and between layers.
func TestWhatIsFedOverItHidesIt(t *testing.T) {
	shows := func(order ...Method) float64 {
		p := Plan{Bed: standard, Components: make([]Component, 2)}
		for _, m := range order {
			p.Layers = append(p.Layers, []Lay{{Component: map[Method]int{FeedIt: 0, PlaceIt: 1}[m], To: 1, End: 1, Grams: 6, Method: m}})
		}
		var mean float64
		require.NoError(t, Run(t.Context(), p, DefaultParams(), FineGrid(200, 600), 1, func(_ int, b *Batt, things []Placed) error {
			for _, v := range things {
				mean += v.Shows / float64(len(things))
			}
			return nil
		}))
		return mean
	}
	assert.InDelta(t, 1, shows(FeedIt, PlaceIt), 1e-12)
	under := math.Exp(-6 / (0.2 * 0.6) / DefaultParams().HidingGsm) // 6 g over 0.12 m²
	assert.InDelta(t, under, shows(FeedIt, PlaceIt, FeedIt), 0.02)
	assert.InDelta(t, under*under, shows(FeedIt, PlaceIt, FeedIt, FeedIt), 0.01)
}

// TestACoverHidesWhereItLies: on a board, what is drawn over the upper half later hides
// the locks there, and no others.
func TestACoverHidesWhereItLies(t *testing.T) {
	for _, upper := range []bool{true, false} {
		p := Plan{Bed: Bed{WidthMM: 200, LengthMM: 300, FullG: 30, Open: true}, Components: make([]Component, 2)}
		cover := Lay{To: 1, Start: 0.5, End: 1, Grams: 8, Method: PaintIt}
		if !upper {
			cover.Start, cover.End = 0, 0.5
		}
		p.Layers = [][]Lay{
			{{To: 1, End: 1, Grams: 5, Method: PaintIt}}, {{Component: 1, To: 1, Start: 0.75, End: 0.9, Grams: 3, Method: PlaceIt}}, {cover},
		}
		require.NoError(t, Run(t.Context(), p, DefaultParams(), FineGrid(200, 300), 1, func(_ int, _ *Batt, things []Placed) error {
			for _, v := range things {
				if upper {
					assert.Less(t, v.Shows, 0.5)
				} else {
					assert.Greater(t, v.Shows, 0.99)
				}
			}
			return nil
		}))
	}
}

// TestBoundsOfACloth: the largest and the smallest cloth are taken.
func TestBoundsOfACloth(t *testing.T) {
	for _, bed := range []Bed{{WidthMM: LeastWide, LengthMM: LeastLong, FullG: 1}, {WidthMM: MostWide, LengthMM: MostLong, FullG: 1e5}} {
		p := narrow(0)
		p.Bed = bed
		require.NoError(t, p.Check())
		_, err := New(bed, FineGrid(bed.WidthMM, bed.LengthMM).Coarse(), DefaultParams(), 1, 1)
		require.NoError(t, err)
	}
}

// As long as nothing was noted, one's own carder is most likely the usual one, and the less likely the farther from it.
func TestNothingNotedTeachesNothing(t *testing.T) {
	e := Eye{Palette: hexes(t, "#1f2a44", "#f4f1ea")}
	known, err := Fit(t.Context(), narrow(1), DefaultParams(), &e, []Look{""}, nil)
	require.NoError(t, err)
	weight := map[[2]int]float64{}
	for i, c := range known.Carders {
		weight[[2]int{int(math.Round(math.Log(c.Clumps) / clumpsStep)), int(math.Round(math.Log(c.Opens) / opensStep))}] = known.Weights[i]
	}
	require.Len(t, weight, (2*clumpsAcross+1)*(2*opensAcross+1))
	for at, w := range weight {
		for _, further := range [][2]int{{at[0] + sign(at[0]), at[1]}, {at[0], at[1] + sign(at[1])}} {
			if next, there := weight[further]; there {
				assert.Greater(t, w, next, "%v against %v", at, further)
			}
		}
	}
}

// sign is the way from the middle: up for the middle itself.
func sign(n int) int {
	if n < 0 {
		return -1
	}
	return 1
}

// A place is picked by how much lies there: never one where nothing does.
func TestNothingIsPickedWhereNothingLies(t *testing.T) {
	sums := []float64{0, 2, 2, 5}
	assert.Equal(t, []int{1, 1, 3, 3}, []int{pick(sums, 0), pick(sums, 0.39), pick(sums, 0.4), pick(sums, 0.99)})
}
