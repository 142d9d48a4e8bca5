package shelf

import (
	"context"

	"fairtangle/core/mix"
	"fairtangle/studio/lessons"
	"fairtangle/studio/workshop"
)

// Mixing is what nearly every answer needs: settings, kinds and the mixing
// model, calibrated where the maker wants that.
type Mixing struct {
	Settings workshop.Settings `json:"-"`
	Kinds    workshop.Kinds    `json:"-"`
	Model    mix.Model         `json:"-"`
	strength map[int64]float64
	LeftOut  float64 `json:"-"` // 0: not calibrated
	Fitting  bool    `json:"-"` // the calibration is a former one
	// known is what the runs have taught of the loss of kinds; kinds then have it.
	Known lessons.Taught `json:"-"`
}

// Mixing reads what nearly every answer needs.
func (s *Room) Mixing(ctx context.Context) (b Mixing, err error) {
	if b.Settings, err = s.workshop.Settings(ctx); err != nil {
		return b, err
	}
	if b.Kinds, err = s.workshop.AllKinds(ctx, true); err != nil {
		return b, err
	}
	b.Model, b.Known.Usual = workshop.Model(b.Settings), b.Kinds
	if b.Settings.Learning {
		if b.Known, err = s.lessons.Remember(ctx, b.Kinds); err != nil {
			return b, err
		}
		b.Kinds = lessons.WithLearned(b.Kinds, b.Known.All)
	}
	if b.Settings.Calibrated {
		var c mix.Calibration
		if c, b.Fitting, err = s.Fit(ctx, b); err == nil && c.Extent != mix.Nothing {
			b.Model, b.strength, b.LeftOut = c.Model, c.Strength, c.LeftOut
			err = s.madeStrength(ctx, &b)
		}
	}
	return b, err
}
