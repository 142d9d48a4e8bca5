package shelf

import (
	"context"
	"maps"

	"fairtangle/core/blend"
	"fairtangle/core/fibre"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
)

// Made is of what a lot was made here.
type Made struct {
	RunID    int64    `json:"run_id"`
	MakingID int64    `json:"making_id"`
	BlendID  int64    `json:"blend_id,omitempty"`
	Form     string   `json:"form"`
	Count    int      `json:"count,omitempty"`
	Place    string   `json:"place,omitempty"`
	Of       []MadeOf `json:"of"`   // fibres, down to what was not made here; shares add up to 1
	From     []MadeIn `json:"from"` // what was weighed in
}

// MadeOf is a fibre that lies in a lot. LotID is null where it was none.
type MadeOf struct {
	LotID     *int64  `json:"lot_id"`
	Name      string  `json:"name"`
	Kind      string  `json:"kind"`
	Superwash bool    `json:"superwash"`
	Share     float64 `json:"share"`
}

// MadeIn is a component that was weighed in for a lot.
type MadeIn struct {
	LotID *int64  `json:"lot_id"`
	Name  string  `json:"name"`
	Grams float64 `json:"grams"`
}

func lotID(n int64) *int64 {
	if n == 0 {
		return nil
	}
	return &n
}

func madeOf(r *store.Made) *Made {
	if r == nil {
		return nil
	}
	m := &Made{RunID: r.RunID, MakingID: r.MakingID, BlendID: r.BlendID, Form: r.Form, Count: r.Count, Place: r.Place, Of: []MadeOf{}, From: []MadeIn{}}
	for _, v := range r.Of {
		m.Of = append(m.Of, MadeOf{lotID(v.Lot), v.Name, v.Kind, v.Superwash, v.Share})
	}
	for _, v := range r.From {
		m.From = append(m.From, MadeIn{lotID(v.Lot), v.Name, floor.InGrams(v.Mg)})
	}
	return m
}

// Ingredient is so much of a lot, or of what is no lot, in something that is made of it.
func Ingredient(lot *store.Lot, name, kind string, grams float64) blend.Ingredient {
	out := blend.Ingredient{Content: blend.Content{Name: name, Kind: kind}, Grams: grams}
	if lot == nil {
		return out
	}
	out.Lot, out.Name, out.Kind, out.Superwash = lot.ID, lot.Name, lot.Kind, lot.Superwash
	if lot.Made != nil {
		for _, v := range lot.Made.Of {
			out.Of = append(out.Of, blend.Content{Lot: v.Lot, Name: v.Name, Kind: v.Kind, Superwash: v.Superwash, Share: v.Share})
		}
	}
	return out
}

// KeptContents is what a lot is made of, as it is kept.
func KeptContents(list []blend.Content) (out []store.MadeOf) {
	for _, c := range list {
		out = append(out, store.MadeOf{Lot: c.Lot, Name: c.Name, Kind: c.Kind, Superwash: c.Superwash, Share: c.Share})
	}
	return out
}

// KindOfAll is the kind of fibre that these contents are, carded; staples are those measured
// of lots.
func KindOfAll(name string, list []blend.Content, kinds workshop.Kinds, staples map[int64]float64) fibre.Kind {
	portions := make([]fibre.Portion, len(list))
	for i, c := range list {
		portions[i] = fibre.Portion{Kind: kinds.Named(c.Kind), Share: c.Share, StapleMM: staples[c.Lot]}
	}
	return fibre.Together(name, portions)
}

// madeStrength gives what was made here the strength of what lies in it: a blend of blends
// then counts as all of it mixed at once.
func (s *Room) madeStrength(ctx context.Context, b *Mixing) error {
	lots, err := s.Store.MadeLots(ctx, 0)
	if err != nil || len(lots) == 0 {
		return err
	}
	b.strength = maps.Clone(b.strength)
	if b.strength == nil {
		b.strength = map[int64]float64{}
	}
	for _, l := range lots {
		if _, own := b.strength[l.ID]; own || l.Made == nil {
			continue // a sample of itself tells more
		}
		var sum, all float64
		for _, v := range l.Made.Of {
			w := v.Share
			if b.Settings.CoveringPower {
				w /= b.Kinds.Named(v.Kind).Thickness()
			}
			k, ok := b.strength[v.Lot]
			if !ok || v.Lot == 0 {
				k = 1
			}
			sum, all = sum+w*k, all+w
		}
		if all > 0 {
			b.strength[l.ID] = sum / all
		}
	}
	return nil
}
