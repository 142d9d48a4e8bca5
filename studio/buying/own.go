package buying

import (
	"context"
	"slices"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// OwnLine is something to buy that no making asks for.
type OwnLine struct {
	Name        string  `json:"name"`
	Kind        string  `json:"kind"`
	Preparation string  `json:"preparation"`
	Hex         string  `json:"hex"`
	Grams       float64 `json:"grams"`
	For         string  `json:"for"` // what for, if one likes
}

// AddLine adds a line of the maker's own to a list, based on a version of it.
func (s *Room) AddLine(ctx context.Context, id, version int64, in OwnLine) (BuyList, error) {
	row, err := store.Piece[store.BuyList](ctx, s.Store, id)
	if err != nil {
		return BuyList{}, err
	}
	kinds, err := s.workshop.AllKinds(ctx, false)
	if err != nil {
		return BuyList{}, err
	}
	var l fault.List
	floor.CheckText(&l, "name", "the fibre", &in.Name, floor.MaxName, true)
	floor.CheckText(&l, "for", "", &in.For, floor.MaxName, false)
	if _, known := kinds.Find(in.Kind); !known {
		l.Add("kind", "Choose a kind of fibre.")
	}
	if in.Preparation == "" {
		in.Preparation = "combed_top"
	}
	if _, known := fibre.FindPreparation(in.Preparation); !known {
		l.Add("preparation", "Choose a preparation.")
	}
	in.Hex = strings.ToLower(strings.TrimSpace(in.Hex))
	if _, err := colour.ParseHex(in.Hex); err != nil {
		l.Add("hex", "A colour is written as # and six digits or letters a to f.")
	}
	if floor.CheckGrams(&l, "grams", in.Grams); in.Grams == 0 {
		l.Add("grams", "Enter a weight above %s.", unit.Grams(0))
	}
	if len(row.Items) >= mostItems {
		l.Add("name", "A list has at most %d lines. Make another.", mostItems)
	}
	if err := l.Err(); err != nil {
		return BuyList{}, err
	}
	last := int64(0)
	for _, v := range row.Items {
		last = max(last, v.Key)
	}
	row.Version = version
	row.Items = keyItems(append(slices.Clone(row.Items), store.BuyItem{Name: in.Name, Kind: in.Kind, Preparation: in.Preparation, Hex: in.Hex,
		Mg: unit.Grams(in.Grams).Milligrams(), For: in.For, Own: true}), last)
	return s.saveBuyList(ctx, row)
}

// DropLine takes a line of the maker's own off a list, based on a version of it.
func (s *Room) DropLine(ctx context.Context, id, version, key int64) (BuyList, error) {
	row, err := store.Piece[store.BuyList](ctx, s.Store, id)
	if err != nil {
		return BuyList{}, err
	}
	at := slices.IndexFunc(row.Items, func(v store.BuyItem) bool { return v.Key == key && v.Own && v.LotID == nil })
	if at < 0 {
		return BuyList{}, fault.New("item", "It is no line of your own, or has come already.")
	}
	row.Version, row.Items = version, slices.Delete(slices.Clone(row.Items), at, at+1)
	return s.saveBuyList(ctx, row)
}
