package yarns

import (
	"context"
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/need"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// needBase is what every need rests on.
type needBase struct {
	set      workshop.Settings
	shown    Shown
	machines []workshop.Equipment
}

func (s *Room) needBase(ctx context.Context) (b needBase, err error) {
	if b.set, err = s.workshop.Settings(ctx); err != nil {
		return b, err
	}
	if b.shown, err = s.ShownBySkeins(ctx); err != nil {
		return b, err
	}
	b.machines, err = s.workshop.Equipment(ctx)
	return b, err
}

func (s *Room) needWith(ctx context.Context, row store.Need, blends []recipe.Blend, base needBase) (Need, error) {
	out, err := s.needWork(ctx, row.MakingID, &row.Plan, blends, base)
	if l, isFault := fault.From(err); isFault { // what is kept is always shown
		plan := row.Plan
		empty := NeedPlan{What: "not told", Way: NeedWays[0], Plies: 2}
		if out, err = s.needWork(ctx, row.MakingID, &empty, blends, base); err == nil {
			plan.Way, plan.Plies = empty.Way, max(plan.Plies, 1)
			plan.Uses, plan.Locked, plan.Parts = append([]string{}, plan.Uses...), append([]string{}, plan.Locked...), append([]NeedPart{}, plan.Parts...)
			out.NeedPlan, out.Amiss = plan, "What was told of it can not be worked out: "+l[0].In(unit.Metric{})
		}
	}
	out.ID, out.Version, out.MakingID = row.ID, row.Version, row.MakingID
	return out, err
}

// workOutNeed works a need out for a making and keeps nothing.
func (s *Room) workOutNeed(ctx context.Context, making int64, in *NeedPlan) (Need, error) {
	blends, err := s.recipe.BlendsOf(ctx, making)
	if err != nil {
		return Need{}, err
	}
	base, err := s.needBase(ctx)
	if err != nil {
		return Need{}, err
	}
	return s.needWork(ctx, making, in, blends, base)
}

// needWork is needLook with all that it rests on at hand.
func (s *Room) needWork(ctx context.Context, making int64, in *NeedPlan, blends []recipe.Blend, base needBase) (Need, error) {
	if err := checkNeed(in); err != nil {
		return Need{}, err
	}
	out := Need{NeedPlan: *in, MakingID: making, shown: base.shown, PerPlyG: []float64{}, Flow: []NeedFlow{}, Blends: []NeedBlend{}, Units: []NeedUnits{}}
	q, told, err := s.needRequest(ctx, &out, blends, base.set)
	if err != nil {
		return out, err
	}
	out.allow, out.sample = q.Allowances, q.SampleG
	if out.divide(blends, q.StepG); out.Way == wayFigure {
		for _, b := range out.Blends {
			if !b.Empty {
				q.FibreG += b.Parts
			}
		}
		told = q.FibreG > 0
	}
	if !told {
		return out, nil
	}
	for _, b := range out.Blends {
		for _, c := range b.Blend.Components {
			q.Components = append(q.Components, partOf(b, c, q.Passes))
		}
	}
	a, err := need.Work(q)
	if err != nil {
		return out, err
	}
	out.answer(a, q.StepG)
	for i := range out.Blends {
		out.Blends[i].lack()
	}
	return out, s.units(ctx, &out, base)
}

// checkNeed finds what is wrong with how a need is told, beyond its numbers.
func checkNeed(in *NeedPlan) error {
	var l fault.List
	floor.CheckText(&l, "what", "what it is for", &in.What, floor.MaxName, true)
	if in.Way == "" {
		in.Way = NeedWays[0]
	}
	if !slices.Contains(NeedWays, in.Way) {
		l.Add("way", "It is told as yarn, batts, felt, a figure or all of a lot.")
	}
	for _, u := range in.Uses {
		if !slices.Contains(NeedUses, u) {
			l.Add("uses", "There is no such use.")
		}
	}
	if in.Look != "" && !slices.Contains(NeedLooks, in.Look) {
		l.Add("look", "There is no such look.")
	}
	in.Uses, in.Locked, in.Parts = slices.Compact(slices.Sorted(slices.Values(in.Uses))), append([]string{}, in.Locked...), append([]NeedPart{}, in.Parts...)
	if in.Uses == nil {
		in.Uses = []string{}
	}
	for _, v := range in.Looks {
		if !slices.Contains(NeedLooks, v.Look) {
			l.Add("looks", "There is no such look.")
		}
	}
	for _, p := range in.Parts {
		if !(p.Parts >= 0 && p.Parts <= 1e6) {
			l.Add("parts", "Parts are from 0 to a million.")
		}
	}
	return l.Err()
}

// needRequest is what is asked of core/need; told is false where too little was.
func (s *Room) needRequest(ctx context.Context, n *Need, blends []recipe.Blend, set workshop.Settings) (q need.Request, told bool, err error) {
	q = n.allowances(blends, floor.InGrams(set.StepMg))
	for _, b := range blends {
		q.Passes = max(q.Passes, b.LosesIn)
	}
	switch n.Way {
	case "yarn":
		if err := s.measureGrist(ctx, n); err != nil {
			return q, false, err
		}
		q.Yarn = &need.Yarn{LengthM: n.Length, GristM: n.Grist, WPI: n.WPI, WeightG: n.Weight, Plies: n.Plies}
		switch {
		case n.Weight > 0 && slices.Contains(n.Locked, "weight"):
			q.Yarn.LengthM = 0
		case n.Grist > 0 && n.Length > 0:
			q.Yarn.WeightG = 0
		}
		if n.WPI > 0 && n.Measured == "" {
			q.Yarn.GristM = 0
		} else {
			q.Yarn.WPI = 0
		}
		told = n.Weight > 0 || n.Length > 0 && (n.Grist > 0 || n.WPI > 0)
	case "batts":
		q.Batts, told = &need.Batts{Count: n.Count, Grams: n.Each}, n.Count > 0 && n.Each > 0
	case "felt":
		q.Felt, told = &need.Felt{AreaCM2: n.Area, GramsPerM2: n.Laid}, n.Area > 0 && n.Laid > 0
	case "lot":
		if n.LotID == nil {
			return q, false, nil
		}
		l, err := s.shelf.Lot(ctx, *n.LotID)
		if err != nil {
			return q, false, fault.New("lot_id", "That lot is not on the shelf.")
		}
		passes := reach.DefaultPasses
		if len(blends) > 0 {
			passes = q.Passes
		}
		k, err := s.workshop.AllKinds(ctx, true)
		if err != nil {
			return q, false, err
		}
		q.FibreG = shelf.WayOf(k.Named(l.Kind), passes).Finished(l.Grams)
		told = q.FibreG > 0
	}
	return q, told, nil
}

// allowances are those of a need, as they were told, as skeins showed them, or as is usual.
func (n *Need) allowances(blends []recipe.Blend, stepG float64) need.Request {
	or := func(pct *float64, usual float64) float64 {
		if pct == nil {
			return usual
		}
		return *pct / 100
	}
	q := need.Request{StepG: stepG, SampleG: usualSampleG, Allowances: need.Allowances{
		Margin: or(n.MarginPct, need.Margin), Waste: or(n.WastePct, n.shown.or("waste_pct", need.Waste)),
		Finishing: or(n.FinishingPct, n.shown.or("finishing_pct", finishingOf(blends))), TakeUp: or(n.TakeUpPct, n.shown.or("take_up_pct", need.TakeUp)),
	}}
	shrinkage := or(n.ShrinkagePct, n.shown.or("shrinkage_pct", need.Shrinkage))
	q.Allowances.Shrinkage = &shrinkage
	if n.SampleG != nil {
		q.SampleG = *n.SampleG
	}
	return q
}

// divide takes up the blends, each with its part: as it was said, else as heavy as it is now,
// else an even one.
func (n *Need) divide(blends []recipe.Blend, stepG float64) {
	var sum float64
	laid := 0 // blends with fibre; one without has no share
	for _, b := range blends {
		v := NeedBlend{ID: b.ID, Name: b.Name, Hex: b.Hex, Parts: b.TotalG, NowG: b.TotalG, Lacks: []NeedLack{}, Empty: len(b.Components) == 0, Blend: b}
		if i := slices.IndexFunc(n.Parts, func(p NeedPart) bool { return p.BlendID == b.ID }); i >= 0 {
			v.Parts = n.Parts[i].Parts
		}
		if i := slices.IndexFunc(n.Looks, func(p NeedLook) bool { return p.BlendID == b.ID }); i >= 0 {
			v.Look = n.Looks[i].Look
		}
		v.Eye = n.Way == wayFigure && v.Parts == 0
		if len(b.Components) > 0 {
			laid++
			sum += v.Parts
		}
		n.Blends = append(n.Blends, v)
	}
	for i := range n.Blends {
		b := &n.Blends[i]
		switch {
		case len(b.Blend.Components) == 0 || b.Eye:
		case sum > 0:
			b.Share = b.Parts / sum
		default:
			b.Share = 1 / float64(laid)
		}
	}
}

// answer takes up what was worked out; the fibre and the weights of blends are whole steps of the
// scale that add up.
func (n *Need) answer(a need.Answer, stepG float64) {
	n.Enough, n.Estimated = true, a.Estimated
	n.YarnG, n.LowG, n.HighG, n.SinglesM, n.SinglesGM, n.PlyM = a.Yarn.WeightG, a.LowG, a.HighG, a.SinglesM, a.SinglesGrist, a.PlyM
	if n.Way == "yarn" {
		n.Length, n.Grist, n.Weight = a.Yarn.LengthM, a.Yarn.GristM, a.Yarn.WeightG
	}
	n.PerPlyG = append(n.PerPlyG, a.PerPlyG...)
	n.WeighInG, n.SetAsideG = a.TotalG, a.SetAsideG()
	for _, p := range a.Flow {
		n.Flow = append(n.Flow, NeedFlow(p))
	}
	all := int64(math.Round(a.FibreG / stepG))
	n.FibreG = unit.Clean(float64(all) * stepG)
	if !n.IsLaid() {
		return
	}
	exact := make([]float64, len(n.Blends))
	for i, b := range n.Blends {
		exact[i] = b.Share * float64(all)
	}
	for i, steps := range weigh.Apportion(exact, all) {
		b := &n.Blends[i]
		b.WantG = unit.Clean(float64(steps) * stepG)
		b.Apart = len(b.Blend.Components) > 0 && !b.Eye && math.Abs(b.WantG-b.NowG) > stepG/2
	}
}

// IsLaid reports whether a blend has fibre; without, the whole of a need is one fibre to come.
func (n Need) IsLaid() bool {
	return slices.ContainsFunc(n.Blends, func(b NeedBlend) bool { return len(b.Blend.Components) > 0 })
}

// WeighIn is what is weighed in of a component for what is wanted of the blend, grams.
func (b NeedBlend) WeighIn(c recipe.Component) float64 {
	return b.Blend.WayOf(c).WeighIn(b.WantG * c.Share)
}

// lack is what the shelf lacks for what is wanted of a blend.
func (b *NeedBlend) lack() {
	for _, c := range b.Blend.Components {
		have := 0.0
		if c.HaveG != nil {
			have = *c.HaveG + c.WeighedG
		} else if c.LotID == nil {
			have = c.WeighedG
		}
		if short := losses.Lack(b.WeighIn(c), have); short > 0 {
			b.Lacks = append(b.Lacks, NeedLack{Name: c.Name, LotID: c.LotID, Kind: c.Kind, Hex: c.Hex, Grams: short, preparation: c.Preparation})
		}
	}
}

// units is how many units it makes on each piece of equipment: as many as a lay-up there has, while its blend has the weight that is
// wanted of it; else as full as the school of the making fills it.
func (s *Room) units(ctx context.Context, n *Need, base needBase) error {
	var fill float64
	var schools map[string]string
	laid := map[int64][]laying.LayupRow{}
	if len(base.machines) > 0 {
		m, err := s.Store.Making(ctx, n.MakingID)
		if err != nil {
			return err
		}
		fill, schools = layup.Filled(m.Schools), m.Schools
		rows, err := s.laying.LayupsOfMaking(ctx, n.MakingID)
		if err != nil {
			return err
		}
		for _, r := range rows {
			laid[r.BlendID] = append(laid[r.BlendID], r)
		}
	}
	for _, e := range base.machines {
		units := 0
		for _, b := range n.Blends {
			if len(b.Blend.Components) == 0 || b.WantG == 0 || b.Blend.TotalG == 0 {
				continue
			}
			i := slices.IndexFunc(laid[b.ID], func(r laying.LayupRow) bool { return r.EquipmentID == e.ID })
			if i >= 0 && !b.Apart {
				units += laid[b.ID][i].Units
				continue
			}
			made := b.Blend
			made.Passes = layup.PassesBy(schools, made.Passes)
			fibres := laying.WeighedIn(made, e.Bed())
			for k := range fibres {
				fibres[k].Grams *= b.WantG / b.Blend.TotalG
			}
			units += e.Bed().UnitsFor(fibres, fill)
		}
		if units == 0 {
			units = layup.Units(n.WeighInG, (e.SmoothG+e.LoftyG)/2, fill)
		}
		n.Units = append(n.Units, NeedUnits{EquipmentID: e.ID, Name: e.Name, Units: units, ClothG: e.Bed().TakenUp(units)})
	}
	n.takeUp(laid)
	return nil
}

// takeUp counts what the cloth takes up where it is made: on what its first blend is laid on, else on the first piece of equipment.
func (n *Need) takeUp(laid map[int64][]laying.LayupRow) {
	if len(n.Units) == 0 {
		return
	}
	on := 0
	for _, b := range n.Blends {
		if rows := laid[b.ID]; len(rows) > 0 {
			on = max(0, slices.IndexFunc(n.Units, func(u NeedUnits) bool { return u.EquipmentID == rows[0].EquipmentID }))
			break
		}
	}
	n.ClothG, n.MadeOn = n.Units[on].ClothG, n.Units[on].Name
	n.SetAsideG += n.ClothG
	for i := range n.Flow {
		if n.Flow[i].Key == "cloth" {
			n.Flow[i].Grams = n.ClothG
		}
	}
}
