package reach

import (
	"context"
	"slices"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/piles"
	"fairtangle/studio/floor"
)

// BagChange is one thing done to a bag of scraps. A scrap is named by its
// Key, or without one by its place At.
//
//	name            the bag is called Text
//	sort            into To piles by colour; 0: as many as fit
//	split           the pile To in two stories
//	add             Scrap joins
//	small           all lots of the shelf with at most Value grams left join
//	move            the scrap goes to the pile To
//	scrap-name, hex the scrap's become Text
//	colours         the scrap has the colours of Text, with spaces between; one or several
//	grams           the scrap weighs Value
//	remove          the scrap goes away
type BagChange struct {
	Verb  string  `json:"verb"`
	Key   int64   `json:"key"`
	At    int     `json:"at"`
	To    int     `json:"to"`
	Value float64 `json:"value"`
	Text  string  `json:"text"`
	Scrap *Scrap  `json:"scrap,omitempty"`
}

// ApplyBag does one change to a bag and looks at the result. Nothing is
// kept.
func (s *Room) ApplyBag(ctx context.Context, in BagInput, c *BagChange) (Bag, error) {
	if c == nil {
		return s.WorkOutBag(ctx, in)
	}
	in.Scraps = slices.Clone(in.Scraps)
	switch c.Verb {
	case "name":
		in.Name = c.Text
	case "sort":
		return s.SortBag(ctx, in, c.To)
	case "split":
		return s.SplitPile(ctx, in, c.To)
	case "add":
		if c.Scrap == nil {
			return Bag{}, fault.New("scrap", "Say what the scrap is.")
		}
		scrap := *c.Scrap
		scrap.Key = 0
		in.Scraps = append(in.Scraps, scrap)
	case "small":
		more, err := s.ScrapsFromShelf(ctx, c.Value)
		if err != nil {
			return Bag{}, err
		}
		before := len(in.Scraps)
		for _, v := range more {
			if !slices.ContainsFunc(in.Scraps, func(o Scrap) bool { return o.LotID != nil && *o.LotID == *v.LotID }) {
				in.Scraps = append(in.Scraps, v)
			}
		}
		if len(in.Scraps) == before {
			return Bag{}, fault.New("most", "No lot on the shelf that is not here already has so little left.")
		}
	case "move", "remove", "scrap-name", "grams", "hex", "colours":
		at, err := floor.Placed(in.Scraps, c.Key, c.At, func(v Scrap) int64 { return v.Key }, "This scrap is not in the bag any more.")
		if err != nil {
			return Bag{}, err
		}
		v := &in.Scraps[at]
		switch c.Verb {
		case "remove":
			in.Scraps = slices.Delete(in.Scraps, at, at+1)
		case "move":
			v.Pile = min(max(c.To, 0), piles.MaxPiles-1)
		case "scrap-name":
			v.Name = c.Text
		case "hex":
			v.Hex, v.Colours = c.Text, nil
		case "colours":
			v.Colours = strings.Fields(c.Text)
		case "grams":
			v.Grams = c.Value
		}
	default:
		return Bag{}, fault.New("verb", "There is no change called %q.", c.Verb)
	}
	return s.WorkOutBag(ctx, in)
}
