package reach

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/gradient"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

// A range of a blend: its tints and shades, in steps, by a lot that lightens it and one that darkens it.

// RangeQuery asks for a range of a blend. A lot of 0 is the lightest, or the darkest, that there is enough of.
type RangeQuery struct {
	Lighter, Darker           int64
	LighterSteps, DarkerSteps int
	ByShares                  bool    // else even to the eye
	Most                      float64 // the share of what is added in the last of a side; 0: as is usual
	EachG                     float64 // 0: as the blend
}

// Ranged is a range, the lightest first.
type Ranged struct {
	Blends          []RangedBlend
	Totals          []RangedTotal
	Lighter, Darker *shelf.Lot
	Choice          []shelf.Lot // what can lighten or darken it, from light to dark
	EachG           float64
}

// RangedBlend is a blend of it: below 0 a tint, above 0 a shade.
type RangedBlend struct {
	Place      int
	Name       string
	Hex        string
	Jump       float64 // CIEDE2000 to the next; 0 of the last
	Components []recipe.BlendComponent
	Names      []string
	Grams      []float64 // of each component, finished, in whole steps of the scale
}

// RangedTotal is what all of it takes of a fibre, weighed in, against the shelf.
type RangedTotal struct {
	Name         string
	Grams, LackG float64
	Have         *float64
}

// Of a range: how many grams there are at least of what lightens or darkens where nobody chose it, and its largest share.
const (
	enoughToShade = 10.0
	usualMost     = 0.8
	notWool       = 6.0 // of lightness, by which wool is preferred: it cards with most fibre
)

// RangeOf plans the range of a blend that is kept.
func (s *Room) RangeOf(ctx context.Context, blend int64, q RangeQuery) (out Ranged, err error) {
	b, err := s.recipe.Blend(ctx, blend)
	if err != nil {
		return out, err
	}
	if len(b.Components) == 0 {
		return out, fault.New("components", "The blend is empty. Put fibre into it first.")
	}
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return out, err
	}
	if err := s.shading(ctx, at, &out, &q); err != nil {
		return out, err
	}
	if out.EachG = q.EachG; q.EachG == 0 {
		out.EachG = b.TotalG
	}
	r := ranged{b: b, at: at, out: &out, step: floor.InGrams(at.Settings.StepMg)}
	if err := r.side(out.Lighter, q.LighterSteps, -1, q); err != nil {
		return out, err
	}
	slices.Reverse(out.Blends)
	r.add(nil, 0, 0)
	if err := r.side(out.Darker, q.DarkerSteps, 1, q); err != nil {
		return out, err
	}
	for i := range len(out.Blends) - 1 {
		x, _ := colour.ParseHex(out.Blends[i].Hex)
		y, _ := colour.ParseHex(out.Blends[i+1].Hex)
		out.Blends[i].Jump = colour.CIEDE2000(x.Lab(), y.Lab())
	}
	r.totals()
	return out, nil
}

// shading finds what lightens and what darkens: what was chosen, else the lightest and the darkest that there is enough of.
func (s *Room) shading(ctx context.Context, at shelf.Mixing, out *Ranged, q *RangeQuery) error {
	rows, _, err := s.Store.Lots(ctx, shelf.LotFilter{Stock: "some"})
	if err != nil {
		return err
	}
	light, pale, deep := map[int64]float64{}, map[int64]float64{}, map[int64]float64{}
	for _, r := range rows {
		v := shelf.LotOf(r, at.Kinds)
		c, _ := colour.ParseHex(v.MeanHex)
		lab := c.Lab()
		off := lab.Chroma() / 2 // a clear colour would turn it
		if v.Fibre.Family != "wool" {
			off += notWool
		}
		light[v.ID], pale[v.ID], deep[v.ID] = lab.L, lab.L-off, -lab.L-off
		out.Choice = append(out.Choice, v)
	}
	floor.InOrder(out.Choice, func(a, b shelf.Lot) int { return cmp.Compare(light[b.ID], light[a.ID]) })
	pick := func(id int64, by map[int64]float64) (best *shelf.Lot) {
		for i, v := range out.Choice {
			usual := id == 0 && v.Grams >= enoughToShade && v.Fibre.Family != "sparkle" && v.Fibre.Role != "texture"
			if v.ID == id || usual && (best == nil || by[v.ID] > by[best.ID]) {
				best = &out.Choice[i]
			}
		}
		return best
	}
	out.Lighter, out.Darker = pick(q.Lighter, pale), pick(q.Darker, deep)
	if q.LighterSteps > 0 && out.Lighter == nil {
		return fault.New("lighter", "Choose what lightens it.")
	}
	if q.DarkerSteps > 0 && out.Darker == nil {
		return fault.New("darker", "Choose what darkens it.")
	}
	return nil
}

// ranged is a range that is being planned.
type ranged struct {
	b    recipe.Blend
	at   shelf.Mixing
	out  *Ranged
	step float64
}

// tintOf is the colour of a lot as mixes see it.
func (r ranged) tintOf(v shelf.Lot) shelf.Tint {
	row := store.Lot{Base: store.Base{ID: v.ID}}
	for _, c := range v.Colours {
		row.Colours = append(row.Colours, store.Colour(c))
	}
	t, _ := shelf.TintOf(&row, "", v.MeanHex, v.Fibre)
	return t
}

// side adds the blends of one side, from the base outwards.
func (r ranged) side(added *shelf.Lot, steps, way int, q RangeQuery) error {
	if steps == 0 {
		return nil
	}
	tint := r.tintOf(*added)
	g := gradient.Range{Base: shelf.Colours(r.b.Tints), Shares: r.b.Shares(), Added: tint.Colour, Steps: steps,
		Most: or(q.Most, usualMost), Even: !q.ByShares, Model: r.at.Model}
	places, err := g.Places()
	if err != nil {
		if l, ok := fault.From(err); ok && l[0].Field == "steps" {
			l[0].Field = map[int]string{-1: "lighter_steps", 1: "darker_steps"}[way]
		}
		return err
	}
	for i, share := range places {
		r.add(added, share, way*(i+1))
	}
	return nil
}

func or(v, usual float64) float64 {
	if v == 0 {
		return usual
	}
	return v
}

// add is a blend of the range: the base with a share of what is added.
func (r ranged) add(added *shelf.Lot, share float64, place int) {
	v := RangedBlend{Place: place, Name: rangeName(r.b.Name, place)}
	tints, weights := slices.Clone(r.b.Tints), []float64{}
	for i, c := range r.b.Components {
		p := c.BlendComponent
		p.Locked = false
		v.Components, v.Names = append(v.Components, p), append(v.Names, c.Name)
		weights = append(weights, r.b.Shares()[i]*(1-share))
	}
	if added != nil {
		same := func(c recipe.BlendComponent) bool { return c.LotID != nil && *c.LotID == added.ID && c.Only == "" }
		if i := slices.IndexFunc(v.Components, same); i >= 0 {
			weights[i] += share
		} else {
			v.Components = append(v.Components, recipe.BlendComponent{
				LotID: &added.ID, Name: added.Name, Kind: added.Kind, Preparation: added.Preparation, Hex: added.MeanHex,
			})
			v.Names, tints, weights = append(v.Names, added.Name), append(tints, r.tintOf(*added)), append(weights, share)
		}
	}
	mixed := r.at.Even(tints, weights)
	v.Hex = mixed.Linear().Hex()
	exact := make([]float64, len(weights))
	for i, w := range weights {
		exact[i] = w * r.out.EachG / r.step
	}
	for i, n := range weigh.Apportion(exact, int64(math.Round(r.out.EachG/r.step))) {
		g := unit.Clean(float64(n) * r.step)
		v.Grams = append(v.Grams, g)
		v.Components[i].Parts = g
	}
	r.out.Blends = append(r.out.Blends, v)
}

// rangeName is what a blend of a range is called.
func rangeName(base string, place int) string {
	switch {
	case place < 0:
		return fmt.Sprintf("%s, tint %d", base, -place)
	case place > 0:
		return fmt.Sprintf("%s, shade %d", base, place)
	}
	return base
}

// totals adds up what all of it takes, weighed in, and what the shelf lacks; the base itself is planned already.
func (r ranged) totals() {
	for _, b := range r.out.Blends {
		if b.Place == 0 {
			continue
		}
		for i, c := range b.Components {
			if b.Grams[i] == 0 {
				continue
			}
			k := slices.IndexFunc(r.out.Totals, func(t RangedTotal) bool { return t.Name == b.Names[i] })
			if k < 0 {
				k = len(r.out.Totals)
				r.out.Totals = append(r.out.Totals, RangedTotal{Name: b.Names[i]})
				if j := slices.IndexFunc(r.out.Choice, func(l shelf.Lot) bool { return c.LotID != nil && l.ID == *c.LotID }); j >= 0 {
					r.out.Totals[k].Have = &r.out.Choice[j].Grams
				}
			}
			r.out.Totals[k].Grams += shelf.WayOf(r.at.Kinds.Named(c.Kind), r.b.LosesIn).WeighIn(b.Grams[i])
		}
	}
	for i := range r.out.Totals {
		t := &r.out.Totals[i]
		have := 0.0
		if t.Have != nil {
			have = *t.Have
		}
		t.LackG = losses.Lack(t.Grams, have)
	}
}

// MakeRange makes blends of a range in the making of its base.
func (s *Room) MakeRange(ctx context.Context, blend int64, q RangeQuery) (making int64, err error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (int64, error) {
		b, err := s.recipe.Blend(ctx, blend)
		if err != nil {
			return 0, err
		}
		out, err := s.RangeOf(ctx, blend, q)
		if err != nil {
			return 0, err
		}
		var list []recipe.BlendInput
		for _, v := range out.Blends {
			if v.Place == 0 {
				continue
			}
			in := recipe.BlendInput{Name: v.Name, Passes: b.Passes, TotalG: out.EachG}
			for _, c := range v.Components {
				if c.Parts > 0 {
					in.Components = append(in.Components, c)
				}
			}
			list = append(list, in)
		}
		if len(list) == 0 {
			return 0, fault.New("lighter_steps", "Say how many tints or shades it is to have.")
		}
		_, err = s.recipe.CreateBlends(ctx, b.MakingID, list)
		return b.MakingID, err
	})
}
