// Package plain writes all that a maker has in forms that any program can read, and reads it in again to the last digit: a zip of
// tables as lines of JSON, of the photos, and of a text that says what is what.
package plain

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"

	"fairtangle/store"
)

// Format is what the head of such a zip calls it.
const Format = "fair-tangle-studio"

// The names of what lies in it, below one directory.
const (
	Head   = "studio.json"
	readme = "README.txt"
	ending = ".jsonl"
	above  = "fair-tangle/"
)

// head is what a zip says of itself.
type head struct {
	Format  string `json:"format"`
	Version int    `json:"version"`
	Schema  string `json:"schema"` // the last change of the tables that it was written after
	MadeAt  string `json:"made_at"`
}

// kept are tables that are not the maker's work: what the program keeps to itself, keys to the door, what benches know of each other, and
// what the pupils of a class said.
var kept = []string{"migrations", "sessions", "tokens", "sent_keys", "origins", "met", "seats"}

// within is what such a zip holds.
var within = regexp.MustCompile(`^(?:[^/\\]{1,80}/)(` + regexp.QuoteMeta(Head) + `|` + regexp.QuoteMeta(readme) + `|[a-z_]{1,40}\.jsonl|` +
	store.PhotoDir + `/[0-9a-f]{64}\.png)$`)

// Within is the name of a file of such a zip below its directory; empty where no such zip has it.
func Within(name string) string {
	if m := within.FindStringSubmatch(name); m != nil {
		return m[1]
	}
	return ""
}

// column is a column of a table.
type column struct{ Name, Type string }

// tables are the tables of a database that hold a maker's work, by name, with their columns in order.
func tables(ctx context.Context, db querier) (names []string, columns map[string][]column, err error) {
	rows, err := db.QueryContext(ctx, `SELECT m.name, p.name, p.type FROM sqlite_master m, pragma_table_info(m.name) p
		WHERE m.type = 'table' AND m.name NOT LIKE 'sqlite%' ORDER BY m.name, p.cid`)
	if err != nil {
		return nil, nil, err
	}
	defer rows.Close()
	columns = map[string][]column{}
	for rows.Next() {
		var table string
		var c column
		if err := rows.Scan(&table, &c.Name, &c.Type); err != nil {
			return nil, nil, err
		}
		if slices.Contains(kept, table) {
			continue
		}
		if columns[table] == nil {
			names = append(names, table)
		}
		columns[table] = append(columns[table], c)
	}
	return names, columns, rows.Err()
}

// querier is a database or a transaction.
type querier interface {
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
}

// seen opens the database of a directory to read, and gives it as it is at this moment.
func seen(ctx context.Context, dir string, f func(*sql.Tx) error) (err error) {
	db, err := sql.Open("sqlite", "file:"+filepath.Join(dir, store.FileName)+"?mode=ro&_pragma=busy_timeout(5000)")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	tx, err := db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }() // it was only read
	return f(tx)
}

// quoted is a name for SQL.
func quoted(name string) string { return `"` + strings.ReplaceAll(name, `"`, `""`) + `"` }

const about = `This is everything out of Fair Tangle, in forms that any program can read.

studio.json        when it was written, and after which change of the tables
NAME.jsonl         a table, a line of JSON for each record, in the order of their numbers
photos/NUMBER.png  the photos, by the SHA-256 of what is in them; photos.jsonl names them

Weights that end in _mg are whole milligrams, those in _g grams; lengths end in _mm, _cm or _m, shares are parts of 1.
Moments are UTC. "deleted_at" says when something went to the bin. A column that ends in _id holds the number of a record
of another table. Spectra stand in the colours of lots and samples, as reflectances from 400 to 700 nm.

movements.jsonl is the ledger of the shelf: what a lot weighs is the sum of its lines.

Fair Tangle reads it again: Workshop, Copies, From another computer; or: fairtangle restore FILE.zip
Who may come in (the words for the door, other programs' tokens) is not in it.
`

// goMoment is how moments are kept: they are written as Go says them; outside they stand as RFC 3339 has them. One of another form stays as it is.
const goMoment = "2006-01-02 15:04:05.999999999 -0700 MST"

func momentOut(s string) string {
	if t, err := time.Parse(goMoment, s); err == nil && t.UTC().Format(goMoment) == s {
		return t.UTC().Format(time.RFC3339Nano)
	}
	return s
}

func momentIn(s string) (string, error) {
	if t, err := time.Parse(time.RFC3339Nano, s); err == nil {
		return t.UTC().Format(goMoment), nil
	}
	for _, form := range []string{goMoment, "2006-01-02 15:04:05.999999999-07:00", "2006-01-02 15:04:05"} {
		if _, err := time.Parse(form, s); err == nil {
			return s, nil
		}
	}
	return "", errors.New("is a moment, like 2026-01-31T12:00:00Z")
}

// line writes a line of a zip's file.
func line(w io.Writer, b []byte) error {
	_, err := fmt.Fprintf(w, "%s\n", b)
	return err
}
