// Package weigh turns a recipe into grams at the scale: what to weigh in so
// that the finished units have the shares asked for, rounded to the scale's
// step so that everything adds up, and what to do when too much was weighed.
package weigh

import (
	"math"
	"sort"
)

// nearWhole is how close to a whole number of steps a value may come before
// it counts as one: 0.1·3 is 3 steps of 0.1 in spite of binary fractions.
const nearWhole = 1e-9

// floor and its fraction, with values a hair off a whole number taken as it.
func floorOf(x float64) (whole int64, fraction float64) {
	r := math.Round(x)
	if math.Abs(x-r) <= nearWhole*max(1, math.Abs(x)) {
		return int64(r), 0
	}
	f := math.Floor(x)
	return int64(f), x - f
}

// nearest rounds half up, after the same allowance.
func nearest(x float64) int64 {
	w, f := floorOf(x)
	if f >= 0.5-nearWhole {
		w++
	}
	return w
}

// isTie reports whether x lies half way between two whole numbers.
func isTie(x float64) bool {
	_, f := floorOf(x)
	return math.Abs(f-0.5) <= nearWhole
}

// RoundAlike rounds a table of units × components whose rows are all the same,
// exact[j] steps each, to whole steps: a controlled rounding (Bacharach,
// "Matrix rounding problems", 1966; Cox and Ernst, "Controlled rounding",
// 1982). Every cell, every row total and every column total is within one step
// of exact, the grand total is the nearest.
//
// Where the totals allow it all rows come out identical. Otherwise each column
// total goes down or up so that the squared errors of all cells add up to the
// least: a cell with fraction f that goes up costs (1-f)² instead of f², so the
// columns with the largest fractions go up first. Each column's extra steps go
// to rows in turn, one column after the other; that way no row gets two of one
// column, and rows differ by one step at most. Rows alike make the general flow
// unnecessary.
func RoundAlike(exact []float64, units int) [][]int64 {
	n := len(exact)
	cells := make([]int64, n*units)
	table := make([][]int64, units)
	for u := range table {
		table[u] = cells[u*n : (u+1)*n : (u+1)*n]
	}
	if row, ok := identicalRow(exact, units); ok {
		for u := range table {
			copy(table[u], row)
		}
		return table
	}
	whole, ups := make([]int64, n), make([]int64, n)
	fractions, order := make([]float64, n), make([]int, n)
	var extra float64
	for j, x := range exact {
		whole[j], fractions[j] = floorOf(x)
		ups[j], _ = floorOf(fractions[j] * float64(units))
		extra += fractions[j] * float64(units)
		order[j] = j
	}
	missing, tie := nearest(extra), isTie(extra)
	for _, k := range ups {
		missing -= k
	}
	sort.SliceStable(order, func(a, b int) bool { return fractions[order[a]] > fractions[order[b]] })
	for _, j := range order {
		if tie && missing == 1 && fractions[j] <= 0.5 {
			break // half a step over or under is as near; under costs less here
		}
		if _, f := floorOf(fractions[j] * float64(units)); f > 0 && missing > 0 {
			ups[j]++
			missing--
		}
	}
	next := 0
	for j := range n {
		for u := range table {
			table[u][j] = whole[j]
		}
		for range ups[j] {
			table[next][j]++
			next = (next + 1) % units
		}
	}
	return table
}

// identicalRow finds one row that serves for all units: each cell up or down,
// no column total more than one step off, the grand total the nearest.
func identicalRow(exact []float64, units int) ([]int64, bool) {
	var total float64
	for _, x := range exact {
		total += x
	}
	grand := nearest(total * float64(units))
	row, ok := oneRow(exact, units, grand)
	if !isTie(total * float64(units)) {
		return row, ok
	}
	// The multiple below is as near: the closer row of the two.
	if below, okBelow := oneRow(exact, units, grand-1); okBelow && (!ok || offBy(exact, below) < offBy(exact, row)) {
		return below, true
	}
	return row, ok
}

// offBy is the sum of squared errors of a row.
func offBy(exact []float64, row []int64) (sum float64) {
	for j, n := range row {
		d := float64(n) - exact[j]
		sum += d * d
	}
	return sum
}

func oneRow(exact []float64, units int, grand int64) ([]int64, bool) {
	if grand%int64(units) != 0 {
		return nil, false
	}
	missing := grand / int64(units)
	row := make([]int64, len(exact))
	type choice struct {
		j        int
		fraction float64
	}
	var free []choice
	for j, x := range exact {
		w, f := floorOf(x)
		down, up := f*float64(units) <= 1+nearWhole, (1-f)*float64(units) <= 1+nearWhole
		switch {
		case f == 0 || (down && !up):
		case up && !down:
			w++
		case up && down:
			free = append(free, choice{j, f})
		default:
			return nil, false
		}
		row[j] = w
		missing -= w
	}
	if missing < 0 || missing > int64(len(free)) {
		return nil, false
	}
	sort.SliceStable(free, func(a, b int) bool { return free[a].fraction > free[b].fraction })
	for _, c := range free[:missing] {
		row[c.j]++
	}
	return row, true
}

// Apportion rounds exact values to whole numbers that add up to total by
// largest remainder: each gets its floor, and the missing ones go to the
// largest fractions, the first of equals first. total is meant to be the sum
// of exact, rounded either way.
func Apportion(exact []float64, total int64) []int64 {
	out := make([]int64, len(exact))
	fractions := make([]float64, len(exact))
	order := make([]int, len(exact))
	for i, x := range exact {
		out[i], fractions[i] = floorOf(x)
		total -= out[i]
		order[i] = i
	}
	sort.SliceStable(order, func(a, b int) bool { return fractions[order[a]] > fractions[order[b]] })
	for i := int64(0); i < total && len(order) > 0; i++ {
		out[order[i%int64(len(order))]]++
	}
	// Values that were all whole can leave one too many behind a rounding tie.
	for i := len(order) - 1; total < 0 && i >= 0; i-- {
		if out[order[i]] > 0 {
			out[order[i]]--
			total++
		}
	}
	return out
}
