package yarn

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Four stitches of 250 mm a row: a stretch of 1 m is a row, one of 1.5 m a row and a half, which lies at the near end of the next row
// where it is worked to and fro.
func TestColoursFallByHand(t *testing.T) {
	ends := []float64{1, 2.5, 4}
	assert.Equal(t, [][]int{{0, 0, 0, 0}, {1, 1, 1, 1}, {1, 1, 2, 2}, {2, 2, 2, 2}, {-1, -1, -1, -1}},
		Worked{Stitches: 4, Rows: 5, Panels: 1, StitchMM: 250}.Fall(ends))
	assert.Equal(t, [][]int{{0, 0, 0, 0}, {1, 1, 1, 1}, {1, 1, 2, 2}, {2, 2, 2, 2}},
		Worked{Stitches: 4, Rows: 2, Panels: 2, Flat: true, StitchMM: 250}.Fall(ends), "each panel begins anew")
	assert.Equal(t, [][]int{{0, 0, 0, 1}, {2, 1, 1, 1}},
		Worked{Stitches: 4, Rows: 2, Panels: 1, Flat: true, StitchMM: 250}.Fall([]float64{0.75, 1.75, 4}))
	yoke := Worked{Stitches: 4, Grows: 1.5, Rows: 3, Panels: 1, StitchMM: 1000}
	assert.InDelta(t, 4+6+7, yoke.PanelM(), 1e-9)
	assert.Equal(t, 2, yoke.RowsOf(16.9, 100))
	assert.Equal(t, 3, yoke.RowsOf(17, 100))
	assert.Equal(t, 2, yoke.RowsOf(17, 2))
	assert.Equal(t, MostDrawn/1000/2, Worked{Stitches: 1000, Panels: 2, StitchMM: 1}.RowsOf(1e9, MostRows), "no more than is drawn")
}

// Every stretch has as many stitches as it is long, to within one; they keep their order, however it is worked.
func TestEveryStretchIsWorked(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := Worked{Stitches: rapid.IntRange(1, 90).Draw(t, "stitches"), Grows: rapid.Float64Range(-1, 2).Draw(t, "grows"),
			Rows: rapid.IntRange(1, 40).Draw(t, "rows"), Panels: rapid.IntRange(1, 4).Draw(t, "panels"), Flat: rapid.Bool().Draw(t, "flat"),
			StitchMM: rapid.Float64Range(2, 40).Draw(t, "stitch")}
		all := w.PanelM() * float64(w.Panels)
		var ends []float64
		for range rapid.IntRange(1, 20).Draw(t, "runs") {
			ends = append(ends, rapid.Float64Range(0.001, all).Draw(t, "long"))
			if n := len(ends); n > 1 {
				ends[n-1] += ends[n-2]
			}
		}
		count, last := make([]int, len(ends)), 0
		for j, row := range w.Fall(ends) {
			require.Len(t, row, w.Row(j%w.Rows))
			for i := range row {
				v := row[i]
				if w.Flat && j%w.Rows%2 == 1 {
					v = row[len(row)-1-i]
				}
				if v < 0 {
					last = len(ends)
					continue
				}
				require.GreaterOrEqual(t, v, last)
				count[v], last = count[v]+1, v
			}
		}
		from := 0.0
		for i, to := range ends {
			long := math.Min(to, all) - math.Min(from, all)
			require.InDelta(t, long/w.StitchMM*1000, count[i], 1+1e-6)
			from = to
		}
	})
}
