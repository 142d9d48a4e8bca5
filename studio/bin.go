package studio

import (
	"context"

	"fairtangle/store"
)

// BinItem is something in the bin.
type BinItem = store.BinItem

// Bin lists what can be taken back.
func (s *Studio) Bin(ctx context.Context) ([]BinItem, error) { return s.store.Bin(ctx) }

// Discard puts something into the bin.
func (s *Studio) Discard(ctx context.Context, table string, id int64) error {
	return s.store.Discard(ctx, table, id)
}

// Restore takes something out of the bin.
func (s *Studio) Restore(ctx context.Context, table string, id int64) error {
	return s.store.Restore(ctx, table, id)
}
