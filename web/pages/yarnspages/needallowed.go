package yarnspages

import (
	"fmt"

	"fairtangle/core/need"
	"fairtangle/studio/yarns"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

// needAllowances are the fields of what is added and lost on the way of a need, with what is usual.
func needAllowances(n yarns.Need, u show.Units) []frame.NeedField {
	labels := map[string]string{
		"margin_pct": "Margin, %", "waste_pct": "Lost in spinning, %", "finishing_pct": "Lost in washing, %", "take_up_pct": "Taken up in plying, %",
		"shrinkage_pct": "Shorter by washing, %",
		"sample_g":      "Sample, " + u.Weight(),
	}
	of := map[string][]string{
		"yarn": {"margin_pct", "waste_pct", "finishing_pct", "take_up_pct", "shrinkage_pct", "sample_g"},
		"felt": {"margin_pct", "sample_g"}, "batts": {"sample_g"}, "figure": {"sample_g"}, "lot": {"sample_g"},
	}
	out := []frame.NeedField{}
	for _, name := range of[n.Way] {
		f := frame.NeedField{Name: name, Label: labels[name], Usual: n.Usual(name), Hint: "your own"}
		if f.Usual {
			f.Hint = "usual"
			if name == "shrinkage_pct" {
				f.Hint = fmt.Sprintf("usual drawn short; %g drawn long", 100*need.ShrinkageLong)
			}
			if by := n.ShownBy(name); by > 0 {
				f.Hint = "as " + show.Plural(by, "skein") + " or samples showed"
				if by == 1 {
					f.Hint = "as your skein or sample showed"
				}
			}
		}
		if f.Text = show.Number(round2(n.Allowance(name))); name == "sample_g" {
			f.Text = u.Amount(n.Allowance(name))
		}
		out = append(out, f)
	}
	return out
}
