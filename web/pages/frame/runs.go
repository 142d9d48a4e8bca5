package frame

import (
	"fmt"

	"fairtangle/studio/carder"
	"fairtangle/web/show"
)

// RunRow is a run in a list.
type RunRow struct {
	ID       int64
	Name     string
	Href     string
	Sub      string
	Finished bool
}

// RunRows are runs as a list shows them.
func RunRows(list []carder.Run, u show.Units) (out []RunRow) {
	for _, v := range list {
		row := RunRow{ID: v.ID, Name: v.Name, Href: fmt.Sprintf("/runs/%d", v.ID)}
		if v.Sort == carder.FleeceRun {
			row.Sub = "raw fleece"
			out = append(out, row)
			continue
		}
		off := 0
		for _, x := range v.Units {
			if x.Passes[len(x.Passes)-1].OffG != nil {
				off++
			}
		}
		row.Finished = off == len(v.Units)
		row.Sub = fmt.Sprintf("%d of %d came off on the %s", off, len(v.Units), v.Equipment.Name)
		if v.Line.OffG > 0 {
			row.Sub += ", " + u.Grams(v.Line.OffG)
		}
		out = append(out, row)
	}
	return out
}
