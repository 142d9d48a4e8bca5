package reach

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/piles"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
)

// What lies in a bag: bits of one colour or several, as an end of a painted top has, and lots of the shelf.

// mostColours of a bit that is no lot.
const mostColours = 8

// checkColours reads the colours of a bit that has several and makes its colour their mean; a bit of one colour has none of them, and
// those of a lot are the lot's.
func checkColours(l *fault.List, at string, v *Scrap) {
	if v.LotID != nil || len(v.Colours) == 0 {
		v.Colours = nil
		return
	}
	if len(v.Colours) > mostColours {
		l.Add(at+"colours", "A bit has at most %d colours.", mostColours)
		return
	}
	v.Colours = slices.Clone(v.Colours)
	for i, hex := range v.Colours {
		v.Colours[i] = strings.ToLower(strings.TrimSpace(hex))
		if _, err := colour.ParseHex(v.Colours[i]); err != nil {
			l.Add(at+"colours", "A colour is written as # and six digits or letters a to f.")
			return
		}
	}
	v.Hex = floor.MeanLinear(coloursOf(*v)).Hex()
	if len(v.Colours) == 1 {
		v.Colours = nil
	}
}

// coloursOf are the colours of a bit, as much of each.
func coloursOf(v Scrap) (out []store.Colour) {
	for _, hex := range v.Colours {
		out = append(out, store.Colour{Hex: hex, Share: 1 / float64(len(v.Colours)), Source: string(mix.Picker)})
	}
	return out
}

// ontoShelf makes lots of the bits of several colours that are none yet.
func (s *Room) ontoShelf(ctx context.Context, bag Bag) (Bag, error) {
	in, changed := bag.BagInput, false
	in.Scraps = slices.Clone(in.Scraps)
	for i := range in.Scraps {
		v := &in.Scraps[i]
		if len(v.Colours) < 2 {
			continue
		}
		lot := shelf.NewLot{LotInput: shelf.LotInput{Name: v.Name, Kind: v.Kind, Preparation: "picked_cloud", Lies: "patches"}, Grams: v.Grams}
		for _, c := range coloursOf(*v) {
			lot.Colours = append(lot.Colours, shelf.LotColour(c))
		}
		made, err := s.shelf.CreateLots(ctx, []shelf.NewLot{lot}, "a bit of several colours, from "+bag.Name)
		if err != nil {
			return bag, fault.Under(fmt.Sprintf("scraps[%d]", i), err)
		}
		v.LotID, v.Hex, v.Colours, changed = &made[0].ID, made[0].MeanHex, nil, true
	}
	if !changed {
		return bag, nil
	}
	return s.SaveBag(ctx, bag.ID, bag.Version, in)
}

// ScrapsFromShelf returns the lots with at most mostG left as scraps.
func (s *Room) ScrapsFromShelf(ctx context.Context, mostG float64) ([]Scrap, error) {
	rows, _, err := s.Store.Lots(ctx, shelf.LotFilter{Stock: "some"})
	if err != nil {
		return nil, err
	}
	kinds, err := s.workshop.AllKinds(ctx, true)
	var out []Scrap
	for _, r := range rows {
		if g := float64(r.GramsMg.Grams()); g <= mostG && len(out) < piles.MaxScraps {
			l := shelf.LotOf(r, kinds)
			id := r.ID
			out = append(out, Scrap{LotID: &id, Name: r.Name, Kind: r.Kind, Hex: l.MeanHex, Grams: g})
		}
	}
	return out, err
}
