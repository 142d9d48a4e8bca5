package buying

import (
	"cmp"
	"context"
	"maps"
	"slices"
	"time"

	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
)

// Claim is fibre of a lot that a making has spoken for: what its kept weigh-outs and its need, or
// without a need its blends, still want of it. Who was first is served first; what is left of the lot for the others may be
// too little.
type Claim struct {
	LotID    int64   `json:"lot_id"`
	MakingID int64   `json:"making_id"`
	Making   string  `json:"making"`
	At       string  `json:"at"` // since when
	Grams    float64 `json:"grams"`
	LacksG   float64 `json:"lacks_g"`

	since time.Time
}

// Claims lists all claims, lot by lot, who was first before the others.
func (s *Room) Claims(ctx context.Context) ([]Claim, error) { return s.claims(ctx, nil) }

// ClaimsOn lists the claims on a lot, who was first before the others.
func (s *Room) ClaimsOn(ctx context.Context, lot int64) ([]Claim, error) {
	if _, err := s.Store.Lot(ctx, lot); err != nil {
		return nil, err
	}
	return s.claims(ctx, []int64{lot})
}

// ClaimsOf lists the claims on the lots that a making wants, its own and those of others.
func (s *Room) ClaimsOf(ctx context.Context, making int64) ([]Claim, error) {
	if _, err := s.Store.Making(ctx, making); err != nil {
		return nil, err
	}
	lots, err := s.Store.LotsWantedBy(ctx, making)
	if err != nil {
		return nil, err
	}
	all, err := s.claims(ctx, lots)
	mine := map[int64]bool{}
	for _, c := range all {
		if c.MakingID == making {
			mine[c.LotID] = true
		}
	}
	return slices.DeleteFunc(all, func(c Claim) bool { return !mine[c.LotID] }), err
}

// claims works out the claims on lots, on all of them where lots is nil. Of a blend of which a need, or
// without one its own weight, wants more than its weigh-outs do, that claims the rest. Only what can want one of the lots is
// looked at.
func (s *Room) claims(ctx context.Context, lots []int64) ([]Claim, error) {
	rows, err := s.Store.Claims(ctx, lots)
	if err != nil {
		return nil, err
	}
	needs, names, err := s.Store.NeedsOfLots(ctx, lots)
	if err != nil {
		return nil, err
	}
	all := claiming{all: map[[2]int64]*Claim{}, asked: lots}
	claim := all.add
	weighed := map[[2]int64]float64{} // blend, lot
	for _, r := range rows {
		claim(r.LotID, r.MakingID, r.Making, r.At, floor.InGrams(r.Mg))
		weighed[[2]int64{r.BlendID, r.LotID}] += floor.InGrams(r.Mg)
	}
	worked, err := s.yarns.NeedsWanted(ctx, needs)
	if err != nil {
		return nil, err
	}
	for i, n := range worked {
		for lot, grams := range wants(n, weighed) {
			claim(lot, n.MakingID, names[n.MakingID], needs[i].CreatedAt, grams)
		}
		for _, b := range n.Blends {
			if n.Enough {
				break
			}
			for lot, grams := range wanted(b.Blend, weighed) { // it is not known yet how much of it
				claim(lot, n.MakingID, names[n.MakingID], needs[i].CreatedAt, grams)
			}
		}
	}
	if err := s.claimedByBlends(ctx, lots, weighed, claim); err != nil {
		return nil, err
	}
	out, ids := all.list()
	return s.serve(ctx, out, ids)
}

// claiming gathers claims on lots, of all of them where none is asked for.
type claiming struct {
	all   map[[2]int64]*Claim // by lot and making
	asked []int64
}

func (g claiming) add(lot, making int64, name string, since time.Time, grams float64) {
	if g.asked != nil && !slices.Contains(g.asked, lot) {
		return
	}
	at := [2]int64{lot, making}
	c := g.all[at]
	if c == nil {
		c = &Claim{LotID: lot, MakingID: making, Making: name, since: since}
		g.all[at] = c
	}
	if c.Grams += grams; since.Before(c.since) {
		c.since = since
	}
}

// list is what was gathered, who was first before the others, and the lots that it is on.
func (g claiming) list() ([]Claim, map[int64]bool) {
	out, ids := make([]Claim, 0, len(g.all)), map[int64]bool{}
	for _, c := range g.all {
		c.At = c.since.Format(floor.TimeForm)
		ids[c.LotID] = true
		out = append(out, *c)
	}
	floor.InOrder(out, func(a, b Claim) int {
		return cmp.Or(cmp.Compare(a.LotID, b.LotID), a.since.Compare(b.since), cmp.Compare(a.MakingID, b.MakingID))
	})
	return out, ids
}

// claimedByBlends claims what blends of makings without a need want.
func (s *Room) claimedByBlends(
	ctx context.Context, lots []int64, weighed map[[2]int64]float64, claim func(lot, making int64, name string, since time.Time, grams float64),
) error {
	rows, err := s.Store.BlendsWithoutNeed(ctx, lots)
	if err != nil || len(rows) == 0 {
		return err
	}
	blends, err := s.recipe.AmountsOf(ctx, rows)
	if err != nil {
		return err
	}
	since, byID := map[int64]time.Time{}, map[int64]recipe.Blend{}
	for _, r := range rows {
		since[r.ID] = r.CreatedAt
	}
	for _, b := range blends {
		byID[b.ID] = b
	}
	makings, err := s.recipe.MakingsOf(ctx, byID)
	if err != nil {
		return err
	}
	for _, b := range blends {
		for lot, grams := range wanted(b, weighed) {
			claim(lot, b.MakingID, makings[b.MakingID], since[b.ID], grams)
		}
	}
	return nil
}

// wanted is what a blend still wants of each lot for its own weight, beyond what its weigh-outs do.
func wanted(b recipe.Blend, weighed map[[2]int64]float64) map[int64]float64 {
	out := map[int64]float64{}
	for _, c := range b.Components {
		if c.LotID == nil {
			continue
		}
		in := b.WayOf(c).WeighIn(b.TotalG * c.Share)
		if more := losses.Lack(in, c.WeighedG+weighed[[2]int64{b.ID, *c.LotID}]); more > 0 {
			out[*c.LotID] += more
		}
	}
	return out
}

// serve says what each claim lacks, where those before it are served first.
func (s *Room) serve(ctx context.Context, list []Claim, ids map[int64]bool) ([]Claim, error) {
	lots, err := s.Store.LotsByID(ctx, slices.Sorted(maps.Keys(ids)))
	left := map[int64]float64{}
	for id, l := range lots {
		left[id] = floor.InGrams(l.GramsMg)
	}
	for i := range list {
		c := &list[i]
		c.LacksG = losses.Lack(c.Grams, left[c.LotID])
		left[c.LotID] = max(0, left[c.LotID]-c.Grams)
	}
	return list, err
}

// wants is what a need still wants of each lot, beyond what the weigh-outs of its blends do.
func wants(n yarns.Need, weighed map[[2]int64]float64) map[int64]float64 {
	out := map[int64]float64{}
	if !n.Enough {
		return out
	}
	for _, b := range n.Blends {
		for _, c := range b.Blend.Components {
			if c.LotID == nil {
				continue
			}
			if more := losses.Lack(b.WeighIn(c), c.WeighedG+weighed[[2]int64{b.ID, *c.LotID}]); more > 0 {
				out[*c.LotID] += more
			}
		}
	}
	if n.Way == "lot" && n.LotID != nil && !n.IsLaid() {
		out[*n.LotID] += n.WeighInG
	}
	return out
}

// SpokenFor is how much of lots is claimed, of all lots where none is named; by others than a making,
// where that is not 0.
func (s *Room) SpokenFor(ctx context.Context, but int64, lots ...int64) (map[int64]float64, error) {
	list, err := s.claims(ctx, lots)
	out := map[int64]float64{}
	for _, c := range list {
		if c.MakingID != but {
			out[c.LotID] += c.Grams
		}
	}
	return out, err
}

// Unclaimed are lots without what other makings than one have spoken for; those of which nothing
// is left are no candidates.
func (s *Room) Unclaimed(ctx context.Context, rows []store.Lot, making int64) (out []store.Lot, err error) {
	taken, err := s.SpokenFor(ctx, making)
	for _, r := range rows {
		if r.GramsMg -= unit.Grams(taken[r.ID]).Milligrams(); r.GramsMg > 0 {
			out = append(out, r)
		}
	}
	return out, err
}
