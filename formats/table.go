package formats

import (
	"encoding/csv"
	"io"
)

// Table writes a table as CSV line by line, as WriteLots writes a shelf: what a spreadsheet would run is marked, but for figures.
type Table struct{ w *csv.Writer }

// NewTable begins one.
func NewTable(w io.Writer) Table {
	t := Table{csv.NewWriter(w)}
	t.w.UseCRLF = true
	return t
}

// Line writes a line.
func (t Table) Line(cells []string) error {
	out := make([]string, len(cells))
	for i, c := range cells {
		if out[i] = c; !figure.MatchString(c) {
			out[i] = defuse(c)
		}
	}
	return t.w.Write(out)
}

// End writes what is left.
func (t Table) End() error {
	t.w.Flush()
	return t.w.Error()
}
