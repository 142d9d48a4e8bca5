package store

import (
	"context"

	"gorm.io/gorm"
)

// piece is a row that is edited as a whole.
type piece interface {
	row
	header() *Base
}

func (b *Base) header() *Base { return b }

// Pieces lists rows of a table, the latest touched first. where is a condition
// with its values, or nothing.
func Pieces[T any](ctx context.Context, s *Store, where ...any) (out []T, err error) {
	q := s.reading(ctx).Order("updated_at DESC, id DESC")
	if len(where) > 0 {
		q = q.Where(where[0], where[1:]...)
	}
	return out, q.Find(&out).Error
}

// PagePieces lists a page of a table, the latest touched first; all is how many rows there are.
func PagePieces[T any](ctx context.Context, s *Store, offset, limit int) (out []T, all int64, err error) {
	if err := s.reading(ctx).Model(new(T)).Count(&all).Error; err != nil {
		return nil, 0, err
	}
	return out, all, s.reading(ctx).Order("updated_at DESC, id DESC").Offset(offset).Limit(limit).Find(&out).Error
}

// LatestPieces lists so many rows of a table, the latest touched first.
func LatestPieces[T any](ctx context.Context, s *Store, n int) (out []T, err error) {
	return out, s.reading(ctx).Order("updated_at DESC, id DESC").Limit(n).Find(&out).Error
}

// Piece returns one row.
func Piece[T any](ctx context.Context, s *Store, id int64) (out T, err error) {
	return out, found(s.reading(ctx).First(&out, id).Error)
}

// AddPiece adds a row.
func AddPiece[T any, P interface {
	*T
	piece
}](ctx context.Context, s *Store, v T) (T, error) {
	*P(&v).header() = Base{Version: 1}
	return v, s.create(ctx, &v)
}

// SavePiece replaces a row, based on its version; with left, what it replaced
// becomes a step to go back to.
func SavePiece[T any, P interface {
	*T
	piece
}](ctx context.Context, s *Store, v T, left *Leave) (out T, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		err := save[T, P](tx, P(&v), func(c P) {
			h := *c.header()
			h.Version++
			*c = v
			*c.header() = h
			out = *c
		})
		if err != nil || left == nil {
			return err
		}
		stmt := &gorm.Statement{DB: tx}
		if err := stmt.Parse(&v); err != nil {
			return err
		}
		return s.leave(tx, stmt.Schema.Table, P(&v).id(), *left)
	})
	return out, err
}

// PutPiece adds a row that has no number yet, or replaces one, based on its version.
func PutPiece[T any, P interface {
	*T
	piece
}](ctx context.Context, s *Store, v T) (T, error) {
	if P(&v).header().ID == 0 {
		return AddPiece[T, P](ctx, s, v)
	}
	return SavePiece[T, P](ctx, s, v, nil)
}

// SamplesMark changes whenever a sample is added, changed, binned or restored.
func (s *Store) SamplesMark(ctx context.Context) (mark [2]int64, err error) {
	var v struct{ N, V int64 }
	err = s.reading(ctx).Raw("SELECT count(*) AS n, coalesce(sum(version * 31 + id * 7), 0) AS v FROM samples WHERE deleted_at IS NULL").Scan(&v).Error
	return [2]int64{v.N, v.V}, err
}
