package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
)

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
	for _, sort := range sorts {
		if !sort.Binned {
			continue
		}
		var items []BinItem
		err := s.reading(ctx).Table(sort.Table).Select("? AS \"table\", id, name, deleted_at AS at", sort.Table).
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
	sort, known := SortOf(table)
	if !known || !sort.Binned {
		return ErrNotFound
	}
	defer s.retold(ctx, true)
	return s.tx(ctx, func(tx *gorm.DB) error {
		r := tx.Exec(fmt.Sprintf("UPDATE %s SET deleted_at = ?, version = version + 1 WHERE id = ? AND %s", sort.Table, where), deleted, id)
		if r.Error == nil && r.RowsAffected == 0 {
			return ErrNotFound
		}
		return r.Error
	})
}
