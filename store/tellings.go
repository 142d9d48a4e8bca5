package store

import (
	"context"
	"time"

	"gorm.io/gorm"
)

// Telling is what was told to a question of the second look: of a plan (a blend), a part of it (a
// component, named in About), a lot, or the workshop.
type Telling struct {
	ID    int64 `gorm:"primaryKey"`
	Of    string
	OfID  int64
	About string
	Key   string
	Value float64
	At    time.Time
}

// Tell keeps tellings, each in place of what was told to its question before; one whose value is
// nil is told no more. It returns what stood there before, so that it can be undone.
func (s *Store) Tell(ctx context.Context, list []Telling, values []*float64) (before []*float64, err error) {
	err = s.tx(ctx, func(tx *gorm.DB) error {
		for i, t := range list {
			at := map[string]any{"of": t.Of, "of_id": t.OfID, "about": t.About, "key": t.Key}
			var was []Telling
			if err := tx.Where(at).Find(&was).Error; err != nil {
				return err
			}
			before = append(before, nil)
			if len(was) > 0 {
				before[i] = &was[0].Value
			}
			if err := tx.Where(at).Delete(&Telling{}).Error; err != nil {
				return err
			}
			if values[i] == nil {
				continue
			}
			t.Value, t.At = *values[i], s.now().UTC()
			if err := tx.Create(&t).Error; err != nil {
				return err
			}
		}
		return nil
	})
	return before, err
}

// Tellings lists what was told of some, the latest first.
func (s *Store) Tellings(ctx context.Context, of string, ids ...int64) (out []Telling, err error) {
	return out, s.reading(ctx).Where(map[string]any{"of": of, "of_id": ids}).Order("at DESC, id DESC").Find(&out).Error
}

// LotsToLookAt lists lots with fibre left of which something was told, or that are raw, or that have
// lain since before a moment, at most n.
func (s *Store) LotsToLookAt(ctx context.Context, before time.Time, n int) (out []Lot, err error) {
	return out, s.reading(ctx).Where(`id IN (SELECT id FROM lots WHERE deleted_at IS NULL AND grams_mg > 0 AND (preparation = 'raw_fleece' OR created_at < ?
		OR id IN (SELECT of_id FROM tellings WHERE "of" = 'lot')) ORDER BY name COLLATE NOCASE, id LIMIT ?)`, before, n).
		Order("name COLLATE NOCASE, id").Find(&out).Error
}
