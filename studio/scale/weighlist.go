package scale

import (
	"context"
	"fmt"
	"slices"

	"fairtangle/core/fibre"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
)

// WeighList is what all weigh-outs of several blends take, fibre by fibre: one
// list for the rungs of a gradient, or for all blends of a making.
type WeighList struct {
	MakingID int64         `json:"making_id"`
	Columns  []WeighColumn `json:"columns"`
	Fibres   []WeighFibre  `json:"fibres"`
	// Unplanned are the blends that have no weigh-out yet.
	Unplanned []shelf.BlendName `json:"unplanned"`
	TotalG    float64           `json:"total_g"`
	WeighedG  float64           `json:"weighed_g"`
	// Next is the weigh-out at which the weighing goes on; 0 when all is weighed.
	Next int64 `json:"next_weighout"`
}

// WeighColumn is one unit of a weigh-out.
type WeighColumn struct {
	WeighoutID int64   `json:"weighout_id"`
	BlendID    int64   `json:"blend_id"`
	Name       string  `json:"name"`
	Unit       int     `json:"unit"`
	Units      int     `json:"units"`
	Hex        string  `json:"hex"`
	TotalG     float64 `json:"total_g"`
	Done       bool    `json:"done"`
}

// WeighFibre is a fibre with what each unit takes of it; 0 where it takes none.
type WeighFibre struct {
	LotID    *int64    `json:"lot_id"`
	Name     string    `json:"name"`
	Grams    []float64 `json:"grams"` // by column
	Done     []bool    `json:"done"`
	TotalG   float64   `json:"total_g"`
	WeighedG float64   `json:"weighed_g"`
	HaveG    *float64  `json:"have_g"`
	ShortG   float64   `json:"short_g"` // for all that is still to weigh

	Preparation string   `json:"-"`
	HexList     []string `json:"-"`
	Staple      float64  `json:"-"`
	kind        fibre.Kind
}

// KindProperties returns what a tuft of this fibre is drawn from.
func (f WeighFibre) KindProperties() fibre.Kind { return f.kind }

// WeighListOf puts the latest weigh-outs of a making's blends together; of those
// named in only, where it names any.
func (s *Room) WeighListOf(ctx context.Context, making int64, only []int64) (WeighList, error) {
	out := WeighList{MakingID: making, Columns: []WeighColumn{}, Fibres: []WeighFibre{}, Unplanned: []shelf.BlendName{}}
	if _, err := s.Store.Making(ctx, making); err != nil {
		return out, err
	}
	blends, err := s.Store.BlendsOf(ctx, []int64{making})
	if err != nil {
		return out, err
	}
	ids := make([]int64, len(blends))
	for i, b := range blends {
		ids[i] = b.ID
	}
	rows, err := s.Store.WeighoutsOf(ctx, ids)
	if err != nil {
		return out, err
	}
	rest := []unit.Milligrams{}
	for _, b := range blends {
		if len(only) > 0 && !slices.Contains(only, b.ID) {
			continue
		}
		some := false
		for _, r := range slices.Backward(rows) { // the first one made comes first
			if r.BlendID != b.ID {
				continue
			}
			some = true
			full, err := s.Weighout(ctx, r.ID)
			if err != nil {
				return out, err
			}
			rest = out.add(full, rest)
		}
		if !some && len(b.Components) > 0 {
			out.Unplanned = append(out.Unplanned, shelf.BlendName{ID: b.ID, Name: b.Name})
		}
	}
	for i := range out.Fibres {
		f := &out.Fibres[i]
		for len(f.Grams) < len(out.Columns) {
			f.Grams, f.Done = append(f.Grams, 0), append(f.Done, true)
		}
		if f.HaveG != nil {
			f.ShortG = max(0, floor.InGrams(rest[i])-*f.HaveG)
		}
	}
	return out, nil
}

// add puts the units of a weigh-out into the list; rest is what is still to weigh
// of each fibre.
func (l *WeighList) add(w Weighout, rest []unit.Milligrams) []unit.Milligrams {
	from := len(l.Columns)
	for u, v := range w.Units {
		l.Columns = append(l.Columns, WeighColumn{w.ID, w.BlendID, w.Name, u, len(w.Units), v.Hex, v.TotalG, v.Done})
	}
	l.TotalG, l.WeighedG = unit.Clean(l.TotalG+w.TotalG), unit.Clean(l.WeighedG+w.WeighedG)
	if l.Next == 0 && !w.Done() {
		l.Next = w.ID
	}
	for i, p := range w.Components {
		at := slices.IndexFunc(l.Fibres, func(f WeighFibre) bool { return f.same(p) })
		if at < 0 {
			at = len(l.Fibres)
			l.Fibres = append(
				l.Fibres,
				WeighFibre{LotID: p.LotID, Name: p.Name, HaveG: p.HaveG, Preparation: p.Preparation, HexList: p.HexList, Staple: p.Staple, kind: p.Fibre},
			)
			rest = append(rest, 0)
		}
		f := &l.Fibres[at]
		for len(f.Grams) < from+len(w.Units) {
			f.Grams, f.Done = append(f.Grams, 0), append(f.Done, true)
		}
		for u, v := range w.Units {
			c := v.Cells[i]
			now := max(c.TargetG, c.WeighedG)
			if c.Done && c.WeighedG > 0 {
				now = c.WeighedG
			}
			f.Grams[from+u] = unit.Clean(f.Grams[from+u] + now)
			f.Done[from+u] = f.Done[from+u] && c.Done
			f.TotalG, f.WeighedG = unit.Clean(f.TotalG+now), unit.Clean(f.WeighedG+c.WeighedG)
			if !c.Done {
				rest[at] += unit.Grams(max(0, c.TargetG-c.WeighedG)).Milligrams()
			}
		}
	}
	return rest
}

// same reports whether a component of a weigh-out is this fibre.
func (f WeighFibre) same(p WeighoutPart) bool {
	if f.LotID != nil || p.LotID != nil {
		return f.LotID != nil && p.LotID != nil && *f.LotID == *p.LotID && fmt.Sprint(f.HexList) == fmt.Sprint(p.HexList)
	}
	return f.Name == p.Name && f.kind.Key == p.Fibre.Key
}

// WeighOutAll plans a weigh-out, as it is suggested, for each blend that has none.
func (s *Room) WeighOutAll(ctx context.Context, making int64, only []int64) (WeighList, error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (WeighList, error) { return s.weighOutAll(ctx, making, only) })
}

func (s *Room) weighOutAll(ctx context.Context, making int64, only []int64) (WeighList, error) {
	list, err := s.WeighListOf(ctx, making, only)
	if err != nil {
		return list, err
	}
	for _, v := range list.Unplanned {
		b, err := s.recipe.Blend(ctx, v.ID)
		if err != nil {
			return list, err
		}
		in, err := s.WeighoutSuggestion(ctx, b)
		if err != nil {
			return list, err
		}
		if _, err := s.CreateWeighout(ctx, v.ID, in); err != nil {
			return list, err
		}
	}
	return s.WeighListOf(ctx, making, only)
}
