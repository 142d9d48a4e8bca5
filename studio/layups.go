package studio

import (
	"context"
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
	"fairtangle/store"
)

// LayInput is a lay as it is asked for. Left out, from and start are 0, to and
// end are 1.
type LayInput struct {
	Component int          `json:"component"`
	From      *float64     `json:"from"`
	To        *float64     `json:"to"`
	Start     *float64     `json:"start"`
	End       *float64     `json:"end"`
	Grams     float64      `json:"grams"`
	Method    layup.Method `json:"method"`
}

// LayerInput is a layer as it is asked for.
type LayerInput struct {
	Lays []LayInput `json:"lays"`
}

// PlanInput is the layers of a lay-up as they are asked for.
type PlanInput struct {
	Layers      []LayerInput `json:"layers"`
	JoinsAtPass []int        `json:"joins_at_pass"`
	// Rolags of a board; left out, as many as the staple suggests.
	Rolags      *int    `json:"rolags"`
	Draft       float64 `json:"draft"`
	Uneven      bool    `json:"uneven"`
	MirrorPairs bool    `json:"mirror_pairs"`
}

// plan fills in what was left out, but for the rolags.
func (in PlanInput) plan() layup.Plan {
	p := layup.Plan{Layers: make([]layup.Layer, len(in.Layers)), Joins: in.JoinsAtPass, Draft: in.Draft, Uneven: in.Uneven, MirrorPairs: in.MirrorPairs}
	if p.Draft == 0 {
		p.Draft = layup.DefaultDraft
	}
	if in.Rolags != nil {
		p.Rolags = *in.Rolags
	}
	for i, l := range in.Layers {
		for _, v := range l.Lays {
			p.Layers[i].Lays = append(p.Layers[i].Lays, layup.Lay{
				Component: v.Component, From: or(v.From, 0), To: or(v.To, 1), Start: or(v.Start, 0), End: or(v.End, 1), Grams: v.Grams, Method: v.Method,
			})
		}
	}
	return p.OnGrid()
}

func or(v *float64, other float64) float64 {
	if v == nil {
		return other
	}
	return *v
}

// inputOfPlan is a plan as it is asked for.
func inputOfPlan(p layup.Plan) PlanInput {
	in := PlanInput{Layers: make([]LayerInput, len(p.Layers)), JoinsAtPass: p.Joins, Rolags: &p.Rolags, Draft: p.Draft, Uneven: p.Uneven, MirrorPairs: p.MirrorPairs}
	for i, l := range p.Layers {
		in.Layers[i].Lays = []LayInput{}
		for _, v := range l.Lays {
			in.Layers[i].Lays = append(in.Layers[i].Lays, LayInput{v.Component, &v.From, &v.To, &v.Start, &v.End, v.Grams, v.Method})
		}
	}
	return in
}

// LayupInput is a lay-up as it is edited. Components tell which of the blend's
// components the lays count in; left out, they are those of the blend in its
// order.
type LayupInput struct {
	Name        string                 `json:"name"`
	EquipmentID int64                  `json:"equipment_id"`
	Units       int                    `json:"units"`
	Components  []store.LayupComponent `json:"components,omitempty"`
	PlanInput
}

// LayupFibre is a component of a lay-up with what there is of it for one unit.
type LayupFibre struct {
	Name      string       `json:"name"`
	Hexes     []string     `json:"hexes"`
	Grams     float64      `json:"grams"`
	PlacedG   float64      `json:"placed_g"`
	UnplacedG float64      `json:"unplaced_g"`
	JoinsAt   int          `json:"joins_at_pass"`
	Usual     layup.Method `json:"usual_method"`
	Gone      bool         `json:"gone"` // no longer in the blend
	StapleMM  float64      `json:"staple_mm"`

	Preparation string `json:"preparation"`
	LotID       *int64 `json:"lot_id,omitempty"`
	kind        fibre.Kind
}

// KindProperties gives what a tuft of this fibre is drawn from.
func (f LayupFibre) KindProperties() fibre.Kind { return f.kind }

// Layup is a lay-up with everything that follows from it.
type Layup struct {
	ID      int64 `json:"id"`
	Version int64 `json:"version"`
	BlendID int64 `json:"blend_id"`
	LayupInput
	Fibres    []LayupFibre    `json:"fibres"`
	Loads     layup.Loads     `json:"loads"`
	Rolls     *layup.Rolls    `json:"rolls"`
	Findings  []layup.Finding `json:"findings"`
	Steps     []layup.Step    `json:"steps"`
	StepG     float64         `json:"step_g"`
	Passes    int             `json:"passes"`
	Equipment store.Equipment `json:"-"`

	plan   layup.Plan
	bed    layup.Bed
	fibres []layup.Fibre
	blend  Blend
	at     bench
}

func bedOf(e store.Equipment) layup.Bed {
	return layup.Bed{
		Type: layup.Type(e.Type), Electric: e.Drive == "electric", WidthMM: e.WidthMM, LengthMM: e.LengthMM, ToothMM: e.ToothMM,
		Smooth: unit.Grams(e.SmoothG), Lofty: unit.Grams(e.LoftyG), FeedG: e.FeedG, Minutes: e.Minutes,
	}
}

// layupKey names a component of a blend.
func (c Component) layupKey() store.LayupComponent {
	return store.LayupComponent{LotID: c.LotID, Only: c.Only, Name: c.Name, Kind: c.Kind, Hex: c.Hex}
}

func sameComponent(a, b store.LayupComponent) bool {
	if a.LotID != nil || b.LotID != nil {
		return a.LotID != nil && b.LotID != nil && *a.LotID == *b.LotID && a.Only == b.Only
	}
	return a.Name == b.Name && a.Kind == b.Kind && a.Hex == b.Hex
}

// follow brings a lay-up to the blend as it is now: lays count in the blend's
// components; those whose component is gone count in what comes after them.
func (in *LayupInput) follow(b Blend) {
	now := make([]store.LayupComponent, len(b.Components))
	joins := make([]int, len(now))
	for i, c := range b.Components {
		now[i], joins[i] = c.layupKey(), 1
	}
	if in.Components == nil {
		in.Components = now
		return
	}
	to := make([]int, len(in.Components))
	for i, old := range in.Components {
		to[i] = slices.IndexFunc(now, func(k store.LayupComponent) bool { return sameComponent(k, old) })
		if to[i] < 0 {
			used := slices.ContainsFunc(in.Layers, func(l LayerInput) bool {
				return slices.ContainsFunc(l.Lays, func(v LayInput) bool { return v.Component == i })
			})
			if !used {
				continue
			}
			now, joins = append(now, old), append(joins, 1)
			to[i] = len(now) - 1
		}
		if i < len(in.JoinsAtPass) {
			joins[to[i]] = in.JoinsAtPass[i]
		}
	}
	layers := make([]LayerInput, len(in.Layers))
	for i, l := range in.Layers {
		layers[i].Lays = slices.Clone(l.Lays)
		for j := range layers[i].Lays {
			if c := &layers[i].Lays[j].Component; *c >= 0 && *c < len(to) {
				*c = to[*c]
			} else {
				*c = -1
			}
		}
	}
	in.Layers, in.Components, in.JoinsAtPass = layers, now, joins
}

// LookLayup works a lay-up of a blend out and keeps nothing. strict refuses
// lays that take more than there is.
func (s *Studio) LookLayup(ctx context.Context, b Blend, in LayupInput, strict bool) (Layup, error) {
	var l fault.List
	checkText(&l, "name", "the lay-up", &in.Name, maxName, true)
	if in.Units < 1 || in.Units > weigh.MaxUnits {
		l.Add("units", "A lay-up serves 1 to %d units.", weigh.MaxUnits)
	}
	e, err := s.store.AnyEquipment(ctx, in.EquipmentID)
	if err != nil || strict && e.DeletedAt.Valid {
		l.Add("equipment_id", "Choose a piece of equipment.")
	}
	if len(b.Components) == 0 {
		l.Add("components", "The blend is empty. Put fibre into it first.")
	}
	if err := l.Err(); err != nil {
		return Layup{}, err
	}
	at, err := s.bench(ctx)
	if err != nil {
		return Layup{}, err
	}
	in.follow(b)
	out := Layup{BlendID: b.ID, StepG: float64(at.set.StepMg.Grams()), Passes: b.Passes, Equipment: e, bed: bedOf(e), plan: in.plan(), blend: b, at: at}
	if out.bed.Type != layup.Drum {
		out.plan = out.plan.OffTheTray()
	}
	out.fill(in)
	if in.Rolags == nil && out.bed.Type == layup.Board {
		out.plan.Rolags = layup.SuggestRolags(out.bed, out.plan.Draft, out.fibres)
	}
	if err := out.plan.Check(out.bed, out.fibres, strict); err != nil {
		return Layup{}, err
	}
	in.PlanInput = inputOfPlan(out.plan)
	out.LayupInput = in
	out.Loads = out.plan.Loads(out.bed, out.fibres)
	for i := range out.Fibres {
		out.Fibres[i].PlacedG, out.Fibres[i].UnplacedG = out.Loads.PlacedG[i], out.Loads.UnplacedG[i]
	}
	out.Rolls = out.plan.Rolls(out.bed, out.fibres)
	out.Findings = out.plan.Findings(out.bed, out.fibres, out.Loads, out.Rolls)
	m, err := s.store.Making(ctx, b.MakingID)
	if err != nil {
		return Layup{}, err
	}
	if layup.Chosen(m.Schools)["extras"] == "quarter" {
		if f := layup.TooManyExtras(out.fibres); f != nil {
			out.Findings = append(out.Findings, *f)
		}
	}
	out.Steps = out.plan.Steps(out.bed, b.Passes)
	return out, nil
}

// fill puts the fibres together: those of the blend with the grams of one
// unit, in whole steps, and those that are gone, of which there are none.
func (out *Layup) fill(in LayupInput) {
	b, at := out.blend, out.at
	out.Fibres, out.fibres = nil, nil
	for i, key := range in.Components {
		f := LayupFibre{Name: key.Name, Hexes: []string{key.Hex}, JoinsAt: out.plan.JoinsAt(i), Gone: true, kind: at.kinds.named(key.Kind)}
		f.StapleMM = f.kind.StapleMM.Mid()
		if i < len(b.Components) {
			c := b.Components[i]
			f.Name, f.Hexes, f.StapleMM, f.Preparation, f.LotID, f.Gone, f.kind = c.Name, c.Hexes(), c.StapleMM(), c.Preparation, c.LotID, false, c.kind
			loss := weigh.Component{Share: c.Share, LossPass: c.LossPct / 100, JoinsAt: f.JoinsAt}
			f.Grams = onStep(b.TotalG/float64(in.Units)*c.Share/loss.Yield(b.Passes), out.StepG)
		}
		core := layupFibre(f.Name, f.Grams, f.kind, f.Preparation, f.StapleMM)
		colour := reflectanceOf(key.Hex)
		core.Colour = colour.Lab()
		f.Usual = out.bed.Usual(core)
		out.Fibres, out.fibres = append(out.Fibres, f), append(out.fibres, core)
	}
}

// onStep rounds to a step of the scale, one at least.
func onStep(grams, step float64) float64 {
	return clean(max(1, math.Round(grams/step)) * step)
}

func layupFibre(name string, grams float64, k fibre.Kind, preparation string, staple float64) layup.Fibre {
	return layup.Fibre{
		Name: name, Grams: grams, Family: k.Family, Role: k.Role, Crimp: k.Crimp, Cohesion: k.Cohesion, LickerIn: k.LickerIn, Fragile: k.Fragile,
		Preparation: preparation, StapleMM: staple,
	}
}

// CreateLayup adds a lay-up to a blend.
func (s *Studio) CreateLayup(ctx context.Context, blendID int64, in LayupInput) (Layup, error) {
	b, err := s.Blend(ctx, blendID)
	if err != nil {
		return Layup{}, err
	}
	if in.Name == "" {
		in.Name = b.Name
	}
	out, err := s.LookLayup(ctx, b, in, true)
	if err != nil {
		return Layup{}, err
	}
	r, err := store.AddPiece(ctx, s.store, out.row())
	out.ID, out.Version = r.ID, r.Version
	return out, err
}

func (out Layup) row() store.Layup {
	return store.Layup{BlendID: out.BlendID, EquipmentID: out.EquipmentID, Name: out.Name, Units: out.Units, Components: out.Components, Plan: out.plan}
}

// Layup gives a lay-up, brought to its blend as it is now.
func (s *Studio) Layup(ctx context.Context, id int64) (Layup, error) {
	r, err := store.Piece[store.Layup](ctx, s.store, id)
	if err != nil {
		return Layup{}, err
	}
	return s.layupOf(ctx, r)
}

func (s *Studio) layupOf(ctx context.Context, r store.Layup) (Layup, error) {
	b, err := s.Blend(ctx, r.BlendID)
	if err != nil {
		return Layup{}, err
	}
	return s.layupIn(ctx, r, b)
}

// layupIn is the view of a row of a blend. Where the equipment is in the bin
// it is still that one.
func (s *Studio) layupIn(ctx context.Context, r store.Layup, b Blend) (Layup, error) {
	in := LayupInput{Name: r.Name, EquipmentID: r.EquipmentID, Units: r.Units, Components: r.Components, PlanInput: inputOfPlan(r.Plan)}
	out, err := s.LookLayup(ctx, b, in, false)
	out.ID, out.Version = r.ID, r.Version
	return out, err
}

// LayupRow is a lay-up in a list.
type LayupRow struct {
	ID          int64  `json:"id"`
	Version     int64  `json:"version"`
	BlendID     int64  `json:"blend_id"`
	EquipmentID int64  `json:"equipment_id"`
	Name        string `json:"name"`
	Units       int    `json:"units"`
	Layers      int    `json:"layers"`
}

// LayupsOf lists the lay-ups of blends, the latest touched first.
func (s *Studio) LayupsOf(ctx context.Context, blends ...int64) ([]LayupRow, error) {
	rows, err := store.Pieces[store.Layup](ctx, s.store, "blend_id IN ?", blends)
	out := make([]LayupRow, len(rows))
	for i, r := range rows {
		out[i] = LayupRow{r.ID, r.Version, r.BlendID, r.EquipmentID, r.Name, r.Units, len(r.Plan.Layers)}
	}
	return out, err
}

// LayupsOfMaking lists the lay-ups of a making's blends.
func (s *Studio) LayupsOfMaking(ctx context.Context, making int64) ([]LayupRow, error) {
	if _, err := s.Making(ctx, making); err != nil {
		return nil, err
	}
	rows, err := s.store.BlendsOf(ctx, []int64{making})
	if err != nil {
		return nil, err
	}
	ids := make([]int64, len(rows))
	for i, r := range rows {
		ids[i] = r.ID
	}
	return s.LayupsOf(ctx, ids...)
}

// LayupsOfBlend lists the lay-ups of one blend.
func (s *Studio) LayupsOfBlend(ctx context.Context, blend int64) ([]LayupRow, error) {
	if _, err := s.Blend(ctx, blend); err != nil {
		return nil, err
	}
	return s.LayupsOf(ctx, blend)
}

// SaveLayup replaces a lay-up, based on a version of it. strict refuses lays
// that take more than there is; without, what was laid before the blend changed
// may stay.
func (s *Studio) SaveLayup(ctx context.Context, id, version int64, in LayupInput, strict bool) (Layup, error) {
	old, err := store.Piece[store.Layup](ctx, s.store, id)
	if err != nil {
		return Layup{}, err
	}
	b, err := s.Blend(ctx, old.BlendID)
	if err != nil {
		return Layup{}, err
	}
	out, err := s.LookLayup(ctx, b, in, strict)
	if err != nil {
		return Layup{}, err
	}
	row := out.row()
	row.ID, row.Version = id, version
	r, err := store.SavePiece(ctx, s.store, row)
	if err != nil {
		return Layup{}, convertStale(err, func(r store.Layup) (Layup, error) { return s.layupIn(ctx, r, b) })
	}
	out.ID, out.Version = r.ID, r.Version
	return out, nil
}

// Turned is the lay-up left to right, as the second unit of a pair has it.
func (out Layup) Turned() Layup {
	out.plan = out.plan.Mirror()
	out.PlanInput = inputOfPlan(out.plan)
	out.Loads = out.plan.Loads(out.bed, out.fibres)
	out.Steps = out.plan.Steps(out.bed, out.Passes)
	return out
}

// Thickness is how high one gram of a fibre stands, spread over the whole
// cloth, in mm.
func (out Layup) Thickness(fibre int) float64 {
	return out.bed.Thickness(layup.Lay{To: 1, End: 1, Grams: 1}, out.fibres[fibre])
}

// AnyEquipment gives one piece, also from the bin.
func (s *Studio) AnyEquipment(ctx context.Context, id int64) (store.Equipment, error) {
	return s.store.AnyEquipment(ctx, id)
}
