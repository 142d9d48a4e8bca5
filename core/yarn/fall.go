package yarn

import (
	"math"
	"slices"
)

// Worked is how a piece is worked of a yarn, row by row from the first: how many stitches (or, on a loom, ends) the first row has and by
// how many each one has more than the row before, in how many panels of so many rows, to and fro or round, with how much yarn in a stitch.
type Worked struct {
	Stitches int
	Grows    float64
	Rows     int // of a panel
	Panels   int
	Flat     bool
	StitchMM float64
}

// Most of a piece that is drawn.
const (
	MostAcross = 1000
	MostRows   = 5000
	MostPanels = 24
	MostDrawn  = 2_000_000 // stitches
)

// Row is how many stitches a row of a panel has, from 0; at least one.
func (w Worked) Row(j int) int {
	return max(1, int(math.Round(float64(w.Stitches)+w.Grows*float64(j))))
}

// PanelM is the yarn in a panel, metres.
func (w Worked) PanelM() float64 {
	n := 0
	for j := range w.Rows {
		n += w.Row(j)
	}
	return float64(n) * w.StitchMM / 1000
}

// RowsOf is how many whole rows of one panel a length of yarn makes, and no more than most, nor than can be drawn.
func (w Worked) RowsOf(m float64, most int) (rows int) {
	for drawn := 0; rows < most; rows++ {
		n := w.Row(rows)
		m, drawn = m-float64(n)*w.StitchMM/1000, drawn+n
		if m < -1e-9 || drawn*max(w.Panels, 1) > MostDrawn {
			break
		}
	}
	return rows
}

// Fall is which stretch of a yarn lies in each stitch of a piece: of stretches that end so far along it (metres, rising), row by row, the
// panels one after the other; -1 where the yarn is at its end. Worked to and fro, every second row of a panel runs back.
func (w Worked) Fall(ends []float64) [][]int {
	out := make([][]int, 0, w.Rows*w.Panels)
	worked, at := 0, 0
	for range w.Panels {
		for j := range w.Rows {
			row := make([]int, w.Row(j))
			for i := range row {
				middle := (float64(worked) + 0.5) * w.StitchMM / 1000
				for worked++; at < len(ends) && ends[at] <= middle; {
					at++
				}
				if row[i] = at; at == len(ends) {
					row[i] = -1
				}
			}
			if w.Flat && j%2 == 1 {
				slices.Reverse(row)
			}
			out = append(out, row)
		}
	}
	return out
}
