package laying

import (
	"context"

	"fairtangle/core/advice"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

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
	Alone     int          `json:"alone_first"` // how often it is carded alone before it is laid
	WeighInG  float64      `json:"weigh_in_g"`  // of one unit; what is laid of it where it is carded alone is less
	Usual     layup.Method `json:"usual_method"`
	Gone      bool         `json:"gone"` // no longer in the blend
	StapleMM  float64      `json:"staple_mm"`

	Preparation string `json:"preparation"`
	LotID       *int64 `json:"lot_id,omitempty"`
	kind        fibre.Kind
}

// KindProperties returns what a tuft of this fibre is drawn from.
func (f LayupFibre) KindProperties() fibre.Kind { return f.kind }

// Layup is a lay-up with everything that follows from it.
type Layup struct {
	ID      int64 `json:"id"`
	Version int64 `json:"version"`
	BlendID int64 `json:"blend_id"`
	LayupInput
	Fibres []LayupFibre `json:"fibres"`
	Loads  layup.Loads  `json:"loads"`
	layup.Survey
	advice.Laid
	GaveWay   []layup.GaveWay    `json:"gave_way"` // schools that do not hold here
	StepG     float64            `json:"step_g"`
	LastPass  int                `json:"last_pass"` // that it goes through
	Equipment workshop.Equipment `json:"-"`

	LaidPlan   layup.Plan    `json:"-"`
	Bed        layup.Bed     `json:"-"`
	LaidFibres []layup.Fibre `json:"-"`
	Blend      recipe.Blend  `json:"-"`
	at         shelf.Mixing

	schools  map[string]string
	Tools    []workshop.Tool    `json:"-"` // that stand in the workshop
	prepared map[string]float64 // to which length fibres are cut or pulled, by name
	Own      advice.Bounds      `json:"-"` // of the maker
}

// CreateLayup adds a lay-up to a blend.
func (s *Room) CreateLayup(ctx context.Context, blendID int64, in LayupInput) (Layup, error) {
	b, err := s.recipe.Blend(ctx, blendID)
	if err != nil {
		return Layup{}, err
	}
	if in.Name == "" {
		in.Name = b.Name
	}
	out, err := s.WorkOutLayup(ctx, b, in, true)
	if err != nil {
		return Layup{}, err
	}
	r, err := store.AddPiece(ctx, s.Store, out.row())
	out.ID, out.Version = r.ID, r.Version
	return out, err
}

func (out Layup) row() store.Layup {
	return store.Layup{
		BlendID:     out.BlendID,
		EquipmentID: out.EquipmentID,
		Name:        out.Name,
		Units:       out.Units,
		Components:  out.Components,
		Plan:        KeptPlan(out.LaidPlan),
	}
}

// Layup returns a lay-up, brought to its blend as it is now.
func (s *Room) Layup(ctx context.Context, id int64) (Layup, error) {
	r, err := store.Piece[store.Layup](ctx, s.Store, id)
	if err != nil {
		return Layup{}, err
	}
	return s.layupOf(ctx, r)
}

func (s *Room) layupOf(ctx context.Context, r store.Layup) (Layup, error) {
	b, err := s.recipe.Blend(ctx, r.BlendID)
	if err != nil {
		return Layup{}, err
	}
	return s.LayupIn(ctx, r, b)
}

// LayupIn is the view of a row of a blend. Where the equipment is in the bin
// it is still that one.
func (s *Room) LayupIn(ctx context.Context, r store.Layup, b recipe.Blend) (Layup, error) {
	out, err := s.workOutLayup(ctx, b, layupInput(r), false, s.workshop.LaidOn)
	out.ID, out.Version = r.ID, r.Version
	return out, err
}

func layupInput(r store.Layup) LayupInput {
	return LayupInput{Name: r.Name, EquipmentID: r.EquipmentID, Units: r.Units, Components: r.Components, PlanInput: PlanInputOf(PlanOf(r.Plan))}
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
func (s *Room) LayupsOf(ctx context.Context, blends ...int64) ([]LayupRow, error) {
	rows, err := store.Pieces[store.Layup](ctx, s.Store, "blend_id IN ?", blends)
	out := make([]LayupRow, len(rows))
	for i, r := range rows {
		out[i] = LayupRow{r.ID, r.Version, r.BlendID, r.EquipmentID, r.Name, r.Units, len(r.Plan.Layers)}
	}
	return out, err
}

// LayupsOfMaking lists the lay-ups of a making's blends.
func (s *Room) LayupsOfMaking(ctx context.Context, making int64) ([]LayupRow, error) {
	if _, err := s.recipe.Making(ctx, making); err != nil {
		return nil, err
	}
	rows, err := s.Store.BlendsOf(ctx, []int64{making})
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
func (s *Room) LayupsOfBlend(ctx context.Context, blend int64) ([]LayupRow, error) {
	if _, err := s.recipe.Blend(ctx, blend); err != nil {
		return nil, err
	}
	return s.LayupsOf(ctx, blend)
}

// SaveLayup replaces a lay-up, based on a version of it; what was there before
// is kept as a step. strict refuses lays that take more than there is; without,
// what was laid before the blend changed may stay.
func (s *Room) SaveLayup(ctx context.Context, id, version int64, in LayupInput, strict bool) (Layup, error) {
	return s.saveLayup(ctx, id, version, in, strict, store.Onward)
}

// StepLayup moves a lay-up along its steps.
func (s *Room) StepLayup(ctx context.Context, id, version int64, m floor.Move) (Layup, error) {
	var in LayupInput
	way, err := s.StateAt(ctx, "layups", id, m, &in)
	if err != nil {
		return Layup{}, err
	}
	return s.saveLayup(ctx, id, version, in, false, way)
}

func (s *Room) saveLayup(ctx context.Context, id, version int64, in LayupInput, strict bool, way store.Way) (Layup, error) {
	old, err := store.Piece[store.Layup](ctx, s.Store, id)
	if err != nil {
		return Layup{}, err
	}
	b, err := s.recipe.Blend(ctx, old.BlendID)
	if err != nil {
		return Layup{}, err
	}
	out, err := s.WorkOutLayup(ctx, b, in, strict)
	if err != nil {
		return Layup{}, err
	}
	left, err := floor.Leaving(layupInput(old), out.LayupInput, way, "")
	if err != nil {
		return Layup{}, err
	}
	row := out.row()
	row.ID, row.Version = id, version
	r, err := store.SavePiece(ctx, s.Store, row, left)
	if err != nil {
		return Layup{}, floor.ConvertStale(err, func(r store.Layup) (Layup, error) { return s.LayupIn(ctx, r, b) })
	}
	out.ID, out.Version = r.ID, r.Version
	return out, nil
}

// Turned is the lay-up left to right, as the second unit of a pair has it.
func (out Layup) Turned() Layup {
	out.LaidPlan = out.LaidPlan.Mirror()
	out.PlanInput = PlanInputOf(out.LaidPlan)
	out.survey()
	return out
}

// Thickness is how high one gram of a fibre stands, spread over the whole
// cloth, in mm.
func (out Layup) Thickness(fibre int) float64 {
	return out.Bed.Thickness(layup.Lay{To: 1, End: 1, Grams: 1}, out.LaidFibres[fibre])
}
