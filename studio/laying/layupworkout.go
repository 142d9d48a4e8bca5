package laying

import (
	"context"
	"math"
	"slices"

	"fairtangle/core/advice"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// layupKey names a component of a blend.
func layupKey(c recipe.Component) store.LayupComponent {
	return store.LayupComponent{LotID: c.LotID, Only: c.Only, Name: c.Name, Kind: c.Kind, Hex: c.Hex}
}

// matchBlend brings a lay-up to the blend as it is now: lays count in the blend's
// components; those whose component is gone count in what comes after them. It
// returns where each component went, -1 where nothing of it lies any more.
func (in *LayupInput) matchBlend(b recipe.Blend) []int {
	now := make([]store.LayupComponent, len(b.Components))
	for i, c := range b.Components {
		now[i] = layupKey(c)
	}
	if in.Components == nil {
		in.Components = now
		return nil
	}
	to := make([]int, len(in.Components))
	for i, old := range in.Components {
		to[i] = slices.IndexFunc(now, old.Same)
		if to[i] < 0 {
			used := slices.ContainsFunc(in.Layers, func(l LayerInput) bool {
				return slices.ContainsFunc(l.Lays, func(v LayInput) bool { return v.Component == i })
			})
			if used {
				now = append(now, old)
				to[i] = len(now) - 1
			}
		}
	}
	layers := make([]LayerInput, len(in.Layers))
	for i, l := range in.Layers {
		layers[i] = LayerInput{Lays: slices.Clone(l.Lays), Key: l.Key}
		for j := range layers[i].Lays {
			if c := &layers[i].Lays[j].Component; *c >= 0 && *c < len(to) {
				*c = to[*c]
			} else {
				*c = -1
			}
		}
	}
	in.Layers, in.Components = layers, now
	in.JoinsAtPass = follow(in.JoinsAtPass, to, len(now), 1)
	if in.As != nil {
		in.As = follow(in.As, to, len(now), "")
	}
	if in.Fed != nil {
		in.Fed = follow(in.Fed, to, len(now), layup.FedAs{})
	}
	if in.AloneFirst != nil {
		in.AloneFirst = follow(in.AloneFirst, to, len(now), 0)
	}
	var told []int
	for i, n := range to {
		if n >= 0 && slices.Contains(in.Told, i) {
			told = append(told, n)
		}
	}
	in.Told = told
	return to
}

// follow are values by component after the components went to where to says, n in all; usual is that of one that has none.
func follow[T any](values []T, to []int, n int, usual T) []T {
	out := make([]T, n)
	for i := range out {
		out[i] = usual
	}
	for i, v := range values {
		if i < len(to) && to[i] >= 0 {
			out[to[i]] = v
		}
	}
	return out
}

// WorkOutLayup works a lay-up of a blend out and keeps nothing. strict refuses
// lays that take more than there is.
func (s *Room) WorkOutLayup(ctx context.Context, b recipe.Blend, in LayupInput, strict bool) (Layup, error) {
	return s.workOutLayup(ctx, b, in, strict, s.workshop.AnyEquipment)
}

// stands fills in what the workshop knows beside the bed: its tools, and to which length fibres of the blend are prepared.
func (s *Room) stands(ctx context.Context, out *Layup) (err error) {
	if out.Tools, err = s.workshop.Rack.Tools(ctx); err != nil {
		return err
	}
	out.prepared, err = s.workshop.PreparedMM(ctx, out.Blend.ID)
	return err
}

// workOutLayup is WorkOutLayup on the equipment that find gives for a number.
func (s *Room) workOutLayup(
	ctx context.Context,
	b recipe.Blend,
	in LayupInput,
	strict bool,
	find func(context.Context, int64) (workshop.Equipment, error),
) (Layup, error) {
	var l fault.List
	floor.CheckText(&l, "name", "the lay-up", &in.Name, floor.MaxName, true)
	if in.Units < 1 || in.Units > weigh.MaxUnits {
		l.Add("units", "A lay-up serves 1 to %d units.", weigh.MaxUnits)
	}
	e, err := find(ctx, in.EquipmentID)
	if err != nil || strict && e.Binned {
		l.Add("equipment_id", "Choose a piece of equipment.")
	}
	if len(b.Components) == 0 {
		l.Add("components", "The blend is empty. Put fibre into it first.")
	}
	if err := l.Err(); err != nil {
		return Layup{}, err
	}
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return Layup{}, err
	}
	in.matchBlend(b)
	out := Layup{BlendID: b.ID, StepG: float64(at.Settings.StepMg.Grams()), Equipment: e, Bed: e.Bed(), LaidPlan: in.Plan(), Blend: b, at: at}
	if err := s.stands(ctx, &out); err != nil {
		return Layup{}, err
	}
	if out.Bed.Type != layup.Drum {
		out.LaidPlan = out.LaidPlan.OffTheTray()
	}
	KeyPlan(&out.LaidPlan)
	out.LastPass = out.LaidPlan.Last(out.Bed, b.Passes)
	out.LaidPlan = out.LaidPlan.Within(out.LastPass)
	if err := out.toTheScale(in); err != nil {
		return Layup{}, err
	}
	if in.Rolags == nil && out.Bed.Type == layup.Board {
		out.LaidPlan.Rolags = layup.SuggestRolags(out.Bed, out.LaidPlan.Draft, out.LaidFibres)
	}
	if err := out.LaidPlan.Check(out.Bed, out.LaidFibres, strict); err != nil {
		return Layup{}, err
	}
	in.PlanInput = PlanInputOf(out.LaidPlan)
	out.LayupInput = in
	m, err := s.Store.Making(ctx, b.MakingID)
	if err != nil {
		return Layup{}, err
	}
	out.schools = layup.Chosen(m.Schools)
	if out.Own, err = s.workshop.RuleBounds(ctx); err != nil {
		return Layup{}, err
	}
	out.survey()
	return out, nil
}

// School is what the making holds to in a matter.
func (out *Layup) School(matter string) string { return out.schools[matter] }

// survey works out what follows from the plan.
func (out *Layup) survey() {
	out.Survey = out.LaidPlan.Survey(out.Bed, out.LaidFibres, out.Blend.Passes)
	out.Laid = advice.LaidPlan{
		Plan: out.LaidPlan, Bed: out.Bed, Fibres: out.LaidFibres, Passes: out.Blend.Passes, Schools: out.schools, Survey: out.Survey,
	}.Judge(out.Own)
	out.Loads = out.Survey.Loads
	out.GaveWay = out.LaidPlan.Collide(out.Bed, out.LaidFibres, out.schools, out.Blend.Passes)
	for i := range out.Fibres {
		out.Fibres[i].PlacedG, out.Fibres[i].UnplacedG = out.Loads.PlacedG[i], out.Loads.UnplacedG[i]
	}
}

// toTheScale fills the fibres in. What was laid in the steps of another scale is
// laid again in those of this one: what was all laid is all laid.
func (out *Layup) toTheScale(in LayupInput) error {
	now, was := out.StepG, out.LaidPlan.Step
	var before []layup.Fibre
	if was > 0 && was != now {
		out.StepG = was
		if err := out.fill(in); err != nil {
			return err
		}
		before, out.StepG = out.LaidFibres, now
	}
	if err := out.fill(in); err != nil {
		return err
	}
	if before != nil {
		out.LaidPlan = out.LaidPlan.Refit(out.Bed, before, out.LaidFibres, now)
		KeyPlan(&out.LaidPlan)
	}
	out.LaidPlan.Step = now
	return nil
}

// fill puts the fibres together: those of the blend with the grams of one unit,
// the same as its weigh-out has them, and those that are gone, of which there are
// none.
func (out *Layup) fill(in LayupInput) error {
	b, at := out.Blend, out.at
	order := weigh.Order{Units: in.Units, Finished: unit.Grams(b.TotalG / float64(in.Units)), Passes: out.LosesIn(), Step: unit.Grams(out.StepG)}
	for i, c := range b.Components {
		order.Components = append(order.Components, weigh.Component{Share: c.Share, LossPass: c.LossPct / 100, Decay: c.Fibre.Decay,
			JoinsAt: min(out.LaidPlan.JoinsAt(i), max(1, order.Passes)), Alone: out.LaidPlan.LosesAlone(out.Bed, i)})
	}
	weighed, err := weigh.Make(order)
	if err != nil {
		return err
	}
	out.Fibres, out.LaidFibres = nil, nil
	for i, key := range in.Components {
		f := LayupFibre{Name: key.Name, Hexes: []string{key.Hex}, JoinsAt: out.LaidPlan.JoinsAt(i), Gone: true, kind: at.Kinds.Named(key.Kind)}
		f.StapleMM = f.kind.StapleMM.Mid()
		var wanted float64
		lab := floor.ReflectanceOf(key.Hex)
		if i < len(b.Components) {
			c := b.Components[i]
			f.Name, f.Hexes, f.StapleMM, f.Preparation, f.LotID, f.Gone, f.kind = c.Name, c.Hexes(), c.StapleMM(), c.Preparation, c.LotID, false, c.Fibre
			f.Grams, wanted = unit.Clean(float64(weighed.Counts[0][i])*out.StepG), float64(weighed.Exact[i])
			f.Alone, f.WeighInG = out.LaidPlan.AloneOf(i), f.Grams
			if part := order.Components[i].Way(order.Passes).Laid(); part < 1 { // of what came off when it was carded alone
				f.Grams, wanted = unit.Clean(math.Round(f.Grams*part/out.StepG)*out.StepG), wanted*part
			}
			lab = b.Tints[i].Colour
		}
		if mm := out.prepared[f.Name]; mm > 0 && mm < f.StapleMM {
			f.StapleMM = mm
		}
		core := LayFibre(f.Name, f.Grams, f.kind, f.Preparation, f.StapleMM)
		core.Colour, core.Wanted = lab.Lab(), wanted
		if !out.Bed.Pins() {
			core.Loses = losses.Fall{}
		}
		f.Usual = out.Bed.Usual(core)
		out.Fibres, out.LaidFibres = append(out.Fibres, f), append(out.LaidFibres, core)
	}
	return nil
}

// LosesIn is in how many passes its fibre loses.
func (out *Layup) LosesIn() int { return out.LaidPlan.LosesIn(out.Bed, out.Blend.Passes) }

// LayFibre is a fibre as core/layup lays it: so many grams of a kind, prepared, of a staple in mm.
func LayFibre(name string, grams float64, k fibre.Kind, preparation string, staple float64) layup.Fibre {
	return layup.Fibre{
		Name: name, Grams: grams, Family: k.Family, Role: k.Role, Crimp: k.Crimp, Cohesion: k.Cohesion, LickerIn: k.LickerIn, Fragile: k.Fragile,
		Preparation: preparation, StapleMM: staple, MinTPI: k.MinTPI, Loses: shelf.FallOf(k),
	}
}
