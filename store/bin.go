package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// binnable names the tables whose rows can go to the bin, in the order in
// which the bin shows them.
var binnable = []string{
	"lots", "makings", "blends", "weighouts", "equipment", "kinds", "gradients", "scrap_sets", "photos", "samples", "layups", "scales", "containers", "runs",
	"cleanings", "sources", "offers", "buy_lists", "yarn_samples", "skeins", "silences",
}

// BinItem is something in the bin.
type BinItem struct {
	Table string
	ID    int64
	Name  string
	At    time.Time
}

// Bin lists what was put into the bin within the last 30 days, the latest
// first.
func (s *Store) Bin(ctx context.Context) (out []BinItem, err error) {
	for _, table := range binnable {
		var items []BinItem
		err := s.reading(ctx).Table(table).Select("? AS \"table\", id, name, deleted_at AS at", table).
			Where("deleted_at > ?", s.binLimit()).Order("deleted_at DESC").Limit(200).Scan(&items).Error
		if err != nil {
			return nil, err
		}
		out = append(out, items...)
	}
	return out, nil
}

// Discard puts a row into the bin.
func (s *Store) Discard(ctx context.Context, table string, id int64) error {
	return s.mark(ctx, table, id, "deleted_at IS NULL", s.now().UTC())
}

// Restore takes a row out of the bin again.
func (s *Store) Restore(ctx context.Context, table string, id int64) error {
	return s.mark(ctx, table, id, "deleted_at IS NOT NULL", nil)
}

func (s *Store) mark(ctx context.Context, table string, id int64, where string, deleted any) error {
	for _, t := range binnable {
		if t != table {
			continue
		}
		defer s.retold(ctx, true)
		return s.tx(ctx, func(tx *gorm.DB) error {
			r := tx.Exec(fmt.Sprintf("UPDATE %s SET deleted_at = ?, version = version + 1 WHERE id = ? AND %s", table, where), deleted, id)
			if r.Error == nil && r.RowsAffected == 0 {
				return ErrNotFound
			}
			return r.Error
		})
	}
	return ErrNotFound
}
