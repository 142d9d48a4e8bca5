package plain

import (
	"archive/zip"
	"bufio"
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"fairtangle/store"
)

// ErrNot is what is no such zip, or not a whole one; it says why in a maker's words.
var ErrNot = errors.New("it can not be read")

func not(why string, args ...any) error {
	return fmt.Errorf("%w: %s", ErrNot, fmt.Sprintf(why, args...))
}

// longest is how long a record may be, in bytes.
const longest = 16 << 20

// Is reports whether a zip is one of these, and when it was written.
func Is(z *zip.Reader) (at time.Time, ok bool) {
	h, err := headOf(z)
	if err != nil {
		return at, false
	}
	at, _ = time.Parse(time.RFC3339, h.MadeAt)
	return at, true
}

func headOf(z *zip.Reader) (h head, err error) {
	for _, f := range z.File {
		if Within(f.Name) != Head {
			continue
		}
		r, err := f.Open()
		if err != nil {
			return h, err
		}
		defer r.Close()
		if err := json.NewDecoder(io.LimitReader(r, 1<<16)).Decode(&h); err != nil || h.Format != Format {
			return h, not("%s says nothing of a studio", Head)
		}
		return h, nil
	}
	return h, not("there is no %s in it", Head)
}

// Read makes the database of an empty directory from the tables of a zip, and brings it up to date. What is wrong in a line is said with
// the file and the line. Photos are not unpacked here.
func Read(ctx context.Context, z *zip.Reader, dir string) error {
	h, err := headOf(z)
	if err != nil {
		return err
	}
	if h.Version != 1 || !slices.Contains(store.Changes(), h.Schema) {
		return not("it was written by a newer Fair Tangle")
	}
	db, err := store.Begin(dir, h.Schema)
	if err != nil {
		return err
	}
	err = func() error {
		pool, err := db.DB()
		if err != nil {
			return err
		}
		defer pool.Close()
		if _, err := pool.ExecContext(ctx, "PRAGMA foreign_keys = OFF"); err != nil {
			return err
		}
		tx, err := pool.BeginTx(ctx, nil)
		if err != nil {
			return err
		}
		defer func() { _ = tx.Rollback() }() // after the commit it does nothing
		if err := readTables(ctx, z, tx); err != nil {
			return err
		}
		return tx.Commit()
	}()
	if err != nil {
		return err
	}
	s, err := store.Open(dir, time.Now) // which brings it up to date
	if err != nil {
		return err
	}
	return s.Close()
}

func readTables(ctx context.Context, z *zip.Reader, tx *sql.Tx) error {
	_, columns, err := tables(ctx, tx)
	if err != nil {
		return err
	}
	var foul string
	for _, f := range z.File {
		table, isTable := strings.CutSuffix(Within(f.Name), ending)
		if !isTable {
			continue
		}
		if columns[table] == nil {
			return not("no Fair Tangle has a table “%s”", table)
		}
		if _, err := tx.ExecContext(ctx, "DELETE FROM "+quoted(table)); err != nil { // what a new studio begins with
			return err
		}
		if err := readTable(ctx, f, tx, table, columns[table]); err != nil {
			return err
		}
	}
	err = tx.QueryRowContext(ctx, `SELECT "table" FROM pragma_foreign_key_check LIMIT 1`).Scan(&foul)
	switch {
	case err == nil:
		return not("a record in %s names one that is not there", foul+ending)
	case errors.Is(err, sql.ErrNoRows):
		return nil
	}
	return err
}

func readTable(ctx context.Context, f *zip.File, tx *sql.Tx, table string, columns []column) error {
	from, err := f.Open()
	if err != nil {
		return not("%s is damaged", table+ending)
	}
	defer from.Close()
	wrong := func(n int, why string, args ...any) error {
		return not("line %d of %s: %s", n, table+ending, fmt.Sprintf(why, args...))
	}
	lines := bufio.NewScanner(from)
	lines.Buffer(make([]byte, 1<<16), longest)
	n := 0
	for lines.Scan() {
		n++
		if len(bytes.TrimSpace(lines.Bytes())) == 0 {
			continue
		}
		var row map[string]json.RawMessage
		if err := json.Unmarshal(lines.Bytes(), &row); err != nil || row == nil {
			return wrong(n, "it is no record")
		}
		var names, marks []string
		var values []any
		for _, c := range columns {
			raw, there := row[c.Name]
			if !there {
				continue
			}
			delete(row, c.Name)
			v, err := value(raw, c)
			if err != nil {
				return wrong(n, "%s %s", c.Name, err)
			}
			names, marks, values = append(names, quoted(c.Name)), append(marks, "?"), append(values, v)
		}
		for name := range row {
			return wrong(n, "“%.40s” is no column of it", name)
		}
		if len(names) == 0 {
			return wrong(n, "it is empty")
		}
		insert := "INSERT INTO " + quoted(table) + " (" + strings.Join(names, ", ") + ") VALUES (" + strings.Join(marks, ", ") + ")"
		if _, err := tx.ExecContext(ctx, insert, values...); err != nil {
			if ctx.Err() != nil {
				return ctx.Err()
			}
			return wrong(n, "it can not stand there: %s", err)
		}
	}
	if err := lines.Err(); err != nil {
		return wrong(n+1, "it is cut off, damaged or too long")
	}
	return nil
}

// value is a value of a line for its column.
func value(raw json.RawMessage, c column) (any, error) {
	raw = bytes.TrimSpace(raw)
	if string(raw) == "null" {
		return nil, nil
	}
	switch c.Type {
	case "INTEGER":
		var v int64
		if json.Unmarshal(raw, &v) != nil {
			return nil, errors.New("is a whole number")
		}
		return v, nil
	case "REAL", "NUMERIC":
		var v any
		d := json.NewDecoder(bytes.NewReader(raw))
		d.UseNumber()
		if d.Decode(&v) != nil {
			return nil, errors.New("is a number")
		}
		switch x := v.(type) {
		case bool:
			return x, nil
		case json.Number:
			if whole, err := x.Int64(); err == nil && c.Type == "NUMERIC" {
				return whole, nil
			}
			f, err := x.Float64()
			return f, err
		}
		return nil, errors.New("is a number")
	}
	if raw[0] == '{' || raw[0] == '[' {
		return string(raw), nil
	}
	var v string
	if json.Unmarshal(raw, &v) != nil {
		return nil, errors.New("is a text")
	}
	if c.Type == "DATETIME" {
		return momentIn(v)
	}
	return v, nil
}
