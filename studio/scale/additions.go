package scale

import (
	"context"
)

// CreateAddition makes a weigh-out of what a mended blend adds to what was
// carded.
func (s *Room) CreateAddition(ctx context.Context, blend int64) (Weighout, error) {
	b, err := s.recipe.Blend(ctx, blend)
	if err != nil {
		return Weighout{}, err
	}
	set, err := s.workshop.Settings(ctx)
	if err != nil {
		return Weighout{}, err
	}
	row, err := b.Addition(set.StepMg)
	if err != nil {
		return Weighout{}, err
	}
	if row, err = s.Store.CreateWeighout(ctx, row); err != nil {
		return Weighout{}, err
	}
	return s.weighoutView(ctx, row)
}
