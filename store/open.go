// Package store keeps the maker's data in one SQLite file: plain rows through
// GORM, forward-only migrations, and a fibre ledger that is only ever added to.
package store

import (
	"context"
	"errors"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"time"

	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
	_ "modernc.org/sqlite" // the pure-Go driver, named "sqlite"
)

// FileName is the database's name inside the data directory.
const FileName = "fairtangle.db"

// Store is an open database. Reads go to a pool, writes to one connection, so
// that writers queue instead of failing.
type Store struct {
	read  *gorm.DB
	write *gorm.DB
	dir   string
	files map[string]os.FileInfo // the database and its log as they were opened, by path
	idle  *time.Timer            // until the next checkpoint
	turn  chan struct{}          // holds who writes
	now   func() time.Time
	// lessons and reweighed count what changes what the runs teach.
	lessons, reweighed atomic.Int64
}

// ErrNotFound is returned for a row that is not there or lies in the bin.
var ErrNotFound = errors.New("not found")

// Stale is returned for a change based on an old version of a row. Current is
// the row as it stands.
type Stale struct{ Current any }

// Error says what happened in a maker's words.
func (s Stale) Error() string {
	return "This was changed in another window in the meantime."
}

// Dir is the data directory.
func (s *Store) Dir() string { return s.dir }

// Now is the time for new rows.
func (s *Store) Now() time.Time { return s.now() }

// Asked reads what a question of SQL answers.
func (s *Store) Asked(ctx context.Context, into any, query string) error {
	return s.reading(ctx).Raw(query).Scan(into).Error
}

// Open opens or creates the database in dir and brings it up to date. now
// gives the time for new rows.
func Open(dir string, now func() time.Time) (*Store, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("data directory: %w", err)
	}
	if err := private(dir); err != nil {
		return nil, fmt.Errorf("data directory: %w", err)
	}
	s := &Store{dir: dir, now: now, turn: make(chan struct{}, 1)}
	if err := soundAt(filepath.Join(dir, FileName)); err != nil {
		return nil, err
	}
	var err error
	if s.write, err = Connect(filepath.Join(dir, FileName), 1); err != nil {
		return nil, err
	}
	if err = migrate(s.write); err != nil {
		s.closeAll()
		return nil, fmt.Errorf("bring the database up to date: %w", err)
	}
	if s.read, err = Connect(filepath.Join(dir, FileName), 4); err != nil {
		s.closeAll()
		return nil, err
	}
	if err = s.moveIn(); err != nil {
		s.closeAll()
		return nil, fmt.Errorf("data directory: %w", err)
	}
	s.idle = time.AfterFunc(quiet, s.settle)
	return s, nil
}

// moveIn notes which files are worked in, and sweeps what a killed program left
// half done.
func (s *Store) moveIn() error {
	s.files = map[string]os.FileInfo{}
	for _, end := range []string{"", "-wal"} {
		path := filepath.Join(s.dir, FileName+end)
		v, err := os.Stat(path)
		if err != nil {
			return err
		}
		s.files[path] = v
	}
	if err := s.forget(); err != nil {
		return err
	}
	return s.sweep()
}

// private lets nobody else read the data, whoever made the directory; SQLite gives
// the files beside the database its own permissions.
func private(dir string) error {
	f, err := os.OpenFile(filepath.Join(dir, FileName), os.O_RDWR|os.O_CREATE, 0o600)
	if err != nil {
		return err
	}
	if err := f.Close(); err != nil {
		return err
	}
	if err := os.Chmod(dir, 0o700); err != nil {
		return err
	}
	for _, end := range []string{"", "-wal", "-shm"} {
		if err := os.Chmod(filepath.Join(dir, FileName+end), 0o600); err != nil && !errors.Is(err, os.ErrNotExist) {
			return err
		}
	}
	return nil
}

// Connect opens a database as the program works in it, with so many connections.
func Connect(path string, conns int) (*gorm.DB, error) {
	q := url.Values{"_pragma": {"journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(1)", "busy_timeout(5000)"}, "_txlock": {"immediate"}}
	db, err := gorm.Open(sqlite.Dialector{DriverName: "sqlite", DSN: "file:" + path + "?" + q.Encode()},
		&gorm.Config{Logger: logger.Discard, PrepareStmt: true, PrepareStmtMaxSize: 300, CreateBatchSize: 200, SkipDefaultTransaction: true})
	if err != nil && (strings.Contains(err.Error(), "malformed") || strings.Contains(err.Error(), "not a database")) {
		return nil, damaged(err.Error())
	}
	if err != nil {
		return nil, fmt.Errorf("open database: %w", err)
	}
	pool, err := db.DB()
	if err != nil {
		return nil, fmt.Errorf("open database: %w", err)
	}
	pool.SetMaxOpenConns(conns)
	return db, nil
}

// Close closes the database; all is then in its one file.
func (s *Store) Close() error {
	s.idle.Stop()
	return s.closeAll()
}

func (s *Store) closeAll() error {
	var errs []error
	for _, db := range []*gorm.DB{s.read, s.write} {
		if db == nil {
			continue
		}
		pool, err := db.DB()
		if err == nil {
			err = pool.Close()
		}
		errs = append(errs, err)
	}
	return errors.Join(errs...)
}

// quiet is how long nothing was written before what is in the log of writing is
// brought into the file itself, so that a plain copy of it has nearly all.
const quiet = 2 * time.Second

// settle brings the log into the file, without waiting for readers.
func (s *Store) settle() { _ = s.write.Exec("PRAGMA wal_checkpoint(PASSIVE)").Error }

// create adds a row, or a pointer to several.
func (s *Store) create(ctx context.Context, row any) error {
	return s.tx(ctx, func(tx *gorm.DB) error { return tx.Create(row).Error })
}

// found turns GORM's "record not found" into ErrNotFound.
func found(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}

// row is what every table that two windows may edit has in common.
type row interface {
	id() int64
	version() int64
}

// save writes all columns of r where its version is still the stored one and
// raises it. A newer stored version is a Stale with the stored row.
func save[T any, R interface {
	*T
	row
}](tx *gorm.DB, r R, set func(R)) error {
	var current T
	c := R(&current)
	if err := tx.First(c, r.id()).Error; err != nil {
		return found(err)
	}
	if c.version() != r.version() {
		return Stale{Current: current}
	}
	set(c)
	return tx.Select("*").Updates(c).Error
}
