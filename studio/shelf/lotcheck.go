package shelf

import (
	"context"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/fibre"
	"fairtangle/studio/floor"
)

// LotChecker returns a function that checks and completes a new lot. A kind or a
// preparation may be given by its name instead of its key.
func (s *Room) LotChecker(ctx context.Context) (func(*NewLot) error, error) {
	kinds, err := s.workshop.AllKinds(ctx, false)
	if err != nil {
		return nil, err
	}
	byName := map[string]string{}
	for _, k := range kinds.List {
		byName["kind "+strings.ToLower(k.Name)] = k.Key
	}
	for _, p := range fibre.Preparations() {
		byName["prep "+strings.ToLower(p.Name)] = p.Key
	}
	return func(in *NewLot) error {
		if key := byName["kind "+strings.ToLower(strings.TrimSpace(in.Kind))]; key != "" {
			in.Kind = key
		}
		if key := byName["prep "+strings.ToLower(strings.TrimSpace(in.Preparation))]; key != "" {
			in.Preparation = key
		}
		var l fault.List
		if err := in.check(kinds); err != nil {
			l, _ = fault.From(err)
		}
		floor.CheckGrams(&l, "grams", in.Grams)
		return l.Err()
	}, nil
}
