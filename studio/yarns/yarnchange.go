package yarns

import (
	"context"
	"math"

	"fairtangle/core/fault"
	"fairtangle/core/yarn"
	"fairtangle/store"
)

// ApplyYarn works out a yarn with a change, and keeps nothing.
func (s *Room) ApplyYarn(ctx context.Context, id int64, in YarnPlan, c *YarnChange) (Yarn, error) {
	row, err := store.Piece[store.Yarn](ctx, s.Store, id)
	if err != nil {
		return Yarn{}, err
	}
	if c != nil {
		if err := c.do(&in); err != nil {
			return Yarn{}, err
		}
	}
	out, err := s.workOutYarn(ctx, row.LayupID, in)
	if err == nil && c != nil && c.Field == "parts" && out.YarnPlan.Parts != in.Parts {
		err = fault.New("parts", "The lay-up rolls it into %d: change it there.", out.YarnPlan.Parts)
	}
	out.ID, out.Version, out.LayupID = row.ID, row.Version, row.LayupID
	return out, err
}

// YarnChange is one change to a yarn: a field gets a text or a value, or what is usual again; all
// takes up another plan.
type YarnChange struct {
	Verb  string    `json:"verb"` // set, usual, all
	Field string    `json:"field"`
	Value float64   `json:"value"`
	Text  string    `json:"text"`
	Plan  *YarnPlan `json:"plan,omitempty"`
}

func (c YarnChange) do(in *YarnPlan) error {
	numbers := map[string]**float64{"take_up_pct": &in.TakeUpPct, "waste_pct": &in.WastePct}
	switch c.Verb {
	case "all":
		if c.Plan != nil {
			*in = *c.Plan
		}
		return nil
	case "usual":
		if p, ok := numbers[c.Field]; ok {
			*p = nil
			return nil
		}
		if c.Field == "singles" {
			in.Grist = 0
			return nil
		}
		return fault.New("field", "There is no usual for it.")
	case "set":
	default:
		return fault.New("verb", "A yarn is changed by set, usual or all.")
	}
	if p, ok := numbers[c.Field]; ok {
		v := c.Value
		*p = &v
		return nil
	}
	if c.chosen(in) {
		return nil
	}
	if p, ok := map[string]*int{"parts": &in.Parts, "stitches": &in.Stitches, "rows": &in.Rows, "stage": &in.Stage}[c.Field]; ok {
		if c.Value != math.Trunc(c.Value) || c.Value < 1 || c.Value > 1e6 {
			return fault.New(c.Field, "Count whole ones, from 1.")
		}
		*p = int(c.Value)
		return nil
	}
	if p, ok := map[string]*float64{"hook_mm": &in.HookMM, "again_m": &in.AgainM, "ratio": &in.Ratio, "draw_m": &in.DrawM,
		"wide_mm": &in.WideMM, "long_mm": &in.LongMM, "gauge_stitches": &in.GaugeStitches, "gauge_rows": &in.GaugeRows}[c.Field]; ok {
		*p = c.Value
		return nil
	}
	switch c.Field {
	case "singles":
		in.Grist = c.Value
	case "stitch_mm":
		in.StitchMM = c.Value
	case "twist":
		in.S = c.Text == "s"
	case "even":
		in.Even = c.Text == "weight"
	default:
		return fault.New("field", "A yarn has no such field.")
	}
	return nil
}

// chosen sets what is chosen of a few, and reports whether the field is such; a draw that was the usual one is so also now.
func (c YarnChange) chosen(in *YarnPlan) bool {
	p, ok := map[string]*string{
		"way": &in.Way, "order": &in.Order, "from": &in.From, "draw": &in.Draw, "ply": &in.Ply, "cloth": &in.Cloth, "pair": &in.Pair,
	}[c.Field]
	if !ok {
		return false
	}
	drawn := in.Draw == usualDraw(*in)
	if *p = c.Text; drawn && c.Field != "draw" {
		in.Draw = usualDraw(*in)
	}
	if c.Field == "cloth" {
		usualPiece(in)
	}
	if c.Field == "ply" && c.Text != yarn.Two {
		in.Pair = ""
	}
	if c.Field == "pair" && c.Text != "" {
		in.Ply = yarn.Two
	}
	return true
}

// usualPiece shows as many stitches and rows as is usual of a cloth, where the maker said no other number: of crochet 10 cm either way.
func usualPiece(in *YarnPlan) {
	usual := map[string][2]int{"crochet-single": {17, 20}, "crochet-half": {16, 14}, "crochet-double": {16, 9}}
	now := [2]int{in.Stitches, in.Rows}
	was := now == [2]int{usualStitches, usualRows}
	for _, v := range usual {
		was = was || now == v
	}
	if !was {
		return
	}
	in.Stitches, in.Rows = usualStitches, usualRows
	if v, ok := usual[in.Cloth]; ok {
		in.Stitches, in.Rows = v[0], v[1]
	}
}
