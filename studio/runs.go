package studio

import (
	"context"
	"errors"
	"slices"
	"time"

	"fairtangle/core/carding"
	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/core/unit"
	"fairtangle/store"
)

// Run is what happened at the carder, with everything that follows from it.
type Run struct {
	ID          int64         `json:"id"`
	Version     int64         `json:"version"`
	Sort        string        `json:"sort"`
	Name        string        `json:"name"`
	MakingID    int64         `json:"making_id"`
	BlendID     int64         `json:"blend_id,omitempty"`
	WeighoutID  *int64        `json:"weighout_id,omitempty"`
	LayupID     *int64        `json:"layup_id,omitempty"`
	EquipmentID *int64        `json:"equipment_id,omitempty"`
	LotID       *int64        `json:"lot_id,omitempty"`
	At          string        `json:"at"` // when it began
	Unit        int           `json:"unit"`
	Paused      bool          `json:"paused"`
	Units       []RunUnit     `json:"units"`
	Line        RunLine       `json:"line"`    // of all units
	Shelved     []RunShelved  `json:"shelved"` // of all units together
	Foreseen    []RunForeseen `json:"foreseen"`
	Entries     []RunEntry    `json:"entries"`
	Sample      bool          `json:"sample"`             // a few grams, on which something is decided
	Decision    *Decision     `json:"decision,omitempty"` // null: none yet
	Fleece      *Fleece       `json:"fleece,omitempty"`

	Equipment Equipment `json:"-"`
	Weighout  Weighout  `json:"-"`
	state     run.State
	row       store.Run
}

// The sorts of a run.
const (
	CardingRun = store.CardingRun
	FleeceRun  = store.FleeceRun
)

// RunForeseen is what was foreseen of a pass when the run began.
type RunForeseen struct {
	PatchDeltaE float64 `json:"patch_delta_e"`
	Look        string  `json:"look"`
	Grams       float64 `json:"grams"`
	Minutes     float64 `json:"minutes"`
}

// Decision is what was decided on a sample.
type Decision struct {
	Choice int    `json:"choice"` // 1 take the blend, 2 change it and try again, 3 leave it
	Text   string `json:"text"`
}

// RunUnit is one filling of the equipment in a run.
type RunUnit struct {
	Step     int          `json:"step"` // -1: not begun
	Enough   bool         `json:"enough"`
	Passes   []RunPass    `json:"passes"`
	Line     RunLine      `json:"line"`
	Count    *float64     `json:"count"` // rolags or punis
	PiecesG  []float64    `json:"pieces_g"`
	Note     string       `json:"note"`
	Shelved  []RunShelved `json:"shelved"`
	ShelvedG float64      `json:"shelved_g"`
	// ExpectedG is what is expected to come off at the last pass.
	ExpectedG float64 `json:"expected_g"`
	// Weight is what was foreseen of that when the run began, as it was said then.
	Weight *RunWeight `json:"foreseen"`
	Hex    string     `json:"hex"`
}

// RunShelved is what went onto the shelf.
type RunShelved struct {
	Entry int64   `json:"entry"`
	LotID int64   `json:"lot_id"`
	Grams float64 `json:"grams"`
	Form  string  `json:"form"`
}

// RunPass is what is known of a pass. What is null was not told.
type RunPass struct {
	InG        *float64 `json:"in_g"`
	OffG       *float64 `json:"off_g"`
	ResidueG   *float64 `json:"residue_g"`
	Residue    string   `json:"residue,omitempty"`
	DroppingsG *float64 `json:"droppings_g"`
	PickedG    *float64 `json:"picked_g"`
	ClothG     *float64 `json:"cloth_g"`
	Specks     *float64 `json:"specks"`
	Look       string   `json:"look"`
	Minutes    float64  `json:"minutes"`
	Corrected  bool     `json:"minutes_corrected"`
	Stood      bool     `json:"stood"` // an interruption is not counted
	Clearance  *float64 `json:"clearance_mm"`
	Pace       *float64 `json:"pace"`
	Note       string   `json:"note"`
	Photos     []int64  `json:"photos"`
	Apart      bool     `json:"apart"` // nothing is learned from what was weighed here
	// After are the entries on which these stand, by what they tell.
	After map[string]int64 `json:"after"`
}

// RunLine is the mass line: in_g is the sum of all that follows it, but for the stretches.
type RunLine struct {
	InG        float64      `json:"in_g"`
	OffG       float64      `json:"off_g"`
	KeptG      float64      `json:"kept_g"`
	ThrownG    float64      `json:"thrown_g"`
	DroppingsG float64      `json:"droppings_g"`
	PickedG    float64      `json:"picked_g"`
	ClothG     float64      `json:"cloth_g"`
	BetweenG   float64      `json:"between_passes_g"`
	RestG      float64      `json:"unaccounted_g"`
	OpenG      float64      `json:"open_g"`
	Guessed    bool         `json:"cloth_guessed"`
	Stretches  []RunStretch `json:"stretches,omitempty"`
}

// RunStretch is what lies between two weighings.
type RunStretch struct {
	First   int          `json:"first_pass"`
	Last    int          `json:"last_pass"`
	InG     float64      `json:"in_g"`
	LossG   float64      `json:"loss_g"`
	LossPct float64      `json:"loss_pct"`
	RestG   float64      `json:"unaccounted_g"`
	Learn   bool         `json:"learn"`
	Ask     []losses.Ask `json:"ask"`
}

func lineOf(l run.Line) RunLine {
	out := RunLine{
		InG: inGrams(l.In), OffG: inGrams(l.Off), KeptG: inGrams(l.Kept), ThrownG: inGrams(l.Thrown), DroppingsG: inGrams(l.Droppings),
		PickedG: inGrams(l.Picked), ClothG: inGrams(l.Cloth), BetweenG: inGrams(l.Between), RestG: inGrams(l.Rest), OpenG: inGrams(l.Open), Guessed: l.Guessed,
	}
	for _, s := range l.Stretches {
		out.Stretches = append(out.Stretches, RunStretch{
			s.First, s.Last, inGrams(s.In), s.Loss, 100 * s.Rate, s.Unaccounted, s.Learn, append([]losses.Ask{}, s.Ask...),
		})
	}
	return out
}

// RunEntry is one thing told of a run.
type RunEntry struct {
	ID     int64    `json:"id"`
	At     string   `json:"at"`
	Unit   int      `json:"unit"`
	Pass   int      `json:"pass"`
	What   string   `json:"what"`
	Grams  *float64 `json:"grams,omitempty"`
	Number float64  `json:"number"`
	Text   string   `json:"text"`
	Undoes *int64   `json:"undoes,omitempty"`
	// Stands is false where another entry took it back, or took its place.
	Stands bool `json:"stands"`
	Undone bool `json:"undone"`
}

// StartRun asks for a run of a weigh-out. Without a lay-up it is carded on Equipment, all
// of a unit in one layer.
type StartRun struct {
	EquipmentID int64 `json:"equipment_id"`
}

// StartRun begins the carding of a weigh-out.
func (s *Studio) StartRun(ctx context.Context, weighout int64, in StartRun) (Run, error) {
	w, err := s.Weighout(ctx, weighout)
	if err != nil {
		return Run{}, err
	}
	b, err := s.Blend(ctx, w.BlendID)
	if err != nil {
		return Run{}, err
	}
	m, err := s.Making(ctx, b.MakingID)
	if err != nil {
		return Run{}, err
	}
	row := store.Run{Sort: CardingRun, Sample: w.row.Sample, Name: w.Name, MakingID: m.ID, WeighoutID: &w.ID, Units: len(w.Units),
		Plan: store.RunPlan{Schools: m.Schools}}
	laid, err := s.runLayup(ctx, w, b, in.EquipmentID)
	if err != nil {
		return Run{}, err
	}
	row.Plan.Layup, row.Plan.Equipment = keptPlan(laid.plan), laid.Equipment.row()
	row.EquipmentID, row.Passes = &laid.EquipmentID, laid.LastPass
	for i, f := range laid.fibres {
		row.Plan.Fibres = append(row.Plan.Fibres, store.RunFibre{Name: f.Name, Hex: laid.Fibres[i].Hexes[0], Grams: f.Grams, LossPass: f.Loses.First,
			Decay: f.Loses.Decay})
	}
	if laid.ID != 0 {
		row.LayupID = &laid.ID
		if row.Foreseen, err = s.foreseenOf(ctx, laid); err != nil {
			return Run{}, err
		}
	}
	held, err := s.cloth(ctx, laid.Equipment)
	if err != nil {
		return Run{}, err
	}
	row.ClothMg, row.Plan.ClothG = held.now, held.most
	if row.Plan.Advised, err = s.advisedAt(ctx, b, laid); err != nil {
		return Run{}, err
	}
	row.Plan.Weights = weightsForeseen(w, row)
	if row.Plan.PassMinutes, err = s.minutesForeseen(ctx, laid.Equipment); err != nil {
		return Run{}, err
	}
	row, err = store.AddPiece(ctx, s.store, row)
	if err != nil {
		return Run{}, err
	}
	return s.Run(ctx, row.ID)
}

// runLayup is the lay-up that a weigh-out follows; without one, all of a unit in one layer
// on a piece of equipment.
func (s *Studio) runLayup(ctx context.Context, w Weighout, b Blend, equipment int64) (Layup, error) {
	if w.LayupID != nil {
		l, err := s.Layup(ctx, *w.LayupID)
		if err == nil {
			return l, nil
		}
		if !aside(ctx, "layups", *w.LayupID, w.Name, err) {
			return l, err
		}
	}
	e, err := s.AnyEquipment(ctx, equipment)
	if err != nil || e.Binned {
		return Layup{}, fault.New("equipment_id", "Choose what it is carded on.")
	}
	l := Layup{Equipment: e, bed: e.Bed(), LastPass: w.Passes}
	l.EquipmentID = e.ID
	var layer layup.Layer
	for i, c := range w.Components {
		grams := w.Units[0].Cells[i].PlannedG
		f := LayFibre(c.Name, grams, c.kind, c.Preparation, c.Staple)
		f.Loses = losses.Fall{First: c.LossPct / 100, Decay: c.Decay}
		l.fibres = append(l.fibres, f)
		l.Fibres = append(l.Fibres, LayupFibre{Name: c.Name, Hexes: []string{c.Hex}})
		l.plan.Joins = append(l.plan.Joins, c.JoinsAtPass)
		layer.Lays = append(layer.Lays, layup.Lay{Component: i, To: 1, End: 1, Grams: grams, Method: l.bed.Usual(f)})
	}
	l.plan.Layers, l.plan.Draft, l.plan.Step = []layup.Layer{layer}, layup.DefaultDraft, w.StepG
	l.LastPass = l.plan.Last(l.bed, w.Passes)
	return l, nil
}

// foreseenOf is what a lay-up foresees of each pass; of what can not be foretold nothing.
func (s *Studio) foreseenOf(ctx context.Context, l Layup) (out []store.Foreseen, err error) {
	f, err := s.foretell(ctx, l, Division{})
	if _, isFault := fault.From(err); isFault {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	stages, err := s.Stages(ctx, f, true)
	lifted := map[int]float64{}
	for _, v := range l.Steps {
		if v.Action == layup.Lift {
			lifted[v.Pass] = v.Grams
		}
	}
	for i, v := range stages {
		out = append(out, store.Foreseen{PatchDeltaE: v.Patch, Look: string(v.Look), Grams: lifted[i+1], Minutes: l.Equipment.Minutes})
	}
	return out, err
}

// Run returns a run as it stands.
func (s *Studio) Run(ctx context.Context, id int64) (Run, error) {
	row, err := s.store.Run(ctx, id)
	if err != nil {
		return Run{}, err
	}
	return s.runView(ctx, row)
}

// RunsOf lists the runs of makings, the latest touched first.
func (s *Studio) RunsOf(ctx context.Context, makings ...int64) ([]Run, error) {
	return s.runsWhere(ctx, "making_id IN ?", makings)
}

// Progress is how much of the carding is done, and the run that began last.
type Progress struct {
	All, Done int
	Latest    int64
}

// RunsOfWeighout lists the runs of a weigh-out.
func (s *Studio) RunsOfWeighout(ctx context.Context, weighout int64) ([]Run, error) {
	return s.runsWhere(ctx, "weighout_id = ?", weighout)
}

func (s *Studio) runsWhere(ctx context.Context, where ...any) ([]Run, error) {
	rows, err := s.store.Runs(ctx, where...)
	if err != nil {
		return nil, err
	}
	out := []Run{}
	for _, r := range rows {
		v, err := s.runView(ctx, r)
		switch {
		case errors.Is(err, ErrNotFound): // its weigh-out lies in the bin
		case err != nil && !aside(ctx, "runs", r.ID, r.Name, err):
			return nil, err
		case err == nil:
			out = append(out, v)
		}
	}
	return out, nil
}

func (s *Studio) runView(ctx context.Context, r store.Run) (Run, error) {
	v := Run{
		ID: r.ID, Version: r.Version, Sort: r.Sort, Name: r.Name, MakingID: r.MakingID, WeighoutID: r.WeighoutID, LayupID: r.LayupID, EquipmentID: r.EquipmentID,
		LotID: r.LotID, At: r.CreatedAt.Format(timeForm), Units: []RunUnit{}, Shelved: []RunShelved{}, Foreseen: []RunForeseen{},
		Entries: []RunEntry{}, Sample: r.Sample, Equipment: equipmentOf(r.Plan.Equipment), row: r,
	}
	for _, f := range r.Foreseen {
		v.Foreseen = append(v.Foreseen, RunForeseen(f))
	}
	entries := r.Told()
	units := r.Units
	for _, e := range entries {
		if r.Sort == FleeceRun {
			units = max(units, e.Unit+1)
		}
	}
	v.state = run.Read(entries, units, r.Passes)
	v.Unit, v.Paused = v.state.Unit, v.state.Paused
	for _, e := range v.state.Shelved {
		v.Shelved = append(v.Shelved, shelvedOf(e))
	}
	v.list(entries)
	if r.Sort == FleeceRun {
		return v, s.fleeceView(ctx, &v)
	}
	var err error
	if v.Weighout, err = s.Weighout(ctx, *r.WeighoutID); err != nil {
		return v, err
	}
	v.BlendID = v.Weighout.BlendID
	if d, ok := v.state.Units[0].Whole[run.Decided]; ok {
		v.Decision = &Decision{int(d.Number), d.Text}
	}
	v.balance()
	return v, nil
}

// list puts the entries as they are shown.
func (v *Run) list(entries []run.Entry) {
	undone, later := map[int64]bool{}, map[[3]any]int64{}
	for _, e := range run.Standing(entries) {
		later[[3]any{e.Unit, e.Pass, e.What}] = e.ID
	}
	for _, e := range entries {
		if e.Undoes != 0 {
			undone[e.Undoes] = true
		}
	}
	for i, e := range entries {
		row := v.row.Entries[i]
		out := RunEntry{ID: e.ID, At: row.At.Format(timeForm), Unit: e.Unit, Pass: e.Pass, What: string(e.What), Number: e.Number, Text: e.Text, Undoes: row.UndoesID}
		if e.What.Weights() && e.Undoes == 0 {
			g := inGrams(e.Mg)
			out.Grams = &g
		}
		out.Undone = undone[e.ID]
		out.Stands = !out.Undone && e.Undoes == 0 && (e.What.Several() || later[[3]any{e.Unit, e.Pass, e.What}] == e.ID)
		v.Entries = append(v.Entries, out)
	}
}

// balance works out the mass lines.
func (v *Run) balance() {
	lines := linesOf(v.row, v.state, v.Weighout.row)
	for i, u := range v.state.Units {
		v.Units = append(v.Units, v.unitOf(i, u, lines[i]))
	}
	v.Line = lineOf(run.Whole(lines))
}

// linesOf are the mass lines of the units of a run.
func linesOf(r store.Run, s run.State, w store.Weighout) []run.Line {
	cloth := clothBefore(r, s)
	lines := make([]run.Line, len(s.Units))
	for i, u := range s.Units {
		joins := make([]unit.Milligrams, len(u.Passes))
		for _, c := range w.Cells {
			if c.Unit == i {
				at := min(max(w.Components[c.Position].JoinsAtPass, 1), len(joins)) - 1
				joins[at] += nowOf(c)
			}
		}
		grows := fillOf(r.Plan, cloth)
		lines[i] = u.Line(joins, grows)
		if u.Began() {
			cloth += grows
		}
	}
	return lines
}

func (v *Run) unitOf(i int, u run.Unit, l run.Line) RunUnit {
	out := RunUnit{Weight: v.weightOf(i), Step: u.At, Enough: u.Enough, Line: lineOf(l), PiecesG: []float64{}, Shelved: []RunShelved{},
		Passes: []RunPass{}, Note: u.Whole[run.Note].Text}
	if c, ok := u.Whole[run.Count]; ok {
		out.Count = &c.Number
	}
	for _, e := range u.Pieces {
		out.PiecesG = append(out.PiecesG, inGrams(e.Mg))
	}
	for _, e := range u.Shelved {
		out.Shelved = append(out.Shelved, shelvedOf(e))
		out.ShelvedG = unit.Clean(out.ShelvedG + inGrams(e.Mg))
	}
	for _, p := range u.Passes {
		out.Passes = append(out.Passes, passOf(p))
	}
	if i < len(v.Weighout.Units) {
		out.Hex = v.Weighout.Units[i].Hex
		w := v.Weighout
		for k, c := range w.Units[i].Cells {
			now := c.WeighedG
			if !c.Done {
				now = max(now, c.TargetG)
			}
			out.ExpectedG += w.Components[k].way(len(u.Passes)).Finished(now)
		}
	}
	return out
}

func shelvedOf(e run.Entry) RunShelved {
	return RunShelved{e.ID, int64(e.Number), inGrams(e.Mg), e.Text}
}

func passOf(p run.Pass) RunPass {
	out := RunPass{
		Look: p.Facts[run.Look].Text, Minutes: p.Seconds / 60, Corrected: p.Typed, Stood: p.Stood, Note: p.Facts[run.Note].Text, Photos: []int64{},
		After: map[string]int64{},
	}
	out.Apart = p.Facts[run.Apart].Number != 0
	weight := func(w run.What) *float64 {
		mg, ok := p.Mg(w)
		if !ok {
			return nil
		}
		g := inGrams(mg)
		return &g
	}
	number := func(w run.What) *float64 {
		e, ok := p.Facts[w]
		if !ok {
			return nil
		}
		return &e.Number
	}
	out.InG, out.OffG, out.ResidueG, out.DroppingsG = weight(run.In), weight(run.Off), weight(run.Residue), weight(run.Droppings)
	out.PickedG, out.ClothG = weight(run.Picked), weight(run.Cloth)
	if out.ResidueG != nil {
		out.Residue = p.Facts[run.Residue].Text
	}
	out.Specks, out.Clearance, out.Pace = number(run.Specks), number(run.Clearance), number(run.Pace)
	for _, e := range p.Photos {
		out.Photos = append(out.Photos, int64(e.Number))
	}
	for w, e := range p.Facts {
		out.After[string(w)] = e.ID
	}
	return out
}

// Since is how many seconds ago the last entry was made; 0 where there is none.
func (v Run) Since() float64 {
	if n := len(v.row.Entries); n > 0 {
		return max(0, time.Since(v.row.Entries[n-1].At).Seconds())
	}
	return 0
}

// Ticks are the checks that were made.
func (v Run) Ticks() map[string]bool { return v.state.Ticks }

// Clean reports whether the cloth was clean at the beginning.
func (v Run) Clean() bool { return v.state.Clean }

// Steps are the steps of the work of a unit, through as many passes as it goes.
func (v Run) Steps(unitNo int) Layup { return v.StepsOf(len(v.state.Units[unitNo].Passes)) }

// StepsOf are the steps of the work through so many passes.
func (v Run) StepsOf(passes int) Layup {
	p, e := planOf(v.row.Plan.Layup), equipmentOf(v.row.Plan.Equipment)
	l := Layup{Equipment: e, bed: e.Bed(), plan: p, StepG: v.Weighout.StepG, LastPass: passes}
	l.PlanInput, l.Name, l.Units = PlanInputOf(p), v.Name, len(v.Units)
	if v.LayupID != nil {
		l.ID = *v.LayupID
	}
	for _, f := range v.row.Plan.Fibres {
		l.fibres = append(l.fibres, layup.Fibre{Name: f.Name, Grams: f.Grams, Loses: losses.Fall{First: f.LossPass, Decay: f.Decay}})
		l.Fibres = append(l.Fibres, LayupFibre{Name: f.Name, Hexes: []string{f.Hex}})
	}
	within := p.Within(l.LastPass)
	l.Survey.Steps = within.Steps(l.bed, l.fibres, l.LastPass)
	l.Survey.Rolls = within.Rolls(l.bed, l.fibres)
	return l
}

// Another judges whether another pass follows one of a unit.
func (v Run) Another(unitNo, pass int) run.Answer {
	u := v.state.Units[unitNo]
	school := layup.Chosen(v.row.Plan.Schools)
	q := run.Question{
		School: school["passes"], Specks: school["specks"], Pass: pass, Planned: v.row.Passes, Seen: run.Unknown, Now: v.rank(pass), Next: v.rank(pass + 1),
		Goal: v.rank(v.row.Passes), SpecksNow: run.Unknown, SpecksBefore: run.Unknown,
	}
	if pass >= 1 && pass <= len(u.Passes) {
		p := u.Passes[pass-1]
		if e, ok := p.Facts[run.Look]; ok {
			q.Seen = rankOf(e.Text)
		}
		if e, ok := p.Facts[run.Specks]; ok {
			q.SpecksNow = e.Number
		}
		if pass > 1 {
			if e, ok := u.Passes[pass-2].Facts[run.Specks]; ok {
				q.SpecksBefore = e.Number
			}
		}
	}
	plan := planOf(v.row.Plan.Layup)
	for i := range v.row.Plan.Fibres {
		q.Joins = q.Joins || plan.JoinsAt(i) > pass
	}
	return run.Another(q)
}

func (v Run) rank(pass int) int {
	if pass < 1 || pass > len(v.Foreseen) {
		return run.Unknown
	}
	return rankOf(v.Foreseen[pass-1].Look)
}

func rankOf(look string) int { return slices.Index(carding.Looks(), carding.Look(look)) }

// Boarded reports whether rolags or punis come off.
func (v Run) Boarded() bool {
	t := layup.Type(v.Equipment.Type)
	return t == layup.Board || t == layup.Cards
}
