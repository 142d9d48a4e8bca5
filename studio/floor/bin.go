package floor

import (
	"context"

	"fairtangle/store"
)

// BinItem is something in the bin.
type BinItem = store.BinItem

// Bin lists what can be taken back.
func (s *Floor) Bin(ctx context.Context) ([]BinItem, error) { return s.Store.Bin(ctx) }

// Discard puts something into the bin.
func (s *Floor) Discard(ctx context.Context, table string, id int64) error {
	return s.Store.Discard(ctx, table, id)
}

// Restore takes something out of the bin.
func (s *Floor) Restore(ctx context.Context, table string, id int64) error {
	return s.Store.Restore(ctx, table, id)
}
