package formats

import (
	"bytes"
	"encoding/csv"
	"errors"
	"io"
	"strings"
)

// Sheet is somebody's own table: what the first line calls its columns, and the lines below.
type Sheet struct {
	Head []string
	Rows [][]string
}

// Limits of a table that is read.
const (
	MostColumns = 40
	longestCell = 200
)

// ReadSheet reads a table of any columns, at most so many rows of it: with commas, semicolons or tabs between. Lines that hold nothing are
// left out, and cells are cut to a length. It refuses what is no table in a maker's words.
func ReadSheet(data []byte, most int) (s Sheet, err error) {
	if data, err = asText(data); err != nil {
		return s, err
	}
	r := csv.NewReader(bytes.NewReader(data))
	r.Comma, r.FieldsPerRecord, r.LazyQuotes = separator(data), -1, true
	for len(s.Rows) < most {
		rec, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return s, ErrNotCSV{"The table can not be read: " + csvWords(err)}
		}
		if strings.TrimSpace(strings.Join(rec, "")) == "" {
			continue
		}
		rec = rec[:min(len(rec), MostColumns)]
		for i, c := range rec {
			if cut := []rune(strings.TrimSpace(c)); len(cut) > longestCell {
				rec[i] = string(cut[:longestCell])
			} else {
				rec[i] = infuse(string(cut))
			}
		}
		if s.Head == nil {
			s.Head = rec
			continue
		}
		s.Rows = append(s.Rows, rec)
	}
	if len(s.Rows) == 0 {
		return s, ErrNotCSV{"There is no line below the first."}
	}
	return s, nil
}

// OwnColumns reports whether a table has the columns of a shelf as WriteLots writes it.
func OwnColumns(data []byte) bool {
	s, err := ReadSheet(data, 1)
	if err != nil {
		return true // what is wrong with it is said by who reads it
	}
	_, err = columns(s.Head)
	return err == nil
}
