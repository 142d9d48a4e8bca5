package store

import (
	"context"
	"crypto/rand"

	"gorm.io/gorm"
)

// apart is what is known of data that began as other data: from where on it went its own way, and what of another was seen when the two
// were brought together.
const apart = `CREATE TABLE IF NOT EXISTS origins (bench TEXT PRIMARY KEY, at TEXT NOT NULL)
--
CREATE TABLE IF NOT EXISTS met (bench TEXT NOT NULL, piece TEXT NOT NULL, piece_id INTEGER NOT NULL, there TEXT NOT NULL, here TEXT NOT NULL,
	PRIMARY KEY (bench, piece, piece_id))`

// Branch has the data of a copy go its own way: it is a bench of its own from the latest change in it on.
func Branch(db *gorm.DB) error {
	if err := statements(apart)(db); err != nil {
		return err
	}
	latest := ""
	for _, s := range sorts {
		var last string
		if err := db.Raw("SELECT coalesce(max(updated_at || ''), '') FROM " + s.Table).Scan(&last).Error; err == nil { // a copy of an older release has fewer
			latest = max(latest, last)
		}
	}
	return db.Exec("INSERT INTO origins (bench, at) VALUES (?, ?)", rand.Text(), latest).Error
}

// Changed runs f on what is kept, as one deed: for what works with rows of all sorts alike.
func (s *Store) Changed(ctx context.Context, f func(*gorm.DB) error) error {
	defer s.retold(ctx, true)
	return s.tx(ctx, f)
}

// Seen runs f on what is kept, to read.
func (s *Store) Seen(ctx context.Context, f func(*gorm.DB) error) error { return f(s.reading(ctx)) }
