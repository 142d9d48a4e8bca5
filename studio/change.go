package studio

import (
	"context"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/blend"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
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
func (s *Studio) Apply(ctx context.Context, in BlendInput, c Change) (Blend, error) {
	return s.ApplyAt(ctx, 0, in, &c)
}

// ApplyAt is Apply for a kept blend; without a change it only looks.
func (s *Studio) ApplyAt(ctx context.Context, blend int64, in BlendInput, c *Change) (Blend, error) {
	if c == nil {
		return s.LookAt(ctx, blend, in)
	}
	if c.Verb == "mend" {
		out, err := s.MendByLook(ctx, blend, in, c.Key, c.At)
		if err != nil {
			return Blend{}, err
		}
		return s.LookAt(ctx, blend, out)
	}
	var before Blend
	var err error
	if c.Verb == "use-all" || c.Verb == "largest" { // what the shelf has decides
		before, err = s.LookAt(ctx, blend, in)
	} else { // a drag is one look
		err = s.checkBlend(ctx, &in)
	}
	if err != nil {
		return Blend{}, err
	}
	out, err := change(before, in, *c)
	if err != nil {
		return Blend{}, err
	}
	return s.LookAt(ctx, blend, out)
}

func (s *Studio) checkBlend(ctx context.Context, in *BlendInput) error {
	kinds, err := s.AllKinds(ctx, true)
	if err != nil {
		return err
	}
	return in.check(kinds)
}

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
	if c.Verb != "add" && c.Verb != "largest" && c.Verb != "even" && (c.At < 0 || c.At >= n) {
		return in, fault.New("at", "There is no such component.")
	}
	if math.IsNaN(c.Value) || math.IsInf(c.Value, 0) {
		return in, fault.New("value", "Enter a number.")
	}
	parts := make(blend.Blend, n)
	for i, p := range in.Components {
		parts[i] = blend.Part{Parts: p.Parts, Locked: p.Locked}
	}
	components := append([]BlendComponent(nil), in.Components...)
	var err error
	switch c.Verb {
	case "share":
		parts, err = setHolding(parts, c.At, c.Value, keyed(in.Components, c.Settled))
	case "grams":
		parts, err = setHolding(parts, c.At, c.Value/in.TotalG, keyed(in.Components, c.Settled))
	case "slide":
		parts, err = parts.Slide(c.At, c.Value)
	case "parts":
		parts, err = parts.SetParts(c.At, c.Value)
	case "lock", "unlock":
		parts[c.At].Locked = c.Verb == "lock"
	case "add":
		if c.Component == nil {
			return in, fault.New("component", "Choose what to add.")
		}
		if n > 0 && c.Value == 0 {
			c.Value = freeShare(parts) / float64(freeCount(parts)+1)
		}
		parts, err = parts.Add(c.Value)
		components = append(components, *c.Component)
	case "remove":
		if n == 1 {
			in.Components = []BlendComponent{}
			return in, nil
		}
		parts, err = parts.Remove(c.At)
		components = append(components[:c.At], components[c.At+1:]...)
	case "remove-shrink":
		var left float64
		parts, left, err = parts.RemoveShrinking(c.At)
		components = append(components[:c.At], components[c.At+1:]...)
		in.TotalG *= left
	case "use-all":
		in.TotalG, err = b.useAll(c.At)
	case "largest":
		if b.LargestG == nil || *b.LargestG <= 0 {
			return in, fault.New("total_g", "Nothing on the shelf limits this blend, or there is none left of a lot.")
		}
		in.TotalG = *b.LargestG
	case "even":
		each := freeShare(parts) * parts.Total() / float64(max(1, freeCount(parts)))
		for i := range parts {
			if !parts[i].Locked {
				parts[i].Parts = each
			}
		}
	default:
		return in, fault.New("verb", "There is no change called %q.", c.Verb)
	}
	if err != nil {
		return in, err
	}
	for i := range components {
		components[i].Parts, components[i].Locked = parts[i].Parts, parts[i].Locked
	}
	in.Components = components
	// Whole milligrams, never more than what the shelf gives.
	in.TotalG = math.Floor(in.TotalG*1000+1e-6) / 1000
	return in, nil
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
	return float64(blend.UsingAll(blend.Stock{Have: unit.Grams(*c.HaveG + c.WeighedG), Yield: c.way(b.Passes).Yield()}, c.Share)), nil
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
