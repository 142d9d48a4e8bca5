package recipe

import (
	"context"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/blend"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
)

// Change is one thing done to a recipe. Value is in the verb's own unit.
//
//	share          component At gets Value (0..1), the others give way
//	slide          component At gets Value, only the next one gives way
//	parts          component At gets Value parts
//	grams          component At gets Value grams of the finished total
//	lock, unlock   component At
//	add            Component joins with the share Value (0: an equal one)
//	remove         component At leaves, the others take its place
//	remove-shrink  component At leaves, the others keep their weight
//	use-all        the total that takes all there is of component At
//	largest        the total that the shelf allows
//	even           equal shares for everything that is not locked
//	forget         how it came out is no longer counted
//	mend           what ends the finding of the rule Key of component At
//
// Key names the component in place of At, whatever has moved in the meantime.
type Change struct {
	Verb      string          `json:"verb"`
	Key       string          `json:"key"`
	At        int             `json:"at"`
	Value     float64         `json:"value"`
	Component *BlendComponent `json:"component,omitempty"`
	// Settled names components that hold their share while the others give way to
	// share and grams, the first to give up first where there is no room.
	Settled []string `json:"settled,omitempty"`
}

// Apply does one change to a recipe and looks at the result. Nothing is kept.
func (s *Room) Apply(ctx context.Context, in BlendInput, c Change) (Blend, error) {
	return s.ApplyAt(ctx, 0, in, &c)
}

// ApplyAt is Apply for a kept blend; without a change it only looks.
func (s *Room) ApplyAt(ctx context.Context, blend int64, in BlendInput, c *Change) (Blend, error) {
	if c != nil && c.Verb == "mend" {
		out, err := s.BlendMender.MendByLook(ctx, blend, in, c.Key, c.At)
		if err != nil {
			return Blend{}, err
		}
		in, c = out, nil
	}
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return Blend{}, err
	}
	if c == nil {
		return s.workOutAt(ctx, at, blend, in)
	}
	var before Blend
	if c.Verb == "use-all" || c.Verb == "largest" { // what the shelf has decides
		before, err = s.workOutAt(ctx, at, blend, in)
	} else { // a drag is one look
		err = in.check(at.Kinds)
	}
	if err != nil {
		return Blend{}, err
	}
	out, err := change(before, in, *c)
	if err != nil {
		return Blend{}, err
	}
	return s.workOutAt(ctx, at, blend, out)
}

// change works out what a change makes of a recipe; b is what the shelf says of it, for the verbs that
// ask.
func change(b Blend, in BlendInput, c Change) (BlendInput, error) {
	n := len(in.Components)
	if c.Key != "" {
		if c.At = slices.Index(keysOf(in.Components), c.Key); c.At < 0 {
			return in, fault.New("at", "This fibre is no longer in the blend.")
		}
	}
	if c.Verb == "forget" {
		in.Came = nil
		return in, nil
	}
	do, known := recipeVerbs[c.Verb]
	if !known {
		return in, fault.New("verb", "There is no change called %q.", c.Verb)
	}
	if c.Verb != "add" && c.Verb != "largest" && c.Verb != "even" && (c.At < 0 || c.At >= n) {
		return in, fault.New("at", "There is no such component.")
	}
	if math.IsNaN(c.Value) || math.IsInf(c.Value, 0) {
		return in, fault.New("value", "Enter a number.")
	}
	r := recipe{Change: c, before: b, in: in, parts: make(blend.Blend, n), components: slices.Clone(in.Components)}
	for i, p := range in.Components {
		r.parts[i] = blend.Part{Parts: p.Parts, Locked: p.Locked}
	}
	if err := do(&r); err != nil {
		return in, err
	}
	for i := range r.components {
		r.components[i].Parts, r.components[i].Locked = r.parts[i].Parts, r.parts[i].Locked
	}
	in = r.in
	in.Components = r.components
	// Whole milligrams, never more than what the shelf gives.
	in.TotalG = math.Floor(in.TotalG*1000+1e-6) / 1000
	return in, nil
}

// recipe is a recipe that is being changed.
type recipe struct {
	Change
	before     Blend
	in         BlendInput
	parts      blend.Blend
	components []BlendComponent
}

// recipeVerbs are the changes of a recipe.
var recipeVerbs = map[string]func(*recipe) error{
	"share":  func(r *recipe) error { return r.hold(r.Value) },
	"grams":  func(r *recipe) error { return r.hold(r.Value / r.in.TotalG) },
	"slide":  func(r *recipe) (err error) { r.parts, err = r.parts.Slide(r.At, r.Value); return err },
	"parts":  func(r *recipe) (err error) { r.parts, err = r.parts.SetParts(r.At, r.Value); return err },
	"lock":   func(r *recipe) error { r.parts[r.At].Locked = true; return nil },
	"unlock": func(r *recipe) error { r.parts[r.At].Locked = false; return nil },
	"add": func(r *recipe) (err error) {
		if r.Component == nil {
			return fault.New("component", "Choose what to add.")
		}
		if len(r.parts) > 0 && r.Value == 0 {
			r.Value = freeShare(r.parts) / float64(freeCount(r.parts)+1)
		}
		r.components = append(r.components, *r.Component)
		r.parts, err = r.parts.Add(r.Value)
		return err
	},
	"remove": func(r *recipe) (err error) {
		if r.components = slices.Delete(r.components, r.At, r.At+1); len(r.components) > 0 {
			r.parts, err = r.parts.Remove(r.At)
		}
		return err
	},
	"remove-shrink": func(r *recipe) (err error) {
		var left float64
		r.components = slices.Delete(r.components, r.At, r.At+1)
		r.parts, left, err = r.parts.RemoveShrinking(r.At)
		r.in.TotalG *= left
		return err
	},
	"use-all": func(r *recipe) (err error) { r.in.TotalG, err = r.before.useAll(r.At); return err },
	"largest": func(r *recipe) error {
		if r.before.LargestG == nil || *r.before.LargestG <= 0 {
			return fault.New("total_g", "Nothing on the shelf limits this blend, or there is none left of a lot.")
		}
		r.in.TotalG = *r.before.LargestG
		return nil
	},
	"even": func(r *recipe) error {
		each := freeShare(r.parts) * r.parts.Total() / float64(max(1, freeCount(r.parts)))
		for i := range r.parts {
			if !r.parts[i].Locked {
				r.parts[i].Parts = each
			}
		}
		return nil
	},
}

// hold sets a share, while those that were settled keep theirs.
func (r *recipe) hold(share float64) (err error) {
	r.parts, err = setHolding(r.parts, r.At, share, keyed(r.in.Components, r.Settled))
	return err
}

// keyed returns the places of the components that are named.
func keyed(list []BlendComponent, names []string) (out []int) {
	keys := keysOf(list)
	for _, n := range names {
		if at := slices.Index(keys, n); at >= 0 {
			out = append(out, at)
		}
	}
	return out
}

// setHolding sets a share while those that hold keep theirs; where they leave
// no room, the first of them gives way with the others.
func setHolding(b blend.Blend, at int, share float64, hold []int) (blend.Blend, error) {
	for {
		held := slices.Clone(b)
		for _, i := range hold {
			held[i].Locked = held[i].Locked || i != at
		}
		out, err := held.SetShare(at, share)
		if err == nil || len(hold) == 0 {
			for i := range out {
				out[i].Locked = b[i].Locked
			}
			return out, err
		}
		hold = hold[1:]
	}
}

// useAll is the finished total that takes all there is of component i.
func (b Blend) useAll(i int) (float64, error) {
	c := b.Components[i]
	if c.HaveG == nil || *c.HaveG <= 0 {
		return 0, fault.New(fmt.Sprintf("components[%d].share", i), "There is none of it on the shelf.")
	}
	return float64(blend.UsingAll(blend.Stock{Have: unit.Grams(*c.HaveG + c.WeighedG), Yield: b.WayOf(c).Yield()}, c.Share)), nil
}

func freeShare(b blend.Blend) float64 {
	free := 1.0
	for i, s := range b.Shares() {
		if b[i].Locked {
			free -= s
		}
	}
	return free
}

func freeCount(b blend.Blend) (n int) {
	for _, p := range b {
		if !p.Locked {
			n++
		}
	}
	return n
}

// BlendMender mends a blend by what the second look found.
type BlendMender interface {
	MendByLook(ctx context.Context, id int64, in BlendInput, rule string, component int) (BlendInput, error)
}

// ChangeBlend does one change to a kept blend.
func (s *Room) ChangeBlend(ctx context.Context, id, version int64, c Change) (Blend, error) {
	return floor.Changed(ctx, id, version, s.Blend, func(now Blend) (Blend, error) { return s.ApplyAt(ctx, id, now.Input(), &c) },
		func(ctx context.Context, id, version int64, next Blend) (Blend, error) {
			return s.SaveBlend(ctx, id, version, next.Input(), "")
		})
}
