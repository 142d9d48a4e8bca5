package yarns

import (
	"context"
	"errors"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/yarn"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
)

// WholePlan is how the blends of a making are spun one after the other. Of Order, blends that are not named come after; of Leave none
// is spun. Grist is that of a single, m in 100 g; 0: as the need or the skeins of the making have it.
type WholePlan struct {
	Order []int64
	Leave []int64
	Ply   string
	Split string
	Plain []string // colours of strands beside it
	Grist float64
	Dye   string  // the colour that a dye makes of white, in which all of it is dyed over; empty: it is not
	Depth float64 // how much of that dye, of what makes white that colour; 0: as much
	Piece WorkedPlan
}

// WholeYarn is the yarn of all of a making.
type WholeYarn struct {
	yarn.Sequenced
	Plan  WholePlan
	Rungs []recipe.Blend // as they are spun
	Left  []recipe.Blend // blends that are not spun
	Held  [][]yarn.Held  // what each strand takes of each rung
	Jumps [2]float64     // the widest step between two rungs: as they were carded, and dyed over
	Piece WorkedYarn

	carded []colour.Linear // of each rung, before it is dyed over
}

// Whole works out the yarn of a making: its blends one after the other, as they would be carded even. What is wrong with how it is
// plied comes with what could be worked out without it.
func (s *Room) Whole(ctx context.Context, making int64, p WholePlan) (WholeYarn, error) {
	out := WholeYarn{Plan: p}
	blends, err := s.recipe.BlendsOf(ctx, making)
	if err != nil {
		return out, err
	}
	place := func(b recipe.Blend) int {
		if i := slices.Index(p.Order, b.ID); i >= 0 {
			return i
		}
		return len(p.Order)
	}
	floor.InOrder(blends, func(a, b recipe.Blend) int { return place(a) - place(b) })
	sp, err := s.spinningOfMaking(ctx, making, p)
	if err != nil {
		return out, err
	}
	out.Plan.Grist = yarn.GristOf(1000, sp.Tex)
	var l fault.List
	dyed := dyeOf(p, &l)
	q := yarn.Sequence{Ply: p.Ply, Split: p.Split, Tex: sp.Tex, TakeUp: sp.TakeUpPct / 100, Waste: sp.WastePct / 100, Jump: yarn.UsualJump}
	for _, b := range blends {
		c, err := colour.ParseHex(b.Hex)
		if err != nil || b.TotalG <= 0 || slices.Contains(p.Leave, b.ID) {
			out.Left = append(out.Left, b)
			continue
		}
		out.Rungs = append(out.Rungs, b)
		q.Rungs = append(q.Rungs, yarn.Rung{Grams: b.TotalG, Colour: dyed(c)})
		out.carded = append(out.carded, c)
	}
	if len(out.Rungs) == 0 {
		return out, nil
	}
	for _, text := range p.Plain {
		c, ok := colourNamed(text)
		if !ok {
			l.Add("plain", notAColour)
			continue
		}
		q.Plain = append(q.Plain, c)
	}
	if out.Sequenced, err = q.Spin(); err != nil {
		return out, err
	}
	out.Held = q.Held()
	for i := range q.Rungs[1:] {
		out.Jumps[0] = max(out.Jumps[0], colour.CIEDE2000(out.carded[i].Lab(), out.carded[i+1].Lab()))
		out.Jumps[1] = max(out.Jumps[1], colour.CIEDE2000(q.Rungs[i].Colour.Lab(), q.Rungs[i+1].Colour.Lab()))
	}
	if out.Piece, err = s.worked(ctx, making, out, p.Piece); err != nil {
		return out, err
	}
	return out, l.Err()
}

// spinningOfMaking is how a making is spun: as asked, as its need and the maker's skeins say, else as usual.
func (s *Room) spinningOfMaking(ctx context.Context, making int64, p WholePlan) (Spinning, error) {
	shown, err := s.ShownBySkeins(ctx)
	if err != nil {
		return Spinning{}, err
	}
	in := YarnPlan{Ply: p.Ply, Grist: p.Grist}
	n, err := s.NeedOf(ctx, making)
	switch {
	case err == nil:
		return spinningOf(in, &n, shown), nil
	case errors.Is(err, floor.ErrNotFound):
		return spinningOf(in, nil, shown), nil
	}
	return Spinning{}, err
}

// Bridge makes a blend between two of a making that softens the step from one to the other: equal shares of both, two thirds of the
// lighter one. It is a blend like the others, with its place in the weigh list.
func (s *Room) Bridge(ctx context.Context, making, from, to int64) (recipe.Blend, error) {
	by, err := s.recipe.BlendsByID(ctx, []int64{from, to})
	if err != nil {
		return recipe.Blend{}, err
	}
	a, b := by[from], by[to]
	if from == to || a.MakingID != making || b.MakingID != making || len(a.Components) == 0 || len(b.Components) == 0 {
		return recipe.Blend{}, fault.New("from", "A bridge lies between two blends of this making.")
	}
	in := recipe.BlendInput{Name: bridgeName(a, b), TotalG: 2 * min(a.TotalG, b.TotalG) / 3, Passes: max(a.Passes, b.Passes, 1)}
	for _, half := range []recipe.Blend{a, b} {
		for _, c := range half.Components {
			part := c.BlendComponent
			part.Parts, part.Locked = 50*c.Share, false
			at := slices.IndexFunc(in.Components, func(v recipe.BlendComponent) bool { return sameFibre(v, part) })
			if at < 0 {
				in.Components = append(in.Components, part)
				continue
			}
			in.Components[at].Parts += part.Parts
		}
	}
	return s.recipe.CreateBlend(ctx, making, in)
}

// bridgeName names a bridge by what it lies between.
func bridgeName(a, b recipe.Blend) string {
	name := []rune(a.Name + " to " + b.Name)
	return string(name[:min(len(name), floor.MaxName)])
}

func sameFibre(a, b recipe.BlendComponent) bool {
	if (a.LotID == nil) != (b.LotID == nil) || a.LotID != nil && *a.LotID != *b.LotID {
		return false
	}
	return a.Name == b.Name && a.Kind == b.Kind && a.Preparation == b.Preparation && a.Hex == b.Hex && a.Only == b.Only && a.OwnG == b.OwnG
}
