package advising

import (
	"context"

	"fairtangle/core/run"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
)

// shownCalm are the rules whose findings the runs on the equipment of a lay-up have shown to be no
// trouble, and in how many runs.
func (s *Room) shownCalm(ctx context.Context, l *laying.Layup) (map[string]int, error) {
	if l == nil {
		return nil, nil
	}
	rows, err := s.Store.RunsOn(ctx, l.EquipmentID, runsRead)
	if err != nil {
		return nil, err
	}
	var list []run.Shown
	for _, r := range rows {
		if v, finished := shownBy(r); finished {
			list = append(list, v)
		}
	}
	return run.Calm(list, l.Own.Of("R36 specks")), nil
}

// shownBy is what a run has shown, and whether it is finished.
func shownBy(r store.Run) (out run.Shown, finished bool) {
	if len(r.Plan.Advised) == 0 {
		return out, false
	}
	out.Rules = r.Plan.Advised
	for i, u := range run.Read(r.Told(), r.Units, r.Passes).Units {
		off, weighed := u.OffAtLast()
		if !weighed {
			return out, false
		}
		if i < len(r.Plan.Weights) {
			out.Light = either(out.Light, floor.InGrams(off) < r.Plan.Weights[i].Grams-2*r.Plan.Weights[i].SD)
		}
		for n, p := range u.Passes {
			if e, ok := p.Facts[run.Specks]; ok && (out.Specks == nil || int(e.Number) > *out.Specks) {
				most := int(e.Number)
				out.Specks = &most
			}
			if e, ok := p.Facts[run.Look]; ok && n == len(u.Passes)-1 && n < len(r.Foreseen) {
				out.Behind = either(out.Behind, floor.RankOf(e.Text) < floor.RankOf(r.Foreseen[n].Look))
			}
		}
	}
	return out, true
}

// either is whether one or the other is so.
func either(before *bool, now bool) *bool {
	now = now || before != nil && *before
	return &now
}

// AdvisedAt are the rules that find something of a blend on a lay-up as a run begins.
func (s *Room) AdvisedAt(ctx context.Context, b recipe.Blend, l laying.Layup) (out []string, err error) {
	at := LookWhere{Blend: b.ID}
	if l.ID != 0 {
		at.unsaved = &l
	}
	look, err := s.lookOf(ctx, b, at)
	seen := map[string]bool{}
	for _, f := range look.Findings {
		if !seen[f.Rule] {
			seen[f.Rule] = true
			out = append(out, f.Rule)
		}
	}
	for _, f := range look.Quiet {
		if !seen[f.Rule] {
			seen[f.Rule] = true
			out = append(out, f.Rule)
		}
	}
	return out, err
}
