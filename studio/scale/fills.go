package scale

import (
	"context"
	"math"

	"fairtangle/core/weigh"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
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
			in.Lines[i].JoinsAtPass, in.Lines[i].AloneFirst = min(l.LaidPlan.JoinsAt(i), max(1, in.Passes)), l.LaidPlan.LosesAlone(l.Bed, i)
		}
		return in, nil
	}
	units, _, err := s.laying.UnitsFor(ctx, b)
	if units > 0 && units <= weigh.MaxUnits {
		in.Units = units
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
		in.Lines[i].JoinsAtPass, in.Lines[i].AloneFirst = 1, 0
	}
	return in, err
}
