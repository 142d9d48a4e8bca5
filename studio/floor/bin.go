package floor

import (
	"context"
	"fmt"
	"strings"

	"fairtangle/store"
)

// BinItem is something in the bin.
type BinItem = store.BinItem

// Sort is a sort of record, with its word, its list and its page.
type Sort = store.Sort

// SortOf finds a sort by the name of its table; SortAt by the address of one of its records, with
// the id of that.
func SortOf(table string) (Sort, bool) { return store.SortOf(table) }

// SortAt finds the record that an address is about.
func SortAt(path string) (sort Sort, id int64) {
	road, rest, _ := strings.Cut(strings.Trim(path, "/"), "/")
	for _, s := range store.Sorts() {
		page, _, _ := strings.Cut(strings.TrimPrefix(s.Page, "/"), "/")
		if page == "" || page != road {
			continue
		}
		if _, err := fmt.Sscan(strings.Split(rest, "/")[0], &id); err == nil && id > 0 {
			return s, id
		}
	}
	return Sort{}, 0
}

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
