package plain

import (
	"archive/zip"
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"
	"unicode/utf8"

	"fairtangle/store"
)

// Write writes all of a data directory as one zip, also while it is worked in: as it is at one moment. The same data makes the same
// bytes, but for the moment in the head.
func Write(ctx context.Context, dir string, w io.Writer, now time.Time) error {
	z := zip.NewWriter(w)
	file := func(name string) (io.Writer, error) { return z.Create(above + name) }
	err := seen(ctx, dir, func(tx *sql.Tx) error {
		h := head{Format: Format, Version: 1, MadeAt: now.UTC().Format(time.RFC3339)}
		if err := tx.QueryRowContext(ctx, "SELECT max(id) FROM migrations").Scan(&h.Schema); err != nil {
			return err
		}
		b, err := json.Marshal(h)
		if err != nil {
			return err
		}
		for _, v := range []struct {
			name string
			text []byte
		}{{readme, []byte(about)}, {Head, append(b, '\n')}} {
			to, err := file(v.name)
			if err == nil {
				_, err = to.Write(v.text)
			}
			if err != nil {
				return err
			}
		}
		names, columns, err := tables(ctx, tx)
		for _, name := range names {
			to, e := file(name + ending)
			if e == nil {
				e = writeTable(ctx, tx, to, name, columns[name])
			}
			if err = errors.Join(err, e); err != nil {
				return fmt.Errorf("write %s: %w", name, err)
			}
		}
		return errors.Join(err, writePhotos(ctx, tx, dir, file))
	})
	if err != nil {
		return err // the zip stays without its end: it is none
	}
	return z.Close()
}

// writeTable writes the records of a table, a line each.
func writeTable(ctx context.Context, tx *sql.Tx, w io.Writer, name string, columns []column) error {
	as := make([]string, len(columns))
	for i, c := range columns {
		if as[i] = quoted(c.Name); c.Type == "DATETIME" {
			as[i] += " || ''" // as it is written, and no moment made of it
		}
	}
	rows, err := tx.QueryContext(ctx, "SELECT "+strings.Join(as, ", ")+" FROM "+quoted(name)+" ORDER BY rowid")
	if err != nil {
		return err
	}
	defer rows.Close()
	var out bytes.Buffer
	values, into := make([]any, len(columns)), make([]any, len(columns))
	for i := range values {
		into[i] = &values[i]
	}
	for rows.Next() {
		if err := rows.Scan(into...); err != nil {
			return err
		}
		out.Reset()
		for i, v := range values {
			key, _ := json.Marshal(columns[i].Name)
			if text, ok := v.(string); ok && columns[i].Type == "DATETIME" {
				v = momentOut(text)
			}
			b, err := said(v)
			if err != nil {
				return fmt.Errorf("%s: %w", columns[i].Name, err)
			}
			out.WriteByte("{,"[min(i, 1)])
			out.Write(key)
			out.WriteByte(':')
			out.Write(b)
		}
		out.WriteByte('}')
		if err := line(w, out.Bytes()); err != nil {
			return err
		}
	}
	return rows.Err()
}

// said is a value as JSON. What is kept as JSON itself stands in it as such, where that is the same to the last byte.
func said(v any) ([]byte, error) {
	var text string
	switch x := v.(type) {
	case string:
		text = x
	case []byte:
		text = string(x)
	case nil, int64, float64, bool:
		return json.Marshal(v)
	default:
		return nil, fmt.Errorf("no form for a %T", v)
	}
	if !utf8.ValidString(text) {
		return nil, errors.New("it is no text")
	}
	if strings.HasPrefix(text, "{") || strings.HasPrefix(text, "[") {
		var tight bytes.Buffer
		if json.Compact(&tight, []byte(text)) == nil && tight.String() == text {
			return []byte(text), nil
		}
	}
	var out bytes.Buffer
	e := json.NewEncoder(&out)
	e.SetEscapeHTML(false)
	err := e.Encode(text)
	return bytes.TrimSuffix(out.Bytes(), []byte("\n")), err
}

// writePhotos writes the pictures that photos name, by their names.
func writePhotos(ctx context.Context, tx *sql.Tx, dir string, file func(string) (io.Writer, error)) error {
	rows, err := tx.QueryContext(ctx, "SELECT DISTINCT file FROM photos ORDER BY file")
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return err
		}
		from, err := os.Open(filepath.Join(dir, store.PhotoDir, filepath.Base(name)))
		if errors.Is(err, os.ErrNotExist) {
			continue // one of the bin whose picture is swept
		}
		if err != nil {
			return err
		}
		to, err := file(store.PhotoDir + "/" + filepath.Base(name))
		if err == nil {
			_, err = io.Copy(to, from)
		}
		if err := errors.Join(err, from.Close()); err != nil {
			return err
		}
	}
	return rows.Err()
}
