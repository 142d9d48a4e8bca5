package gradient

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

func drawStops(t *rapid.T, most int) []Stop {
	out := make([]Stop, rapid.IntRange(1, most).Draw(t, "n"))
	for i := range out {
		var c colour.Linear
		for ch := range c {
			c[ch] = rapid.Float64Range(0.01, 0.9).Draw(t, "channel")
		}
		out[i].Colour, _ = c.Reflectance()
		out[i].Grams = rapid.Float64Range(1, 80).Draw(t, "grams")
	}
	return out
}

func TestEveryGramIsUsed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		q := Request{Stops: drawStops(t, 7), Model: mix.Default(), MaxJump: rapid.Float64Range(2, 20).Draw(t, "jump"),
			School: rapid.SampledFrom([]School{Thirds, Even, Count}).Draw(t, "school"), Bridges: rapid.IntRange(0, 6).Draw(t, "bridges"),
			Reorder: rapid.Bool().Draw(t, "reorder"), Extra: []int{rapid.IntRange(-2, 3).Draw(t, "extra")}}
		p, err := Make(t.Context(), q)
		require.NoError(t, err)
		used := make([]float64, len(q.Stops))
		abrupt := 0
		for i, s := range p.Rungs {
			var sum, shares float64
			for _, part := range s.Parts {
				require.GreaterOrEqual(t, part.Grams, -1e-9)
				used[part.Stop] += part.Grams
				sum += part.Grams
				shares += part.Share
			}
			require.InDelta(t, s.Grams, sum, 1e-9)
			require.InDelta(t, 1, shares, 1e-12)
			if s.Jump > q.MaxJump {
				require.Equal(t, i, p.Abrupt[abrupt])
				abrupt++
			}
		}
		assert.Len(t, p.Abrupt, abrupt)
		for i, s := range q.Stops {
			assert.InDelta(t, s.Grams, used[i], 1e-9)
		}
	})
}

func TestEvenBridgesAreEven(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		q := Request{Stops: drawStops(t, 2), Model: mix.Default(), MaxJump: 8, School: Even, Bridges: rapid.IntRange(1, 8).Draw(t, "bridges")}
		if len(q.Stops) < 2 {
			return
		}
		p, err := Make(t.Context(), q)
		require.NoError(t, err)
		low, high := math.Inf(1), 0.0
		for _, s := range p.Rungs[:len(p.Rungs)-1] {
			low, high = min(low, s.Jump), max(high, s.Jump)
		}
		// Between opposite hues CIEDE2000 has an edge that no bridge can stand
		// on; about one large pair in two thousand meets it.
		if high > 0.01 && high < 15 {
			assert.LessOrEqual(t, high-low, 0.05*low, "within 5 %%")
		}
	})
}

func TestCountKeepsJumpsSmall(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		q := Request{Stops: drawStops(t, 4), Model: mix.Default(), MaxJump: rapid.Float64Range(3, 12).Draw(t, "jump"), School: Count}
		p, err := Make(t.Context(), q)
		require.NoError(t, err)
		most := 0
		at := -1
		for i, s := range p.Rungs {
			if len(s.Parts) == 1 {
				most = max(most, i-at-1)
				at = i
			}
		}
		if most < MaxBridges {
			for _, s := range p.Rungs {
				assert.LessOrEqual(t, s.Jump, q.MaxJump+0.01)
			}
		}
	})
}

// From black to white CIEDE2000 is 100, but only 75 in small jumps: 18 bridges
// keep every jump at 4, 17 do not.
func TestCountTakesNoMoreThanItNeeds(t *testing.T) {
	black, _ := colour.Linear{}.Reflectance()
	white, _ := colour.Linear{1, 1, 1}.Reflectance()
	p := newPath(mix.Default(), Stop{Colour: black}, Stop{Colour: white})
	k := p.enough(4)
	_, with := p.even(k)
	_, without := p.even(k - 1)
	assert.LessOrEqual(t, with, 4.0)
	assert.Greater(t, without, 4.0)
	assert.InDelta(t, 18, k, 1)
}

// TestThirdsByHand: 30 g and 30 g. Each gives a third, 10 g, to the bridges:
// two thirds of it, 6.67 g, to the near one and 3.33 g to the far one. So both
// bridges weigh 10 g and both ends keep 20 g. With 30, 60 and 15 g the small
// one decides on its side: it gives 5 g.
func TestThirdsByHand(t *testing.T) {
	stop := func(hex string, grams float64) Stop {
		c, err := colour.ParseHex(hex)
		require.NoError(t, err)
		r, _ := c.Reflectance()
		return Stop{Colour: r, Grams: grams}
	}
	p, err := Make(t.Context(), Request{Stops: []Stop{stop("#335577", 30), stop("#ddccaa", 30)}, Model: mix.Default(), School: Thirds, MaxJump: 8})
	require.NoError(t, err)
	require.Len(t, p.Rungs, 4)
	for i, want := range []float64{20, 10, 10, 20} {
		assert.InDelta(t, want, p.Rungs[i].Grams, 1e-9)
	}
	assert.InDelta(t, 20.0/3, p.Rungs[1].Parts[0].Grams, 1e-9)
	assert.InDelta(t, 2.0/3, p.Rungs[2].Parts[1].Share, 1e-12)

	p, err = Make(t.Context(), Request{
		Stops: []Stop{stop("#335577", 30), stop("#ddccaa", 60), stop("#775533", 15)}, Model: mix.Default(), School: Thirds, MaxJump: 8,
	})
	require.NoError(t, err)
	for i, want := range []float64{20, 10, 10, 60 - 10 - 5, 5, 5, 10} {
		assert.InDelta(t, want, p.Rungs[i].Grams, 1e-9, "rung %d", i)
	}
}

func TestPathIsTheShortest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		q := Request{Stops: drawStops(t, 8)}
		d := q.jumps()
		order := make([]int, 0, len(d))
		used := make([]bool, len(d))
		shortest := math.Inf(1)
		var rest func(sum float64)
		rest = func(sum float64) {
			if len(order) == len(d) {
				shortest = min(shortest, sum)
				return
			}
			for j := range d {
				if used[j] {
					continue
				}
				step := 0.0
				if len(order) > 0 {
					step = d[order[len(order)-1]][j]
				}
				used[j] = true
				order = append(order, j)
				rest(sum + step)
				order = order[:len(order)-1]
				used[j] = false
			}
		}
		if len(d) > 6 && rapid.IntRange(0, 4).Draw(t, "large") > 0 {
			return // all orders of eight are many
		}
		rest(0)
		assert.InDelta(t, shortest, length(d, Path(t.Context(), d, false)), 1e-9)
	})
}

func TestLongPathsVisitEveryStopOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(13, 30).Draw(t, "n")
		// Points on a line, shuffled: the shortest way is the line.
		at := rapid.Permutation(seq(n)).Draw(t, "at")
		d := make([][]float64, n)
		for i := range d {
			d[i] = make([]float64, n)
			for j := range d {
				d[i][j] = math.Abs(float64(at[i] - at[j]))
			}
		}
		order := Path(t.Context(), d, false)
		assert.ElementsMatch(t, seq(n), order)
		assert.InDelta(t, n-1, length(d, order), 1e-9)
	})
}

func TestKeptEndsStay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 16).Draw(t, "n")
		at := rapid.SliceOfN(rapid.Float64Range(0, 100), n, n).Draw(t, "at")
		d := make([][]float64, n)
		for i := range d {
			d[i] = make([]float64, n)
			for j := range d {
				d[i][j] = math.Abs(at[i] - at[j])
			}
		}
		kept := Path(t.Context(), d, true)
		assert.ElementsMatch(t, seq(n), kept)
		assert.Equal(t, []int{0, n - 1}, []int{kept[0], kept[n-1]})
		assert.LessOrEqual(t, length(d, kept), length(d, seq(n))+1e-9, "no longer than as it was")
		assert.GreaterOrEqual(t, length(d, kept), length(d, Path(t.Context(), d, false))-1e-9, "free ends are never longer")
	})
}

func seq(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

// A bridge holds its two neighbours in the shares that the school says, weighs
// as much as the other bridges between them, and lies between them in colour.
func TestBridgesLieBetweenTheirStops(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		q := Request{
			Stops:   drawStops(t, 5),
			Model:   mix.Default(),
			MaxJump: 8,
			School:  rapid.SampledFrom([]School{Thirds, Even}).Draw(t, "school"),
			Bridges: rapid.IntRange(1, 5).Draw(t, "bridges"),
		}
		p, err := Make(t.Context(), q)
		require.NoError(t, err)
		var weight, share float64
		for i, s := range p.Rungs {
			if len(s.Parts) == 1 {
				weight, share = 0, 0
				continue
			}
			require.Greater(t, s.Parts[1].Share, share, "more and more of the next stop")
			share = s.Parts[1].Share
			if weight > 0 {
				require.InDelta(t, weight, s.Grams, 1e-9)
			}
			weight = s.Grams
			if q.School == Thirds {
				require.Contains(t, []float64{1.0 / 3, 2.0 / 3}, share, "rung %d", i)
				for _, part := range s.Parts { // at most a third of a stop to each side
					require.LessOrEqual(t, part.Grams, q.Stops[part.Stop].Grams/3+1e-9)
				}
			}
		}
	})
}

func TestWrongGradients(t *testing.T) {
	stop := Stop{Grams: 10}
	for want, q := range map[string]Request{
		"stops: A gradient has 1 to 60 stops.":                               {School: Thirds, MaxJump: 8},
		"stops[1].grams: A stop weighs above 0 g and at most 1000000 g.":     {Stops: []Stop{stop, {}}, School: Thirds, MaxJump: 8},
		"school: The school is thirds, even or count.":                       {Stops: []Stop{stop}, MaxJump: 8},
		"bridges: Between two stops there are 0 to 24 bridges.":              {Stops: []Stop{stop}, School: Even, Bridges: 25, MaxJump: 8},
		"max_jump: The largest jump lies above 0 and at most 100 CIEDE2000.": {Stops: []Stop{stop}, School: Thirds, MaxJump: math.NaN()},
		"extra[0]: At most 24 bridges more or fewer.":                        {Stops: []Stop{stop}, School: Thirds, MaxJump: 8, Extra: []int{99}},
	} {
		_, err := Make(t.Context(), q)
		assert.EqualError(t, err, want)
	}
}

// In whole steps, what a stop has beyond them stays in its own rung and every gram
// is used; bridges have whole steps only.
func TestWhatIsBeyondWholeStepsStaysWithTheStop(t *testing.T) {
	for _, grams := range [][2]float64{{30.3, 20.7}, {30, 20}, {29.6, 20.4}} {
		stops := []Stop{{Grams: grams[0]}, {Grams: grams[1]}}
		for i, hex := range []string{"#26324a", "#e2d8c3"} {
			c, err := colour.ParseHex(hex)
			require.NoError(t, err)
			stops[i].Colour, _ = c.Reflectance()
		}
		q := Request{Stops: stops, Model: mix.Default(), School: Thirds, Bridges: 2, MaxJump: 8}
		exact, err := Make(t.Context(), q)
		require.NoError(t, err)
		q.Step = 0.5
		p, err := Make(t.Context(), q)
		require.NoError(t, err)
		var of [2]float64
		for n, s := range p.Rungs {
			var sum float64
			for at, v := range s.Parts {
				assert.InDelta(t, exact.Rungs[n].Parts[at].Grams, v.Grams, 0.5, "no piece is a step off")
				of[v.Stop] += v.Grams
				sum += v.Grams
				beyond := math.Mod(v.Grams+1e-9, 0.5)
				if len(s.Parts) > 1 {
					assert.Less(t, beyond, 1e-6, "a bridge of %v", grams)
				} else {
					assert.InDelta(t, math.Mod(grams[v.Stop]+1e-9, 0.5), beyond, 1e-6, "the rung of %v", grams)
				}
			}
			assert.InDelta(t, sum, s.Grams, 1e-9)
		}
		assert.InDeltaSlice(t, grams[:], of[:], 1e-9)
	}
}

// Ends that are kept stay where they are, however few stops there are.
func TestFewStopsWithKeptEnds(t *testing.T) {
	d := func(n int) [][]float64 {
		out := make([][]float64, n)
		for i := range out {
			out[i] = make([]float64, n)
			for j := range out[i] {
				out[i][j] = float64((i*7+j*7)%5 + 1)
			}
		}
		return out
	}
	assert.Equal(t, []int{}, Path(t.Context(), d(0), false))
	assert.Equal(t, []int{0}, Path(t.Context(), d(1), false))
	assert.Equal(t, []int{0, 1}, Path(t.Context(), d(2), true))
	assert.Equal(t, []int{0, 1, 2}, Path(t.Context(), d(3), true))
	far := [][]float64{{0, 1, 9}, {1, 0, 1}, {9, 1, 0}}
	assert.Equal(t, []int{0, 1, 2}, Path(t.Context(), [][]float64{{0, 9, 1}, {9, 0, 9}, {1, 9, 0}}, true), "kept")
	assert.Equal(t, []int{0, 1, 2}, Path(t.Context(), far, false))
	assert.Equal(t, []int{0, 2, 1}, Path(t.Context(), [][]float64{{0, 9, 1}, {9, 0, 1}, {1, 1, 0}}, false))
}
