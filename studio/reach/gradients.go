package reach

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/core/gradient"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// GradientPlan and Stop are kept as they are said.
type (
	GradientPlan = store.GradientPlan
	Stop         = store.GradientStop
)

// DefaultJump is the CIEDE2000 from which a jump counts as abrupt where nothing
// else is said.
const DefaultJump = 8

// GradientInput is a gradient as it is edited.
type GradientInput struct {
	Name string `json:"name"`
	GradientPlan
}

// LadderStep is a rung as it is shown.
type LadderStep struct {
	Parts  []LadderPart `json:"parts"`
	Name   string       `json:"name"`
	Grams  float64      `json:"grams"`
	Hex    string       `json:"hex"`
	Lab    [3]float64   `json:"lab"`
	Jump   float64      `json:"jump_to_next"`
	Last   bool         `json:"last"`
	Abrupt bool         `json:"abrupt"`
	Span   int          `json:"span"` // between which stops it and the next rung lie
	Stop   int          `json:"stop"` // index of the stop that it is, -1 for a bridge
}

// LadderPart is what a stop gives to a rung.
type LadderPart struct {
	Stop  int     `json:"stop"`
	Name  string  `json:"name"`
	Hex   string  `json:"hex"`
	Share float64 `json:"share"`
	Grams float64 `json:"grams"`
}

// Ladder is a gradient with everything that follows from it.
type Ladder struct {
	ID       int64 `json:"id"`
	Version  int64 `json:"version"`
	MakingID int64 `json:"making_id"`
	GradientInput
	Steps   []LadderStep `json:"steps"`
	TotalG  float64      `json:"total_g"`
	Largest float64      `json:"largest_jump"`
	// ShortG is by how much a lot has less than its stops take, by stop.
	ShortG []float64 `json:"short_g"`

	yields []float64 // what is left of each stop's fibre when its blends come off
}

// DefaultPasses are those of blends that nobody said anything else of.
const DefaultPasses = 2

// PassesPlanned is how many passes its blends go through.
func (in GradientInput) PassesPlanned() int {
	if in.Passes == nil {
		return DefaultPasses
	}
	return *in.Passes
}

func (in *GradientInput) check(kinds workshop.Kinds) error {
	var l fault.List
	floor.CheckText(&l, "name", "the gradient", &in.Name, floor.MaxName, true)
	if len(in.Stops) > gradient.MaxStops {
		l.Add("stops", "A gradient has at most %d stops.", gradient.MaxStops)
		return l
	}
	in.Stops = slices.Clone(in.Stops)
	keyStops(in.Stops)
	if p := in.PassesPlanned(); p < 0 || p > losses.MaxPasses {
		l.Add("passes", "The number of passes is a whole number from 0 to %d.", losses.MaxPasses)
	}
	for i := range in.Stops {
		v, at := &in.Stops[i], fmt.Sprintf("stops[%d].", i)
		floor.CheckText(&l, at+"name", "the stop", &v.Name, floor.MaxName, true)
		v.Hex = strings.ToLower(v.Hex)
		if _, err := colour.ParseHex(v.Hex); err != nil {
			l.Add(at+"hex", "A colour is written as # and six digits or letters a to f.")
		}
		if !(v.Grams > 0 && v.Grams <= float64(unit.MaxGrams)) {
			l.Add(at+"grams", "A stop weighs above 0.")
		}
		if v.LotID != nil {
			continue
		}
		if _, ok := kinds.Find(v.Kind); !ok {
			l.Add(at+"kind", "Choose a kind of fibre.")
		}
		if _, ok := fibre.FindPreparation(v.Preparation); !ok {
			l.Add(at+"preparation", "Choose a preparation.")
		}
	}
	return l.Err()
}

// WorkOutGradient works out a gradient and keeps nothing.
func (s *Room) WorkOutGradient(ctx context.Context, in GradientInput) (Ladder, error) {
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return Ladder{}, err
	}
	if err := in.check(at.Kinds); err != nil {
		return Ladder{}, err
	}
	q, yields, short, err := s.gradientOf(ctx, at, &in)
	out := Ladder{GradientInput: in, Steps: []LadderStep{}, ShortG: short, yields: yields}
	if err != nil || len(in.Stops) == 0 {
		return out, err
	}
	p, err := gradient.Make(ctx, q)
	if err != nil {
		return out, err
	}
	span := -1
	for i, v := range p.Rungs {
		step := LadderStep{Grams: v.Grams, Hex: v.Colour.Linear().Hex(), Jump: v.Jump, Last: i == len(p.Rungs)-1, Abrupt: v.Jump > q.MaxJump, Stop: -1}
		lab := v.Colour.Lab()
		step.Lab = [3]float64{lab.L, lab.A, lab.B}
		if len(v.Parts) == 1 {
			span++
			step.Stop = v.Parts[0].Stop
		}
		step.Span = span
		var names []string
		for _, part := range v.Parts {
			stop := in.Stops[part.Stop]
			step.Parts = append(step.Parts, LadderPart{part.Stop, stop.Name, stop.Hex, part.Share, part.Grams})
			names = append(names, stop.Name)
		}
		step.Name = strings.Join(names, " and ")
		out.Steps = append(out.Steps, step)
		out.TotalG += v.Grams
		out.Largest = max(out.Largest, v.Jump)
	}
	return out, nil
}

// gradientOf readies the request, says what is left of each stop's fibre when
// its blends come off, and finds lots that have too little. Colours are those
// that the blends of the rungs will have: of finished shares, with measured
// spectra, strengths and covering power.
func (s *Room) gradientOf(ctx context.Context, at shelf.Mixing, in *GradientInput) (gradient.Request, []float64, []float64, error) {
	q := gradient.Request{
		Model: at.Model, School: gradient.School(in.School), Bridges: in.Bridges, MaxJump: in.MaxJump, Extra: in.Extra, Step: float64(at.Settings.StepMg.Grams()),
	}
	short, yields := make([]float64, len(in.Stops)), make([]float64, len(in.Stops))
	lots, err := s.lotsOfStops(ctx, in.Stops)
	if err != nil {
		return q, yields, short, err
	}
	takes := map[[2]string]float64{}
	for i, v := range in.Stops {
		kind := at.Kinds.Named(v.Kind)
		t, _ := shelf.TintOf(nil, "", v.Hex, kind)
		if v.LotID != nil {
			row, ok := lots[*v.LotID]
			if !ok {
				return q, yields, short, fault.New(fmt.Sprintf("stops[%d].lot_id", i), "There is no such lot on the shelf.")
			}
			kind = at.Kinds.Named(row.Kind)
			only := onlyOf(row, v.Hex)
			t, _ = shelf.TintOf(&row, only, v.Hex, kind)
			if !hasColour(row, v.Hex) {
				only = ""
			}
			takes[[2]string{fmt.Sprint(row.ID), only}] += v.Grams
			short[i] = max(0, takes[[2]string{fmt.Sprint(row.ID), only}]-floor.InGrams(row.Left(only)))
		}
		yields[i] = shelf.WayOf(kind, in.PassesPlanned()).Yield()
		q.Stops = append(q.Stops, gradient.Stop{Colour: t.Colour, Strength: at.StrengthOf(t) * yields[i], Grams: v.Grams})
	}
	return q, yields, short, nil
}

// onlyOf is the colour of a lot that a stop or a scrap is, where the lot has
// several, or where its hex was changed by hand.
func onlyOf(row store.Lot, hex string) string {
	if len(row.Colours) > 1 || len(row.Colours) == 1 && row.Colours[0].Hex != hex {
		return hex
	}
	return ""
}

// OrderGradient puts the stops into the order with the least sum of jumps,
// keepEnds leaving the first and the last where they are.
func (s *Room) OrderGradient(ctx context.Context, in GradientInput, keepEnds bool) (GradientInput, error) {
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return in, err
	}
	if err := in.check(at.Kinds); err != nil {
		return in, err
	}
	q, _, _, err := s.gradientOf(ctx, at, &in)
	if err != nil || len(in.Stops) < 3 {
		return in, err
	}
	q.Reorder, q.KeepEnds, q.Extra, q.Step = true, keepEnds, nil, 0
	p, err := gradient.Make(ctx, q)
	if err != nil {
		return in, err
	}
	stops := make([]store.GradientStop, len(in.Stops))
	for i, at := range p.Order {
		stops[i] = in.Stops[at]
	}
	in.Stops, in.Extra = stops, nil
	return in, nil
}

// CreateGradient adds a gradient to a making.
func (s *Room) CreateGradient(ctx context.Context, making int64, in GradientInput) (Ladder, error) {
	out, err := s.WorkOutGradient(ctx, in)
	if err != nil {
		return out, err
	}
	if _, err := s.Store.Making(ctx, making); err != nil {
		return out, err
	}
	r, err := store.AddPiece(ctx, s.Store, store.Gradient{MakingID: making, Name: out.Name, Plan: out.GradientPlan})
	out.ID, out.Version, out.MakingID = r.ID, r.Version, making
	return out, err
}

// Gradient returns a gradient; its making must not be in the bin.
func (s *Room) Gradient(ctx context.Context, id int64) (Ladder, error) {
	r, err := store.Piece[store.Gradient](ctx, s.Store, id)
	if err != nil {
		return Ladder{}, err
	}
	if _, err := s.Store.Making(ctx, r.MakingID); err != nil {
		return Ladder{}, err
	}
	return s.ladder(ctx, r)
}

func (s *Room) ladder(ctx context.Context, r store.Gradient) (Ladder, error) {
	out, err := s.WorkOutGradient(ctx, GradientInput{r.Name, r.Plan})
	out.ID, out.Version, out.MakingID = r.ID, r.Version, r.MakingID
	return out, err
}

// GradientsOf lists the gradients of a making.
func (s *Room) GradientsOf(ctx context.Context, making int64) ([]Ladder, error) {
	rows, err := store.Pieces[store.Gradient](ctx, s.Store, "making_id = ?", making)
	if err != nil {
		return nil, err
	}
	return floor.Each(ctx, "gradients", rows, func(r store.Gradient) (int64, string) { return r.ID, r.Name }, s.ladder)
}

// SaveGradient replaces a gradient, based on a version of it; what was there
// before is kept as a step.
func (s *Room) SaveGradient(ctx context.Context, id, version int64, in GradientInput) (Ladder, error) {
	return s.saveGradient(ctx, id, version, in, store.Onward)
}

// StepGradient moves a gradient along its steps.
func (s *Room) StepGradient(ctx context.Context, id, version int64, m floor.Move) (Ladder, error) {
	var in GradientInput
	way, err := s.StateAt(ctx, "gradients", id, m, &in)
	if err != nil {
		return Ladder{}, err
	}
	return s.saveGradient(ctx, id, version, in, way)
}

func (s *Room) saveGradient(ctx context.Context, id, version int64, in GradientInput, way store.Way) (Ladder, error) {
	out, err := s.WorkOutGradient(ctx, in)
	if err != nil {
		return out, err
	}
	row, err := store.Piece[store.Gradient](ctx, s.Store, id)
	if err != nil {
		return out, err
	}
	left, err := floor.Leaving(GradientInput{row.Name, row.Plan}, out.GradientInput, way, "")
	if err != nil {
		return out, err
	}
	row.Version, row.Name, row.Plan = version, out.Name, out.GradientPlan
	r, err := store.SavePiece(ctx, s.Store, row, left)
	if err != nil {
		return out, floor.ConvertStale(err, func(r store.Gradient) (Ladder, error) { return s.ladder(ctx, r) })
	}
	out.ID, out.Version, out.MakingID = r.ID, r.Version, r.MakingID
	return out, nil
}
