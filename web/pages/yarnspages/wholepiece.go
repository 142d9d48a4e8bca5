package yarnspages

import (
	"fmt"
	"math"

	"github.com/gin-gonic/gin"

	"fairtangle/core/appearance"
	"fairtangle/studio/floor"
	"fairtangle/studio/yarns"
	"fairtangle/web/pages/frame"
	"fairtangle/web/pages/layingpages"
	"fairtangle/web/show"
)

// wholePiece is a piece that is worked of the yarn of a making.
type wholePiece struct {
	Weft    bool
	Picture string // address
	Said    string // what it is
	Yarn    string // what it takes
	Gauge   string // where its gauge is from
	Alt     string
	Cloths  []frame.Option
	Ways    []frame.Option
}

var (
	wholeCloths = []frame.Option{{Value: "", Label: "in rows of stitches"}, {Value: "weft", Label: "as the weft of a cloth"}}
	wholeWays   = []frame.Option{{Value: "", Label: "to and fro"}, {Value: "round", Label: "in the round"}}
)

// readWorked reads how a piece is worked.
func readWorked(r *frame.Reader, u show.Units) (p yarns.WorkedPlan) {
	p.Weft, p.Round = r.Values.Get("cloth") == "weft", r.Values.Get("worked") == "round"
	for field, to := range map[string]*int{"stitches": &p.Stitches, "rows": &p.Rows, "panels": &p.Panels} {
		if r.Values.Get(field) != "" {
			*to = r.Count(field, "how many there are")
		}
	}
	for field, to := range map[string]*float64{"wide_mm": &p.WideMM, "long_mm": &p.LongMM, "gauge_stitches": &p.GaugeStitches, "gauge_rows": &p.GaugeRows} {
		n, err := readUse(u, field, r.Values.Get(field))
		r.Add(err)
		*to = n
	}
	p.Grows = r.OrUsual("grows", "stitches, such as 0.5")
	return p
}

// piece says what a piece is.
func (b *wholeBody) piece(y yarns.WholeYarn, u show.Units) {
	p := y.Piece
	b.Piece = wholePiece{Weft: y.Plan.Piece.Weft, Cloths: wholeCloths, Ways: wholeWays}
	if len(p.Fall) == 0 {
		return
	}
	q := b.kept("did")
	if b.Row != "" {
		q.Set("row", b.Row)
	}
	b.Piece.Picture = fmt.Sprintf("/makings/%d/whole/piece.png?%s", b.Making.ID, q.Encode())
	across, up := "stitches", "rows"
	if b.Piece.Weft {
		across, up = "ends", "picks"
	}
	b.Piece.Said = fmt.Sprintf("%d %s by %d %s", p.Stitches, across, p.Rows, up)
	if last := p.Row(p.Rows - 1); last != p.Stitches {
		b.Piece.Said = fmt.Sprintf("From %d to %d stitches in %d rows", p.Stitches, last, p.Rows)
	}
	if p.Panels > 1 {
		b.Piece.Said = fmt.Sprintf("%d panels of %s", p.Panels, b.Piece.Said)
	}
	b.Piece.Alt = b.Piece.Said + ", each stitch in the colour that falls there"
	b.Piece.Yarn = fmt.Sprintf("It takes %s; %s are left.", u.Yarn(p.UsesM), u.Yarn(max(0, y.Plied-p.UsesM)))
	if p.MissesM > 1e-6 {
		b.Piece.Yarn = fmt.Sprintf("It takes %s: %s more than there is. Where no colour is drawn the yarn is at its end.", u.Yarn(p.UsesM), u.Yarn(p.MissesM))
	}
	switch {
	case b.Piece.Weft:
		b.Piece.Gauge = "Set for a plain weave of this yarn; the warp is of another."
	case p.Of != "":
		b.Piece.Gauge = "At the gauge of " + p.Of + "."
	case y.Plan.Piece.GaugeStitches == 0 || y.Plan.Piece.GaugeRows == 0:
		b.Piece.Gauge = fmt.Sprintf("At %s stitches and %s rows on %s, which is usual for such a yarn. A washed swatch knows better.",
			show.Fixed(u.InGauge(p.Gauge.Stitches), 1), show.Fixed(u.InGauge(p.Gauge.Rows), 1), u.GaugeWidth())
	}
}

// rowsOfRung says in which rows of the piece a rung lies, of whichever strand.
func rowsOfRung(y yarns.WholeYarn, rung int) string {
	var first, last *yarns.WorkedSpan
	rows := 0.0
	for i, r := range y.Runs {
		for _, n := range r.Rungs {
			if n == rung && i < len(y.Piece.Spans) && y.Piece.Spans[i].Row > 0 {
				v := &y.Piece.Spans[i]
				if first == nil {
					first = v
				}
				last = v
				rows += v.Rows
				break
			}
		}
	}
	if first == nil {
		return ""
	}
	word := "row"
	if y.Plan.Piece.Weft {
		word = "pick"
	}
	at := func(panel, row int) string {
		if y.Piece.Panels > 1 {
			return fmt.Sprintf("%s %d of panel %d", word, row, panel)
		}
		return fmt.Sprintf("%s %d", word, row)
	}
	return fmt.Sprintf("%s %ss, from %s to %s", show.Number(math.Round(10*rows)/10), word, at(first.Panel, first.Row), at(last.ToPanel, last.ToRow))
}

// Size of the picture of a piece, pixels at most.
const piecePicW, piecePicH = 1200, 720

// wholePicture draws the piece.
func (s *Room) wholePicture(c *gin.Context) error {
	m, err := s.recipe.Making(c)
	if err != nil {
		return err
	}
	u, _, err := s.Units(c)
	if err != nil {
		return err
	}
	f := frame.NewForm()
	p, err := wholeOf(c.Request.URL.Query(), u, &f)
	if err != nil {
		return err
	}
	y, err := s.Studio.Yarns.Whole(c.Request.Context(), m.ID, p)
	if err != nil {
		return err
	}
	if len(y.Piece.Fall) == 0 {
		return floor.ErrNotFound
	}
	d := appearance.Laid{Rows: y.Piece.Fall, Panels: y.Piece.Panels, StitchW: y.Piece.StitchW, StitchH: y.Piece.StitchH,
		Down: y.Piece.Grows > 0}
	for _, r := range y.Runs {
		d.Colours = append(d.Colours, r.Colour)
	}
	return layingpages.SendPicture(c, d.Draw(piecePicW, piecePicH), "")
}
