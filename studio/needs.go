package studio

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/need"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
)

// NeedPlan and NeedPart are kept as they are said.
type (
	NeedPlan = store.NeedPlan
	NeedPart = store.NeedPart
)

// The ways in which a need is told, what a thing may be used for, and how it may be wished to
// look.
var (
	NeedWays  = []string{"yarn", "batts", "felt", "lot"}
	NeedUses  = []string{"next-to-skin", "hard-wearing", "socks", "felting", "machine-wash"}
	NeedLooks = []string{"even", "heather", "streaky", "striped", "gradient", "textured"}
)

// usualSampleG is what a sample takes, where nothing else is said.
const usualSampleG = 8

// Need is what a making is for, with everything that follows.
type Need struct {
	ID       int64 `json:"id"`
	Version  int64 `json:"version"`
	MakingID int64 `json:"making_id"`
	NeedPlan
	Enough    bool        `json:"enough"`    // enough was told to work it out
	Estimated bool        `json:"estimated"` // the grist is, from wraps per inch
	Measured  string      `json:"measured"`  // the sample that the grist was measured on in its place
	YarnG     float64     `json:"yarn_g"`
	FibreG    float64     `json:"fibre_g"` // carded, in whole steps of the scale
	LowG      float64     `json:"low_g"`
	HighG     float64     `json:"high_g"`
	SinglesM  float64     `json:"singles_m"`
	SinglesGM float64     `json:"singles_grist_m_per_100g"`
	PerPlyG   []float64   `json:"per_ply_g"`
	WeighInG  float64     `json:"weigh_in_g"`
	SetAsideG float64     `json:"set_aside_g"`
	Flow      []NeedFlow  `json:"flow"` // where every gram of it goes
	Blends    []NeedBlend `json:"blends"`
	Units     []NeedUnits `json:"units"`
	// Amiss is why what was told of it can not be worked out; empty where it can.
	Amiss string `json:"amiss,omitempty"`

	allow  need.Allowances
	sample float64
	shown  Shown
}

// NeedFlow is where grams go: yarn, felt, batts or fibre; margin, finishing, spinning, carding,
// sample.
type NeedFlow struct {
	Key   string  `json:"key"`
	Grams float64 `json:"grams"`
}

// NeedBlend is what a need wants of a blend, beside what the blend is.
type NeedBlend struct {
	ID    int64      `json:"id"`
	Name  string     `json:"name"`
	Hex   string     `json:"hex"`
	Parts float64    `json:"parts"`
	Share float64    `json:"share"`
	WantG float64    `json:"want_g"` // carded
	NowG  float64    `json:"now_g"`
	Apart bool       `json:"apart"` // the blend has another weight than is wanted of it
	Empty bool       `json:"empty"` // it has no fibre yet, and so no share
	Lacks []NeedLack `json:"lacks"`
	blend Blend
}

// NeedLack is what the shelf lacks for what is wanted of a blend.
type NeedLack struct {
	Name  string  `json:"name"`
	LotID *int64  `json:"lot_id"`
	Kind  string  `json:"kind"`
	Hex   string  `json:"hex"`
	Grams float64 `json:"grams"`

	preparation string
}

// NeedUnits is how many units it makes on a piece of equipment, each nine tenths full.
type NeedUnits struct {
	EquipmentID int64  `json:"equipment_id"`
	Name        string `json:"name"`
	Units       int    `json:"units"`
}

// Usual is what a need takes where nothing else is said.
func (n Need) Usual(field string) bool {
	return map[string]*float64{
		"margin_pct": n.MarginPct, "waste_pct": n.WastePct, "finishing_pct": n.FinishingPct, "take_up_pct": n.TakeUpPct, "sample_g": n.SampleG,
	}[field] == nil
}

// ShownBy is how many skeins and samples have shown an allowance that counts where nothing else is
// said.
func (n Need) ShownBy(field string) int { return n.shown.N[field] }

// Allowance is one of the allowances as it counts, in percent; sample_g in grams.
func (n Need) Allowance(field string) float64 {
	return map[string]float64{
		"margin_pct": 100 * n.allow.Margin, "waste_pct": 100 * n.allow.Waste, "finishing_pct": 100 * n.allow.Finishing, "take_up_pct": 100 * n.allow.TakeUp,
		"sample_g": n.sample,
	}[field]
}

// StartNeed begins the need of a making, or returns the one that is there.
func (s *Studio) StartNeed(ctx context.Context, making int64, in NeedPlan) (Need, error) {
	m, err := s.Making(ctx, making)
	if err != nil {
		return Need{}, err
	}
	if n, err := s.NeedOf(ctx, making); !errors.Is(err, ErrNotFound) {
		return n, err
	}
	if in.What == "" {
		in.What = m.Name
	}
	if in.Plies == 0 {
		in.Plies = 2
	}
	if _, err := s.needLook(ctx, making, &in); err != nil {
		return Need{}, err
	}
	row, err := store.AddPiece(ctx, s.store, store.Need{MakingID: making, Plan: in})
	if err != nil {
		return Need{}, err
	}
	return s.needOf(ctx, row)
}

// NeedOf returns the need of a making; ErrNotFound where it has none.
func (s *Studio) NeedOf(ctx context.Context, making int64) (Need, error) {
	row, err := s.store.NeedOf(ctx, making)
	if err != nil {
		return Need{}, err
	}
	return s.needOf(ctx, row)
}

// Need returns a need as it stands.
func (s *Studio) Need(ctx context.Context, id int64) (Need, error) {
	row, err := store.Piece[store.Need](ctx, s.store, id)
	if err != nil {
		return Need{}, err
	}
	if _, err := s.store.Making(ctx, row.MakingID); err != nil {
		return Need{}, err
	}
	return s.needOf(ctx, row)
}

func (s *Studio) needOf(ctx context.Context, row store.Need) (Need, error) {
	blends, err := s.BlendsOf(ctx, row.MakingID)
	if err != nil {
		return Need{}, err
	}
	base, err := s.needBase(ctx)
	if err != nil {
		return Need{}, err
	}
	return s.needWith(ctx, row, blends, base)
}

// needsWanted works out what needs of several makings want, with all that they rest on read at once,
// and without the colours of their blends.
func (s *Studio) needsWanted(ctx context.Context, rows []store.Need) ([]Need, error) {
	makings := make([]int64, len(rows))
	for i, r := range rows {
		makings[i] = r.MakingID
	}
	kept, err := s.store.BlendsOf(ctx, makings)
	if err != nil {
		return nil, err
	}
	all, err := s.amountsOf(ctx, kept)
	if err != nil {
		return nil, err
	}
	of := map[int64][]Blend{}
	for _, b := range all {
		of[b.MakingID] = append(of[b.MakingID], b)
	}
	base, err := s.needBase(ctx)
	if err != nil {
		return nil, err
	}
	base.machines = nil
	out := make([]Need, len(rows))
	for i, r := range rows {
		if out[i], err = s.needWith(ctx, r, of[r.MakingID], base); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// needBase is what every need rests on.
type needBase struct {
	set      Settings
	shown    Shown
	machines []Equipment
}

func (s *Studio) needBase(ctx context.Context) (b needBase, err error) {
	if b.set, err = s.Settings(ctx); err != nil {
		return b, err
	}
	if b.shown, err = s.ShownBySkeins(ctx); err != nil {
		return b, err
	}
	b.machines, err = s.Equipment(ctx)
	return b, err
}

func (s *Studio) needWith(ctx context.Context, row store.Need, blends []Blend, base needBase) (Need, error) {
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

// SaveNeed replaces a need, based on its version.
func (s *Studio) SaveNeed(ctx context.Context, id, version int64, in NeedPlan) (Need, error) {
	return s.saveNeed(ctx, id, version, in, store.Onward)
}

// StepNeed moves a need along its steps.
func (s *Studio) StepNeed(ctx context.Context, id, version int64, m Move) (Need, error) {
	var in NeedPlan
	way, err := s.stateAt(ctx, "needs", id, m, &in)
	if err != nil {
		return Need{}, err
	}
	return s.saveNeed(ctx, id, version, in, way)
}

func (s *Studio) saveNeed(ctx context.Context, id, version int64, in NeedPlan, way store.Way) (Need, error) {
	row, err := store.Piece[store.Need](ctx, s.store, id)
	if err != nil {
		return Need{}, err
	}
	out, err := s.needLook(ctx, row.MakingID, &in)
	if err != nil {
		return out, err
	}
	left, err := leaving(row.Plan, in, way, "")
	if err != nil {
		return out, err
	}
	row.Version, row.Plan = version, in
	r, err := store.SavePiece(ctx, s.store, row, left)
	if err != nil {
		return out, convertStale(err, func(r store.Need) (Need, error) { return s.needOf(ctx, r) })
	}
	out.ID, out.Version, out.MakingID = r.ID, r.Version, r.MakingID
	return out, nil
}

// needLook works a need out for a making and keeps nothing.
func (s *Studio) needLook(ctx context.Context, making int64, in *NeedPlan) (Need, error) {
	blends, err := s.BlendsOf(ctx, making)
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
func (s *Studio) needWork(ctx context.Context, making int64, in *NeedPlan, blends []Blend, base needBase) (Need, error) {
	if err := checkNeed(in); err != nil {
		return Need{}, err
	}
	out := Need{NeedPlan: *in, MakingID: making, shown: base.shown, PerPlyG: []float64{}, Flow: []NeedFlow{}, Blends: []NeedBlend{}, Units: []NeedUnits{}}
	q, told, err := s.needRequest(ctx, &out, blends, base.set)
	if err != nil {
		return out, err
	}
	out.allow, out.sample = q.Allowances, q.SampleG
	out.divide(blends, q.StepG)
	if !told {
		return out, nil
	}
	for _, b := range out.Blends {
		for _, c := range b.blend.Components {
			part := need.Component{Share: b.Share * c.Share, Loses: c.loses(), JoinsAt: q.Passes - b.blend.Passes + 1}
			if b.blend.Passes == 0 { // laid as it is, it loses nothing
				part.Loses, part.JoinsAt = losses.Fall{}, 1
			}
			q.Components = append(q.Components, part)
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
	out.units(base.machines)
	return out, nil
}

// checkNeed finds what is wrong with how a need is told, beyond its numbers.
func checkNeed(in *NeedPlan) error {
	var l fault.List
	checkText(&l, "what", "what it is for", &in.What, maxName, true)
	if in.Way == "" {
		in.Way = NeedWays[0]
	}
	if !slices.Contains(NeedWays, in.Way) {
		l.Add("way", "It is told as yarn, batts, felt or all of a lot.")
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
	for _, p := range in.Parts {
		if !(p.Parts >= 0 && p.Parts <= 1e6) {
			l.Add("parts", "Parts are from 0 to a million.")
		}
	}
	return l.Err()
}

// needRequest is what is asked of core/need; told is false where too little was.
func (s *Studio) needRequest(ctx context.Context, n *Need, blends []Blend, set Settings) (q need.Request, told bool, err error) {
	or := func(pct *float64, usual float64) float64 {
		if pct == nil {
			return usual
		}
		return *pct / 100
	}
	q = need.Request{StepG: inGrams(set.StepMg), SampleG: usualSampleG, Allowances: need.Allowances{
		Margin: or(n.MarginPct, need.Margin), Waste: or(n.WastePct, n.shown.or("waste_pct", need.Waste)),
		Finishing: or(n.FinishingPct, n.shown.or("finishing_pct", need.Finishing)), TakeUp: or(n.TakeUpPct, n.shown.or("take_up_pct", need.TakeUp)),
	}}
	if n.SampleG != nil {
		q.SampleG = *n.SampleG
	}
	for _, b := range blends {
		q.Passes = max(q.Passes, b.Passes)
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
		l, err := s.Lot(ctx, *n.LotID)
		if err != nil {
			return q, false, fault.New("lot_id", "That lot is not on the shelf.")
		}
		passes := DefaultPasses
		if len(blends) > 0 {
			passes = q.Passes
		}
		k, err := s.AllKinds(ctx, true)
		if err != nil {
			return q, false, err
		}
		q.FibreG = wayOf(k.Named(l.Kind), passes).Finished(l.Grams)
		told = q.FibreG > 0
	}
	return q, told, nil
}

// measureGrist puts a grist that was measured on a sample of the making in the place of one that is
// estimated or not told.
func (s *Studio) measureGrist(ctx context.Context, n *Need) error {
	if n.Grist > 0 && n.WPI == 0 || n.MakingID == 0 {
		return nil
	}
	list, err := s.YarnSamplesOf(ctx, n.MakingID)
	if err != nil {
		return err
	}
	if grist, of := MeasuredGrist(list); grist > 0 {
		n.Grist, n.Measured = grist, of
		if n.Length > 0 && !slices.Contains(n.Locked, "weight") {
			n.Weight = 0
		}
	}
	return nil
}

// divide takes up the blends, each with its part: as it was said, else as heavy as it is now,
// else an even one.
func (n *Need) divide(blends []Blend, stepG float64) {
	var sum float64
	laid := 0 // blends with fibre; one without has no share
	for _, b := range blends {
		v := NeedBlend{ID: b.ID, Name: b.Name, Hex: b.Hex, Parts: b.TotalG, NowG: b.TotalG, Lacks: []NeedLack{}, Empty: len(b.Components) == 0, blend: b}
		if i := slices.IndexFunc(n.Parts, func(p NeedPart) bool { return p.BlendID == b.ID }); i >= 0 {
			v.Parts = n.Parts[i].Parts
		}
		if len(b.Components) > 0 {
			laid++
			sum += v.Parts
		}
		n.Blends = append(n.Blends, v)
	}
	for i := range n.Blends {
		b := &n.Blends[i]
		switch {
		case len(b.blend.Components) == 0:
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
	n.YarnG, n.LowG, n.HighG, n.SinglesM, n.SinglesGM = a.Yarn.WeightG, a.LowG, a.HighG, a.SinglesM, a.SinglesGrist
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
	if !n.laid() {
		return
	}
	exact := make([]float64, len(n.Blends))
	for i, b := range n.Blends {
		exact[i] = b.Share * float64(all)
	}
	for i, steps := range weigh.Apportion(exact, all) {
		b := &n.Blends[i]
		b.WantG = unit.Clean(float64(steps) * stepG)
		b.Apart = len(b.blend.Components) > 0 && math.Abs(b.WantG-b.NowG) > stepG/2
	}
}

// laid reports whether a blend has fibre; without, the whole of a need is one fibre to come.
func (n Need) laid() bool {
	return slices.ContainsFunc(n.Blends, func(b NeedBlend) bool { return len(b.blend.Components) > 0 })
}

// weighIn is what is weighed in of a component for what is wanted of the blend, grams.
func (b NeedBlend) weighIn(c Component) float64 {
	return c.way(b.blend.Passes).WeighIn(b.WantG * c.Share)
}

// lack is what the shelf lacks for what is wanted of a blend.
func (b *NeedBlend) lack() {
	for _, c := range b.blend.Components {
		have := 0.0
		if c.HaveG != nil {
			have = *c.HaveG + c.WeighedG
		} else if c.LotID == nil {
			have = c.WeighedG
		}
		if short := losses.Lack(b.weighIn(c), have); short > 0 {
			b.Lacks = append(b.Lacks, NeedLack{Name: c.Name, LotID: c.LotID, Kind: c.Kind, Hex: c.Hex, Grams: short, preparation: c.Preparation})
		}
	}
}

// units is how many units it makes on each piece of equipment.
func (n *Need) units(machines []Equipment) {
	for _, e := range machines {
		units := 0
		for _, b := range n.Blends {
			if len(b.blend.Components) == 0 || b.WantG == 0 || b.blend.TotalG == 0 {
				continue
			}
			in := b.blend.WeighInG * b.WantG / b.blend.TotalG
			units += unitsOf(in, e.Bed().Capacity(b.blend.weighedIn()))
		}
		if units == 0 {
			units = unitsOf(n.WeighInG, (e.SmoothG+e.LoftyG)/2)
		}
		n.Units = append(n.Units, NeedUnits{e.ID, e.Name, units})
	}
}

// unitsOf is how many units grams make, each nine tenths of a capacity at most.
func unitsOf(grams, capacity float64) int {
	if capacity <= 0 {
		return 1
	}
	return int(max(1, math.Ceil(grams/(0.9*capacity)-1e-9)))
}

// GiveWeights gives the blends of a need the weights that it wants of them.
func (s *Studio) GiveWeights(ctx context.Context, id int64, only ...int64) (Need, error) {
	return whole(ctx, s, func(ctx context.Context) (Need, error) { return s.giveWeights(ctx, id, only) })
}

func (s *Studio) giveWeights(ctx context.Context, id int64, only []int64) (Need, error) {
	n, err := s.Need(ctx, id)
	if err != nil {
		return n, err
	}
	if !n.Enough {
		return n, fault.New("what", "Say how much is needed first.")
	}
	for _, b := range n.Blends {
		if !b.Apart || len(only) > 0 && !slices.Contains(only, b.ID) {
			continue
		}
		if b.WantG <= 0 {
			return n, fault.New("parts", "%s would have no weight. Give it a part above 0, or put it into the bin.", b.Name)
		}
		in := b.blend.Input()
		in.TotalG = b.WantG
		if _, err := s.SaveBlend(ctx, b.ID, b.blend.Version, in, fmt.Sprintf("as %s needs it", n.What)); err != nil {
			return n, err
		}
	}
	return s.Need(ctx, id)
}
