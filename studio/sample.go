package studio

import (
	"context"

	"fairtangle/core/fault"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// sampleSorts are the sorts of record that the sample world brings and that are put away with it; what belongs to a making goes with
// that.
var sampleSorts = []string{"lots", "makings", "scrap_sets", "photos", "samples"}

// Nothing reports whether there is neither fibre nor a making yet.
func (s *Studio) Nothing(ctx context.Context) (bool, error) {
	l, err := s.Shelf.Shelf(ctx, shelf.LotFilter{Limit: 1})
	if err != nil || l.Total > 0 {
		return false, err
	}
	for _, away := range []bool{false, true} {
		if _, all, err := s.Recipe.MakingsPage(ctx, away, "", 0, 1); err != nil || all > 0 {
			return false, err
		}
	}
	return true, nil
}

// SampleHere reports whether the sample world lies beside the maker's own.
func (s *Studio) SampleHere(ctx context.Context) (bool, error) {
	set, err := s.Workshop.Settings(ctx)
	return len(set.Sample) > 0, err
}

// LaySampleOut fills an empty studio with the sample world, whole or not at all, and remembers what came with it.
func (s *Studio) LaySampleOut(ctx context.Context, fill func(context.Context, *Studio) error) error {
	return s.Deed(ctx, func(ctx context.Context) error {
		if none, err := s.Nothing(ctx); err != nil || !none {
			if err == nil {
				err = fault.New("sample", "The sample world is laid out where nothing else is yet.")
			}
			return err
		}
		if err := fill(ctx, s); err != nil {
			return err
		}
		latest, err := s.Store.Latest(ctx, sampleSorts)
		if err != nil {
			return err
		}
		_, err = s.Workshop.ChangeSettings(ctx, 0, func(set *workshop.Settings) { set.Sample = latest })
		return err
	})
}

// PutSampleAway puts all that came with the sample world into the bin; what the maker added herself stays.
func (s *Studio) PutSampleAway(ctx context.Context) error {
	return s.Deed(ctx, func(ctx context.Context) error {
		set, err := s.Workshop.Settings(ctx)
		if err != nil {
			return err
		}
		for _, table := range sampleSorts {
			if err := s.Store.DiscardUntil(ctx, table, set.Sample[table]); err != nil {
				return err
			}
		}
		_, err = s.Workshop.ChangeSettings(ctx, 0, func(set *workshop.Settings) { set.Sample = nil })
		return err
	})
}
