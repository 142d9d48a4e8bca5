package weigh

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

const oneStep = 1 + 1e-9

// errors2 is the sum of squared errors of all cells, in steps.
func errors2(exact []float64, table [][]int64) (sum float64) {
	for _, row := range table {
		for j, c := range row {
			sum += (float64(c) - exact[j]) * (float64(c) - exact[j])
		}
	}
	return sum
}

// feasible reports whether a table keeps every promise of RoundAlike: column
// totals within slack of exact.
func feasible(exact []float64, table [][]int64, slack float64) bool {
	units := float64(len(table))
	columns := make([]float64, len(exact))
	var total, grand float64
	for _, x := range exact {
		total += x
	}
	for _, row := range table {
		var sum float64
		for j, c := range row {
			columns[j] += float64(c)
			sum += float64(c)
		}
		if math.Abs(sum-total) > 1+1e-9 {
			return false
		}
		grand += sum
	}
	for j, c := range columns {
		if math.Abs(c-exact[j]*units) > slack {
			return false
		}
	}
	return math.Abs(grand-total*units) <= 0.5+1e-9
}

// Against every table there is, for small ones: units are identical wherever an
// identical table keeps the promises, and of its sort (identical or not) no
// table has a smaller sum of squared errors.
func TestAgainstEveryTable(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n, units := rapid.IntRange(1, 3).Draw(t, "n"), rapid.IntRange(1, 3).Draw(t, "units")
		exact := make([]float64, n)
		for j := range exact {
			exact[j] = rapid.OneOf(rapid.Float64Range(0.05, 9), rapid.Map(rapid.IntRange(1, 36), func(i int) float64 { return float64(i) / 4 })).Draw(t, "exact")
		}
		got := RoundAlike(exact, units)
		require.True(t, feasible(exact, got, oneStep), "%v: %v", exact, got)
		alike := true
		for _, row := range got {
			alike = alike && assert.ObjectsAreEqual(got[0], row)
		}
		least, identical := math.Inf(1), math.Inf(1)
		table := make([][]int64, units)
		for mask := range 1 << (n * units) {
			same := true
			for u := range table {
				table[u] = make([]int64, n)
				for j := range n {
					table[u][j] = int64(math.Floor(exact[j])) + int64(mask>>(u*n+j)&1)
				}
				same = same && assert.ObjectsAreEqual(table[0], table[u])
			}
			if same && feasible(exact, table, oneStep) {
				identical = min(identical, errors2(exact, table))
			}
			// Units that differ leave a whole column total whole.
			if feasible(exact, table, oneStep-1e-6) {
				least = min(least, errors2(exact, table))
			}
		}
		require.False(t, math.IsInf(least, 1), "a controlled rounding always exists")
		if math.IsInf(identical, 1) {
			assert.False(t, alike && units > 1)
			assert.InDelta(t, least, errors2(exact, got), 1e-6)
			return
		}
		assert.True(t, alike, "identical units wherever the totals allow: %v %v", exact, got)
		assert.InDelta(t, identical, errors2(exact, got), 1e-6)
	})
}

// Largest remainder: it adds up, nothing is a whole step off, and no two could
// trade a step and come closer.
func TestApportionLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		exact := rapid.SliceOfN(rapid.Float64Range(0, 50), 1, 9).Draw(t, "exact")
		var sum float64
		for _, x := range exact {
			sum += x
		}
		total := nearest(sum)
		got := Apportion(exact, total)
		var added int64
		for i, n := range got {
			added += n
			assert.Less(t, math.Abs(float64(n)-exact[i]), 1+1e-9)
			for j, m := range got {
				now := math.Pow(float64(n)-exact[i], 2) + math.Pow(float64(m)-exact[j], 2)
				then := math.Pow(float64(n+1)-exact[i], 2) + math.Pow(float64(m-1)-exact[j], 2)
				if i != j && m > 0 {
					assert.LessOrEqual(t, now, then+1e-9)
				}
			}
		}
		assert.Equal(t, total, added)
	})
}
