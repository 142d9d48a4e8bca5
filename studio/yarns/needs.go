package yarns

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/need"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
)

// NeedPlan, NeedPart and NeedLook are kept as they are said.
type (
	NeedPlan = store.NeedPlan
	NeedPart = store.NeedPart
	NeedLook = store.NeedLook
)

// The ways in which a need is told, what a thing may be used for, and how it may be wished to
// look.
var (
	NeedWays  = []string{"yarn", "batts", "felt", wayFigure, "lot"}
	NeedUses  = []string{"next-to-skin", "hard-wearing", "socks", "felting", "machine-wash"}
	NeedLooks = []string{"even", "heather", "streaky", "striped", "gradient", "textured"}
)

// wayFigure is a need told as the parts of a figure, body, mane and patch: each is a blend of the making, by grams or by eye. Its
// parts are grams, and one of none is taken by eye.
const wayFigure = "figure"

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
	PlyM      float64     `json:"to_ply_m"` // with the margin, before it is washed
	MadeOn    string      `json:"made_on"`  // by which what the cloth takes up is counted
	ClothG    float64     `json:"cloth_g"`  // that its cloth takes up
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
// cloth, sample.
type NeedFlow struct {
	Key   string  `json:"key"`
	Grams float64 `json:"grams"`
}

// NeedBlend is what a need wants of a blend, beside what the blend is.
type NeedBlend struct {
	ID    int64        `json:"id"`
	Name  string       `json:"name"`
	Hex   string       `json:"hex"`
	Parts float64      `json:"parts"`
	Share float64      `json:"share"`
	WantG float64      `json:"want_g"` // carded
	NowG  float64      `json:"now_g"`
	Look  string       `json:"look"`  // how it is to look, where that is otherwise than the whole
	Apart bool         `json:"apart"` // the blend has another weight than is wanted of it
	Empty bool         `json:"empty"` // it has no fibre yet, and so no share
	Eye   bool         `json:"by_eye"`
	Lacks []NeedLack   `json:"lacks"`
	Blend recipe.Blend `json:"-"`
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

// NeedUnits is how many units it makes on a piece of equipment, and what its cloth, clean at first, takes up of them.
type NeedUnits struct {
	EquipmentID int64   `json:"equipment_id"`
	Name        string  `json:"name"`
	Units       int     `json:"units"`
	ClothG      float64 `json:"cloth_g"`
}

// Usual is what a need takes where nothing else is said.
func (n Need) Usual(field string) bool {
	return map[string]*float64{
		"margin_pct": n.MarginPct, "waste_pct": n.WastePct, "finishing_pct": n.FinishingPct, "take_up_pct": n.TakeUpPct,
		"shrinkage_pct": n.ShrinkagePct, "sample_g": n.SampleG,
	}[field] == nil
}

// ShownBy is how many skeins and samples have shown an allowance that counts where nothing else is
// said.
func (n Need) ShownBy(field string) int { return n.shown.N[field] }

// Allowance is one of the allowances as it counts, in percent; sample_g in grams.
func (n Need) Allowance(field string) float64 {
	return map[string]float64{
		"margin_pct": 100 * n.allow.Margin, "waste_pct": 100 * n.allow.Waste, "finishing_pct": 100 * n.allow.Finishing, "take_up_pct": 100 * n.allow.TakeUp,
		"shrinkage_pct": 100 * n.shrinkage(), "sample_g": n.sample,
	}[field]
}

func (n Need) shrinkage() float64 {
	if n.allow.Shrinkage == nil {
		return 0
	}
	return *n.allow.Shrinkage
}

// StartNeed begins the need of a making, or returns the one that is there.
func (s *Room) StartNeed(ctx context.Context, making int64, in NeedPlan) (Need, error) {
	m, err := s.recipe.Making(ctx, making)
	if err != nil {
		return Need{}, err
	}
	if n, err := s.NeedOf(ctx, making); !errors.Is(err, floor.ErrNotFound) {
		return n, err
	}
	if in.What == "" {
		in.What = m.Name
	}
	if in.Plies == 0 {
		in.Plies = 2
	}
	if _, err := s.workOutNeed(ctx, making, &in); err != nil {
		return Need{}, err
	}
	row, err := store.AddPiece(ctx, s.Store, store.Need{MakingID: making, Plan: in})
	if err != nil {
		return Need{}, err
	}
	return s.needOf(ctx, row)
}

// NeedOf returns the need of a making; ErrNotFound where it has none.
func (s *Room) NeedOf(ctx context.Context, making int64) (Need, error) {
	row, err := s.Store.NeedOf(ctx, making)
	if err != nil {
		return Need{}, err
	}
	return s.needOf(ctx, row)
}

// Need returns a need as it stands.
func (s *Room) Need(ctx context.Context, id int64) (Need, error) {
	row, err := store.Piece[store.Need](ctx, s.Store, id)
	if err != nil {
		return Need{}, err
	}
	if _, err := s.Store.Making(ctx, row.MakingID); err != nil {
		return Need{}, err
	}
	return s.needOf(ctx, row)
}

func (s *Room) needOf(ctx context.Context, row store.Need) (Need, error) {
	blends, err := s.recipe.BlendsOf(ctx, row.MakingID)
	if err != nil {
		return Need{}, err
	}
	base, err := s.needBase(ctx)
	if err != nil {
		return Need{}, err
	}
	return s.needWith(ctx, row, blends, base)
}

// NeedsWanted works out what needs of several makings want, with all that they rest on read at once,
// and without the colours of their blends.
func (s *Room) NeedsWanted(ctx context.Context, rows []store.Need) ([]Need, error) {
	makings := make([]int64, len(rows))
	for i, r := range rows {
		makings[i] = r.MakingID
	}
	kept, err := s.Store.BlendsOf(ctx, makings)
	if err != nil {
		return nil, err
	}
	all, err := s.recipe.AmountsOf(ctx, kept)
	if err != nil {
		return nil, err
	}
	of := map[int64][]recipe.Blend{}
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

// SaveNeed replaces a need, based on its version.
func (s *Room) SaveNeed(ctx context.Context, id, version int64, in NeedPlan) (Need, error) {
	return s.saveNeed(ctx, id, version, in, store.Onward)
}

// StepNeed moves a need along its steps.
func (s *Room) StepNeed(ctx context.Context, id, version int64, m floor.Move) (Need, error) {
	var in NeedPlan
	way, err := s.StateAt(ctx, "needs", id, m, &in)
	if err != nil {
		return Need{}, err
	}
	return s.saveNeed(ctx, id, version, in, way)
}

func (s *Room) saveNeed(ctx context.Context, id, version int64, in NeedPlan, way store.Way) (Need, error) {
	row, err := store.Piece[store.Need](ctx, s.Store, id)
	if err != nil {
		return Need{}, err
	}
	out, err := s.workOutNeed(ctx, row.MakingID, &in)
	if err != nil {
		return out, err
	}
	left, err := floor.Leaving(row.Plan, in, way, "")
	if err != nil {
		return out, err
	}
	row.Version, row.Plan = version, in
	r, err := store.SavePiece(ctx, s.Store, row, left)
	if err != nil {
		return out, floor.ConvertStale(err, func(r store.Need) (Need, error) { return s.needOf(ctx, r) })
	}
	out.ID, out.Version, out.MakingID = r.ID, r.Version, r.MakingID
	return out, nil
}

// usualBlendG is what a new blend weighs where nothing says how much is needed.
const usualBlendG = 60

// NewBlendG is what a new blend of a making weighs: all that its need wants, or with other blends beside it an equal part of that.
func (s *Room) NewBlendG(ctx context.Context, making int64) (float64, error) {
	n, err := s.NeedOf(ctx, making)
	switch {
	case errors.Is(err, floor.ErrNotFound), err == nil && (!n.Enough || n.FibreG <= 0):
		return usualBlendG, nil
	case err != nil:
		return 0, err
	}
	parts := 1.0
	for _, b := range n.Blends {
		if !b.Empty {
			parts++
		}
	}
	set, err := s.workshop.Settings(ctx)
	if err != nil {
		return 0, err
	}
	step := floor.InGrams(set.StepMg)
	return max(step, math.Round(n.FibreG/parts/step)*step), nil
}

// GiveWeights gives the blends of a need the weights that it wants of them.
func (s *Room) GiveWeights(ctx context.Context, id int64, only ...int64) (Need, error) {
	return floor.Whole(ctx, s.Floor, func(ctx context.Context) (Need, error) { return s.giveWeights(ctx, id, only) })
}

func (s *Room) giveWeights(ctx context.Context, id int64, only []int64) (Need, error) {
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
		in := b.Blend.Input()
		in.TotalG = b.WantG
		if _, err := s.recipe.SaveBlend(ctx, b.ID, b.Blend.Version, in, fmt.Sprintf("as %s needs it", n.What)); err != nil {
			return n, err
		}
	}
	return s.Need(ctx, id)
}
