package advising

import (
	"context"
	"fmt"
	"math"
	"reflect"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
)

// What a mend of the second look changes.
const (
	MendsBlend  = "blend"
	MendsBoth   = "both" // the blend, and what lies in its lay-ups follows
	MendsLayup  = "lay-up"
	MendsTold   = "told"     // nothing but what is told
	MendsSample = "weighout" // a sample is weighed out
)

// Mends is what a mend changes; empty where nothing that is kept can take it.
func (l SecondLook) Mends(m *advice.Mend) string {
	switch m.Verb {
	case "add":
		if l.plan.layup != nil {
			return "" // it has to be laid first
		}
		return MendsBlend
	case "share", "total", "passes":
		switch of := l.plan.layup; {
		case of == nil:
			return MendsBlend
		case m.Verb == "passes" && of.LaidPlan.Passes > 0:
			return MendsLayup
		}
		return MendsBoth
	case "sample":
		return MendsSample
	case "tell":
		if _, err := tellingsOf(l.plan.blend, m.Tells); err == nil {
			return MendsTold
		}
		return ""
	}
	if l.plan.layup != nil && len(l.Plan.Layers) > 0 {
		return MendsLayup
	}
	return ""
}

// finding finds what was found by a rule, of a component and a layer.
func (l SecondLook) finding(rule string, component, layer int) (advice.Finding, error) {
	i := slices.IndexFunc(l.Findings, func(f advice.Finding) bool {
		return f.Rule == rule && f.Component == component && f.Layer == layer && f.Mend != nil
	})
	if i < 0 || l.Mends(l.Findings[i].Mend) == "" {
		return advice.Finding{}, fault.New("rule", "This is not there any more.")
	}
	return l.Findings[i], nil
}

// LookTaken is what a mend changed, and how to take it back.
type LookTaken struct {
	Kind    string          `json:"kind"` // what was changed
	ID      int64           `json:"id"`   // of it
	Version int64           `json:"version"`
	Before  []workshop.Told `json:"before"` // what was told before
	// Followed are the lay-ups that followed, as they are now.
	Followed []Followed `json:"followed"`
}

// Followed is a lay-up that followed its blend.
type Followed struct {
	ID      int64 `json:"id"`
	Version int64 `json:"version"`
}

// TakeMend takes the mend of a finding where a maker stands, and keeps it.
func (s *Room) TakeMend(ctx context.Context, at LookWhere, rule string, component, layer int) (LookTaken, error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (LookTaken, error) { return s.takeMend(ctx, at, rule, component, layer) })
}

func (s *Room) takeMend(ctx context.Context, at LookWhere, rule string, component, layer int) (out LookTaken, err error) {
	list, err := s.LookFrom(ctx, at)
	if err != nil {
		return out, err
	}
	l := list[0]
	f, err := l.finding(rule, component, layer)
	if err != nil {
		return out, err
	}
	b := l.plan.blend
	switch out.Kind = l.Mends(f.Mend); out.Kind {
	case MendsBlend, MendsBoth:
		err = s.mendRecipe(ctx, l, f, &out)
		return out, err
	case MendsLayup:
		now := *l.plan.layup
		in, err := mendedLayup(now, f)
		if err != nil {
			return out, err
		}
		out.ID = now.ID
		next, err := s.afterLayup(ctx, now, in, b)
		if err == nil {
			err = s.ended(ctx, l, next, f)
		}
		if err != nil {
			return out, err
		}
		next, err = s.laying.SaveLayup(ctx, now.ID, now.Version, next.LayupInput, false)
		out.Version = next.Version
		return out, err
	case MendsSample:
		in, err := s.scale.SampleSuggestion(ctx, b)
		if err != nil {
			return out, err
		}
		w, err := s.scale.CreateWeighout(ctx, b.ID, in)
		out.ID = w.ID
		return out, err
	default:
		tells, err := tellingsOf(b, f.Mend.Tells)
		if err != nil {
			return out, err
		}
		out.Before, err = s.TellLook(ctx, tells...)
		return out, err
	}
}

// mendRecipe mends the recipe; its lay-ups follow.
func (s *Room) mendRecipe(ctx context.Context, l SecondLook, f advice.Finding, out *LookTaken) error {
	b := l.plan.blend
	in, err := mendedBlend(b.Input(), l.Plan, *f.Mend)
	if err != nil {
		return err
	}
	was, err := s.layupsAsTheyAre(ctx, b.ID)
	if err != nil {
		return err
	}
	out.ID = b.ID
	now, err := s.recipe.SaveBlend(ctx, b.ID, b.Version, in, "mended: "+f.Key)
	out.Version = now.Version
	for _, v := range was {
		if err == nil {
			err = s.layupFollows(ctx, v, out)
		}
	}
	return err
}

// layupsAsTheyAre are the lay-ups of a blend that have all its fibres and no others.
func (s *Room) layupsAsTheyAre(ctx context.Context, blend int64) (out []laying.Layup, err error) {
	rows, err := s.laying.LayupsOf(ctx, blend)
	if err != nil {
		return nil, err
	}
	for _, r := range rows {
		l, err := s.laying.Layup(ctx, r.ID)
		if err != nil && floor.Aside(ctx, "layups", r.ID, r.Name, err) {
			continue // it stays as it is
		}
		if err != nil {
			return nil, err
		}
		if len(l.Layers) > 0 && !slices.ContainsFunc(l.Fibres, func(f laying.LayupFibre) bool { return f.Gone }) {
			out = append(out, l)
		}
	}
	return out, nil
}

// layupFollows lays a lay-up again as its blend is now: what was all laid is all laid.
func (s *Room) layupFollows(ctx context.Context, was laying.Layup, taken *LookTaken) error {
	now, err := s.laying.Layup(ctx, was.ID)
	if err != nil {
		return err
	}
	in := now.LayupInput
	in.PlanInput = laying.PlanInputOf(now.LaidPlan.Refit(now.Bed, was.LaidFibres, now.LaidFibres, now.StepG))
	if reflect.DeepEqual(in, now.LayupInput) {
		return nil
	}
	now, err = s.laying.SaveLayup(ctx, now.ID, now.Version, in, false)
	taken.Followed = append(taken.Followed, Followed{now.ID, now.Version})
	return err
}

// UndoMend takes a mend back, where nothing was changed there since.
func (s *Room) UndoMend(ctx context.Context, t LookTaken) error {
	return s.Deed(ctx, func(ctx context.Context) error { return s.undoMend(ctx, t) })
}

func (s *Room) undoMend(ctx context.Context, t LookTaken) (err error) {
	switch t.Kind {
	case MendsBlend, MendsBoth:
		_, err = s.recipe.StepBlend(ctx, t.ID, t.Version, floor.Move{Way: "undo"})
		for _, f := range t.Followed {
			if err == nil {
				_, err = s.laying.StepLayup(ctx, f.ID, f.Version, floor.Move{Way: "undo"})
			}
		}
	case MendsLayup:
		_, err = s.laying.StepLayup(ctx, t.ID, t.Version, floor.Move{Way: "undo"})
	case MendsSample:
		err = s.discardUnweighed(ctx, t.ID)
	case MendsTold:
		_, err = s.TellLook(ctx, t.Before...)
	default:
		err = fault.New("kind", "There is nothing to undo.")
	}
	return err
}

// discardUnweighed puts a weigh-out into the bin from which nothing was weighed.
func (s *Room) discardUnweighed(ctx context.Context, id int64) error {
	w, err := s.Store.Weighout(ctx, id)
	if err != nil {
		return err
	}
	if slices.ContainsFunc(w.Weighings, func(v store.Weighing) bool { return v.UndoneAt == nil }) {
		return fault.New("id", "It was weighed from since. Take those weighings back first, or keep it.")
	}
	return s.Discard(ctx, "weighouts", id)
}

// MendByLook takes the mend of a finding into a blend as its page has it: the shares, passes or the
// total that end it.
func (s *Room) MendByLook(ctx context.Context, id int64, in recipe.BlendInput, rule string, component int) (recipe.BlendInput, error) {
	list, err := s.LookFrom(ctx, LookWhere{Place: advice.AtBlend, Blend: id})
	if err != nil {
		return in, err
	}
	f, err := list[0].finding(rule, component, -1)
	if err != nil {
		return in, err
	}
	if kind := list[0].Mends(f.Mend); kind != MendsBlend && kind != MendsBoth {
		return in, fault.New("rule", "This is mended somewhere else.")
	}
	return mendedBlend(in, list[0].Plan, *f.Mend)
}

// mendedBlend takes the shares, passes, the total and what is added of a mended plan into a blend, which has to be
// what was looked over.
func mendedBlend(in recipe.BlendInput, before advice.Plan, m advice.Mend) (recipe.BlendInput, error) {
	after := m.After
	var parts float64
	for _, c := range in.Components {
		parts += c.Parts
	}
	if len(before.Fibres) != len(in.Components) {
		return in, fault.New("rule", "The blend has changed since it was looked over.")
	}
	in.Components = slices.Clone(in.Components)
	for i, c := range in.Components {
		if parts <= 0 || math.Abs(c.Parts/parts-before.Fibres[i].Share) > 1e-6 || c.Locked != before.Fibres[i].Locked {
			return in, fault.New("rule", "The blend has changed since it was looked over.")
		}
	}
	for i := range in.Components {
		if math.Abs(after.Fibres[i].Share-before.Fibres[i].Share) > 1e-12 {
			in.Components[i].Parts = after.Fibres[i].Share * parts
		}
	}
	if m.Add != 0 {
		in.Components = append(in.Components, recipe.BlendComponent{LotID: &m.Add, Parts: after.Fibres[len(after.Fibres)-1].Share * parts})
	}
	if after.Passes != before.Passes {
		in.Passes = max(after.Passes, 1)
	}
	if before.TotalG > 0 && after.TotalG != before.TotalG {
		in.TotalG = math.Floor(in.TotalG*after.TotalG/before.TotalG*1000+1e-6) / 1000
	}
	return in, nil
}

// MendLayup takes the mend of a finding into a lay-up as its page has it.
func (s *Room) MendLayup(ctx context.Context, now laying.Layup, b recipe.Blend, rule string, component, layer int) (laying.Layup, error) {
	l, err := s.lookOf(ctx, b, LookWhere{Place: advice.AtLayup, unsaved: &now})
	if err != nil {
		return laying.Layup{}, err
	}
	f, err := l.finding(rule, component, layer)
	if err != nil {
		return laying.Layup{}, err
	}
	if l.Mends(f.Mend) != MendsLayup {
		return laying.Layup{}, fault.New("rule", "This is mended somewhere else.")
	}
	in, err := mendedLayup(now, f)
	if err != nil {
		return laying.Layup{}, err
	}
	next, err := s.afterLayup(ctx, now, in, b)
	if err == nil {
		err = s.ended(ctx, l, next, f)
	}
	return next, err
}

// ended refuses a mend of a lay-up that does not end its finding in whole steps of the scale, or
// that says stop to more.
func (s *Room) ended(ctx context.Context, before SecondLook, next laying.Layup, f advice.Finding) error {
	after, err := s.lookOf(ctx, before.plan.blend, LookWhere{unsaved: &next})
	if err != nil {
		return err
	}
	stops := func(list []advice.Finding) (n int) {
		for _, v := range list {
			if v.Severity == advice.Stop {
				n++
			}
		}
		return n
	}
	was, err := s.lookOf(ctx, before.plan.blend, LookWhere{unsaved: before.plan.layup})
	if err != nil {
		return err
	}
	same := func(o advice.Finding) bool {
		return o.Rule == f.Rule && (f.Component < 0 || o.Component == f.Component)
	}
	if slices.ContainsFunc(after.Findings, same) || stops(after.Findings) > stops(was.Findings) {
		return fault.New("rule", "In the steps of your scale that does not end it: change the lay-up by hand.")
	}
	return nil
}

// mendedLayup is a lay-up after a mend: what it serves, how often it goes through, how it is divided, or
// what lies where.
func mendedLayup(now laying.Layup, f advice.Finding) (laying.LayupInput, error) {
	after := f.Mend.After
	switch f.Mend.Verb {
	case "units":
		return now.Change(laying.LayupChange{Verb: "units", Times: after.Units})
	case "passes":
		return now.Change(laying.LayupChange{Verb: "passes", Times: after.Passes})
	case "division":
		return now.Change(laying.LayupChange{Verb: "strips", Times: *after.Told.Strips})
	case "joins":
		return now.Change(laying.LayupChange{Verb: "joins", At: f.Component, Times: after.Fibres[f.Component].Joins})
	case "equipment":
		in := now.LayupInput
		in.EquipmentID = f.Mend.Cloth
		return in, nil
	case "order", "method":
		in, p := now.LayupInput, now.LaidPlan
		p.Layers, p.Joins = slices.Clone(after.Layers), make([]int, len(after.Fibres))
		for i, v := range after.Fibres {
			p.Joins[i] = max(v.Joins, 1)
		}
		laying.KeyPlan(&p)
		in.PlanInput = laying.PlanInputOf(p)
		return in, nil
	}
	return now.LayupInput, fmt.Errorf("no lay-up takes a mend of %q", f.Mend.Verb)
}

// afterLayup looks at a mended lay-up: what is laid is in whole steps of the scale again, and of
// each fibre as much as before.
func (s *Room) afterLayup(ctx context.Context, now laying.Layup, in laying.LayupInput, b recipe.Blend) (laying.Layup, error) {
	out, err := s.laying.WorkOutLayup(ctx, b, in, false)
	if err != nil {
		return out, err
	}
	in = out.LayupInput
	in.PlanInput = laying.PlanInputOf(out.LaidPlan.Refit(out.Bed, now.LaidFibres, out.LaidFibres, now.StepG))
	return s.laying.WorkOutLayup(ctx, b, in, false)
}
