package scale

import (
	"context"
	"math"

	"fairtangle/core/weigh"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
	"fairtangle/studio/yarns"
)

// WeighoutSuggestion prefills the form for a weigh-out of a blend: as many
// units as its lay-up serves, or as the first piece of equipment needs for it.
func (s *Room) WeighoutSuggestion(ctx context.Context, b recipe.Blend) (WeighoutInput, error) {
	set, err := s.workshop.Settings(ctx)
	in := WeighoutInput{Name: b.Name, Units: 1, FinishedG: b.TotalG, Passes: b.Passes, StepG: floor.InGrams(set.StepMg)}
	for _, c := range b.Components {
		in.Lines = append(in.Lines, WeighoutLoss{LossPct: c.LossPct, Decay: c.Fibre.Decay, JoinsAtPass: 1})
	}
	if err != nil {
		return in, err
	}
	rows, err := s.laying.LayupsOf(ctx, b.ID)
	if err != nil {
		return in, err
	}
	if len(rows) > 0 { // it follows the lay-up touched last
		l, err := s.laying.Layup(ctx, rows[0].ID)
		if err != nil {
			return in, err
		}
		in.LayupID, in.Units, in.Passes = &l.ID, l.Units, l.LosesIn()
		in.FinishedG = b.TotalG / float64(in.Units)
		for i := range in.Lines {
			in.Lines[i].JoinsAtPass = min(l.LaidPlan.JoinsAt(i), max(1, in.Passes))
		}
		return in, nil
	}
	fills, err := s.Fills(ctx, b, b.WeighInG, b.WeighInG)
	if len(fills) > 0 && fills[0].Units <= weigh.MaxUnits {
		in.Units = fills[0].Units
		in.FinishedG = b.TotalG / float64(in.Units)
	}
	return in, err
}

// leastSample is what a sample weighs at least, grams: less gives no rolag to judge.
const leastSample = 5

// SampleSuggestion prefills the form for a sample of a blend: a few grams, of which each fibre
// is enough for the scale.
func (s *Room) SampleSuggestion(ctx context.Context, b recipe.Blend) (WeighoutInput, error) {
	in, err := s.WeighoutSuggestion(ctx, b)
	in.Name, in.Units, in.LayupID, in.Sample = b.Name+", a sample", 1, nil, true
	in.FinishedG = math.Ceil(max(b.SampleG, leastSample))
	for i := range in.Lines {
		in.Lines[i].JoinsAtPass = 1
	}
	return in, err
}

// UnitsFor is how many units a blend makes, and on what: as its latest lay-up
// says, else as the first piece of equipment needs; 0 where there is neither.
func (s *Room) UnitsFor(ctx context.Context, b recipe.Blend) (int, workshop.Equipment, error) {
	if b.ID == 0 || len(b.Components) == 0 {
		return 0, workshop.Equipment{}, nil
	}
	rows, err := s.laying.LayupsOf(ctx, b.ID)
	if err != nil {
		return 0, workshop.Equipment{}, err
	}
	if len(rows) > 0 {
		e, err := s.workshop.LaidOn(ctx, rows[0].EquipmentID)
		return rows[0].Units, e, err
	}
	fills, err := s.Fills(ctx, b, b.WeighInG, b.WeighInG)
	if err != nil || len(fills) == 0 {
		return 0, workshop.Equipment{}, err
	}
	return fills[0].Units, fills[0].Equipment, nil
}

// Fill is how full a piece of equipment is with one unit.
type Fill struct {
	Equipment workshop.Equipment
	CapacityG float64
	Fraction  float64
	Units     int // needed for the whole at nine tenths full
}

// Fills tells for each piece of equipment how full it gets with unitG of a
// blend, and how many units the whole makes. The capacity of a mixed load is
// 1/Σ(share/capacity), each component between smooth and lofty by its crimp
// and preparation.
func (s *Room) Fills(ctx context.Context, b recipe.Blend, unitG, totalG float64) ([]Fill, error) {
	list, err := s.workshop.Equipment(ctx)
	if err != nil || len(b.Components) == 0 {
		return nil, err
	}
	var out []Fill
	fibres := laying.WeighedIn(b)
	for _, e := range list {
		cap := e.Bed().Capacity(fibres)
		out = append(out, Fill{Equipment: e, CapacityG: cap, Fraction: unitG / cap, Units: yarns.UnitsOf(totalG, cap)})
	}
	return out, nil
}
