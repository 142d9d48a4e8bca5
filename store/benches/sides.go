package benches

import (
	"fmt"
	"slices"
	"strings"
)

// Side is something in which a thing differs, as it is there and as it is here: a text, a number, or the fibres of a blend.
type Side struct {
	What        string
	There, Here any
}

// Part is a fibre of a blend with its share.
type Part struct {
	Name  string
	Share float64
}

// sides are what differs of a thing as far as it can be said in a few words.
func (p pair) sides(v Thing) (out []Side) {
	a, b := p.here.tables[v.Table], p.there.tables[v.Table]
	mine, theirs := a.byID[v.Here], b.byID[v.ID]
	for _, c := range v.Differ {
		if c == "blend_components" {
			out = append(out, Side{c, p.there.fibres(v.ID), p.here.fibres(v.Here)})
			continue
		}
		if !slices.Contains(b.columns, c) || strings.HasSuffix(c, "_at") || strings.HasSuffix(c, "_id") {
			continue
		}
		x, y := b.get(theirs, c), a.get(mine, c)
		if kept(x) || kept(y) {
			continue
		}
		out = append(out, Side{c, x, y})
	}
	return out
}

// kept reports whether something is kept in a form that nobody reads.
func kept(v any) bool {
	s, ok := v.(string)
	return ok && (strings.HasPrefix(s, "{") || strings.HasPrefix(s, "[") || s == "null")
}

// fibres are the fibres of a blend in their order.
func (d data) fibres(blend int64) []Part {
	t, lots := d.tables["blend_components"], d.tables["lots"]
	var out []Part
	sum := 0.0
	for _, r := range t.of("blend_id", blend) {
		name := t.text(r, "name")
		if lot := lots.byID[t.num(r, "lot_id")]; lot != nil {
			name = lots.text(lot, "name")
		}
		var parts float64
		_, _ = fmt.Sscan(t.text(r, "parts"), &parts)
		sum += parts
		out = append(out, Part{name, parts})
	}
	for i := range out {
		if sum > 0 {
			out[i].Share = out[i].Share / sum
		}
	}
	return out
}
