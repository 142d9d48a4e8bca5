package practicepages

import (
	"fmt"
	"math"
	"slices"

	"fairtangle/core/train"
	"fairtangle/web/show"
)

// layView shows where the answers of a class lay to one question: a row for each thing that could be said.
type layView struct {
	Asked string
	Rows  []layRow
	Scale []string // what stands below the rows, from left to right
}

// layRow is a row: a dot for each answer, and on an axis, which is so high, a mark where the true one lies.
type layRow struct {
	Label, Fill, Say string
	Right            bool
	Dots             []dotAt
	High             int // 0: there is no axis
	Mark             float64
}

type dotAt struct{ X, Y float64 }

// Of the pictures: how long an axis is, how far dots lie from each other, how high a row is at least.
const (
	rowWide, dotApart = 200.0, 5.0
	rowLow            = 12
	mostOff           = 0.5 // a weight that is farther off lies at the edge
)

// layOf places answers to an exercise.
func layOf(e train.Exercise, answers []train.Answer, u show.Units) (out []layView) {
	best := e.Best()
	for i, ch := range e.Choices {
		v := layView{Asked: ch.Asked}
		for n, o := range ch.Options {
			count := 0
			for _, a := range answers {
				if a.Chosen[i] == n {
					count++
				}
			}
			if ch.Menu && count == 0 && best.Chosen[i] != n {
				continue // of many, those that were said
			}
			row := layRow{Label: o.In(u), Right: best.Chosen[i] == n, Dots: make([]dotAt, count)}
			if len(answers) > 0 {
				row.Say = fmt.Sprintf("%d of %d", count, len(answers))
			}
			v.Rows = append(v.Rows, row)
		}
		out = append(out, v)
	}
	if e.AsksParts() {
		v := layView{Asked: "Shares", Scale: []string{"0\u00a0%", "50\u00a0%", "100\u00a0%"}}
		truth := train.Shares(best.Parts)
		for i, l := range e.Lots {
			var at []float64
			for _, a := range answers {
				at = append(at, train.Shares(a.Parts)[i])
			}
			v.Rows = append(v.Rows, rowOf(l.Name, l.Hex, at, truth[i], show.Percent))
		}
		out = append(out, v)
	}
	if e.Grams {
		var at []float64
		for _, a := range answers {
			off := float64(a.Grams/best.Grams) - 1
			at = append(at, 0.5+math.Max(-mostOff, math.Min(mostOff, off)))
		}
		g := func(x float64) string { return u.Grams(float64(best.Grams) * (0.5 + x)) }
		v := layView{Asked: "It is", Scale: []string{g(0) + " or less", g(0.5), g(1) + " or more"}}
		v.Rows = []layRow{rowOf("", "", at, 0.5, g)}
		out = append(out, v)
	}
	return out
}

// rowOf is a row of answers from 0 to 1, each as a dot; those that lie at one place stand on each other.
func rowOf(label, fill string, at []float64, truth float64, say func(float64) string) layRow {
	row := layRow{Label: label, Fill: fill, Mark: truth * rowWide}
	stacked := map[int]int{}
	for _, x := range at {
		col := int(math.Round(x * rowWide / dotApart))
		row.Dots = append(row.Dots, dotAt{float64(col) * dotApart, float64(stacked[col])*dotApart + dotApart/2 + 1})
		stacked[col]++
	}
	row.High = rowLow
	for _, n := range stacked {
		row.High = max(row.High, int(dotApart)*n+2)
	}
	for i := range row.Dots {
		row.Dots[i].Y = float64(row.High) - row.Dots[i].Y
	}
	row.Say = "it was " + say(truth)
	if len(at) > 0 {
		slices.Sort(at)
		row.Say += fmt.Sprintf("; said from %s to %s, half of them at most %s", say(at[0]), say(at[len(at)-1]), say(at[(len(at)-1)/2]))
	}
	return row
}
