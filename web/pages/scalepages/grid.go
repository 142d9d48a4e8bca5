package scalepages

import (
	"fmt"
	"strconv"

	"fairtangle/studio/scale"
	"fairtangle/web/art"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// grid is the table of a weigh-out with everything as text.
type grid struct {
	Units []gridUnit
	Rows  []gridRow
	Sums  []string
	Total string
}

// gridUnit heads a column, with the colour that the unit will have.
type gridUnit struct {
	N   int
	Hex string
}

type gridRow struct {
	Letter, Name, Sub string
	Tuft              art.Link
	Cells             []gridCell
	Total             string
	Finished, Asked   string
	Short             string
	Lays              []gridLay
}

// gridLay is a lay that a component is divided into.
type gridLay struct {
	Name  string
	Cells []string
	Total string
}

type gridCell struct {
	Text    string
	Scale   string // where it is weighed, for what is kept and open
	Planned string // where it differs from what is wanted now
	Done    bool
	Next    bool
}

func gridOf(w scale.Weighout, u show.Units) grid {
	u = u.WithStep(w.StepG)
	var out grid
	for i := range w.Units {
		out.Units = append(out.Units, gridUnit{i + 1, w.Units[i].Hex})
	}
	sums, all := make([]float64, len(w.Units)), 0.0
	for i, p := range w.Components {
		row := gridRow{
			Letter: show.Letter(i), Name: p.Name, Finished: show.Percent(p.FinishedShare), Asked: show.Percent(p.Share),
			Sub:  lossWords(p),
			Tuft: art.TuftLink(p.KindProperties(), p.Preparation, p.HexList, nil, p.Staple, art.RowScale, frame.SeedOf(p.LotID, i)),
		}
		if p.JoinsAtPass > 1 {
			row.Sub += fmt.Sprintf(", joins at pass %d", p.JoinsAtPass)
		}
		if p.AloneFirst > 0 {
			row.Sub += ", carded alone first, " + show.Times(p.AloneFirst)
		}
		if u.Shows(p.ShortG) {
			row.Short = fmt.Sprintf("the shelf is short by %s", u.Grams(p.ShortG))
		}
		if p.Share > 0 && vanishes(w, i) {
			row.Short = "rounds to nothing in a unit: weigh it once for all and divide it by eye, mix it into another fibre first, or take a finer scale"
		}
		row.Lays = layRows(w, i, u)
		var total float64
		for n, unit := range w.Units {
			cell := unit.Cells[i]
			text := cell.TargetG
			if cell.Done && cell.WeighedG > 0 {
				text = cell.WeighedG
			}
			shown := u.Shown(text)
			sums[n] += shown
			total += shown
			g := gridCell{Text: u.Plain(text), Done: cell.Done, Next: w.Next != nil && w.Next.Unit == n && w.Next.Component == i}
			if w.ID != 0 && !cell.Done {
				g.Scale = fmt.Sprintf("/weighouts/%d/scale#%d-%d", w.ID, n, i)
			}
			if text != cell.PlannedG {
				g.Planned = u.Plain(cell.PlannedG)
			}
			row.Cells = append(row.Cells, g)
		}
		row.Total, all = u.PlainShown(total), all+total
		out.Rows = append(out.Rows, row)
	}
	for _, v := range sums {
		out.Sums = append(out.Sums, u.PlainShown(v))
	}
	out.Total = u.Weighs(u.PlainShown(all))
	return out
}

// vanishes reports whether a component comes to no step of the scale in a unit.
func vanishes(w scale.Weighout, component int) bool {
	for _, u := range w.Units {
		if u.Cells[component].PlannedG == 0 {
			return true
		}
	}
	return false
}

// layRows divides a component of a weigh-out over its lays.
func layRows(w scale.Weighout, component int, u show.Units) (out []gridLay) {
	for _, v := range w.Lays {
		if v.Component != component {
			continue
		}
		row := gridLay{Name: "not laid", Total: u.Plain(v.TotalG)}
		if v.Layer >= 0 {
			row.Name = "layer " + strconv.Itoa(v.Layer+1)
			if v.Lay.From > 0.001 || v.Lay.To < 0.999 {
				row.Name += fmt.Sprintf(", %.0f–%.0f %% across", 100*v.Lay.From, 100*v.Lay.To)
			}
			if v.Lay.Start > 0.001 || v.Lay.End < 0.999 {
				row.Name += fmt.Sprintf(", %.0f–%.0f %% along", 100*v.Lay.Start, 100*v.Lay.End)
			}
		}
		for _, g := range v.Grams {
			row.Cells = append(row.Cells, u.Plain(g))
		}
		out = append(out, row)
	}
	return out
}

// lossWords says what a component loses in its first pass, and in those after it.
func lossWords(p scale.WeighoutPart) string {
	out := "loses " + show.Percent(p.LossPct/100)
	if p.Decay == 0 || p.Decay == 1 {
		return out + " a pass"
	}
	return out + " in its first pass, " + show.Percent(p.LossPct*p.Decay/100) + " in the next"
}
