package yarnspages

import (
	"fmt"
	"math"
	"strings"

	"fairtangle/core/yarn"
	"fairtangle/studio/yarns"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/show"
)

// What a yarn is like, from 1 to 5.
var (
	loftWords     = []string{"", "dense", "firm", "middling", "lofty", "very lofty"}
	hairWords     = []string{"", "smooth", "few hairs", "some hairs", "hairy", "haloed"}
	strengthWords = []string{
		"", "weak: for weft, with a warp of another yarn", "soft: for weft, with a warp of another yarn", "middling", "strong enough for warp",
		"very strong, for warp",
	}
)

// useFacts say how to twist a yarn, what it is like, and what washing does.
func useFacts(y yarns.Yarn, u show.Units) (out []layingpages.CardFact) {
	if y.TurnsPerM <= 0 {
		return []layingpages.CardFact{}
	}
	fact := func(name, value string) { out = append(out, layingpages.CardFact{Name: name, Value: value}) }
	turns := func(perM float64) string { return u.Turns(perM) }
	of := ""
	if y.Tried.TurnsOf != "" {
		of = ", as " + y.Tried.TurnsOf + " showed; usual"
	}
	fact("Twist of the singles", fmt.Sprintf("%s%s (%s to %s)", turns(y.TurnsPerM), of, u.PlainTurns(y.LowTurns), turns(y.HighTurns)))
	if y.PlyTurns > 0 {
		fact("Of the ply, balanced", turns(y.PlyTurns))
	}
	if y.Spun.Spinning.Ply == yarn.Single {
		fact("As a single", "full of twist: it kinks until it is washed and set, and stocking stitch of it leans")
	}
	if y.Ratio > 0 && y.DrawM > 0 {
		fact("At the wheel", treadled(y, u))
	}
	fact("On its surface", fmt.Sprintf("%s° aslant", show.Fixed(y.AngleDeg, 0)))
	fact("Loft", loftWords[y.Loft])
	fact("Hairs", hairWords[y.Hairs])
	fact("Strength", strengthWords[y.Strength])
	fact("Washed", fmt.Sprintf("%s %% shorter, %s times as thick", show.Fixed(y.ShorterPct, 0), show.Fixed(y.Thicker, 2)))
	fact("Only steamed", fmt.Sprintf("%s %% shorter, %s times as thick; the first wash does the rest", show.Fixed(y.SteamedPct, 0),
		show.Fixed(y.SteamedThicker, 2)))
	for _, w := range y.Worn {
		fact(fmt.Sprintf("%s, %s %% like fibre, in use", w.Name, show.Fixed(100*w.Like, 0)), wornSaid(w.Worn))
	}
	return out
}

// treadled is how often the wheel is trodden for a draw, of singles and of the ply.
func treadled(y yarns.Yarn, u show.Units) string {
	said := fmt.Sprintf("%s treadles for each %s drawn", show.Fixed(yarn.Treadles(y.TurnsPerM, y.Ratio, y.DrawM), 0), u.Size(1000*y.DrawM))
	if y.PlyTurns > 0 {
		said += fmt.Sprintf(", %s for as much ply", show.Fixed(yarn.Treadles(y.PlyTurns, y.Ratio, y.DrawM), 0))
	}
	return said
}

// wheelFields are those of the wheel.
func wheelFields(y yarns.Yarn, u show.Units) []frame.NeedField {
	return []frame.NeedField{
		{Name: "ratio", Label: "Ratio of the wheel, to 1", Text: orEmpty(y.Ratio, show.Number(y.Ratio)), Usual: true, Hint: "turns of the flyer for one treadle"},
		{Name: "draw_m", Label: "Drawn at a time, " + u.LengthUnit(), Text: orEmpty(y.DrawM, u.PlainLength(1000*y.DrawM)), Usual: true},
	}
}

func orEmpty(v float64, text string) string {
	if v == 0 {
		return ""
	}
	return text
}

// pieceFields are those of a piece that is to be made.
func pieceFields(y yarns.Yarn, u show.Units) []frame.NeedField {
	out := []frame.NeedField{
		{Name: "wide_mm", Label: "Wide, " + u.LengthUnit(), Text: orEmpty(y.WideMM, u.PlainLength(y.WideMM)), Usual: true},
		{Name: "long_mm", Label: "Long, " + u.LengthUnit(), Text: orEmpty(y.LongMM, u.PlainLength(y.LongMM)), Usual: true},
	}
	if y.YarnPlan.Cloth == "weave" || y.YarnPlan.Cloth == "felt" {
		return out
	}
	gauge := func(name, what string, n float64) frame.NeedField {
		f := frame.NeedField{Name: name, Label: what + " on " + u.GaugeWidth(), Text: orEmpty(n, show.Number(round2(u.InGauge(n)))), Usual: true}
		if n == 0 && y.Tried.GaugeOf != "" {
			tried := map[string]float64{"gauge_stitches": y.Tried.Gauge.Stitches, "gauge_rows": y.Tried.Gauge.Rows}[name]
			f.Hint = fmt.Sprintf("empty: %s, as on %s", show.Number(round2(u.InGauge(tried))), y.Tried.GaugeOf)
		}
		return f
	}
	return append(out, gauge("gauge_stitches", "Stitches", y.GaugeStitches), gauge("gauge_rows", "Rows", y.GaugeRows))
}

// pieceSaid says what a piece takes, of which yarn and how many such batts.
func pieceSaid(y yarns.Yarn, u show.Units) string {
	p := y.Piece
	if p == nil {
		if y.YarnPlan.Cloth == "weave" || y.YarnPlan.Cloth == "felt" {
			return "Say how wide and long it is to be, finished: what it takes follows."
		}
		return "Say how wide and long it is to be, and the gauge of a washed swatch: what it takes follows."
	}
	if y.YarnPlan.Cloth == "felt" {
		side := math.Sqrt(p.LaidMM2 / (y.WideMM * y.LongMM))
		return fmt.Sprintf("Lay it %s by %s: felt of this shrinks by about %s %% each way.", u.Size(y.WideMM*side), u.Size(y.LongMM*side),
			show.Fixed(100*p.Shrinks, 0))
	}
	across, up := "stitches", "rows"
	if y.YarnPlan.Cloth == "weave" {
		across, up = "ends", "picks"
	}
	said := []string{fmt.Sprintf("%d %s by %d %s", p.Across, across, p.Rows, up), u.Yarn(p.Metres) + ", about " + u.Grams(p.Grams)}
	if p.WarpM > 0 {
		said[1] += fmt.Sprintf(" (%s of it warp, with what stays on the loom)", u.Yarn(p.WarpM))
	}
	if p.StitchMM > 0 {
		said = append(said, u.Millimetres(math.Round(p.StitchMM*10)/10)+" of yarn in a stitch")
	}
	if p.Guessed {
		said = append(said, "a guess to a fifth: that gauge is not of stocking stitch")
	}
	switch whole := p.Metres / y.PliedM; {
	case whole <= 1:
		said = append(said, fmt.Sprintf("%s are left of one batt", u.Yarn(y.PliedM-p.Metres)))
	default:
		said = append(said, fmt.Sprintf("%d batts like this", int(math.Ceil(whole-1e-9))))
	}
	return strings.Join(said, "; ") + "."
}

// readUse reads what is told of wheel and piece; empty is not told.
func readUse(u show.Units, field, text string) (float64, error) {
	if strings.TrimSpace(text) == "" {
		return 0, nil
	}
	switch field {
	case "again_m":
		return u.ReadYarn(field, text)
	case "wide_mm", "long_mm":
		return u.ReadLength(field, text)
	case "draw_m":
		mm, err := u.ReadLength(field, text)
		return mm / 1000, err
	case "ratio":
		return show.ReadNumber(field, text, "a number, such as 8")
	}
	n, err := show.ReadNumber(field, text, "a number, such as 22")
	return u.FromGauge(n), err
}
