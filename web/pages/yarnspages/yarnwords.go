package yarnspages

import (
	"fmt"
	"strconv"

	"fairtangle/core/layup"
	"fairtangle/core/yarn"
	"fairtangle/studio/yarns"
	"fairtangle/web/pages/frame"
	"fairtangle/web/show"
)

func yarnFields(y yarns.Yarn, u show.Units) []frame.NeedField {
	sp := yarns.Spinning{}
	if y.Spun != nil {
		sp = y.Spun.Spinning
	}
	usual := func(f frame.NeedField, known bool, from string) frame.NeedField {
		f.Usual, f.Hint = !known, "your own"
		if !known {
			f.Hint = from
		}
		return f
	}
	from := "usual"
	if y.NeedM > 0 {
		from = "as the need has it"
	}
	out := []frame.NeedField{}
	if y.YarnPlan.Way == "strips" || y.YarnPlan.Way == "rolags" {
		hint := ""
		if y.YarnPlan.Way == "rolags" && y.Foretold.Layup.LaidPlan.Rolags > 0 {
			hint = "as the lay-up rolls it"
		}
		label := "How many " + wayWords[y.YarnPlan.Way]
		out = append(out, frame.NeedField{Name: "parts", Label: label, Text: strconv.Itoa(y.YarnPlan.Parts), Usual: true, Hint: hint})
	}
	if sp.Tex > 0 {
		out = append(out, usual(frame.NeedField{Name: "singles", Label: "Singles, " + u.GristUnit(), Text: u.PlainGrist(100_000 / sp.Tex)}, y.Grist > 0, from))
	}
	return append(out,
		usual(frame.NeedField{Name: "take_up_pct", Label: "Taken up in plying, %", Text: show.Number(round2(sp.TakeUpPct))}, y.TakeUpPct != nil, from),
		usual(frame.NeedField{Name: "waste_pct", Label: "Lost in spinning, %", Text: show.Number(round2(sp.WastePct))}, y.WastePct != nil, from))
}

func clothFields(y yarns.Yarn, u show.Units) []frame.NeedField {
	across, up := "Stitches in a row", "Rows shown"
	if y.YarnPlan.Cloth == "weave" {
		across, up = "Ends", "Picks shown"
	}
	out := []frame.NeedField{
		{Name: "stitches", Label: across, Text: strconv.Itoa(y.Stitches), Usual: true}, {Name: "rows", Label: up, Text: strconv.Itoa(y.Rows), Usual: true},
	}
	if y.YarnPlan.Cloth == "weave" {
		return out
	}
	if len(y.Runs) > 1 {
		out = append(out, frame.NeedField{Name: "again_m", Label: "Colours come again after, " + u.YarnUnit(), Text: orEmpty(y.AgainM, u.PlainYarn(y.AgainM)),
			Usual: true, Hint: "empty: the whole, " + u.Yarn(y.PliedM)})
	}
	if yarns.Crocheted(y.YarnPlan.Cloth) {
		return append(out, frame.NeedField{Name: "hook_mm", Label: "Hook, " + u.SmallUnit(), Text: orEmpty(y.HookMM, u.PlainSmall(y.HookMM)), Usual: true,
			Hint: "empty: " + u.Millimetres(4)})
	}
	return append(out, frame.NeedField{Name: "stitch_mm", Label: "Yarn in a stitch, " + u.SmallUnit(), Text: u.PlainSmall(y.StitchMM), Usual: true})
}

// drawAgainst say what stands against a draw.
var drawAgainst = map[string]string{
	yarn.Slips:   "Much of it slips: drawn long it parts before twist holds it. Draw it short, or put wool under it.",
	yarn.Stands:  "Neps and bits stand out of a yarn that is drawn short. Drawn long, the yarn is loftier and buries some of them.",
	yarn.TooLong: "Its staple is long for a long draw: it drafts in lumps. Draw it short, with the hands as far apart as it is long.",
	yarn.NoFold:  "Its staple is too short to be laid over a finger: spin it from the end.",
}

// offTheDrum says how the batt comes off as it is to be divided, and what stands against it.
func offTheDrum(y yarns.Yarn) (out []string) {
	board := y.Foretold.Layup.Equipment.Type == string(layup.Board)
	switch y.YarnPlan.Way {
	case "whole":
		out = append(out, "Drawn off through a hole in one length, it is a roving that keeps the order of the lanes only where every fibre lies along.")
		if broken := y.Foretold.BreaksTheLine(y.Stage0()); len(broken) > 0 {
			for _, b := range broken {
				out = append(out, fmt.Sprintf("%s breaks that: placed as it is, it lies across the pull. Tear the batt in strips, or card it once more.", b))
			}
		} else {
			out = append(out, "Here they do: it can be drawn off like that.")
		}
	case "rolags":
		out = append(
			out,
			"Rolled loosely with one rod it is a cloud to draw from (long draw, woollen); tightly between two rods it is a puni, for short and fine "+
				"fibre and a high whorl. Loose ones snag less; tight ones travel better and draft more evenly.",
		)
		if !board {
			out = append(out, "From a drum batt: tear it across into pieces as long as the staple, and roll each from its side.")
		}
	case "halves":
		out = append(out, "Torn lengthwise in the middle, or better weighed: both to the scale's step, so that the plies end together.")
	default:
		out = append(out, "Torn lengthwise from the end that lifted first, each as heavy as the next where the stripes are to be as long.")
	}
	if l := y.Foretold.Layup; l.LaidPlan.LieOf(l.Bed) == layup.Crossed {
		out = append(out, "It was laid crosswise, for felt: it hardly draws. Spin from what was not, or card it once more with the fibre along.")
	}
	for _, v := range y.DrawAgainst {
		out = append(out, drawAgainst[v])
	}
	switch y.YarnPlan.From {
	case "fold":
		out = append(out, "From the fold, fibre goes in by its middle: an airy, fuller yarn whose colours mix over twice the length.")
	case "across":
		out = append(out, "Across, from the side: all lanes come one after the other, and the fibre lies round the yarn rather than along it.")
	}
	return out
}
