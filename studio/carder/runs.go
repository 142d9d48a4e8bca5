package carder

import (
	"context"
	"errors"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/lessons"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/workshop"
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

	Equipment workshop.Equipment `json:"-"`
	Weighout  scale.Weighout     `json:"-"`
	State     run.State          `json:"-"`
	Row       store.Run          `json:"-"`
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
	Weight *lessons.RunWeight `json:"foreseen"`
	Hex    string             `json:"hex"`
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
	OilPct     *float64 `json:"oil_pct"` // spinning oil put on before it, of the weight that went in
	Note       string   `json:"note"`
	Photos     []int64  `json:"photos"`
	Apart      bool     `json:"apart"` // nothing is learned from what was weighed here
	// After are the entries on which these stand, by what they tell.
	After map[string]int64 `json:"after"`
}

// RunLine is the mass line: in_g is the sum of all that follows it, but for the stretches.
type RunLine struct {
	InG        float64      `json:"in_g"`
	OilG       float64      `json:"oil_g"` // of in_g: spinning oil
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
func (s *Room) StartRun(ctx context.Context, weighout int64, in StartRun) (Run, error) {
	w, err := s.scale.Weighout(ctx, weighout)
	if err != nil {
		return Run{}, err
	}
	b, err := s.recipe.Blend(ctx, w.BlendID)
	if err != nil {
		return Run{}, err
	}
	m, err := s.recipe.Making(ctx, b.MakingID)
	if err != nil {
		return Run{}, err
	}
	row := store.Run{Sort: CardingRun, Sample: w.Row.Sample, Name: w.Name, MakingID: m.ID, WeighoutID: &w.ID, Units: len(w.Units),
		Plan: store.RunPlan{Schools: m.Schools}}
	laid, err := s.runLayup(ctx, w, b, in.EquipmentID)
	if err != nil {
		return Run{}, err
	}
	row.Plan.Layup, row.Plan.Equipment = laying.KeptPlan(laid.LaidPlan), laid.Equipment.Row()
	row.EquipmentID, row.Passes = &laid.EquipmentID, laid.LastPass
	for i, f := range laid.LaidFibres {
		row.Plan.Fibres = append(row.Plan.Fibres, store.RunFibre{Name: f.Name, Hex: laid.Fibres[i].Hexes[0], Grams: f.Grams, LossPass: f.Loses.First,
			Decay: f.Loses.Decay, Crimp: f.Crimp, Preparation: f.Preparation, Family: f.Family, Role: f.Role})
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
	if row.Plan.Advised, err = s.Adviser.AdvisedAt(ctx, b, laid); err != nil {
		return Run{}, err
	}
	row.Plan.Weights = weightsForeseen(w, row)
	if row.Plan.PassMinutes, err = s.minutesForeseen(ctx, laid.Equipment); err != nil {
		return Run{}, err
	}
	row, err = store.AddPiece(ctx, s.Store, row)
	if err != nil {
		return Run{}, err
	}
	return s.Run(ctx, row.ID)
}

// runLayup is the lay-up that a weigh-out follows; without one, all of a unit in one layer
// on a piece of equipment.
func (s *Room) runLayup(ctx context.Context, w scale.Weighout, b recipe.Blend, equipment int64) (laying.Layup, error) {
	if w.LayupID != nil {
		l, err := s.laying.Layup(ctx, *w.LayupID)
		if err == nil {
			return l, nil
		}
		if !floor.Aside(ctx, "layups", *w.LayupID, w.Name, err) {
			return l, err
		}
	}
	e, err := s.workshop.AnyEquipment(ctx, equipment)
	if err != nil || e.Binned {
		return laying.Layup{}, fault.New("equipment_id", "Choose what it is carded on.")
	}
	l := laying.Layup{Equipment: e, Bed: e.Bed(), LastPass: w.Passes}
	l.EquipmentID = e.ID
	var layer layup.Layer
	for i, c := range w.Components {
		grams := w.Units[0].Cells[i].PlannedG * c.Way(w.Passes).Laid()
		f := laying.LayFibre(c.Name, grams, c.Fibre, c.Preparation, c.Staple)
		f.Loses = losses.Fall{First: c.LossPct / 100, Decay: c.Decay}
		l.LaidFibres = append(l.LaidFibres, f)
		l.Fibres = append(l.Fibres, laying.LayupFibre{Name: c.Name, Hexes: []string{c.Hex}})
		l.LaidPlan.Joins, l.LaidPlan.Alone = append(l.LaidPlan.Joins, c.JoinsAtPass), append(l.LaidPlan.Alone, c.AloneFirst)
		layer.Lays = append(layer.Lays, layup.Lay{Component: i, To: 1, End: 1, Grams: grams, Method: l.Bed.Usual(f)})
	}
	l.LaidPlan.Layers, l.LaidPlan.Draft, l.LaidPlan.Step = []layup.Layer{layer}, layup.DefaultDraft, w.StepG
	l.LastPass = l.LaidPlan.Last(l.Bed, w.Passes)
	return l, nil
}

// foreseenOf is what a lay-up foresees of each pass; of what can not be foretold nothing.
func (s *Room) foreseenOf(ctx context.Context, l laying.Layup) (out []store.Foreseen, err error) {
	f, err := s.laying.ForetellOf(ctx, l, laying.Division{})
	if _, isFault := fault.From(err); isFault {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	stages, err := s.laying.Stages(ctx, f, true)
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
func (s *Room) Run(ctx context.Context, id int64) (Run, error) {
	row, err := s.Store.Run(ctx, id)
	if err != nil {
		return Run{}, err
	}
	return s.runView(ctx, row)
}

// RunsOf lists the runs of makings, the latest touched first.
func (s *Room) RunsOf(ctx context.Context, makings ...int64) ([]Run, error) {
	return s.runsWhere(ctx, "making_id IN ?", makings)
}

// RunsOfWeighout lists the runs of a weigh-out.
func (s *Room) RunsOfWeighout(ctx context.Context, weighout int64) ([]Run, error) {
	return s.runsWhere(ctx, "weighout_id = ?", weighout)
}

func (s *Room) runsWhere(ctx context.Context, where ...any) ([]Run, error) {
	rows, err := s.Store.Runs(ctx, where...)
	if err != nil {
		return nil, err
	}
	out := []Run{}
	for _, r := range rows {
		v, err := s.runView(ctx, r)
		switch {
		case errors.Is(err, floor.ErrNotFound): // its weigh-out lies in the bin
		case err != nil && !floor.Aside(ctx, "runs", r.ID, r.Name, err):
			return nil, err
		case err == nil:
			out = append(out, v)
		}
	}
	return out, nil
}

// Adviser tells which rules of the second look speak of what is to be carded.
type Adviser interface {
	AdvisedAt(ctx context.Context, b recipe.Blend, l laying.Layup) ([]string, error)
}
