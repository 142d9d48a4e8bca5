package buying

import (
	"context"
	"crypto/sha256"
	"fmt"
	"math"
	"slices"
	"strings"

	"fairtangle/core/buy"
	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/workshop"
	"fairtangle/studio/yarns"
)

// BuyList is what is to be bought for makings, with the cheapest way to do it.
type BuyList struct {
	ID        int64     `json:"id"`
	Version   int64     `json:"version"`
	Name      string    `json:"name"`
	MakingIDs []int64   `json:"making_ids"`
	Items     []BuyItem `json:"items"`
	Sources   []BuyFrom `json:"sources"`
	Total     float64   `json:"total"`
	Exact     bool      `json:"exact"` // no split costs less; else it is the best that was found
	RoundUps  []RoundUp `json:"round_ups"`
}

// BuyItem is a line of the list. SourceID is where it is bought; 0 where nobody sells it.
type BuyItem struct {
	Key         int64      `json:"key"`
	Name        string     `json:"name"`
	Kind        string     `json:"kind"`
	KindName    string     `json:"kind_name"`
	Preparation string     `json:"preparation"`
	Hex         string     `json:"hex"`
	Grams       float64    `json:"grams"`
	For         string     `json:"for"`
	Came        bool       `json:"came"`
	LotID       *int64     `json:"lot_id"`
	Own         bool       `json:"own"` // no making asks for it
	SourceID    int64      `json:"source_id"`
	Packs       []BuyPacks `json:"packs"`
	BoughtG     float64    `json:"bought_g"`
	Price       float64    `json:"price"` // before the discount of the order
}

// BuyPacks are so many packs of a size.
type BuyPacks struct {
	OfferID int64   `json:"offer_id"`
	Count   int     `json:"count"`
	PackG   float64 `json:"pack_g"`
}

// BuyFrom is an order at a source.
type BuyFrom struct {
	SourceID int64   `json:"source_id"`
	Name     string  `json:"name"`
	Goods    float64 `json:"goods"`
	Off      float64 `json:"off"`
	Postage  float64 `json:"postage"`
	Total    float64 `json:"total"`
}

// RoundUp is what it costs to order more at a source until it grants a discount, or its postage.
type RoundUp struct {
	SourceID int64   `json:"source_id"`
	Name     string  `json:"name"`
	More     float64 `json:"more"`
	Extra    float64 `json:"extra"` // below 0: all costs less then
	Pct      float64 `json:"pct"`   // 0: no postage is asked any more
}

// BuyListInput names a list, and the makings that it is for.
type BuyListInput struct {
	Name      string  `json:"name"`
	MakingIDs []int64 `json:"making_ids"`
}

const mostItems = 60

// BuyLists lists the lists, the latest touched first.
func (s *Room) BuyLists(ctx context.Context) ([]BuyList, error) {
	rows, err := store.Pieces[store.BuyList](ctx, s.Store)
	if err != nil {
		return nil, err
	}
	return floor.Each(ctx, "buy_lists", rows, func(r store.BuyList) (int64, string) { return r.ID, r.Name }, s.buyList)
}

// OneBuyList returns a list.
func (s *Room) OneBuyList(ctx context.Context, id int64) (BuyList, error) {
	r, err := store.Piece[store.BuyList](ctx, s.Store, id)
	if err != nil {
		return BuyList{}, err
	}
	return s.buyList(ctx, r)
}

// StartBuyList begins a list of what makings lack, or, under a name and for no making, one that has only lines of the maker's own.
func (s *Room) StartBuyList(ctx context.Context, in BuyListInput) (BuyList, error) {
	own := len(in.MakingIDs) == 0 && in.Name != ""
	items, names := []store.BuyItem{}, []string{}
	if !own {
		var err error
		if items, names, err = s.missing(ctx, in.MakingIDs); err != nil {
			return BuyList{}, err
		}
	}
	if len(items) == 0 && !own {
		return BuyList{}, fault.New("making_ids", "Nothing is missing: the shelf has all the fibre that is wanted.")
	}
	if in.Name == "" {
		in.Name = "To buy for " + strings.Join(names, ", ")
		if len([]rune(in.Name)) > floor.MaxName {
			in.Name = "To buy"
		}
	}
	var l fault.List
	floor.CheckText(&l, "name", "the list", &in.Name, floor.MaxName, true)
	if err := l.Err(); err != nil {
		return BuyList{}, err
	}
	row, err := store.AddPiece(ctx, s.Store, store.BuyList{Name: in.Name, Makings: append([]int64{}, in.MakingIDs...), Items: keyItems(items, 0)})
	if err != nil {
		return BuyList{}, err
	}
	return s.buyList(ctx, row)
}

// keyItems names items by keys of their own, beyond those that were given before.
func keyItems(items []store.BuyItem, last int64) []store.BuyItem {
	for i := range items {
		if items[i].Key == 0 {
			last++
			items[i].Key = last
		}
	}
	return items
}

// missing is what makings lack together: of each fibre what all of them want, less what is there.
func (s *Room) missing(ctx context.Context, makings []int64) (out []store.BuyItem, names []string, err error) {
	if len(makings) == 0 {
		return nil, nil, fault.New("making_ids", "Choose a making, or give the list a name and write your own lines.")
	}
	type fibre struct {
		item store.BuyItem
		want float64
		have float64
		of   []string
	}
	all := map[string]*fibre{}
	var order []string
	for _, id := range slices.Compact(slices.Sorted(slices.Values(makings))) {
		m, err := s.recipe.Making(ctx, id)
		if err != nil {
			return nil, nil, fault.New("making_ids", "There is no such making.")
		}
		names = append(names, m.Name)
		blends, err := s.wanted(ctx, id)
		if err != nil {
			return nil, nil, err
		}
		for _, b := range blends {
			for _, c := range b.Blend.Components {
				key := fmt.Sprint(c.Name, "\x00", c.Kind, "\x00", c.Hex)
				if c.LotID != nil {
					key = fmt.Sprint("lot ", *c.LotID)
				}
				f := all[key]
				if f == nil {
					f = &fibre{item: store.BuyItem{Name: c.Name, Kind: c.Kind, Preparation: c.Preparation, Hex: c.Hex}}
					if c.HaveG != nil {
						f.have = *c.HaveG
					}
					all[key], order = f, append(order, key)
				}
				f.want += max(0, b.WeighIn(c)-c.WeighedG)
				if !slices.Contains(f.of, m.Name) {
					f.of = append(f.of, m.Name)
				}
			}
		}
	}
	for _, key := range order {
		f := all[key]
		if short := losses.Lack(f.want, f.have); short > 0 {
			f.item.Mg, f.item.For = unit.Grams(short).Milligrams(), strings.Join(f.of, ", ")
			out = append(out, f.item)
		}
	}
	if len(out) > mostItems {
		return nil, nil, fault.New("making_ids", "A list has at most %d lines. Make several.", mostItems)
	}
	return out, names, nil
}

// wanted is what is wanted of the blends of a making: by its need, else as heavy as they are.
func (s *Room) wanted(ctx context.Context, making int64) ([]yarns.NeedBlend, error) {
	n, err := s.yarns.NeedOf(ctx, making)
	if err == nil && n.Enough {
		return n.Blends, nil
	}
	if err != nil && err != floor.ErrNotFound {
		return nil, err
	}
	blends, err := s.recipe.BlendsOf(ctx, making)
	out := make([]yarns.NeedBlend, len(blends))
	for i, b := range blends {
		out[i] = yarns.NeedBlend{ID: b.ID, Name: b.Name, WantG: b.TotalG, Blend: b}
	}
	return out, err
}

// BringUpToDate brings a list to what its makings lack now. What has come stays as it is.
func (s *Room) BringUpToDate(ctx context.Context, id, version int64) (BuyList, error) {
	row, err := store.Piece[store.BuyList](ctx, s.Store, id)
	if err != nil {
		return BuyList{}, err
	}
	var items []store.BuyItem
	if len(row.Makings) > 0 {
		if items, _, err = s.missing(ctx, row.Makings); err != nil {
			return BuyList{}, err
		}
	}
	kept := []store.BuyItem{}
	last := int64(0)
	for _, v := range row.Items {
		last = max(last, v.Key)
		if v.LotID != nil || v.Own {
			kept = append(kept, v)
		}
	}
	for _, v := range items {
		if !slices.ContainsFunc(kept, func(k store.BuyItem) bool { return k.Name == v.Name && k.Kind == v.Kind && k.Hex == v.Hex }) {
			kept = append(kept, v)
		}
	}
	row.Version, row.Items = version, keyItems(kept, last)
	return s.saveBuyList(ctx, row)
}

func (s *Room) saveBuyList(ctx context.Context, row store.BuyList) (BuyList, error) {
	row, err := store.SavePiece(ctx, s.Store, row, nil)
	if err != nil {
		return BuyList{}, floor.ConvertStale(err, func(r store.BuyList) (BuyList, error) { return s.buyList(ctx, r) })
	}
	return s.buyList(ctx, row)
}

// likeEnough is the CIEDE2000 up to which what a source sells is the colour that is wanted.
const likeEnough = 3

// fits reports whether an offer is what an item asks for.
func fits(o workshop.Offer, v BuyItem) bool {
	if o.Kind != v.Kind {
		return false
	}
	a, errA := colour.ParseHex(o.Hex)
	b, errB := colour.ParseHex(v.Hex)
	return errA == nil && errB == nil && colour.CIEDE2000(a.Lab(), b.Lab()) <= likeEnough
}

// shopsOf are sources as the plan of buying knows them.
func shopsOf(sources []workshop.Source) []buy.Source {
	shops := make([]buy.Source, len(sources))
	for i, v := range sources {
		shops[i] = buy.Source{Postage: workshop.Cents(v.Postage), FreeFrom: workshop.Cents(v.FreeFrom)}
		for _, d := range v.Discounts {
			shops[i].Discounts = append(shops[i].Discounts, buy.Discount{From: workshop.Cents(d.From), Part: d.Pct / 100})
		}
	}
	return shops
}

// offeredFor is what is missing with the packs of each source that would do for it, and their offers.
func offeredFor(line BuyItem, sources []workshop.Source, offers []workshop.Offer) (buy.Item, [][]workshop.Offer) {
	it := buy.Item{Grams: line.Grams, Packs: make([][]buy.Pack, len(sources))}
	by := make([][]workshop.Offer, len(sources))
	for k, src := range sources {
		for _, o := range offers {
			if o.SourceID == src.ID && fits(o, line) && len(by[k]) < mostPackSizes {
				by[k] = append(by[k], o)
				it.Packs[k] = append(it.Packs[k], packOf(o))
			}
		}
	}
	return it, by
}

// buyList works out where a list is bought.
func (s *Room) buyList(ctx context.Context, r store.BuyList) (BuyList, error) {
	out := BuyList{ID: r.ID, Version: r.Version, Name: r.Name, MakingIDs: append([]int64{}, r.Makings...), Items: []BuyItem{}, Sources: []BuyFrom{},
		RoundUps: []RoundUp{}}
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return out, err
	}
	sources, err := s.workshop.Sources(ctx)
	if err != nil {
		return out, err
	}
	offers, err := s.workshop.Offers(ctx)
	if err != nil {
		return out, err
	}
	shops := shopsOf(sources)
	var items []buy.Item
	var of []int // of out.Items
	packed := [][][]workshop.Offer{}
	for _, v := range r.Items {
		line := BuyItem{
			Key: v.Key, Name: v.Name, Kind: v.Kind, KindName: kinds.Named(v.Kind).Name, Preparation: v.Preparation, Hex: v.Hex, Grams: floor.InGrams(v.Mg), For: v.For,
			LotID: v.LotID, Own: v.Own, Came: v.LotID != nil, Packs: []BuyPacks{},
		}
		out.Items = append(out.Items, line)
		if line.Came {
			continue
		}
		it, by := offeredFor(line, sources, offers)
		items, of, packed = append(items, it), append(of, len(out.Items)-1), append(packed, by)
	}
	rests := fmt.Sprintf("%x", sha256.Sum256(fmt.Append(nil, shops, items)))
	p, err := s.splits.Of(ctx, rests, func(context.Context) (buy.Plan, error) { return buy.Split(shops, items), nil })
	if err != nil {
		return out, err
	}
	out.Exact, out.Total = p.Exact, workshop.Money(p.Total)
	for i, c := range p.Choices {
		if c.Source < 0 {
			continue
		}
		v := &out.Items[of[i]]
		v.SourceID, v.BoughtG, v.Price = sources[c.Source].ID, unit.Clean(c.Grams), workshop.Money(c.Cents)
		for k, n := range c.Count {
			if o := packed[i][c.Source][k]; n > 0 {
				v.Packs = append(v.Packs, BuyPacks{o.ID, n, o.PackG})
			}
		}
	}
	for k, b := range p.Bills {
		if b.Goods > 0 {
			out.Sources = append(
				out.Sources,
				BuyFrom{sources[k].ID, sources[k].Name, workshop.Money(b.Goods), workshop.Money(b.Off), workshop.Money(b.Postage), workshop.Money(b.Total)},
			)
		}
	}
	for _, u := range buy.RoundUps(shops, p) {
		out.RoundUps = append(
			out.RoundUps,
			RoundUp{sources[u.Source].ID, sources[u.Source].Name, workshop.Money(u.More), workshop.Money(u.Extra), math.Round(1000*u.Part) / 10},
		)
	}
	return out, nil
}

// mostPackSizes bounds the sizes of one thing at one source.
const mostPackSizes = 4

func packOf(o workshop.Offer) buy.Pack {
	p := buy.Pack{Grams: o.PackG, Cents: workshop.Cents(o.Price)}
	for _, b := range o.Breaks {
		p.Breaks = append(p.Breaks, buy.Break{From: b.From, Cents: workshop.Cents(b.Price)})
	}
	return p
}
