package carder

import (
	"context"

	"fairtangle/core/fleece"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/lessons"
	"fairtangle/studio/workshop"
)

func lineOf(l run.Line) RunLine {
	g := floor.InGrams
	out := RunLine{
		InG: g(l.In), OilG: g(l.Oil), OffG: g(l.Off), KeptG: g(l.Kept), ThrownG: g(l.Thrown), DroppingsG: g(l.Droppings), PickedG: g(l.Picked),
		ClothG: g(l.Cloth), BetweenG: g(l.Between), RestG: g(l.Rest), OpenG: g(l.Open), Guessed: l.Guessed,
	}
	for _, s := range l.Stretches {
		out.Stretches = append(out.Stretches, RunStretch{
			s.First, s.Last, floor.InGrams(s.In), s.Loss, 100 * s.Rate, s.Unaccounted, s.Learn, append([]losses.Ask{}, s.Ask...),
		})
	}
	return out
}

func (s *Room) runView(ctx context.Context, r store.Run) (Run, error) {
	v := Run{
		ID: r.ID, Version: r.Version, Sort: r.Sort, Name: r.Name, MakingID: r.MakingID, WeighoutID: r.WeighoutID, LayupID: r.LayupID, EquipmentID: r.EquipmentID,
		LotID: r.LotID, At: r.CreatedAt.Format(floor.TimeForm), Units: []RunUnit{}, Shelved: []RunShelved{}, Foreseen: []RunForeseen{},
		Entries: []RunEntry{}, Sample: r.Sample, Equipment: workshop.EquipmentOf(r.Plan.Equipment), Row: r,
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
	passes := r.Passes
	if r.Sort == FleeceRun { // its stages were fewer once
		passes = max(passes, fleece.Count)
	}
	v.State = run.Read(entries, units, passes)
	v.Unit, v.Paused = v.State.Unit, v.State.Paused
	for _, e := range v.State.Shelved {
		v.Shelved = append(v.Shelved, shelvedOf(e))
	}
	v.list(entries)
	if r.Sort == FleeceRun {
		return v, s.fleeceView(ctx, &v)
	}
	var err error
	if v.Weighout, err = s.scale.Weighout(ctx, *r.WeighoutID); err != nil {
		return v, err
	}
	v.BlendID = v.Weighout.BlendID
	if d, ok := v.State.Units[0].Whole[run.Decided]; ok {
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
		row := v.Row.Entries[i]
		out := RunEntry{
			ID:     e.ID,
			At:     row.At.Format(floor.TimeForm),
			Unit:   e.Unit,
			Pass:   e.Pass,
			What:   string(e.What),
			Number: e.Number,
			Text:   e.Text,
			Undoes: row.UndoesID,
		}
		if e.What.Weights() && e.Undoes == 0 {
			g := floor.InGrams(e.Mg)
			out.Grams = &g
		}
		out.Undone = undone[e.ID]
		out.Stands = !out.Undone && e.Undoes == 0 && (e.What.Several() || later[[3]any{e.Unit, e.Pass, e.What}] == e.ID)
		v.Entries = append(v.Entries, out)
	}
}

// balance works out the mass lines.
func (v *Run) balance() {
	lines := lessons.LinesOf(v.Row, v.State, v.Weighout.Row, v.Weighout.At.Known.Usual)
	for i, u := range v.State.Units {
		v.Units = append(v.Units, v.unitOf(i, u, lines[i]))
	}
	v.Line = lineOf(run.Whole(lines))
}

func (v *Run) unitOf(i int, u run.Unit, l run.Line) RunUnit {
	out := RunUnit{Weight: lessons.WeightOf(v.Row, i), Step: u.At, Enough: u.Enough, Line: lineOf(l), PiecesG: []float64{}, Shelved: []RunShelved{},
		Passes: []RunPass{}, Note: u.Whole[run.Note].Text}
	if c, ok := u.Whole[run.Count]; ok {
		out.Count = &c.Number
	}
	for _, e := range u.Pieces {
		out.PiecesG = append(out.PiecesG, floor.InGrams(e.Mg))
	}
	for _, e := range u.Shelved {
		out.Shelved = append(out.Shelved, shelvedOf(e))
		out.ShelvedG = unit.Clean(out.ShelvedG + floor.InGrams(e.Mg))
	}
	for _, p := range u.Passes {
		out.Passes = append(out.Passes, passOf(p))
	}
	if i < len(v.Weighout.Units) {
		out.Hex = v.Weighout.Units[i].Hex
		out.ExpectedG = v.Weighout.Units[i].ExpectedG
	}
	return out
}

func shelvedOf(e run.Entry) RunShelved {
	return RunShelved{e.ID, int64(e.Number), floor.InGrams(e.Mg), e.Text}
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
		g := floor.InGrams(mg)
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
	out.Specks, out.Clearance, out.Pace, out.OilPct = number(run.Specks), number(run.Clearance), number(run.Pace), number(run.Oil)
	for _, e := range p.Photos {
		out.Photos = append(out.Photos, int64(e.Number))
	}
	for w, e := range p.Facts {
		out.After[string(w)] = e.ID
	}
	return out
}
