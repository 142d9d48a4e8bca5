package weigh

import (
	"errors"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// drawTable is a weigh-out of which nothing is weighed.
func drawTable(t *rapid.T) *Table {
	step := unit.Milligrams(rapid.SampledFrom([]int{1, 10, 100, 1000}).Draw(t, "step"))
	table := &Table{Step: step}
	units, components := rapid.IntRange(1, 6).Draw(t, "units"), rapid.IntRange(1, 5).Draw(t, "components")
	for c := range components {
		wants := unit.Milligrams(rapid.IntRange(0, 900).Draw(t, "planned")) * step
		for u := range units {
			table.Cells = append(table.Cells, Cell{Unit: u, Component: c, Planned: wants, Wanted: wants, Done: wants == 0})
		}
	}
	return table
}

// drawTaking is a reading of any weight for any cell.
func drawTaking(t *rapid.T, table *Table) Taking {
	c := rapid.SampledFrom(table.Cells).Draw(t, "cell")
	near := int(c.Wanted-c.Weighed) + int(table.Step)*rapid.IntRange(-40, 40).Draw(t, "off")
	return Taking{c.Unit, c.Component, unit.Milligrams(near), rapid.SampledFrom([]Policy{"", AsIs, KeepShares, KeepTotal}).Draw(t, "policy")}
}

// Whatever is taken in whatever order: each milligram lies in one bowl, other units do not move, a cell
// that is done is never taken for again, and what fails changes nothing.
func TestTakingsAreKept(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		table := drawTable(t)
		var taken []Taking
		var all unit.Milligrams
		for range rapid.IntRange(0, 20).Draw(t, "takings") {
			in := drawTaking(t, table)
			before := slices.Clone(table.Cells)
			err := table.Take(in)
			if err != nil {
				require.Equal(t, before, table.Cells, "what fails changes nothing")
				_, plain := fault.From(err)
				require.True(t, plain, "%v", err)
				continue
			}
			taken, all = append(taken, in), all+in.Weight
			for i, c := range table.Cells {
				if c.Unit != in.Unit {
					require.Equal(t, before[i], c, "another unit")
				}
				if c.Done && c.Weighed > 0 {
					require.Equal(t, c.Weighed, c.Now())
				}
				require.GreaterOrEqual(t, c.Now(), c.Weighed)
			}
		}
		var lies unit.Milligrams
		for _, c := range table.Cells {
			lies += c.Weighed
		}
		require.Equal(t, all, lies)

		// Worked out anew from the plan it is the same, and without any of it the plan.
		was := slices.Clone(table.Cells)
		for _, c := range was {
			require.NoError(t, table.Replay(c.Unit, taken))
		}
		require.Equal(t, was, table.Cells)
		for _, c := range was {
			require.NoError(t, table.Replay(c.Unit, nil))
		}
		for _, c := range table.Cells {
			require.Equal(t, c.Planned, c.Wanted)
			require.Zero(t, c.Weighed)
		}
	})
}

// A step off is fine; more needs a policy, and the error says by how much it is off.
func TestOffByMoreThanAStepIsUndecided(t *testing.T) {
	table := &Table{Step: 100, Cells: []Cell{{Planned: 5000, Wanted: 5000}, {Component: 1, Planned: 15_000, Wanted: 15_000}}}
	var undecided Undecided
	err := table.Take(Taking{Weight: 5300})
	require.ErrorAs(t, err, &undecided)
	assert.Equal(t, unit.Milligrams(300), undecided.Off)
	assert.EqualError(t, err, "policy: This is 0.3 g more than wanted. Choose what the others shall do.")
	assert.True(t, table.GivesWay(0, 0))

	require.NoError(t, table.Take(Taking{Weight: 5300, Policy: KeepShares}))
	assert.Equal(t, unit.Milligrams(15_900), table.Cells[1].Wanted, "a quarter is 5.3 g of 21.2 g")
	require.NoError(t, table.Take(Taking{Component: 1, Weight: 15_800}))
	assert.False(t, table.GivesWay(0, 0))
	assert.ErrorContains(t, table.Take(Taking{Weight: 1}), "weighed already")
	assert.ErrorContains(t, table.Take(Taking{Unit: 3, Weight: 1}), "no such place")
	for _, mg := range []unit.Milligrams{0, -1, unit.MaxGrams.Milligrams() + 1} {
		assert.Error(t, table.Take(Taking{Weight: mg}))
	}
}

// Whatever all of it weighs, the parts add up to it and none is a step off what is its.
func TestTogether(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		table := drawTable(t)
		units, wanted := table.Untouched(0)
		if len(units) == 0 {
			_, err := table.Together(Taking{Weight: 10, Policy: AsIs})
			require.ErrorContains(t, err, "has some of this already")
			return
		}
		all := unit.Milligrams(rapid.IntRange(1, 2_000_000).Draw(t, "all"))
		parts, err := table.Together(Taking{Weight: all, Policy: AsIs})
		require.NoError(t, err)
		var sum unit.Milligrams
		for _, p := range parts {
			require.InDelta(t, float64(all)/float64(len(units)), float64(p.Weight), 2*float64(table.Step), "all want alike here")
			sum += p.Weight
		}
		require.Equal(t, all, sum)
		_, err = table.Together(Taking{Weight: all})
		off := max(all-wanted, wanted-all)
		var undecided Undecided
		require.Equal(t, off > unit.Milligrams(len(units))*table.Step, errors.As(err, &undecided))
	})
}

// Where a lot runs out: what is spread is what there is, units that are left out want nothing and leave
// enough for the others, and what was weighed stays.
func TestWaysOnWhereALotRunsOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		table := drawTable(t)
		for range rapid.IntRange(0, 8).Draw(t, "takings") {
			_ = table.Take(drawTaking(t, table))
		}
		rest := table.Rest(0)
		have := unit.Milligrams(rapid.IntRange(0, int(rest)+1).Draw(t, "have"))
		fewer, spread := Table{table.Step, slices.Clone(table.Cells)}, Table{table.Step, slices.Clone(table.Cells)}
		if err := fewer.LeaveOut(0, have); err == nil {
			require.LessOrEqual(t, fewer.Rest(0), have)
			for i, c := range fewer.Cells {
				require.Equal(t, table.Cells[i].Weighed, c.Weighed)
			}
		} else {
			require.Empty(t, table.Spare(0, have))
		}
		units, wanted := table.Untouched(0)
		if err := spread.Spread(0, have); err != nil {
			require.True(t, len(units) == 0 || wanted <= have)
			return
		}
		var wants unit.Milligrams
		for i, c := range spread.Cells {
			if c.Component == 0 && !table.Cells[i].Done && c.Weighed == 0 {
				wants += c.Wanted
			}
		}
		require.Equal(t, have, wants)
	})
}
