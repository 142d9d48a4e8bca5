package yarn

import "math"

// Pool is where colours fall in rows, of a yarn whose colours come again (yarn.md, section 10).
type Pool struct {
	RowM  float64 // yarn in a row
	Shift float64 // stitches by which a colour moves from one row to the next
	Kind  string  // flecks, columns, bands, patches, stripes
	Rows  float64 // of stripes: how many rows a colour takes
}

// PoolOf is where colours fall: repeat is how many metres the colours come again after, run how many one of them lasts. flat is worked
// to and fro, so that every second row counts.
func PoolOf(stitches int, stitchMM, repeatM, runM float64, flat bool) Pool {
	p := Pool{RowM: float64(stitches) * stitchMM / 1000}
	row := p.RowM
	if flat {
		row *= 2
	}
	p.Shift = (row - repeatM*math.Round(row/repeatM)) / stitchMM * 1000
	across := runM / stitchMM * 1000
	switch {
	case runM > p.RowM:
		p.Kind, p.Rows = "stripes", runM/p.RowM
	case across < 1:
		p.Kind = "flecks"
	case math.Abs(p.Shift) < across/4:
		p.Kind = "columns"
	case math.Abs(p.Shift) < 2*across:
		p.Kind = "bands"
	default:
		p.Kind = "patches"
	}
	return p
}
