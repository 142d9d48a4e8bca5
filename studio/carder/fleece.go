package carder

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/fleece"
	"fairtangle/core/run"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
)

// Fleece is how far a raw fleece has come.
type Fleece struct {
	Lot      string           `json:"lot"`
	RawG     float64          `json:"raw_g"`
	WholeG   []*float64       `json:"whole_g"` // by stage, of the whole fleece
	Parts    []FleecePart     `json:"parts"`
	Totals   []GramRange      `json:"totals"`     // after each stage, the first being raw
	SoFar    float64          `json:"so_far"`     // of the raw weight, left now
	LowG     float64          `json:"low_g"`      // when it can be carded
	HighG    float64          `json:"high_g"`     //
	Low      float64          `json:"low"`        // that, of the raw weight
	High     float64          `json:"high"`       //
	FellOutG float64          `json:"fell_out_g"` // in parting it
	Expected bool             `json:"expected"`   // some of it is not weighed yet
	Taken    map[string]bool  `json:"taken"`      // what was looked for and taken out
	Animal   string           `json:"animal"`     // of whose fleece the ranges are; empty: of sheep as a whole
	LookFor  string           `json:"look_for"`
	NotAsked []string         `json:"not_asked"` // of what is looked for, what need not be in it
	OilPct   *float64         `json:"oil_pct"`
	Note     string           `json:"note"`
	After    map[string]int64 `json:"after"` // the entries on which the whole stands
}

// GramRange is a weight that is known, where both are the same, or from where to where it
// is expected.
type GramRange struct {
	LowG  float64 `json:"low_g"`
	HighG float64 `json:"high_g"`
}

// FleecePart is a part of a fleece.
type FleecePart struct {
	Unit    int              `json:"unit"`
	Name    string           `json:"name"`
	Hex     string           `json:"hex"`
	StageG  []*float64       `json:"stage_g"` // by stage
	Done    []bool           `json:"done"`    // by stage: it was done, weighed or not
	NowG    float64          `json:"now_g"`
	Stage   int              `json:"stage"` // the last at which it was weighed; 0: none
	LowG    float64          `json:"low_g"`
	HighG   float64          `json:"high_g"`
	Shelved []RunShelved     `json:"shelved"`
	ToShelf float64          `json:"to_shelf_g"`
	Note    string           `json:"note"`
	After   map[string]int64 `json:"after"`
}

// StartFleece begins the preparing of a raw fleece for a making.
func (s *Room) StartFleece(ctx context.Context, lot, making int64) (Run, error) {
	l, err := s.shelf.Lot(ctx, lot)
	if err != nil {
		return Run{}, err
	}
	m, err := s.recipe.Making(ctx, making)
	if err != nil {
		return Run{}, fault.New("making_id", "Choose a making.")
	}
	row := store.Run{
		Sort: FleeceRun, Name: l.Name, MakingID: m.ID, LotID: &l.ID, Units: 1, Passes: fleece.Count, Plan: store.RunPlan{Schools: m.Schools},
	}
	if row, err = store.AddPiece(ctx, s.Store, row); err != nil {
		return Run{}, err
	}
	return s.Run(ctx, row.ID)
}

// RunsOfLot lists the runs of a raw fleece.
func (s *Room) RunsOfLot(ctx context.Context, lot int64) ([]Run, error) {
	return s.runsWhere(ctx, "lot_id = ?", lot)
}

// fleeceView works out how far the fleece of a run has come.
func (s *Room) fleeceView(ctx context.Context, v *Run) error {
	f := &Fleece{Parts: []FleecePart{}, Taken: v.State.Ticks, After: map[string]int64{}}
	lots, err := s.Store.LotsByID(ctx, []int64{*v.LotID})
	if err != nil {
		return err
	}
	lot := lots[*v.LotID]
	f.Lot = lot.Name
	whole := v.State.Units[0]
	f.RawG = floor.InGrams(whole.Whole[run.Raw].Mg)
	f.Note = whole.Whole[run.Note].Text
	if e, ok := whole.Whole[run.Oil]; ok {
		f.OilPct = &e.Number
	}
	for w, e := range whole.Whole {
		f.After[string(w)] = e.ID
	}
	for i, p := range whole.Passes {
		if e, ok := p.Facts[run.Off]; ok {
			f.After[fmt.Sprintf("off %d", i+1)] = e.ID
		}
	}
	f.WholeG = weightsOf(whole)
	var parts []fleece.Part
	for i, u := range v.State.Units {
		if name := u.Whole[run.Parted].Text; i > 0 && name != "" {
			p := fleecePartOf(i, name, u, floor.MeanLinear(lot.Colours).Hex())
			f.Parts = append(f.Parts, p)
			parts = append(parts, partOf(u))
		}
	}
	for _, e := range whole.Shelved {
		v.Shelved = append(v.Shelved, shelvedOf(e))
	}
	kinds, err := s.workshop.AllKinds(ctx, true)
	if err != nil {
		return err
	}
	of := fleece.GroupOf(lot.Kind)
	f.Animal, f.LookFor, f.NotAsked = of.Name, of.LookFor, append([]string{}, of.Not...)
	for i := range f.Parts {
		f.Parts[i].expect(of, parts[i])
	}
	g := of.Foretell(whole.Whole[run.Raw].Mg, partOf(whole), parts, kinds.Named(lot.Kind).Family == "wool")
	f.SoFar, f.FellOutG, f.Expected = g.SoFar, floor.InGrams(g.LeftOver), g.Estimated
	f.LowG, f.HighG, f.Low, f.High = g.Grams.Low, g.Grams.High, g.Share.Low, g.Share.High
	for _, t := range of.Totals(whole.Whole[run.Raw].Mg, partOf(whole), parts) {
		f.Totals = append(f.Totals, GramRange{t.Low, t.High})
	}
	v.Fleece = f
	return nil
}

// expect is what a part will weigh when it can be carded.
func (p *FleecePart) expect(of fleece.Group, part fleece.Part) {
	k := of.Keep(part, p.Stage, fleece.Picked)
	p.LowG, p.HighG = p.NowG*k.Low, p.NowG*k.High
}

func weightsOf(u run.Unit) []*float64 {
	out := make([]*float64, fleece.Count)
	for i := range out {
		if mg, ok := u.Passes[i].Mg(run.Off); ok {
			g := floor.InGrams(mg)
			out[i] = &g
		}
	}
	return out
}

func partOf(u run.Unit) (p fleece.Part) {
	for i := range u.Passes[:fleece.Count] {
		p.Weights[i+1], _ = u.Passes[i].Mg(run.Off)
		_, p.Did[i+1] = u.Passes[i].Facts[run.Look]
	}
	return p
}

func fleecePartOf(i int, name string, u run.Unit, hex string) FleecePart {
	p := FleecePart{
		Unit: i, Name: name, Hex: hex, StageG: weightsOf(u), Done: make([]bool, fleece.Count), Note: u.Whole[run.Note].Text, Shelved: []RunShelved{},
		After: map[string]int64{},
	}
	if c := u.Whole[run.Hex].Text; c != "" {
		p.Hex = c
	}
	of := partOf(u)
	stage, mg := of.Last()
	p.Stage, p.NowG = stage, floor.InGrams(mg)
	left := mg
	for n, pass := range u.Passes[:fleece.Count] {
		_, ticked := pass.Facts[run.Look]
		p.Done[n] = ticked || p.StageG[n] != nil
		if e, ok := pass.Facts[run.Off]; ok {
			p.After[fmt.Sprintf("off %d", n+1)] = e.ID
		}
	}
	for w, e := range u.Whole {
		p.After[string(w)] = e.ID
	}
	for _, e := range u.Shelved {
		p.Shelved = append(p.Shelved, shelvedOf(e))
		left -= e.Mg
	}
	p.ToShelf = floor.InGrams(max(0, left))
	return p
}

// fleeceEntry checks what is told of a fleece. Unit 0 is all of it, the others are its parts;
// passes are its stages.
func (s *Room) fleeceEntry(ctx context.Context, v Run, in EntryInput) (store.RunEntry, error) {
	var l fault.List
	ownKeyed(&l, in.Key)
	e := store.RunEntry{Key: in.Key, Unit: in.Unit, Pass: in.Pass, What: in.What, Text: in.Text}
	if in.Unit < 0 || in.Unit > laying.MostParts {
		l.Add("unit", "A fleece has at most %d parts.", laying.MostParts)
	}
	what := run.What(in.What)
	if what == run.Off || what == run.Photo || what == run.Look {
		if in.Pass < 1 || in.Pass > fleece.Count {
			l.Add("pass", "A stage is from 1 to %d.", fleece.Count)
		}
	} else {
		e.Pass = 0
	}
	if what.Weights() {
		e.Text = ""
		if in.Grams == nil {
			l.Add("grams", "Enter a weight.")
		} else {
			floor.CheckGrams(&l, "grams", *in.Grams)
			e.Mg = unit.Grams(*in.Grams).Milligrams()
		}
	}
	switch what {
	case run.Off:
		l = append(l, heavier(v, in, e.Mg)...)
	case run.Raw:
		if e.Unit = 0; e.Mg == 0 && len(l) == 0 {
			l.Add("grams", "Enter a weight above %s.", unit.Grams(0))
		}
	case run.Parted:
		floor.CheckText(&l, "text", "", &e.Text, floor.MaxName, false)
		if in.Unit < 1 {
			l.Add("unit", "The parts of a fleece are counted from 1.")
		}
	case run.Hex:
		if c, err := colour.ParseHex(strings.TrimSpace(in.Text)); err != nil {
			l.Take("text", err)
		} else {
			e.Text = c.Hex()
		}
	case run.Look: // a stage that was done, without a weight
		e.Text = "done"
	case run.Note:
		floor.CheckText(&l, "text", "", &e.Text, floor.MaxNote, false)
	case run.Tick:
		if !slices.ContainsFunc(fleece.TakeOuts(), func(t fleece.TakeOut) bool { return t.Key == e.Text }) {
			l.Add("text", "There is no such check.")
		}
	case run.Oil:
		if e.Number = laying.Or(in.Number, -1); !(e.Number >= 0 && e.Number <= mostOil) {
			l.Add("number", "Oil is from 0 to %d %% of the weight.", mostOil)
		}
	case run.Photo:
		e.Number = laying.Or(in.Number, 0)
		if _, err := s.shelf.Photo(ctx, int64(e.Number)); err != nil {
			l.Add("number", "There is no such photo.")
		}
	default:
		l.Add("what", "This is not told of a fleece.")
	}
	return e, l.Err()
}

// TakeRaw takes the raw fleece off the shelf into its run.
func (s *Room) TakeRaw(ctx context.Context, id int64, in EntryInput) (Run, error) {
	v, err := s.Run(ctx, id)
	if err != nil {
		return Run{}, err
	}
	if v.Sort != FleeceRun {
		return Run{}, fault.New("what", "This is not told of a run at the carder.")
	}
	in.What, in.Unit = string(run.Raw), 0
	e, err := s.fleeceEntry(ctx, v, in)
	if err != nil {
		return Run{}, err
	}
	row, err := s.Store.Enter(ctx, id, []store.RunEntry{e}, func(now store.Run) error {
		if standing(now.Told(), e) != 0 {
			return fault.New("grams", "The raw fleece was taken already. Take that back first.")
		}
		return nil
	}, store.Movement{LotID: *v.LotID, DeltaMg: -e.Mg, Reason: store.Prepared, Note: v.Name})
	if err != nil {
		return Run{}, err
	}
	return s.runView(ctx, row)
}

// ShelveFleece puts a part of a fleece onto the shelf, as far as it has come.
func (s *Room) ShelveFleece(ctx context.Context, id int64, in ShelfInput) (Run, error) {
	v, err := s.Run(ctx, id)
	if err != nil {
		return Run{}, err
	}
	if v.told(in.Key) {
		return v, nil
	}
	var l fault.List
	ownKeyed(&l, in.Key)
	floor.CheckText(&l, "name", "", &in.Name, floor.MaxName, false)
	at := -1
	if v.Fleece != nil {
		at = slices.IndexFunc(v.Fleece.Parts, func(p FleecePart) bool { return p.Unit == in.Unit })
	}
	if at < 0 {
		l.Add("unit", "There is no such part of the fleece.")
		return Run{}, l.Err()
	}
	p := v.Fleece.Parts[at]
	mg, err := in.howMuch(unit.Grams(p.ToShelf).Milligrams())
	if err != nil {
		return Run{}, err
	}
	lot, err := s.lotOfFleece(ctx, v, p, in, mg)
	if err != nil {
		return Run{}, err
	}
	var told []store.Telling
	if p.Done[fleece.Flicked-1] { // the brittle tips are off
		told = append(told, store.Telling{Key: "tender"})
	}
	return s.putThere(ctx, v, in, FleeceRun, lot, told, nil)
}

// Did reports whether any of it went through a stage, weighed or not.
func (f *Fleece) Did(stage int) bool {
	return f.WholeG[stage-1] != nil || slices.ContainsFunc(f.Parts, func(p FleecePart) bool { return p.Done[stage-1] })
}
