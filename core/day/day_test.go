package day

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

func drawJobs(t *rapid.T, most int) []Job {
	jobs := make([]Job, rapid.IntRange(1, most).Draw(t, "n"))
	for i := range jobs {
		jobs[i] = Job{
			Colour:  colour.Lab{L: rapid.Float64Range(5, 98).Draw(t, "L"), A: rapid.Float64Range(-60, 60).Draw(t, "a"), B: rapid.Float64Range(-60, 60).Draw(t, "b")},
			Fine:    rapid.IntRange(0, 3).Draw(t, "fine") == 0,
			Sheds:   rapid.IntRange(0, 3).Draw(t, "sheds") == 0,
			Minutes: rapid.Float64Range(1, 60).Draw(t, "minutes"),
			Pieces:  rapid.IntRange(0, 4).Draw(t, "pieces"),
		}
	}
	return jobs
}

var usual = Times{Full: 12, Quick: 4, BreakEvery: 60, Break: 10}

// best tries every order.
func best(between [][]float64, first int) float64 {
	least := math.Inf(1)
	var go1 func(order []int)
	go1 = func(order []int) {
		if len(order) == len(between) {
			least = min(least, Cost(between, order))
			return
		}
		for j := range between {
			if !slices.Contains(order, j) {
				go1(append(slices.Clone(order), j))
			}
		}
	}
	if first >= 0 {
		go1([]int{first})
	} else {
		go1(nil)
	}
	return least
}

// Against every order there is: none needs less cleaning, with any job first or with the one
// that was asked for.
func TestNoOrderNeedsLessCleaning(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		jobs := drawJobs(t, 7)
		between := Changeovers(jobs, usual)
		first := rapid.IntRange(-1, len(jobs)-1).Draw(t, "first")
		order, exact, err := Order(t.Context(), jobs, usual, first)
		require.NoError(t, err)
		require.True(t, exact)
		sorted := slices.Clone(order)
		slices.Sort(sorted)
		for i, j := range sorted {
			require.Equal(t, i, j, "each job once")
		}
		require.True(t, first < 0 || order[0] == first)
		require.InDelta(t, best(between, first), Cost(between, order), 1e-9)
	})
}

func TestAgainstBruteForceToEight(t *testing.T) {
	checked := 0
	rapid.Check(t, func(t *rapid.T) {
		if checked++; checked > 8 {
			return // 40,320 orders each
		}
		jobs := drawJobs(t, 8)
		between := Changeovers(jobs, usual)
		order, _, err := Order(t.Context(), jobs, usual, -1)
		require.NoError(t, err)
		require.InDelta(t, best(between, -1), Cost(between, order), 1e-9)
	})
}

// Beyond a dozen it is never worse than as given, nor than what is exact for its first twelve
// and the rest after.
func TestManyJobs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		jobs := drawJobs(t, 30)
		between := Changeovers(jobs, usual)
		given := make([]int, len(jobs))
		for i := range given {
			given[i] = i
		}
		order, exact, err := Order(t.Context(), jobs, usual, -1)
		require.NoError(t, err)
		require.Equal(t, len(jobs) <= MostExact, exact)
		require.LessOrEqual(t, Cost(between, order), Cost(between, given)+1e-9)
		require.Len(t, order, len(jobs))
	})
}

// A pale batt after a dark one needs a full cleaning, the other way round none; film is last.
func TestPaleBeforeDark(t *testing.T) {
	navy, cream := Job{Colour: colour.Lab{L: 20, A: 2, B: -18}, Minutes: 20}, Job{Colour: colour.Lab{L: 90, A: 1, B: 8}, Minutes: 20}
	film := Job{Colour: colour.Lab{L: 70}, Minutes: 20, Sheds: true}
	assert.Equal(t, Full, Between(navy, cream))
	assert.Equal(t, None, Between(cream, navy))
	assert.Equal(t, Full, Between(film, navy))
	assert.Equal(t, Quick, Between(Job{Colour: colour.Lab{L: 50, A: 40}}, Job{Colour: colour.Lab{L: 50, A: 20}}), "red in grey")
	assert.Equal(t, None, Between(Job{Colour: colour.Lab{L: 50, A: 40}}, Job{Colour: colour.Lab{L: 25, A: 2}}), "red in charcoal")
	assert.Equal(t, Quick, Between(Job{}, Job{Fine: true}), "coarse hairs in fine wool")
	assert.Equal(t, None, Between(Job{Fine: true}, Job{}))
	assert.Equal(t, Quick, Between(Job{Colour: colour.Lab{L: 50}}, Job{Colour: colour.Lab{L: 60}}))
	assert.Equal(t, None, Between(Job{Colour: colour.Lab{L: 50}}, Job{Colour: colour.Lab{L: 59.9}}))
	order, _, err := Order(t.Context(), []Job{navy, cream}, usual, -1)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 0}, order)
	jobs := []Job{cream, navy, film}
	order, _, err = Order(t.Context(), jobs, usual, -1)
	require.NoError(t, err)
	assert.Equal(t, []int{0, 1, 2}, order, "of equal orders the one that was given")
	spans := Spans(jobs, order, Times{Full: 12, Quick: 4, BreakEvery: 45, Break: 10})
	kinds := []string{}
	for _, s := range spans {
		kinds = append(kinds, s.Kind)
	}
	assert.Equal(t, []string{"card", "card", "break", "clean", "card"}, kinds, "the film is lighter than the navy by 50")
	assert.InDelta(t, 20+20+10+12+20, Total(spans), 1e-9)
	assert.Equal(t, 2, Fits(spans, 60))
}

// Of the orders that need as little cleaning none is done sooner.
func TestNoOrderTakesFewerBreaks(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		jobs := drawJobs(t, 6)
		for i := range jobs { // so that many orders need none
			jobs[i].Colour, jobs[i].Sheds, jobs[i].Fine = colour.Lab{L: 50}, false, false
		}
		order, _, err := Order(t.Context(), jobs, usual, -1)
		require.NoError(t, err)
		least := Total(Spans(jobs, order, usual))
		var all func(o []int)
		all = func(o []int) {
			if len(o) == len(jobs) {
				require.GreaterOrEqual(t, Total(Spans(jobs, o, usual)), least-1e-9)
			}
			for j := range jobs {
				if !slices.Contains(o, j) {
					all(append(slices.Clone(o), j))
				}
			}
		}
		all(nil)
	})
	// 40, 30, 20 and 30 as given take two breaks; 40 and 20, then 30 and 30, only one.
	jobs := []Job{{Minutes: 40}, {Minutes: 30}, {Minutes: 20}, {Minutes: 30}}
	order, _, err := Order(t.Context(), jobs, Times{Full: 12, BreakEvery: 60, Break: 10}, -1)
	require.NoError(t, err)
	assert.Equal(t, []int{0, 2, 1, 3}, order)
}

// Spans follow each other without a gap, and the total is the jobs, the cleaning and the breaks.
func TestStepsFillTheDay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		jobs := drawJobs(t, 10)
		between := Changeovers(jobs, usual)
		order, _, err := Order(t.Context(), jobs, usual, -1)
		require.NoError(t, err)
		now, sum := 0.0, Cost(between, order)
		for _, s := range Spans(jobs, order, usual) {
			require.InDelta(t, now, s.From, 1e-9)
			now = s.To
			if s.Kind == "break" {
				sum += usual.Break
			}
		}
		for _, j := range jobs {
			sum += j.Minutes
		}
		require.InDelta(t, sum, now, 1e-6)
	})
}

func TestCheck(t *testing.T) {
	one := []Job{{Minutes: 5}}
	require.NoError(t, Check(one, usual, 180, -1))
	assert.Error(t, Check(nil, usual, 180, -1))
	assert.Error(t, Check([]Job{{Minutes: math.NaN()}}, usual, 180, -1))
	assert.Error(t, Check(one, Times{Full: -1}, 180, -1))
	assert.Error(t, Check(one, usual, math.Inf(1), -1))
	assert.NoError(t, Check(one, usual, mostMinutes, -1))
	assert.Error(t, Check(one, usual, mostMinutes+1, -1))
	assert.Error(t, Check(one, usual, 180, 1))
}
