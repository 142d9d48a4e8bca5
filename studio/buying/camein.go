package buying

import (
	"context"
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// CameInput tells that an item has come: what the scale says, and from which dye lot it is.
type CameInput struct {
	Item   int64   `json:"item"`
	Grams  float64 `json:"grams"`
	DyeLot string  `json:"dye_lot"`
	Price  float64 `json:"price"` // of all of it; 0: as it stands on the list
}

// Came weighs an item in as a lot of its own, and puts it into the blends that were waiting for
// it.
func (s *Room) Came(ctx context.Context, id, version int64, in CameInput) (BuyList, error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (BuyList, error) { return s.came(ctx, id, version, in) })
}

func (s *Room) came(ctx context.Context, id, version int64, in CameInput) (BuyList, error) {
	row, err := store.Piece[store.BuyList](ctx, s.Store, id)
	if err != nil {
		return BuyList{}, err
	}
	if row.Version != version {
		now, err := s.buyList(ctx, row)
		if err != nil {
			return now, err
		}
		return now, floor.Stale{Current: now}
	}
	list, err := s.buyList(ctx, row)
	if err != nil {
		return list, err
	}
	var l fault.List
	i := slices.IndexFunc(list.Items, func(v BuyItem) bool { return v.Key == in.Item })
	if i < 0 || list.Items[max(i, 0)].Came {
		return list, fault.New("item", "It is not on the list, or has come already.")
	}
	v := list.Items[i]
	floor.CheckGrams(&l, "grams", in.Grams)
	if len(l) == 0 && in.Grams == 0 {
		l.Add("grams", "Enter a weight above %s.", unit.Grams(0))
	}
	floor.CheckText(&l, "dye_lot", "", &in.DyeLot, floor.MaxName, false)
	if !workshop.Priced(in.Price) {
		l.Add("price", "Money is from 0 to a million.")
	}
	if err := l.Err(); err != nil {
		return list, err
	}
	lot := shelf.NewLot{Grams: in.Grams, LotInput: shelf.LotInput{
		Name: v.Name, Kind: v.Kind, Preparation: v.Preparation, Colours: []shelf.LotColour{{Hex: v.Hex, Share: 1, Source: "picker"}},
	}}
	if in.DyeLot != "" {
		lot.Note = "dye lot " + in.DyeLot
	}
	if j := slices.IndexFunc(list.Sources, func(b BuyFrom) bool { return b.SourceID == v.SourceID }); j >= 0 {
		lot.WhereFrom = list.Sources[j].Name
		if in.Price == 0 && v.BoughtG > 0 { // as the list has it, less the discount of the order
			in.Price = v.Price * (1 - over(list.Sources[j].Off, list.Sources[j].Goods)) * in.Grams / v.BoughtG
		}
	}
	if in.Price > 0 {
		per := math.Round(in.Price/in.Grams*1e4) / 100
		lot.CostPer100g = &per
	}
	made, err := s.shelf.CreateLots(ctx, []shelf.NewLot{lot}, "bought for "+v.For)
	if err != nil {
		return list, err
	}
	row.Items[i].LotID = &made[0].ID
	out, err := s.saveBuyList(ctx, row)
	if err != nil {
		return out, err
	}
	return out, s.putIn(ctx, row.Makings, v, made[0])
}

func over(a, b float64) float64 {
	if b == 0 {
		return 0
	}
	return a / b
}

// putIn has the blends of makings that waited for a fibre take it from the lot that came.
func (s *Room) putIn(ctx context.Context, makings []int64, v BuyItem, lot shelf.Lot) error {
	blends, err := s.recipe.BlendsOf(ctx, makings...)
	if err != nil {
		return err
	}
	for _, b := range blends {
		in, changed := b.Input(), false
		for k, c := range in.Components {
			if c.LotID == nil && c.Name == v.Name && c.Kind == v.Kind && c.Hex == v.Hex {
				id := lot.ID
				in.Components[k].LotID, in.Components[k].OwnG, changed = &id, 0, true
			}
		}
		if !changed {
			continue
		}
		if _, err := s.recipe.SaveBlend(ctx, b.ID, b.Version, in, lot.Name+" has come"); err != nil {
			return err
		}
	}
	return nil
}
