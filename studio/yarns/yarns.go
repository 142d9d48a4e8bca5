package yarns

import (
	"context"
	"errors"

	"fairtangle/core/yarn"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
)

// YarnPlan is kept as it is said.
type YarnPlan = store.YarnPlan

// Cloths are what a yarn is shown as.
var Cloths = append([]string{"knit", "weave", "felt"}, yarn.Crochets...)

// YarnPairs are what the plies of a two-ply are taken from: one batt, two alike, two of which one
// is spun from its other end.
var YarnPairs = []string{"", "second", "mirrored"}

// Yarn is the yarn of a lay-up, with everything that follows.
type Yarn struct {
	ID      int64 `json:"id"`
	Version int64 `json:"version"`
	LayupID int64 `json:"layup_id"`
	YarnPlan
	Singles float64 `json:"singles_m"`
	PliedM  float64 `json:"plied_m"`
	GristM  float64 `json:"grist_m_per_100g"`
	// How thick it is, as it is drawn and prepared: the part of its room that is fibre is its packing.
	DiameterMM   float64 `json:"diameter_mm,omitempty"`
	WrapsPerInch float64 `json:"wraps_per_inch,omitempty"`
	Packing      float64 `json:"packing,omitempty"`
	YarnUse
	LeftM    float64             `json:"left_m"`
	Pattern  string              `json:"pattern"`
	PlyDE    float64             `json:"ply_delta_e"`
	Parts    []YarnPart          `json:"divided"`
	Runs     []YarnRun           `json:"runs"`
	Foretold *laying.Foretelling `json:"-"`
	Spun     *SpunYarn           `json:"-"`
	NeedM    float64             `json:"-"` // of yarn that the making needs, m
	NeedPlyM float64             `json:"-"` // to be plied for that
	Digest   string              `json:"-"` // names what it rests on
	Tried    Tried               `json:"-"`
	// DrawAgainst is what stands against its draw, in the words of core/yarn.
	DrawAgainst []string    `json:"-"`
	Worn        []WornSkein `json:"-"`
}

// YarnPart is a part of the batt, in the order in which they are spun.
type YarnPart struct {
	Grams  float64   `json:"grams"`
	Shares []float64 `json:"shares"`

	own []float64 // of every colour of every fibre
}

// YarnRun is a stretch of the yarn of one colour.
type YarnRun struct {
	FromM  float64   `json:"from_m"`
	ToM    float64   `json:"to_m"`
	Hex    string    `json:"hex"`
	Shares []float64 `json:"shares"`
	Leads  string    `json:"-"` // the fibre that there is most of, with its colour where it has several
}

// Usual swatches.
const (
	usualStitches, usualRows = 34, 38
	usualStitchMM            = 12.0
)

// YarnOf returns the yarn of a lay-up; its first opening begins one as is usual.
func (s *Room) YarnOf(ctx context.Context, layupID int64) (Yarn, error) {
	row, err := s.Store.YarnOf(ctx, layupID)
	if errors.Is(err, floor.ErrNotFound) {
		l, err := s.laying.Layup(ctx, layupID)
		if err != nil {
			return Yarn{}, err
		}
		var plan YarnPlan
		usualYarn(&plan, l)
		if row, err = store.AddPiece(ctx, s.Store, store.Yarn{LayupID: layupID, Plan: plan}); err != nil {
			if row, err = s.Store.YarnOf(ctx, layupID); err != nil { // another window was first
				return Yarn{}, err
			}
		}
	} else if err != nil {
		return Yarn{}, err
	}
	return s.yarnOf(ctx, row)
}

// Yarn returns a yarn as it stands.
func (s *Room) Yarn(ctx context.Context, id int64) (Yarn, error) {
	row, err := store.Piece[store.Yarn](ctx, s.Store, id)
	if err != nil {
		return Yarn{}, err
	}
	return s.yarnOf(ctx, row)
}

func (s *Room) yarnOf(ctx context.Context, row store.Yarn) (Yarn, error) {
	out, err := s.workOutYarn(ctx, row.LayupID, row.Plan)
	out.ID, out.Version, out.LayupID = row.ID, row.Version, row.LayupID
	return out, err
}

// SaveYarn replaces a yarn, based on its version.
func (s *Room) SaveYarn(ctx context.Context, id, version int64, in YarnPlan) (Yarn, error) {
	return s.saveYarn(ctx, id, version, in, store.Onward)
}

// StepYarn moves a yarn along its steps.
func (s *Room) StepYarn(ctx context.Context, id, version int64, m floor.Move) (Yarn, error) {
	var in YarnPlan
	way, err := s.StateAt(ctx, "yarns", id, m, &in)
	if err != nil {
		return Yarn{}, err
	}
	return s.saveYarn(ctx, id, version, in, way)
}

func (s *Room) saveYarn(ctx context.Context, id, version int64, in YarnPlan, way store.Way) (Yarn, error) {
	row, err := store.Piece[store.Yarn](ctx, s.Store, id)
	if err != nil {
		return Yarn{}, err
	}
	out, err := s.workOutYarn(ctx, row.LayupID, in)
	if err != nil {
		return out, err
	}
	left, err := floor.Leaving(row.Plan, out.YarnPlan, way, "")
	if err != nil {
		return out, err
	}
	row.Version, row.Plan = version, out.YarnPlan
	r, err := store.SavePiece(ctx, s.Store, row, left)
	if err != nil {
		return out, floor.ConvertStale(err, func(r store.Yarn) (Yarn, error) { return s.yarnOf(ctx, r) })
	}
	out.ID, out.Version, out.LayupID = r.ID, r.Version, r.LayupID
	return out, nil
}
