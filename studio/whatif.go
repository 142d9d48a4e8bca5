package studio

import (
	"context"
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// WhatIf is a lay-up as it would be after the mend of a finding, which is named by its rule, the
// component and the layer (R08_2_-1), and what that mend is. Nothing is kept.
func (s *Studio) WhatIf(ctx context.Context, l Layup, name string) (Layup, unit.Sentence, error) {
	var rule string
	var component, layer int
	if _, err := fmt.Sscanf(name, "%3s_%d_%d", &rule, &component, &layer); err != nil {
		return l, unit.Sentence{}, fault.New("if", "What if you did what? It is named like R08_2_-1.")
	}
	look, err := s.lookOf(ctx, l.blend, LookWhere{unsaved: &l})
	if err != nil {
		return l, unit.Sentence{}, err
	}
	f, err := look.finding(rule, component, layer)
	if err != nil {
		return l, unit.Sentence{}, err
	}
	b, in := l.blend, l.LayupInput
	switch look.Mends(f.Mend) {
	case MendsBlend, MendsBoth:
		mended, err := mendedBlend(b.Input(), look.Plan, f.Mend.After)
		if err != nil {
			return l, f.Mend.Preview, err
		}
		if b, err = s.LookAt(ctx, b.ID, mended); err != nil {
			return l, f.Mend.Preview, err
		}
		b.ID, b.MakingID = l.blend.ID, l.blend.MakingID
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
