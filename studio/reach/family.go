package reach

import (
	"context"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
)

// The blends of a making seen together, as they would lie side by side in the piece.

// Family is the blends of a making that hold fibre, in an order.
type Family struct {
	Blends []FamilyBlend
	Common []FamilyFibre // what all of them hold
	Median float64       // of the jumps, CIEDE2000
}

// FamilyBlend is a blend beside the next.
type FamilyBlend struct {
	recipe.Blend
	Lightness float64
	Jump      float64 // to the next, CIEDE2000; 0 of the last
	Lighter   float64 // the next is, in L*
	Abrupt    bool    // a jump of twice what is usual in it
	Own       []string
}

// FamilyFibre is a lot that all blends hold, by from how much to how much.
type FamilyFibre struct {
	LotID     int64
	Name      string
	Low, High float64 // share
}

// twiceUsual is from how many times the median a jump is abrupt, as the rule of steps has it.
const twiceUsual = 2.0

// FamilyOf puts the blends of a making beside each other: in an order, those that are not named after the others.
func (s *Room) FamilyOf(ctx context.Context, making int64, order []int64) (out Family, err error) {
	list, err := s.recipe.BlendsOf(ctx, making)
	if err != nil {
		return out, err
	}
	list = slices.DeleteFunc(slices.Clone(list), func(b recipe.Blend) bool { return len(b.Components) == 0 })
	place := func(b recipe.Blend) int {
		if i := slices.Index(order, b.ID); i >= 0 {
			return i
		}
		return len(order)
	}
	floor.InOrder(list, func(a, b recipe.Blend) int { return place(a) - place(b) })
	out.common(list)
	var jumps []float64
	for i, b := range list {
		lab := b.Even.Lab()
		v := FamilyBlend{Blend: b, Lightness: lab.L}
		if i+1 < len(list) {
			next := list[i+1].Even.Lab()
			v.Jump, v.Lighter = colour.CIEDE2000(lab, next), next.L-lab.L
			jumps = append(jumps, v.Jump)
		}
		for _, c := range b.Components {
			shared := c.LotID != nil && slices.ContainsFunc(out.Common, func(f FamilyFibre) bool { return f.LotID == *c.LotID })
			if !shared {
				v.Own = append(v.Own, c.Name)
			}
		}
		out.Blends = append(out.Blends, v)
	}
	slices.Sort(jumps)
	if n := len(jumps); n > 0 {
		out.Median = (jumps[(n-1)/2] + jumps[n/2]) / 2
	}
	for i := range out.Blends {
		b := &out.Blends[i]
		b.Abrupt = len(jumps) > 1 && b.Jump > twiceUsual*out.Median
	}
	return out, nil
}

// common finds what all blends hold.
func (f *Family) common(list []recipe.Blend) {
	if len(list) < 2 {
		return
	}
	for _, c := range list[0].Components {
		if c.LotID == nil || c.Only != "" {
			continue
		}
		v := FamilyFibre{LotID: *c.LotID, Name: c.Name, Low: 1}
		all := true
		for _, b := range list {
			i := slices.IndexFunc(b.Components, func(o recipe.Component) bool { return o.LotID != nil && *o.LotID == v.LotID && o.Only == "" })
			if all = all && i >= 0; i >= 0 {
				v.Low, v.High = min(v.Low, b.Components[i].Share), max(v.High, b.Components[i].Share)
			}
		}
		if all {
			f.Common = append(f.Common, v)
		}
	}
}

// ChangeBase puts another lot in the place of one in all blends of a making that hold it, at one go; how many they were.
func (s *Room) ChangeBase(ctx context.Context, making, from, to int64) (n int, err error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (n int, err error) {
		lot, err := s.shelf.Lot(ctx, to)
		if err != nil {
			return 0, err
		}
		list, err := s.recipe.BlendsOf(ctx, making)
		if err != nil {
			return 0, err
		}
		for _, b := range list {
			in := b.Input()
			in.Components = slices.Clone(in.Components)
			i := slices.IndexFunc(in.Components, func(c recipe.BlendComponent) bool { return c.LotID != nil && *c.LotID == from && c.Only == "" })
			if i < 0 || from == to {
				continue
			}
			if slices.ContainsFunc(in.Components, func(c recipe.BlendComponent) bool { return c.LotID != nil && *c.LotID == to && c.Only == "" }) {
				return 0, fault.New("to", "%s holds %s already: change that one by itself.", b.Name, lot.Name)
			}
			c := &in.Components[i]
			*c = recipe.BlendComponent{LotID: &lot.ID, Name: lot.Name, Kind: lot.Kind, Preparation: lot.Preparation, Hex: lot.MeanHex, Parts: c.Parts, Locked: c.Locked}
			if _, err := s.recipe.SaveBlend(ctx, b.ID, b.Version, in, "another base for all"); err != nil {
				return 0, err
			}
			n++
		}
		if n == 0 {
			return 0, fault.New("to", "No blend would change.")
		}
		return n, nil
	})
}
