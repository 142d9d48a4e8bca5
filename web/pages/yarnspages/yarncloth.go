package yarnspages

import (
	"fmt"
	"strconv"

	"fairtangle/core/appearance"
	"fairtangle/studio/yarns"
	"fairtangle/web/show"
)

func yarnMarks(y yarns.Yarn, u show.Units) (out []yarnMark) {
	piece := pieceOf(y, u)
	plain := func(m float64) string { return strconv.FormatFloat(m, 'f', 3, 64) }
	for i := range marks + 1 {
		m := y.PliedM * float64(i) / marks
		from := min(max(m-strandCM/200, 0), max(y.PliedM-strandCM/100, 0))
		cloth := min(m, max(y.PliedM-piece.uses, 0))
		mark := yarnMark{M: plain(m), Text: u.Yarn(m), Strand: plain(from), Cloth: plain(cloth), AltText: "about " + u.Yarn(m) + " along it"}
		mark.Piece = fmt.Sprintf("%s: %s, from %s on", piece.words, u.Yarn(piece.uses), u.Yarn(cloth))
		out = append(out, mark)
	}
	return out
}

// shownPiece is what the yarn is shown as.
type shownPiece struct {
	rows  int
	uses  float64
	words string
}

// pieceOf is the piece that is shown, with as many rows as there is yarn for.
func pieceOf(y yarns.Yarn, u show.Units) (p shownPiece) {
	row := float64(y.Stitches) * y.LoopMM() / 1000
	across, up := "stitches", "rows"
	if y.YarnPlan.Cloth == "weave" {
		row = weftOf(y, 1).UsesM()
		across, up = "ends", "picks, "+u.Size(weftOf(y, 1).WidthMM)+" wide"
	}
	p.rows = max(1, min(y.Rows, int(y.PliedM/row)))
	p.uses = float64(p.rows) * row
	p.words = fmt.Sprintf("%d %s by %d %s", y.Stitches, across, p.rows, up)
	if y.YarnPlan.Cloth == "knit" {
		p.words += ", drawn as full as it is once washed"
	}
	if p.rows < y.Rows {
		p.words += " (all there is of it)"
	}
	return p
}

// weftOf is a woven piece: an end is twice as wide as the yarn is thick.
func weftOf(y yarns.Yarn, picks int) appearance.Woven {
	return appearance.Woven{Ends: y.Stitches, Picks: picks, WidthMM: float64(y.Stitches) * 2 * y.Spun.ThickMM()}
}
