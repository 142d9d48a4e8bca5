package reach

import (
	"cmp"
	"context"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/match"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

// Candidates are the lots of the shelf that may go into a blend, with what the
// search wants to know of them.
type Candidates struct {
	at    shelf.Mixing
	Lots  []match.Lot
	Parts []recipe.BlendComponent
}

// Candidates gathers what can be used: the shelf's lots with fibre left that
// the wish allows, and what the blend has locked or still to buy. Grams count
// as finished, after the losses of the passes.
func (s *Room) Candidates(ctx context.Context, in recipe.BlendInput, w Wish) (c Candidates, err error) {
	if c.at, err = s.shelf.Mixing(ctx); err != nil {
		return c, err
	}
	if _, ok := c.at.Kinds.Find(w.Kind); w.Kind != "" && !ok {
		return c, fault.New("wish.kind", "There is no kind of fibre with this key.")
	}
	rows, err := s.Store.Stocked(ctx)
	if err != nil {
		return c, err
	}
	b, err := s.recipe.WorkOut(ctx, in)
	if err != nil {
		return c, err
	}
	held := map[int64]bool{}
	for i, v := range b.Components {
		share, keep := v.Share, v.Locked
		if len(w.Kept) > 0 {
			if share, keep = w.Kept[i], true; share == 0 {
				if v.LotID != nil {
					held[*v.LotID] = true
				}
				continue
			}
		}
		if !keep && v.LotID != nil {
			continue
		}
		lot := match.Lot{Available: math.Inf(1), Most: 1, Cost: math.NaN(), InGroup: v.Fibre.Family == "wool"}
		if keep {
			lot.Least, lot.Most = share, share
		}
		if v.LotID != nil {
			held[*v.LotID] = true
		}
		c.add(lot, v.BlendComponent, b.Tints[i])
	}
	rows = slices.DeleteFunc(rows, func(r store.Lot) bool { return held[r.ID] || !w.Allows(r.Kind, r.Preparation, c.at.Kinds) })
	if w.Unclaimed == nil || *w.Unclaimed {
		if rows, err = s.Promises.Unclaimed(ctx, rows, w.MakingID); err != nil {
			return c, err
		}
	}
	for _, r := range thin(rows, match.MaxLots-len(c.Lots)) {
		k := c.at.Kinds.Named(r.Kind)
		lot := match.Lot{Most: 1, Cost: math.NaN(), InGroup: k.Family == "wool"}
		lot.Available = shelf.WayOf(k, in.Passes).Finished(floor.InGrams(r.GramsMg))
		if r.CentsPer100g != nil {
			lot.Cost = float64(*r.CentsPer100g) / 10000
		}
		id := r.ID
		t, _ := shelf.TintOf(&r, "", "", k)
		c.add(lot, recipe.BlendComponent{LotID: &id}, t)
	}
	if len(c.Lots) == 0 {
		return c, fault.New("wish", "Nothing on the shelf fits this wish.")
	}
	return c, nil
}

func (c *Candidates) add(l match.Lot, p recipe.BlendComponent, t shelf.Tint) {
	l.Colour, l.Strength = t.Colour, c.at.StrengthOf(t)
	c.Lots, c.Parts = append(c.Lots, l), append(c.Parts, p)
}

// lightest is the most that CIEDE2000 divides a difference in lightness by (S_L at
// black and white), so that lots further apart in lightness need no second look.
const lightest = 1.75

// thin leaves at most n lots: of those that are nearly alike in colour the
// fullest, and more alike the more there are.
func thin(rows []store.Lot, n int) []store.Lot {
	if len(rows) <= n {
		return rows
	}
	if n <= 0 { // what is still to buy takes all the places
		return nil
	}
	rows = slices.Clone(rows)
	floor.InOrder(rows, func(a, b store.Lot) int { return cmp.Compare(b.GramsMg, a.GramsMg) })
	labs := make([]colour.Lab, len(rows))
	for i, r := range rows {
		labs[i] = floor.MeanLinear(r.Colours).Lab()
	}
	for near := 1.0; ; near *= 1.3 {
		var kept []int
		for i := range rows {
			alike := func(j int) bool {
				return math.Abs(labs[i].L-labs[j].L) < lightest*near && colour.CIEDE2000(labs[i], labs[j]) < near
			}
			if !slices.ContainsFunc(kept, alike) {
				kept = append(kept, i)
			}
			if len(kept) > n {
				break
			}
		}
		if len(kept) <= n {
			out := make([]store.Lot, len(kept))
			for i, k := range kept {
				out[i] = rows[k]
			}
			return out
		}
	}
}

// Promises knows what of the shelf others have spoken for.
type Promises interface {
	// Unclaimed are lots without what other makings than one have spoken for.
	Unclaimed(ctx context.Context, rows []store.Lot, making int64) ([]store.Lot, error)
}
