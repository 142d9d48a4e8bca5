package advising

import (
	"context"
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/studio/laying"
)

// WhatIf is a lay-up as it would be after the mend of a finding, which is named by its rule, the
// component and the layer (R08_2_-1), and what that mend is. Nothing is kept.
func (s *Room) WhatIf(ctx context.Context, l laying.Layup, name string) (laying.Layup, unit.Sentence, error) {
	var rule string
	var component, layer int
	if _, err := fmt.Sscanf(name, "%3s_%d_%d", &rule, &component, &layer); err != nil {
		return l, unit.Sentence{}, fault.New("if", "What if you did what? It is named like R08_2_-1.")
	}
	look, err := s.lookOf(ctx, l.Blend, LookWhere{unsaved: &l})
	if err != nil {
		return l, unit.Sentence{}, err
	}
	f, err := look.finding(rule, component, layer)
	if err != nil {
		return l, unit.Sentence{}, err
	}
	b, in := l.Blend, l.LayupInput
	switch look.Mends(f.Mend) {
	case MendsBlend, MendsBoth:
		mended, err := mendedBlend(b.Input(), look.Plan, *f.Mend)
		if err != nil {
			return l, f.Mend.Preview, err
		}
		if b, err = s.recipe.WorkOutAt(ctx, b.ID, mended); err != nil {
			return l, f.Mend.Preview, err
		}
		b.ID, b.MakingID = l.Blend.ID, l.Blend.MakingID
	case MendsLayup:
		if in, err = mendedLayup(l, f); err != nil {
			return l, f.Mend.Preview, err
		}
	default:
		return l, f.Mend.Preview, fault.New("if", "That changes nothing that carding would show.")
	}
	out, err := s.afterLayup(ctx, l, in, b)
	out.ID, out.Version = l.ID, l.Version
	return out, f.Mend.Preview, err
}
