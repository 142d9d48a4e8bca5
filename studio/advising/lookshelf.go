package advising

import (
	"cmp"
	"context"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/colour"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

// mostOffered is how many lots of wool are looked at for what was promised of them.
const mostOffered = 8

// wools are the lots of grippy wool on the shelf that a blend has not, the nearest to its colour first, with what nobody else was
// promised of them. They are read when something asks for them, and once.
func (s *Room) wools(ctx context.Context, b recipe.Blend, stock shelf.Mixing) func() []advice.Stocked {
	var out []advice.Stocked
	asked := false
	return func() []advice.Stocked {
		if asked {
			return out
		}
		asked = true
		rows, err := s.Store.Stocked(ctx)
		if err != nil {
			return nil // then no mend is offered from there; the page is there without
		}
		held := map[int64]bool{}
		for _, c := range b.Components {
			if c.LotID != nil {
				held[*c.LotID] = true
			}
		}
		weights := make([]float64, len(b.Components))
		for i, c := range b.Components {
			weights[i] = c.Share
		}
		even := stock.Even(b.Tints, weights)
		far := map[int64]float64{}
		rows = slices.DeleteFunc(rows, func(r store.Lot) bool {
			k := stock.Kinds.Named(r.Kind)
			if held[r.ID] || k.Family != "wool" || k.Cohesion != "grippy" || r.Preparation == "raw_fleece" || r.Preparation == "rolag" {
				return true
			}
			far[r.ID] = colour.CIEDE2000(even.Lab(), floor.MeanLinear(r.Colours).Lab())
			return false
		})
		floor.InOrder(rows, func(a, b store.Lot) int { return cmp.Compare(far[a.ID], far[b.ID]) })
		rows = rows[:min(len(rows), mostOffered)]
		if rows, err = s.reach.Promises.Unclaimed(ctx, rows, b.MakingID); err != nil {
			return nil
		}
		ids := make([]int64, len(rows))
		for i, r := range rows {
			ids[i] = r.ID
		}
		whole, err := s.Store.LotsByID(ctx, ids)
		if err != nil {
			return nil
		}
		for _, r := range rows {
			lot := whole[r.ID]
			lot.GramsMg = r.GramsMg // less what was promised of it
			out = append(out, stocked(lot, b, stock))
		}
		return out
	}
}

// stocked is a lot of the shelf as the rules know it, and the colour of a blend with it.
func stocked(r store.Lot, b recipe.Blend, stock shelf.Mixing) advice.Stocked {
	k, have := stock.Kinds.Named(r.Kind), floor.InGrams(r.GramsMg)
	t, _ := shelf.TintOf(&r, "", "", k)
	lab := t.Colour.Lab()
	tints := append(slices.Clone(b.Tints), t)
	f := advice.Fibre{Name: r.Name, Kind: k, Preparation: r.Preparation, StapleMM: k.StapleMM.Mid(), Joins: 1, Lab: &lab, HaveG: &have, Superwash: r.Superwash}
	if r.StapleMM != nil {
		f.StapleMM = *r.StapleMM
	}
	return advice.Stocked{Fibre: f, Lot: r.ID, Mix: func(shares []float64) colour.Lab {
		even := stock.Even(tints, shares)
		return even.Lab()
	}}
}
