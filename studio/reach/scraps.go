package reach

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/piles"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// Scrap is a bit of fibre, kept as it is said.
type Scrap = store.Scrap

// BagInput is a bag of scraps as it is edited.
type BagInput struct {
	Name   string  `json:"name"`
	Scraps []Scrap `json:"scraps"`
}

// ScrapPile is a pile with what follows from it.
type ScrapPile struct {
	Pile    int     `json:"pile"`
	Scraps  []int   `json:"scraps"`
	Name    string  `json:"name"`
	Grams   float64 `json:"grams"`
	Hex     string  `json:"hex"` // mixed even
	Spread  float64 `json:"spread_delta_e"`
	Wide    bool    `json:"wide"`
	Stories [][]int `json:"stories"` // two piles to split it into
}

// Bag is a bag of scraps with its piles.
type Bag struct {
	ID      int64 `json:"id"`
	Version int64 `json:"version"`
	BagInput
	Piles  []ScrapPile `json:"piles"`
	Astray []int       `json:"astray"` // scraps that fit nowhere
	Names  []string    `json:"names"`  // colour names of the scraps
	Shown  [][]string  `json:"shown"`  // the colours that each has: those of its lot, or its own
}

func (in *BagInput) check(kinds workshop.Kinds) error {
	var l fault.List
	floor.CheckText(&l, "name", "the bag", &in.Name, floor.MaxName, true)
	if len(in.Scraps) > piles.MaxScraps {
		l.Add("scraps", "A bag has at most %d scraps.", piles.MaxScraps)
		return l
	}
	in.Scraps = slices.Clone(in.Scraps)
	keyScraps(in.Scraps)
	for i := range in.Scraps {
		v, at := &in.Scraps[i], fmt.Sprintf("scraps[%d].", i)
		floor.CheckText(&l, at+"name", "the scrap", &v.Name, floor.MaxName, true)
		checkColours(&l, at, v)
		v.Hex = strings.ToLower(strings.TrimSpace(v.Hex))
		if _, err := colour.ParseHex(v.Hex); err != nil {
			l.Add(at+"hex", "A colour is written as # and six digits or letters a to f.")
		}
		if !(v.Grams > 0 && v.Grams <= float64(unit.MaxGrams)) {
			l.Add(at+"grams", "A scrap weighs above 0.")
		}
		if _, ok := kinds.Find(v.Kind); !ok {
			l.Add(at+"kind", "Choose a kind of fibre.")
		}
		if v.Pile < 0 || v.Pile >= piles.MaxPiles {
			l.Add(at+"pile", "There are %d piles, counted from 0.", piles.MaxPiles)
		}
	}
	return l.Err()
}

func (in BagInput) scraps() []piles.Scrap {
	out := make([]piles.Scrap, len(in.Scraps))
	for i, v := range in.Scraps {
		c, _ := colour.ParseHex(v.Hex)
		out[i] = piles.Scrap{Colour: c.Lab(), Grams: v.Grams}
	}
	return out
}

// WorkOutBag tells of the piles as the scraps lie, and keeps nothing.
func (s *Room) WorkOutBag(ctx context.Context, in BagInput) (Bag, error) {
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return Bag{}, err
	}
	if err := in.check(at.Kinds); err != nil {
		return Bag{}, err
	}
	out := Bag{BagInput: in, Piles: []ScrapPile{}, Astray: []int{}, Names: make([]string, len(in.Scraps)), Shown: [][]string{}}
	if out.Scraps == nil {
		out.Scraps = []Scrap{}
	}
	all := in.scraps()
	groups := make([][]int, piles.MaxPiles)
	for i, v := range in.Scraps {
		groups[v.Pile] = append(groups[v.Pile], i)
		out.Names[i] = colour.Name(all[i].Colour)
	}
	if len(all) == 0 {
		return out, nil
	}
	tints, shown, err := s.scrapTints(ctx, at, in.Scraps)
	if err != nil {
		return out, err
	}
	out.Shown = shown
	told := piles.Describe(all, groups)
	out.Astray = append(out.Astray, told.Astray...)
	names := map[string]int{}
	for _, p := range told.Piles {
		v := ScrapPile{
			Pile:    in.Scraps[p.Scraps[0]].Pile,
			Scraps:  p.Scraps,
			Spread:  p.Spread,
			Wide:    len(p.Stories) > 0,
			Stories: append([][]int{}, p.Stories...),
		}
		var list []shelf.Tint
		var shares []float64
		for _, i := range p.Scraps {
			v.Grams += in.Scraps[i].Grams
			list, shares = append(list, tints[i]), append(shares, in.Scraps[i].Grams)
		}
		for j := range shares {
			shares[j] /= v.Grams
		}
		even := at.Even(list, shares)
		v.Hex, v.Name = even.Linear().Hex(), unlike(names, colour.Name(all[p.Middle].Colour))
		out.Piles = append(out.Piles, v)
	}
	return out, nil
}

// scrapTints are the colours of scraps as blends of them see them, and as an eye does.
func (s *Room) scrapTints(ctx context.Context, at shelf.Mixing, list []Scrap) (out []shelf.Tint, shown [][]string, err error) {
	var ids []int64
	for _, v := range list {
		if v.LotID != nil {
			ids = append(ids, *v.LotID)
		}
	}
	lots := map[int64]store.Lot{}
	if len(ids) > 0 {
		if lots, err = s.Store.LotsByID(ctx, ids); err != nil {
			return nil, nil, err
		}
	}
	out, shown = make([]shelf.Tint, len(list)), make([][]string, len(list))
	for i, v := range list {
		kind := at.Kinds.Named(v.Kind)
		out[i], _ = shelf.TintOf(nil, "", v.Hex, kind)
		shown[i] = []string{v.Hex}
		if len(v.Colours) > 1 {
			out[i].Colour, out[i].Sigma = floor.MeanColour(coloursOf(v))
			shown[i] = v.Colours
		}
		if v.LotID == nil {
			continue
		}
		if row, ok := lots[*v.LotID]; ok && shelf.LotOf(row, at.Kinds).MeanHex == v.Hex {
			out[i], _ = shelf.TintOf(&row, "", v.Hex, kind)
			shown[i] = nil
			for _, c := range row.Colours {
				shown[i] = append(shown[i], c.Hex)
			}
		}
	}
	return out, shown, nil
}

// SortBag puts the scraps into k piles by colour, 0 letting the colours
// decide how many.
func (s *Room) SortBag(ctx context.Context, in BagInput, k int) (Bag, error) {
	if _, err := s.WorkOutBag(ctx, in); err != nil {
		return Bag{}, err
	}
	sorted, err := piles.Sort(ctx, in.scraps(), k)
	if err != nil {
		return Bag{}, err
	}
	in.Scraps = slices.Clone(in.Scraps)
	for n, p := range sorted.Piles {
		for _, i := range p.Scraps {
			in.Scraps[i].Pile = n
		}
	}
	return s.WorkOutBag(ctx, in)
}

// SplitPile puts one of the two stories of a wide pile onto the first free
// place.
func (s *Room) SplitPile(ctx context.Context, in BagInput, pile int) (Bag, error) {
	now, err := s.WorkOutBag(ctx, in)
	if err != nil {
		return Bag{}, err
	}
	used := map[int]bool{}
	var wide *ScrapPile
	for i, p := range now.Piles {
		used[p.Pile] = true
		if p.Pile == pile {
			wide = &now.Piles[i]
		}
	}
	free := 0
	for used[free] {
		free++
	}
	switch {
	case wide == nil || !wide.Wide:
		return Bag{}, fault.New("pile", "This pile need not be split: its colours lie close together.")
	case free >= piles.MaxPiles:
		return Bag{}, fault.New("pile", "There are %d piles already. Empty one first.", piles.MaxPiles)
	}
	in.Scraps = slices.Clone(in.Scraps)
	for _, i := range wide.Stories[1] {
		in.Scraps[i].Pile = free
	}
	return s.WorkOutBag(ctx, in)
}

// Bags lists a page of the bags of scraps, from the one after offset; all of them where limit is
// -1. all is how many there are.
func (s *Room) Bags(ctx context.Context, offset, limit int) (list []Bag, all int64, err error) {
	rows, all, err := store.PagePieces[store.ScrapBag](ctx, s.Store, offset, limit)
	if err != nil {
		return nil, 0, err
	}
	list, err = floor.Each(ctx, "scrap_sets", rows, func(r store.ScrapBag) (int64, string) { return r.ID, r.Name }, s.bag)
	return list, all, err
}

func (s *Room) bag(ctx context.Context, r store.ScrapBag) (Bag, error) {
	v, err := s.WorkOutBag(ctx, BagInput{r.Name, r.Scraps})
	v.ID, v.Version = r.ID, r.Version
	return v, err
}

// ScrapBag returns one bag.
func (s *Room) Bag(ctx context.Context, id int64) (Bag, error) {
	r, err := store.Piece[store.ScrapBag](ctx, s.Store, id)
	if err != nil {
		return Bag{}, err
	}
	return s.bag(ctx, r)
}

// CreateBag adds a bag.
func (s *Room) CreateBag(ctx context.Context, in BagInput) (Bag, error) {
	v, err := s.WorkOutBag(ctx, in)
	if err != nil {
		return v, err
	}
	r, err := store.AddPiece(ctx, s.Store, store.ScrapBag{Name: v.Name, Scraps: v.Scraps})
	v.ID, v.Version = r.ID, r.Version
	return v, err
}

// SaveBag replaces a bag, based on a version of it; what was there before is
// kept as a step.
func (s *Room) SaveBag(ctx context.Context, id, version int64, in BagInput) (Bag, error) {
	return s.saveBag(ctx, id, version, in, store.Onward)
}

// StepBag moves a bag along its steps.
func (s *Room) StepBag(ctx context.Context, id, version int64, m floor.Move) (Bag, error) {
	var in BagInput
	way, err := s.StateAt(ctx, "scrap_sets", id, m, &in)
	if err != nil {
		return Bag{}, err
	}
	return s.saveBag(ctx, id, version, in, way)
}

func (s *Room) saveBag(ctx context.Context, id, version int64, in BagInput, way store.Way) (Bag, error) {
	v, err := s.WorkOutBag(ctx, in)
	if err != nil {
		return v, err
	}
	row, err := store.Piece[store.ScrapBag](ctx, s.Store, id)
	if err != nil {
		return v, err
	}
	left, err := floor.Leaving(BagInput{row.Name, row.Scraps}, v.BagInput, way, "")
	if err != nil {
		return v, err
	}
	row.Version, row.Name, row.Scraps = version, v.Name, v.Scraps
	r, err := store.SavePiece(ctx, s.Store, row, left)
	if err != nil {
		return v, floor.ConvertStale(err, func(r store.ScrapBag) (Bag, error) { return s.bag(ctx, r) })
	}
	v.ID, v.Version = r.ID, r.Version
	return v, nil
}

// BagBlends makes a blend of each pile in a making. Scraps that are no lot
// of the shelf go in as still to buy would: kind, colour and grams. Those of several colours become lots first, so that their
// colours lie in the batt as they lie in the bit.
func (s *Room) BagBlends(ctx context.Context, id, making int64) ([]recipe.Blend, error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) ([]recipe.Blend, error) { return s.bagBlends(ctx, id, making) })
}

func (s *Room) bagBlends(ctx context.Context, id, making int64) ([]recipe.Blend, error) {
	bag, err := s.Bag(ctx, id)
	if err != nil {
		return nil, err
	}
	if bag, err = s.ontoShelf(ctx, bag); err != nil {
		return nil, err
	}
	if len(bag.Piles) == 0 {
		return nil, fault.New("scraps", "The bag is empty; put scraps into it first.")
	}
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return nil, err
	}
	set, err := s.workshop.Settings(ctx)
	if err != nil {
		return nil, err
	}
	var inputs []recipe.BlendInput
	for _, p := range bag.Piles {
		in := recipe.BlendInput{Name: bag.Name + ", " + p.Name, Passes: DefaultPasses}
		for _, i := range p.Scraps {
			v := bag.Scraps[i]
			c := recipe.BlendComponent{LotID: v.LotID, Name: v.Name, Kind: v.Kind, Preparation: "picked_cloud", Hex: v.Hex, Parts: v.Grams}
			if v.LotID == nil {
				c.OwnG = v.Grams
			}
			if at := slices.IndexFunc(in.Components, c.SameFibre); at >= 0 {
				in.Components[at].Parts += c.Parts
			} else {
				in.Components = append(in.Components, c)
			}
		}
		suffice(&in, kinds, floor.InGrams(set.StepMg))
		inputs = append(inputs, in)
	}
	return s.recipe.CreateBlends(ctx, making, inputs)
}

// suffice gives a blend of scraps the weight that comes off when all of them are weighed in: their parts, grams as they lie there,
// become what is left of each, and the whole so much less that no reading of the scale asks for more than there is.
func suffice(in *recipe.BlendInput, kinds workshop.Kinds, stepG float64) {
	have, ways := make([]float64, len(in.Components)), make([]losses.Way, len(in.Components))
	for i := range in.Components {
		c := &in.Components[i]
		have[i], ways[i] = c.Parts, shelf.WayOf(kinds.Named(c.Kind), in.Passes)
		c.Parts = ways[i].Finished(have[i])
		in.TotalG += c.Parts
	}
	all := in.TotalG
	for steps := math.Floor(all/stepG + 1e-9); steps > 1; steps-- {
		in.TotalG = unit.Clean(steps * stepG)
		o := weigh.Order{Units: 1, Finished: unit.Grams(in.TotalG), Passes: in.Passes, Step: unit.Grams(stepG)}
		for i, c := range in.Components {
			o.Components = append(o.Components, weigh.Component{Share: c.Parts / all, LossPass: ways[i].Fall.First, Decay: ways[i].Fall.Decay, JoinsAt: 1})
		}
		p, err := weigh.Make(o)
		if err != nil {
			return
		}
		enough := true
		for i, n := range p.Counts[0] {
			enough = enough && float64(n)*stepG <= have[i]+1e-9
		}
		if enough {
			return
		}
	}
}
