package match

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

func TestACorrectionNeverMakesItWorse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := Mend{Made: rapid.Float64Range(5, 200).Draw(t, "made"), Colour: drawLot(t).Colour, Model: mix.Default(),
			Components: rapid.IntRange(1, 3).Draw(t, "components"), Step: 0.1, Count: 5}
		m.MostAdded = rapid.Float64Range(1, 50).Draw(t, "most")
		for range rapid.IntRange(1, 10).Draw(t, "n") {
			l := drawLot(t)
			l.Available = rapid.Float64Range(0, 40).Draw(t, "available")
			m.Lots = append(m.Lots, l)
		}
		target := drawLot(t)
		m.Target = target.Colour.Lab()
		before, out, err := Correct(t.Context(), m)
		require.NoError(t, err)
		assert.InDelta(t, colour.CIEDE2000(m.Target, m.Colour.Lab()), before, 1e-9)
		last := math.Inf(1)
		for _, a := range out {
			require.Less(t, a.DeltaE, before)
			require.LessOrEqual(t, a.Added, m.MostAdded+1e-9)
			lots, shares := []colour.Reflectance{m.Colour}, []float64{m.Made / (m.Made + a.Added)}
			var added float64
			for j, i := range a.Set {
				g := float64(a.Steps[j]) * m.Step
				require.LessOrEqual(t, g, m.Lots[i].Available+1e-9)
				added += g
				lots, shares = append(lots, m.Lots[i].Colour), append(shares, g/(m.Made+a.Added))
			}
			require.InDelta(t, a.Added, added, 1e-9)
			r := m.Model.Even(lots, shares)
			require.InDelta(t, colour.CIEDE2000(m.Target, r.Lab()), a.DeltaE, 1e-9)
			gain := (before - a.DeltaE) / a.Added
			require.LessOrEqual(t, gain, last+1e-9, "ranked by improvement per gram")
			last = gain
		}
	})
}

// TestCorrectUndoesAKnownMistake makes a blend of 40 g green and 10 g white
// instead of 5 g white: it wants 40 g more green for the white that is in it,
// and nothing else on the shelf serves better.
func TestCorrectUndoesAKnownMistake(t *testing.T) {
	green, white, red := lotOf(t, "#4f6b4a"), lotOf(t, "#f2eee3"), lotOf(t, "#a03a32")
	m := mix.Default()
	pair := []colour.Reflectance{green.Colour, white.Colour}
	made, wanted := m.Even(pair, []float64{0.8, 0.2}), m.Even(pair, []float64{8.0 / 9, 1.0 / 9})
	before, out, err := Correct(
		t.Context(),
		Mend{Made: 50, Colour: made, Target: wanted.Lab(), Lots: []Lot{white, green, red}, Model: m, Components: 2, MostAdded: 60, Step: 0.1, Count: 3},
	)
	require.NoError(t, err)
	require.NotEmpty(t, out)
	assert.Greater(t, before, 2.0)
	assert.Equal(t, []int{1}, out[0].Set)
	assert.InDelta(t, 40, out[0].Added, 4, "a few grams less are as good to the eye")
	assert.Less(t, out[0].DeltaE, 0.5)

	_, out, err = Correct(t.Context(), Mend{Made: 50, Colour: made, Target: wanted.Lab(), Lots: []Lot{white}, Model: m, Components: 1, MostAdded: 60,
		Step: 0.1, Count: 3})
	require.NoError(t, err)
	assert.Empty(t, out, "white alone can not mend it")
}

// What is to be added is right before it is settled step by step: shares of what comes out, in grams beside what was made.
func TestWhatIsAddedStartsRight(t *testing.T) {
	green, white := lotOf(t, "#4f6b4a"), lotOf(t, "#f2eee3")
	model := mix.Default()
	pair := []colour.Reflectance{green.Colour, white.Colour}
	wanted := model.Even(pair, []float64{8.0 / 9, 1.0 / 9})
	c := newCorrection(Mend{Made: 50, Colour: model.Even(pair, []float64{0.8, 0.2}), Target: wanted.Lab(),
		Lots: []Lot{green}, Model: model, Components: 1, MostAdded: 60, Step: 0.1, Count: 1})
	assert.InDelta(t, 400, c.add([]int{0}).Steps[0], 40, "40 g in steps of 0.1 g")
}

func TestSayingMovesByWhatTheWordMeans(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := drawLot(t).Colour
		at := c.Lab()
		what := rapid.SampledFrom(Whats).Draw(t, "what")
		if at.L < 15 || at.L > 85 || at.Chroma() < 15 {
			return // little room to be darker, lighter or duller
		}
		q, err := Saying(at, []Said{{what, "little"}})
		require.NoError(t, err)
		assert.InDelta(t, 2.75, colour.CIEDE2000(at, q), 0.01)
		back := map[string]string{"light": "lighter", "dark": "darker", "warm": "warmer", "cool": "cooler", "bright": "brighter", "dull": "duller"}[what]
		if back == "lighter" || back == "darker" || back == "brighter" || back == "duller" {
			assert.Contains(t, colour.Words(at, q), back)
		}
	})
}

func TestDullTakesTheSameChromaOffEachWay(t *testing.T) {
	bright := lotOf(t, "#c4452c")
	lots := []Lot{lotOf(t, "#2f7f86"), lotOf(t, "#8a8a88"), lotOf(t, "#6b4c35"), lotOf(t, "#d8a13a")}
	out, err := Dull(bright.Colour, 0.3, lots, mix.Default())
	require.NoError(t, err)
	start := bright.Colour.Lab()
	for i, d := range out {
		assert.Equal(t, []string{Complement, Grey, Brown}[i], d.Way)
		assert.Equal(t, i, d.Lot)
		assert.InDelta(t, 0.7*start.Chroma(), d.Colour.Lab().Chroma(), 0.01)
		r := mix.Default().Even([]colour.Reflectance{bright.Colour, lots[d.Lot].Colour}, []float64{1 - d.Share, d.Share})
		assert.Equal(t, r.Lab(), d.Colour.Lab(), "the share gives the colour")
	}
	assert.Less(t, out[0].Share, out[1].Share, "a complement takes chroma off faster than grey")

	out, err = Dull(bright.Colour, 0.3, lots[3:], mix.Default())
	require.NoError(t, err)
	for _, d := range out {
		assert.Equal(t, -1, d.Lot, "an orange dulls no red")
	}
	_, err = Dull(lotOf(t, "#808080").Colour, 0.3, lots, mix.Default())
	assert.Error(t, err)
}

// More lots or more of them never leave a worse best correction.
func TestMoreToAddIsNeverWorse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := Mend{Made: 50, Colour: drawLot(t).Colour, Model: mix.Default(), Components: 1, MostAdded: 30, Step: 0.1, Count: 10}
		for range rapid.IntRange(1, 6).Draw(t, "n") {
			m.Lots = append(m.Lots, drawLot(t))
		}
		target := drawLot(t)
		m.Target = target.Colour.Lab()
		least := func(m Mend) float64 {
			before, out, err := Correct(t.Context(), m)
			require.NoError(t, err)
			for _, a := range out {
				before = min(before, a.DeltaE)
			}
			return before
		}
		first := least(m)
		more := m
		more.Lots = append(append([]Lot(nil), m.Lots...), drawLot(t))
		assert.LessOrEqual(t, least(more), first+1e-9, "a lot more to choose from")
		more = m
		more.Components = 2
		assert.LessOrEqual(t, least(more), first+1e-9, "two lots instead of one")
	})
}

func TestDullingLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := drawLot(t).Colour
		drop := rapid.Float64Range(0.05, 0.7).Draw(t, "drop")
		var lots []Lot
		for range rapid.IntRange(1, 12).Draw(t, "n") {
			lots = append(lots, drawLot(t))
		}
		out, err := Dull(c, drop, lots, mix.Default())
		at := c.Lab()
		if at.Chroma() < 3 {
			require.Error(t, err)
			return
		}
		require.NoError(t, err)
		for _, d := range out {
			if d.Lot < 0 {
				continue
			}
			require.True(t, serves(d.Way, at, lots[d.Lot].Colour.Lab()))
			require.Greater(t, d.Share, 0.0)
			require.LessOrEqual(t, d.Share, 0.8)
			require.LessOrEqual(t, d.Colour.Lab().Chroma(), at.Chroma()*(1-drop)+0.01)
		}
	})
}
