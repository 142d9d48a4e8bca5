package yarnspages

import (
	"fmt"
	"slices"

	"fairtangle/core/yarn"
	"fairtangle/studio/yarns"
	"fairtangle/web/show"
)

// poolsSaid says how the colours of a yarn fall in the rows that are shown: what a colour usually lasts is the middle one of its runs.
func poolsSaid(y yarns.Yarn) string {
	if len(y.Runs) < 2 || y.YarnPlan.Cloth == "weave" || y.YarnPlan.Cloth == "felt" {
		return ""
	}
	long := make([]float64, len(y.Runs))
	for i, r := range y.Runs {
		long[i] = r.ToM - r.FromM
	}
	slices.Sort(long)
	again := y.PliedM
	if y.AgainM > 0 {
		again = y.AgainM
	}
	p := yarn.PoolOf(y.Stitches, y.LoopMM(), again, long[len(long)/2], true)
	moves := fmt.Sprintf("each second row moves them by %s stitches", show.Fixed(max(p.Shift, -p.Shift), 1))
	if p.Other > 0 {
		moves += fmt.Sprintf("; with %d stitches in a row they would lie scattered", p.Other)
	}
	holds := ""
	if p.Holds >= 2 {
		holds = fmt.Sprintf(", for about %d rows, until what varies has moved them", p.Holds)
	}
	switch p.Kind {
	case "stripes":
		return fmt.Sprintf("A colour usually lasts %s rows: stripes.", show.Fixed(p.Rows, 1))
	case "flecks":
		return "A colour usually lasts less than a stitch: flecks."
	case "columns":
		return fmt.Sprintf("Colours stack to columns%s: %s.", holds, moves)
	case "bands":
		return fmt.Sprintf("Colours lie in slanting bands%s: %s.", holds, moves)
	}
	return "Colours lie scattered in patches: rows do not bring them over each other."
}
