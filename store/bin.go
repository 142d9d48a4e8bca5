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

// DiscardUntil puts all rows of a table into the bin that have this id or a lower one.
func (s *Store) DiscardUntil(ctx context.Context, table string, id int64) error {
	sort, known := SortOf(table)
	if !known || !sort.Binned {
		return ErrNotFound
	}
	defer s.retold(ctx, true)
	return s.tx(ctx, func(tx *gorm.DB) error {
		where := "UPDATE %s SET deleted_at = ?, updated_at = ?, version = version + 1 WHERE id <= ? AND deleted_at IS NULL"
		return tx.Exec(fmt.Sprintf(where, sort.Table), s.now().UTC(), s.now().UTC(), id).Error
	})
}

// Latest is the highest id in each of some tables; those that are empty are left out.
func (s *Store) Latest(ctx context.Context, tables []string) (map[string]int64, error) {
	out := map[string]int64{}
	for _, table := range tables {
		sort, known := SortOf(table)
		if !known {
			return nil, ErrNotFound
		}
		var id int64
		if err := s.reading(ctx).Raw("SELECT COALESCE(MAX(id), 0) FROM " + sort.Table).Scan(&id).Error; err != nil {
			return nil, err
		}
		if id > 0 {
			out[table] = id
		}
	}
	return out, nil
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
		set := fmt.Sprintf("UPDATE %s SET deleted_at = ?, updated_at = ?, version = version + 1 WHERE id = ? AND %s", sort.Table, where)
		r := tx.Exec(set, deleted, s.now().UTC(), id)
		if r.Error == nil && r.RowsAffected == 0 {
			return ErrNotFound
		}
		return r.Error
	})
}
