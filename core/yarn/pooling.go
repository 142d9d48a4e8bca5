package yarn

import "math"

// Pool is where colours fall in rows, of a yarn whose colours come again (yarn.md, section 10).
type Pool struct {
	RowM  float64 // yarn in a row
	Shift float64 // stitches by which a colour moves from one row to the next
	Kind  string  // flecks, columns, bands, patches, stripes
	Rows  float64 // of stripes: how many rows a colour takes
	Holds int     // of columns and bands: for how many rows, until what varies has moved them by half of what a colour lasts
	Other int     // so many stitches in a row keep colours from lying over each other; 0: there is no need, or no number near
}

// varies is by how much the yarn in a row varies, as a part of it: of gauge and grist together (judgement, 3 to 6 %).
const varies = 0.045

// nearTo is how far from a number of stitches another one is looked for.
const nearTo = 12

// PoolOf is where colours fall: repeat is how many metres the colours come again after, run how many one of them lasts. flat is worked
// to and fro, so that every second row counts.
func PoolOf(stitches int, stitchMM, repeatM, runM float64, flat bool) Pool {
	p := poolOf(stitches, stitchMM, repeatM, runM, flat)
	if p.Kind != "columns" && p.Kind != "bands" {
		return p
	}
	half := runM / 2 / (varies * p.RowM)
	p.Holds = int(half * half)
	for by := 1; by <= nearTo && p.Other == 0; by++ {
		for _, n := range []int{stitches + by, stitches - by} {
			if n >= 1 && poolOf(n, stitchMM, repeatM, runM, flat).Kind == "patches" {
				p.Other = n
				break
			}
		}
	}
	return p
}

func poolOf(stitches int, stitchMM, repeatM, runM float64, flat bool) Pool {
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
