package given

import (
	"cmp"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
)

// Lot is fibre of another shelf. Grams are finished, of what is free.
type Lot struct {
	ID          int64
	Kind        fibre.Kind
	Preparation string
	StapleMM    float64
	Lab         colour.Lab
	Grams       float64
}

// Near is how near a lot comes to a component of a recipe.
type Near struct {
	Lot        int     // its index
	DeltaE     float64 // CIEDE2000 of their colours
	SameKind   bool
	SameFamily bool
	Ratio      float64 // of the lot's staple to the component's; 1 where either is not known
	LacksG     float64 // that the lot is short of
	far        float64
}

// What counts how much where nothing is the same (judgement: a maker takes another wool before another colour, and another colour
// before a silk for a wool), in CIEDE2000 of a colour that is off.
const (
	otherKind     = 8
	otherFamily   = 40
	otherPrepared = 3
	perDoubling   = 12 // of length
	allLacks      = 30
	// MostFar is from where on a lot is no stand-in: it is better bought.
	MostFar = 45
)

// Far is how far a lot is from the component, in CIEDE2000 that would count as much.
func (n Near) Far() float64 { return n.far }

// Close reports whether a lot can stand in for the component.
func (n Near) Close() bool { return n.far < MostFar }

// Nearest lists the lots that come nearest to a component of which so many grams are wanted, at most so many, the nearest first; equal
// ones in the order of their numbers.
func Nearest(c Component, grams float64, lots []Lot, most int) []Near {
	want, _ := colour.ParseHex(c.Colour)
	lab, long := want.Lab(), c.Staple()
	out := make([]Near, 0, len(lots))
	for i, l := range lots {
		n := Near{
			Lot: i, DeltaE: colour.CIEDE2000(lab, l.Lab), SameKind: c.Kind != "" && l.Kind.Key == c.Kind, SameFamily: l.Kind.Family == c.Family(), Ratio: 1,
			LacksG: max(0, grams-l.Grams),
		}
		if long > 0 && l.StapleMM > 0 {
			n.Ratio = l.StapleMM / long
		}
		n.far = n.DeltaE + perDoubling*math.Abs(math.Log2(n.Ratio))
		switch {
		case n.SameKind:
		case n.SameFamily || c.Kind == "":
			n.far += otherKind
		default:
			n.far += otherFamily
		}
		if l.Preparation != c.Preparation {
			n.far += otherPrepared
		}
		if grams > 0 {
			n.far += allLacks * n.LacksG / grams
		}
		out = append(out, n)
	}
	slices.SortFunc(out, func(a, b Near) int {
		return cmp.Or(cmp.Compare(a.far, b.far), cmp.Compare(lots[a.Lot].ID, lots[b.Lot].ID))
	})
	return out[:min(most, len(out))]
}

// Stand chooses for each component of a recipe, the largest first, the nearest lot that can stand in for it, from what those before have
// left of it; -1: better bought. Grams are those wanted of each.
func Stand(r Recipe, grams []float64, lots []Lot) []int {
	left := slices.Clone(lots)
	order, out := make([]int, len(r.Components)), make([]int, len(r.Components))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(grams[b], grams[a]) })
	for _, i := range order {
		out[i] = -1
		if list := Nearest(r.Components[i], grams[i], left, 1); len(list) > 0 && list[0].Close() {
			out[i] = list[0].Lot
			left[out[i]].Grams -= grams[i] - list[0].LacksG
		}
	}
	return out
}
