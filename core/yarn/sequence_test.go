package yarn

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

func fade(grams ...float64) (out []Rung) {
	for i, g := range grams {
		out = append(out, Rung{g, colour.Lab{L: 30 + 4*float64(i), A: 10, B: -20}.Linear()})
	}
	return out
}

// The worked sequences of yarn.md, section 8: 14 rungs, 106 g, 3 % waste, 100 tex, 5 % take-up.
func TestWorkedSequences(t *testing.T) {
	rungs := fade(9, 8, 8, 7, 7, 6, 6, 6, 7, 7, 8, 8, 9, 10)
	for _, c := range []struct {
		ply, split   string
		plied, grist float64
		joins, left  []float64
	}{
		{Single, EachRung, 1028.2, 1000, []float64{87.3, 164.9, 242.5, 310.4, 378.3, 436.5, 494.7, 552.9, 620.8, 688.7, 766.3, 843.9, 931.2}, []float64{0}},
		{Two, EachRung, 489.6, 476, []float64{41.6, 78.5, 115.5, 147.8, 180.1, 207.9, 235.6, 263.3, 295.6, 328.0, 364.9, 401.9, 443.4}, []float64{0, 0}},
		{Two, InParts, 471.1, 476, []float64{55.4, 83.1, 120.1, 157.0, 184.8, 231.0, 258.7, 295.6, 332.6, 360.3, 415.7}, []float64{0, 38.8}},
		{Two, ByWeight, 489.6, 476, []float64{36.95, 83.1, 101.6, 157.0, 166.3, 231.0, 240.2, 295.6, 314.1, 360.3, 397.2, 415.7, 471.1},
			[]float64{0, 0}},
		{Chain, EachRung, 326.4, 317, []float64{27.7, 52.3, 77.0, 98.5, 120.1, 138.6, 157.0, 175.5, 197.1, 218.6, 243.3, 267.9, 295.6}, []float64{0}},
	} {
		y, err := Sequence{Rungs: rungs, Split: c.split, Ply: c.ply, Tex: 100, TakeUp: 0.05, Waste: 0.03, Jump: UsualJump}.Spin()
		require.NoError(t, err)
		assert.InDelta(t, c.plied, y.Plied, 0.05)
		assert.InDelta(t, c.grist, y.Grist, 0.5)
		assert.InDeltaSlice(t, c.left, y.Left, 0.05)
		var at []float64
		for _, j := range y.Joins {
			at = append(at, j.At)
		}
		assert.InDeltaSlice(t, c.joins, at, 0.06, "%s %s", c.ply, c.split)
	}
}

// A join of 14.0: of one ply of two a step of about half, of three of a third, of a single and of a chain all of it.
func TestAPlySoftensAJoin(t *testing.T) {
	a, b := colour.Lab{L: 45, A: -12, B: -20}, colour.Lab{L: 57, A: -8, B: -8}
	rungs := []Rung{{10, a.Linear()}, {10, b.Linear()}}
	jumps := func(q Sequence) (out []float64) {
		q.Rungs, q.Tex, q.TakeUp, q.Jump = rungs, 100, 0.05, UsualJump
		y, err := q.Spin()
		require.NoError(t, err)
		for _, j := range y.Joins {
			assert.Equal(t, j.Jump > UsualJump, j.Abrupt)
			out = append(out, j.Jump)
		}
		return out
	}
	assert.InDeltaSlice(t, []float64{14.0}, jumps(Sequence{Ply: Single, Split: EachRung}), 0.05)
	assert.InDeltaSlice(t, []float64{14.0}, jumps(Sequence{Ply: Chain, Split: EachRung}), 0.05)
	assert.InDeltaSlice(t, []float64{14.0}, jumps(Sequence{Ply: Two, Split: EachRung}), 0.05)
	assert.InDeltaSlice(t, []float64{7.5}, jumps(Sequence{Ply: Two, Split: EachRung, Plain: []colour.Linear{a.Linear()}}), 0.1, "beside a plain strand")
}

// Metres add up, runs have no gap and keep the order, and a plied join is never larger than that of its rungs.
func TestSequencesAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		q := Sequence{Ply: rapid.SampledFrom(Plies).Draw(t, "ply"), Split: rapid.SampledFrom([]string{EachRung, InParts, ByWeight}).Draw(t, "split"),
			Tex: rapid.Float64Range(20, 800).Draw(t, "tex"), TakeUp: rapid.Float64Range(0, 0.2).Draw(t, "t"), Waste: rapid.Float64Range(0, 0.2).Draw(t, "w"), Jump: 8}
		var grams float64
		for range rapid.IntRange(3, 20).Draw(t, "rungs") {
			v := rapid.SliceOfN(rapid.Float64Range(0.02, 0.9), 3, 3).Draw(t, "colour")
			g := float64(rapid.IntRange(1, 300).Draw(t, "grams")) / 10
			q.Rungs, grams = append(q.Rungs, Rung{g, colour.Linear{v[0], v[1], v[2]}}), grams+g
		}
		y, err := q.Spin()
		require.NoError(t, err)
		assert.InDelta(t, grams*(1-q.Waste)*1000/q.Tex, y.Singles, 1e-6)
		takes := 1.0
		if q.Ply != Single {
			takes += q.TakeUp
		}
		var left float64
		for _, v := range y.Left {
			left += v
		}
		assert.InDelta(t, y.Singles, y.Plied*float64(PliesOf(q.Ply))*takes+left, 1e-6)
		at, last := 0.0, 0
		for _, r := range y.Runs {
			assert.InDelta(t, at, r.From, 1e-9)
			assert.Greater(t, r.To, r.From)
			assert.GreaterOrEqual(t, r.Rungs[0], last, "in their order")
			at, last = r.To, r.Rungs[0]
		}
		assert.InDelta(t, y.Plied, at, 1e-9)
		if q.Split == EachRung { // every place is of one rung
			long := 0.0
			for i := range q.Rungs {
				long += y.LongOf(i)
			}
			assert.InDelta(t, y.Plied, long, 1e-6)
		}
		assert.Len(t, y.Joins, len(y.Runs)-1)
	})
}

func TestWrongSequencesNameTheField(t *testing.T) {
	good := Sequence{Rungs: fade(9, 8), Ply: Two, Split: EachRung, Tex: 100, Jump: 8}
	for field, change := range map[string]func(*Sequence){
		"rungs:": func(q *Sequence) { q.Rungs = nil }, "rungs[0].grams": func(q *Sequence) { q.Rungs[0].Grams = 0 }, "ply": func(q *Sequence) { q.Ply = "four" },
		"strands": func(q *Sequence) { q.Strands = 3 }, "split": func(q *Sequence) { q.Split = "odd" }, "singles_tex": func(q *Sequence) { q.Tex = 0 },
		"take_up_pct": func(q *Sequence) { q.TakeUp = 2 }, "jump": func(q *Sequence) { q.Jump = -1 },
	} {
		q := good
		q.Rungs = append([]Rung{}, good.Rungs...)
		change(&q)
		_, err := q.Spin()
		assert.ErrorContains(t, err, field)
	}
}

// The table of yarn.md, section 1: 100 tex, take-up 5 %, wool.
func TestSizesOfAYarn(t *testing.T) {
	for _, c := range []struct {
		draw, prepared string
		plies          int
		d, phi, wraps  float64
	}{
		{"long", "rolag", 1, 0.665, 0.220, 28.3}, {"long", "rolag", 2, 1.115, 0.164, 16.9}, {"long", "rolag", 3, 1.331, 0.173, 14.1},
		{"long", "batt", 2, 1.067, 0.179, 17.6}, {"short-forward", "top", 2, 0.848, 0.284, 22.2},
	} {
		s, err := SizeOf(100, 0.05, c.plies, c.draw, c.prepared, WoolDensity, CrimpFactor("medium"))
		require.NoError(t, err)
		assert.InDelta(t, c.d, s.DiameterMM, 0.001)
		assert.InDelta(t, c.phi, s.Packing, 0.0006)
		assert.InDelta(t, c.wraps, s.WrapsPerInch, 0.06)
	}
	for i, draw := range Draws {
		for j, prepared := range Prepared {
			here, err := SizeOf(100, 0.05, 2, draw, prepared, WoolDensity, CrimpFactor("any"))
			require.NoError(t, err)
			if i > 0 {
				assert.Less(t, packed[Draws[i-1]][prepared], packed[draw][prepared])
			}
			if j > 0 {
				assert.Less(t, packed[draw][Prepared[j-1]], packed[draw][prepared])
			}
			assert.Positive(t, here.DiameterMM)
		}
	}
	s, err := SizeOf(100, 0.05, 2, "long", "batt", WoolDensity, 1)
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{s.DiameterMM, s.Packing}, []float64{s.Wrapped(s.WrapsPerInch).DiameterMM, s.Wrapped(s.WrapsPerInch).Packing}, 1e-9)
	assert.InDelta(t, 1.176, s.Wrapped(16).DiameterMM, 0.0005, "yarn.md, section 9")
	assert.InDelta(t, s.Packing/4, s.Wrapped(s.WrapsPerInch/2).Packing, 1e-9, "twice as thick is a quarter as full")
	_, err = SizeOf(100, 0, 1, "up", "top", 1.31, 1)
	assert.ErrorContains(t, err, "draw")
	_, err = SizeOf(100, 0, 1, "long", "lump", 1.31, 1)
	assert.ErrorContains(t, err, "prepared")
}

// In the middle of a step of the single, what is near is what lies there.
func TestNearIsWhatLiesThere(t *testing.T) {
	y, err := Plan(ask(lanes(20, 30, 10), Strips, 3, Single))
	require.NoError(t, err)
	into := make([]float64, 3)
	for i := 1; i < 40; i++ {
		m := (float64(7*i) + 0.5) * y.step
		y.Near(0, m, into)
		assert.InDeltaSlice(t, y.at(m), into, 1e-9)
	}
}
