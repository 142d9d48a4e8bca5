package workshop

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Source is where fibre is bought, in the maker's own words. Money is in her currency.
type Source struct {
	ID        int64      `json:"id"`
	Version   int64      `json:"version"`
	Name      string     `json:"name"`
	Postage   float64    `json:"postage"`
	FreeFrom  float64    `json:"free_from"` // of goods, from which no postage is asked; 0: it always is
	Discounts []Discount `json:"discounts"`
	Note      string     `json:"note"`
}

// Discount takes so many percent off an order of so much.
type Discount struct {
	From float64 `json:"from"`
	Pct  float64 `json:"pct"`
}

// Offer is a pack that a source sells, at a price that was noted.
type Offer struct {
	ID       int64        `json:"id"`
	Version  int64        `json:"version"`
	SourceID int64        `json:"source_id"`
	Name     string       `json:"name"`
	Kind     string       `json:"kind"`
	Hex      string       `json:"hex"`
	PackG    float64      `json:"pack_g"`
	Price    float64      `json:"price"` // of one pack
	Breaks   []PriceBreak `json:"breaks"`
}

// PriceBreak is the price of each pack from so many on.
type PriceBreak struct {
	From  int     `json:"from"`
	Price float64 `json:"price"`
}

// Limits of money and of what is noted of a source.
const (
	mostMoney  = 1e6
	mostTiers  = 6
	mostOffers = 500
)

// Cents is an amount of money in hundredths.
func Cents(v float64) int64 { return int64(math.Round(v * 100)) }

// Money is an amount of hundredths.
func Money(c int64) float64 { return float64(c) / 100 }

// Priced reports whether an amount can be a price.
func Priced(v float64) bool { return v >= 0 && v <= mostMoney }

func sourceOf(r store.Source) Source {
	out := Source{ID: r.ID, Version: r.Version, Name: r.Name, Postage: Money(r.PostageCents), FreeFrom: Money(r.FreeFromCents), Note: r.Note,
		Discounts: []Discount{}}
	for _, d := range r.Discounts {
		out.Discounts = append(out.Discounts, Discount{Money(d.FromCents), d.Pct})
	}
	return out
}

func offerOf(r store.Offer) Offer {
	out := Offer{
		ID: r.ID, Version: r.Version, SourceID: r.SourceID, Name: r.Name, Kind: r.Kind, Hex: r.Hex, PackG: floor.InGrams(r.PackMg), Price: Money(r.Cents),
		Breaks: []PriceBreak{},
	}
	for _, b := range r.Breaks {
		out.Breaks = append(out.Breaks, PriceBreak{b.From, Money(b.Cents)})
	}
	return out
}

// Sources lists the sources by name.
func (s *Room) Sources(ctx context.Context) ([]Source, error) {
	out, err := PiecesAs(ctx, s, sourceOf)
	floor.InOrder(out, func(a, b Source) int {
		return cmp.Or(cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)), cmp.Compare(a.ID, b.ID))
	})
	return out, err
}

// OneSource returns a source.
func (s *Room) OneSource(ctx context.Context, id int64) (Source, error) {
	r, err := store.Piece[store.Source](ctx, s.Store, id)
	return sourceOf(r), err
}

// AddSource adds a source.
func (s *Room) AddSource(ctx context.Context, in Source) (Source, error) {
	in.ID, in.Version = 0, 0
	return s.putSource(ctx, in)
}

// SaveSource replaces a source, based on its version.
func (s *Room) SaveSource(ctx context.Context, id, version int64, in Source) (Source, error) {
	in.ID, in.Version = id, version
	return s.putSource(ctx, in)
}

func (s *Room) putSource(ctx context.Context, in Source) (Source, error) {
	var l fault.List
	floor.CheckText(&l, "name", "the source", &in.Name, floor.MaxName, true)
	floor.CheckText(&l, "note", "", &in.Note, floor.MaxNote, false)
	for field, v := range map[string]float64{"postage": in.Postage, "free_from": in.FreeFrom} {
		if !Priced(v) {
			l.Add(field, "Money is from 0 to a million.")
		}
	}
	if len(in.Discounts) > mostTiers {
		l.Add("discounts", "A source has at most %d discounts.", mostTiers)
	}
	row := store.Source{Base: store.Base{ID: in.ID, Version: in.Version}, Name: in.Name, PostageCents: Cents(in.Postage),
		FreeFromCents: Cents(in.FreeFrom), Note: in.Note}
	for i, d := range in.Discounts {
		if !Priced(d.From) {
			l.Add(fmt.Sprintf("discounts[%d].from", i), "Money is from 0 to a million.")
		}
		if !(d.Pct >= 0 && d.Pct <= 90) {
			l.Add(fmt.Sprintf("discounts[%d].pct", i), "A discount is from 0 to 90 %%.")
		}
		row.Discounts = append(row.Discounts, store.Discount{FromCents: Cents(d.From), Pct: d.Pct})
	}
	if err := l.Err(); err != nil {
		return in, err
	}
	row, err := store.PutPiece(ctx, s.Store, row)
	return sourceOf(row), floor.ConvertStale(err, func(r store.Source) (Source, error) { return sourceOf(r), nil })
}

// OffersOf lists what a source sells, by name.
func (s *Room) OffersOf(ctx context.Context, source int64) ([]Offer, error) {
	if _, err := s.OneSource(ctx, source); err != nil {
		return nil, err
	}
	return s.Offers(ctx, "source_id = ?", source)
}

// Offers are those that a condition holds for.
func (s *Room) Offers(ctx context.Context, where ...any) ([]Offer, error) {
	rows, err := store.Pieces[store.Offer](ctx, s.Store, where...)
	out := make([]Offer, len(rows))
	for i, r := range rows {
		out[i] = offerOf(r)
	}
	floor.InOrder(out, func(a, b Offer) int {
		return cmp.Or(cmp.Compare(strings.ToLower(a.Name), strings.ToLower(b.Name)), cmp.Compare(a.PackG, b.PackG), cmp.Compare(a.ID, b.ID))
	})
	return out, err
}

// AddOffer notes what a source sells.
func (s *Room) AddOffer(ctx context.Context, source int64, in Offer) (Offer, error) {
	if _, err := s.OneSource(ctx, source); err != nil {
		return in, err
	}
	list, err := s.Offers(ctx, "source_id = ?", source)
	if err != nil {
		return in, err
	}
	if len(list) >= mostOffers {
		return in, fault.New("name", "A source has at most %d prices.", mostOffers)
	}
	in.ID, in.Version, in.SourceID = 0, 0, source
	return s.putOffer(ctx, in)
}

// SaveOffer replaces what was noted, based on its version.
func (s *Room) SaveOffer(ctx context.Context, id, version int64, in Offer) (Offer, error) {
	row, err := store.Piece[store.Offer](ctx, s.Store, id)
	if err != nil {
		return in, err
	}
	in.ID, in.Version, in.SourceID = id, version, row.SourceID
	return s.putOffer(ctx, in)
}

func (s *Room) putOffer(ctx context.Context, in Offer) (Offer, error) {
	var l fault.List
	floor.CheckText(&l, "name", "what is sold", &in.Name, floor.MaxName, true)
	kinds, err := s.AllKinds(ctx, false)
	if err != nil {
		return in, err
	}
	if _, ok := kinds.Find(in.Kind); !ok {
		l.Add("kind", "Choose a kind of fibre.")
	}
	in.Hex = strings.ToLower(in.Hex)
	if _, err := colour.ParseHex(in.Hex); err != nil {
		l.Add("hex", "A colour is written as # and six digits or letters a to f.")
	}
	if !(in.PackG > 0 && in.PackG <= 1e5) {
		l.Add("pack_g", "A pack weighs above %s and at most %s.", unit.Grams(0), unit.Grams(1e5))
	}
	if !Priced(in.Price) {
		l.Add("price", "Money is from 0 to a million.")
	}
	if len(in.Breaks) > mostTiers {
		l.Add("breaks", "A pack has at most %d price breaks.", mostTiers)
	}
	row := store.Offer{
		Base: store.Base{ID: in.ID, Version: in.Version}, SourceID: in.SourceID, Name: in.Name, Kind: in.Kind, Hex: in.Hex,
		PackMg: unit.Grams(in.PackG).Milligrams(), Cents: Cents(in.Price),
	}
	for i, b := range in.Breaks {
		if b.From < 2 || b.From > 500 {
			l.Add(fmt.Sprintf("breaks[%d].from", i), "A break begins at 2 to 500 packs.")
		}
		if !Priced(b.Price) {
			l.Add(fmt.Sprintf("breaks[%d].price", i), "Money is from 0 to a million.")
		}
		row.Breaks = append(row.Breaks, store.PriceBreak{From: b.From, Cents: Cents(b.Price)})
	}
	if err := l.Err(); err != nil {
		return in, err
	}
	row, err = store.PutPiece(ctx, s.Store, row)
	return offerOf(row), floor.ConvertStale(err, func(r store.Offer) (Offer, error) { return offerOf(r), nil })
}
