package recipe

import (
	"context"

	"fairtangle/core/colour"
	"fairtangle/store"
	"fairtangle/studio/shelf"
)

func (s *Room) viewAll(ctx context.Context, rows []store.Blend) ([]Blend, error) {
	return s.viewWith(ctx, rows, workOutWith)
}

// AmountsOf are blends with their shares and grams, and without their colours.
func (s *Room) AmountsOf(ctx context.Context, rows []store.Blend) ([]Blend, error) {
	return s.viewWith(ctx, rows, func(at shelf.Mixing, in BlendInput, lots map[int64]store.Lot, used used) Blend {
		b, _ := workOutAmounts(at, in, lots, used)
		return b
	})
}

// SeenOf are blends without how sure their colours are.
func (s *Room) SeenOf(ctx context.Context, rows []store.Blend) ([]Blend, error) {
	return s.viewWith(ctx, rows, func(at shelf.Mixing, in BlendInput, lots map[int64]store.Lot, used used) Blend {
		b, _, _ := workOutColour(at, in, lots, used)
		return b
	})
}

func (s *Room) viewWith(ctx context.Context, rows []store.Blend, look func(shelf.Mixing, BlendInput, map[int64]store.Lot, used) Blend) ([]Blend, error) {
	at, err := s.shelf.Mixing(ctx)
	if err != nil {
		return nil, err
	}
	inputs := make([]BlendInput, len(rows))
	lists := make([][]BlendComponent, len(rows))
	for i, r := range rows {
		inputs[i] = inputOf(r)
		lists[i] = inputs[i].Components
	}
	lots, err := s.lotsIn(ctx, lists...)
	if err != nil {
		return nil, err
	}
	out := make([]Blend, len(rows))
	ids := make([]int64, len(rows))
	for i, r := range rows {
		ids[i] = r.ID
	}
	weighed, err := s.usedFor(ctx, ids...)
	if err != nil {
		return nil, err
	}
	for i, r := range rows {
		b := look(at, inputs[i], lots, weighed[r.ID])
		b.ID, b.Version, b.MakingID = r.ID, r.Version, r.MakingID
		out[i] = b
	}
	return out, nil
}

func (s *Room) view(ctx context.Context, r store.Blend) (Blend, error) {
	out, err := s.viewAll(ctx, []store.Blend{r})
	if err != nil {
		return Blend{}, err
	}
	return out[0], nil
}

// ShelfOrder is where a blend stands among others by its colour; nil where it has none.
func (b Blend) ShelfOrder() *float64 {
	if b.Hex == "" {
		return nil
	}
	v := colour.ShelfOrder(b.Even.Linear())
	return &v
}
