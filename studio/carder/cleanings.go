package carder

import (
	"context"
	"errors"
	"slices"
	"time"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/core/losses"
	"fairtangle/core/run"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/lessons"
	"fairtangle/studio/workshop"
)

// Cleaning is one of the cloth of a piece of equipment.
type Cleaning struct {
	ID       int64    `json:"id"`
	Version  int64    `json:"version"`
	At       string   `json:"at"`
	Full     bool     `json:"full"`      // all of it; else it was brushed over
	BroughtG *float64 `json:"brought_g"` // what it brought up; null: not weighed
	HeldG    float64  `json:"held_g"`    // what was believed to lie in the cloth
	Minutes  float64  `json:"minutes"`   // 0: not told
	Note     string   `json:"note"`
}

// CleaningInput tells of a cleaning that was done just now.
type CleaningInput struct {
	Full     bool     `json:"full"`
	BroughtG *float64 `json:"brought_g"`
	Minutes  float64  `json:"minutes"`
	Note     string   `json:"note"`
}

// Cleanings lists those of a piece of equipment, the latest first.
func (s *Room) Cleanings(ctx context.Context, equipment int64) ([]Cleaning, error) {
	rows, err := s.CleaningsOf(ctx, equipment)
	out := make([]Cleaning, len(rows))
	for i, r := range rows {
		v := Cleaning{
			ID:      r.ID,
			Version: r.Version,
			At:      r.At.Format(floor.TimeForm),
			Full:    r.Full,
			HeldG:   floor.InGrams(r.HeldMg),
			Minutes: r.Minutes,
			Note:    r.Note,
		}
		if r.BroughtMg != nil {
			g := floor.InGrams(*r.BroughtMg)
			v.BroughtG = &g
		}
		out[i] = v
	}
	return out, err
}

// CleaningsOf are those of the cloth of a piece of equipment, the latest first.
func (s *Room) CleaningsOf(ctx context.Context, equipment int64) ([]store.Cleaning, error) {
	rows, err := store.Pieces[store.Cleaning](ctx, s.Store, "equipment_id = ?", equipment)
	floor.InOrder(rows, func(a, b store.Cleaning) int { return b.At.Compare(a.At) })
	return rows, err
}

// Clean notes a cleaning.
func (s *Room) Clean(ctx context.Context, equipment int64, in CleaningInput) (Cleaning, error) {
	e, err := s.workshop.AnyEquipment(ctx, equipment)
	if err != nil {
		return Cleaning{}, err
	}
	var l fault.List
	floor.CheckText(&l, "note", "", &in.Note, floor.MaxNote, false)
	if in.BroughtG != nil && !(*in.BroughtG >= 0 && *in.BroughtG <= 1000) {
		l.Add("brought_g", "A cleaning brings up %s at least and %s at most.", unit.Grams(0), unit.Grams(1000))
	}
	if !(in.Minutes >= 0 && in.Minutes <= 600) {
		l.Add("minutes", "A cleaning takes 0 to 600 minutes.")
	}
	if layup.Type(e.Type) == layup.Hands {
		l.Add("equipment_id", "Hands have no cloth to clean.")
	}
	if err := l.Err(); err != nil {
		return Cleaning{}, err
	}
	c, err := s.cloth(ctx, e)
	if err != nil {
		return Cleaning{}, err
	}
	row := store.Cleaning{
		Name:        "Cleaning of " + e.Name,
		EquipmentID: equipment,
		At:          time.Now(),
		Full:        in.Full,
		HeldMg:      c.now,
		Minutes:     in.Minutes,
		Note:        in.Note,
	}
	if in.BroughtG != nil {
		mg := unit.Grams(*in.BroughtG).Milligrams()
		row.BroughtMg = &mg
	}
	if row, err = store.AddPiece(ctx, s.Store, row); err != nil {
		return Cleaning{}, err
	}
	list, err := s.Cleanings(ctx, equipment)
	i := slices.IndexFunc(list, func(v Cleaning) bool { return v.ID == row.ID })
	return list[max(i, 0)], err
}

// cloth is what a cloth can hold, and what it holds.
type cloth struct {
	usual, most float64 // grams; as its size says, and as its cleanings have shown
	now         unit.Milligrams
}

// cloth is what the cloth of equipment holds, as the runs on it and its cleanings have left it.
func (s *Room) cloth(ctx context.Context, e workshop.Equipment) (out cloth, err error) {
	out.usual = lessons.MostHeld(e.Row())
	cleanings, err := s.CleaningsOf(ctx, e.ID)
	if err != nil {
		return out, err
	}
	var cleaned []losses.Cleaned
	for _, c := range slices.Backward(cleanings) {
		if c.Full && c.BroughtMg != nil {
			cleaned = append(cleaned, losses.Cleaned{Held: floor.InGrams(c.HeldMg), Brought: floor.InGrams(*c.BroughtMg)})
		}
	}
	out.most = losses.LearnMost(out.usual, cleaned)
	last, err := s.Store.LastRunOn(ctx, e.ID)
	if err != nil && !errors.Is(err, floor.ErrNotFound) {
		return out, err
	}
	var since time.Time
	if err == nil {
		since = last.CreatedAt
		if n := len(last.Entries); n > 0 {
			since = last.Entries[n-1].At
		}
		state := run.Read(last.Told(), last.Units, last.Passes)
		out.now = lessons.ClothBefore(last, state)
		for range startedOf(state) {
			out.now += lessons.FillOf(last.Plan, out.now)
		}
	}
	for _, c := range slices.Backward(cleanings) {
		switch {
		case !c.At.After(since):
		case c.Full:
			out.now = 0
		case c.BroughtMg != nil:
			out.now = max(0, out.now-*c.BroughtMg)
		}
	}
	return out, nil
}

func startedOf(s run.State) (out []int) {
	for i, u := range s.Units {
		if _, ok := u.Passes[0].Mg(run.Off); ok || u.At > 0 {
			out = append(out, i)
		}
	}
	return out
}

// ClothFor is what the cloth of equipment held when the run of a weigh-out began there, or what it holds now where there is none,
// and the most that it can, grams.
func (s *Room) ClothFor(ctx context.Context, weighout int64, e workshop.Equipment) (now, most float64, err error) {
	if weighout != 0 {
		runs, err := s.Store.Runs(ctx, "weighout_id = ? AND equipment_id = ?", weighout, e.ID)
		if err != nil {
			return 0, 0, err
		}
		if len(runs) > 0 {
			r := runs[0]
			return floor.InGrams(lessons.ClothBefore(r, run.Read(r.Told(), r.Units, r.Passes))), r.Plan.ClothG, nil
		}
	}
	held, err := s.cloth(ctx, e)
	return floor.InGrams(held.now), held.most, err
}
