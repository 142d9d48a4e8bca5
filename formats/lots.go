// Package formats reads and writes open formats.
package formats

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fairtangle/core/fibre"
	"fmt"
	"io"
	"strconv"
	"strings"
	"unicode/utf8"
)

// LotRow is a line of a shelf as CSV. Texts are as they stand in the file;
// empty numbers are nil.
type LotRow struct {
	Line        int // in the file, from 1
	Name        string
	Kind        string
	Preparation string
	Colours     []LotColour
	Grams       float64
	StapleMM    *float64
	Superwash   bool
	CostPer100g *float64
	Lies        string
	RunCM       float64
	fibre.Words
}

// LotColour is one colour of a lot with its share and where it is known from.
type LotColour struct {
	Hex    string
	Share  float64
	Source string
}

// LotColumns are the columns in the order in which they are written. In
// reading their order is free, and those but name, kind and colours may be missing.
// colours is written as "#rrggbb 0.6 picker; #rrggbb 0.4 photo".
var LotColumns = func() []string {
	columns := []string{"name", "kind", "preparation", "colours", "grams", "staple_mm", "superwash", "cost_per_100g"}
	for _, w := range (&fibre.Words{}).Each() {
		columns = append(columns, w.Name)
	}
	return append(columns, "lies", "run_cm")
}()

// BadLine is a line that can not be read, with its number in the file.
type BadLine struct {
	Line    int
	Column  string
	Message string
}

// Limits of an import.
const (
	MaxBytes = 10 << 20
	MaxLines = 20_000
	maxBad   = 200
)

// WriteLots writes a shelf as CSV by RFC 4180: UTF-8, CRLF, a header line.
// Texts that a spreadsheet would take for a formula are written behind an
// apostrophe, which ReadLots takes off again.
func WriteLots(w io.Writer, rows []LotRow) error {
	c := csv.NewWriter(w)
	c.UseCRLF = true
	if err := c.Write(LotColumns); err != nil {
		return err
	}
	for _, r := range rows {
		colours := make([]string, len(r.Colours))
		for i, v := range r.Colours {
			colours[i] = v.Hex + " " + exact(v.Share) + " " + v.Source
		}
		rec := []string{
			defuse(r.Name), defuse(r.Kind), defuse(r.Preparation), strings.Join(colours, "; "), exact(r.Grams),
			optional(r.StapleMM), yesNo(r.Superwash), optional(r.CostPer100g),
		}
		for _, w := range r.Words.Each() {
			rec = append(rec, defuse(*w.Text))
		}
		run := ""
		if r.RunCM > 0 {
			run = exact(r.RunCM)
		}
		rec = append(rec, r.Lies, run)
		if err := c.Write(rec); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

func exact(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }

func optional(v *float64) string {
	if v == nil {
		return ""
	}
	return exact(*v)
}

func yesNo(v bool) string {
	if v {
		return "yes"
	}
	return "no"
}

const formulaSigns = "=+-@"

// defuse puts an apostrophe before what a spreadsheet would run: a sign at the
// start of a cell, and after what some spreadsheets part cells by. infuse gives
// back exactly what was there.
func defuse(s string) string { return marked(s, func(n int) int { return n + 1 }) }

func infuse(s string) string { return marked(s, func(n int) int { return max(0, n-1) }) }

// marked changes how many apostrophes stand before a sign at the start of a cell.
func marked(s string, change func(int) int) string {
	var out strings.Builder
	for i, start := 0, true; i < len(s); i++ {
		if start {
			rest := strings.TrimLeft(s[i:], " ")
			sign := strings.TrimLeft(rest, "'")
			if sign != "" && (strings.IndexByte(formulaSigns, sign[0]) >= 0 || i == 0 && (sign[0] == '\t' || sign[0] == '\r')) {
				out.WriteString(s[i : len(s)-len(rest)])
				out.WriteString(strings.Repeat("'", change(len(rest)-len(sign))))
				i = len(s) - len(sign)
			}
		}
		out.WriteByte(s[i])
		start = strings.IndexByte(";\t\r\n", s[i]) >= 0
	}
	return out.String()
}

// ErrNotCSV is returned for a file that is no CSV at all.
type ErrNotCSV struct{ Message string }

func (e ErrNotCSV) Error() string { return e.Message }

// ReadLots reads a shelf. Lines that can not be read are listed, and the good
// ones given all the same for a preview. A byte order mark is taken off;
// semicolons or tabs are taken as separators when the header has them.
func ReadLots(data []byte) (rows []LotRow, bad []BadLine, err error) {
	if data, err = asText(data); err != nil {
		return nil, nil, err
	}
	r := csv.NewReader(bytes.NewReader(data))
	r.Comma = separator(data)
	r.FieldsPerRecord = -1
	header, err := r.Read()
	if err != nil {
		return nil, nil, ErrNotCSV{"The first line can not be read: " + csvWords(err)}
	}
	at, err := columns(header)
	if err != nil {
		return nil, nil, err
	}
	for {
		rec, err := r.Read()
		if errors.Is(err, io.EOF) {
			return rows, bad, nil
		}
		if err != nil {
			// A stray quote swallows what follows, so reading ends here.
			line := 0
			if pe := new(csv.ParseError); errors.As(err, &pe) {
				line = pe.StartLine
			}
			return rows, append(bad, BadLine{Line: line, Message: "From here on the file can not be read: " + csvWords(err)}), nil
		}
		line, _ := r.FieldPos(0)
		if len(rows)+len(bad) >= MaxLines {
			return nil, nil, ErrNotCSV{fmt.Sprintf("The file has more than %d lines. Split it.", MaxLines)}
		}
		if len(rec) == 1 && rec[0] == "" {
			continue
		}
		row, faults := readLot(rec, at, line)
		if len(rec) != len(header) {
			faults = append(faults, BadLine{line, "", fmt.Sprintf("This line has %d fields, the first line has %d.", len(rec), len(header))})
		}
		if len(faults) > 0 {
			if len(bad) < maxBad {
				bad = append(bad, faults...)
			}
			continue
		}
		rows = append(rows, row)
	}
}

// asText is a file as text without its byte order mark, or says why it is none.
func asText(data []byte) ([]byte, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	switch {
	case len(data) > MaxBytes:
		return nil, ErrNotCSV{fmt.Sprintf("The file is larger than %d MB.", MaxBytes>>20)}
	case len(bytes.TrimSpace(data)) == 0:
		return nil, ErrNotCSV{"The file is empty."}
	case bytes.HasPrefix(data, []byte("PK\x03\x04")):
		return nil, ErrNotCSV{"This is a zip or a spreadsheet file. Save it as CSV first."}
	case bytes.IndexByte(data, 0) >= 0:
		return nil, ErrNotCSV{"This is not a text file. Save the table as CSV in UTF-8."}
	case !utf8.Valid(data):
		return nil, ErrNotCSV{"The text is not UTF-8. Save the table as CSV in UTF-8."}
	}
	return data, nil
}

func separator(data []byte) rune {
	line, _, _ := bytes.Cut(data, []byte("\n"))
	best, most := ',', bytes.Count(line, []byte(","))
	for _, c := range ";\t" {
		if n := bytes.Count(line, []byte(string(c))); n > most {
			best, most = c, n
		}
	}
	return best
}

func csvWords(err error) string {
	switch {
	case errors.Is(err, csv.ErrBareQuote):
		return "there is a quotation mark inside a field that does not begin with one."
	case errors.Is(err, csv.ErrQuote):
		return "a quotation mark is not closed, or something follows it."
	}
	return "the line is damaged."
}

func columns(header []string) (map[string]int, error) {
	at := map[string]int{}
	for i, h := range header {
		h = strings.ToLower(strings.TrimSpace(h))
		if _, twice := at[h]; twice {
			return nil, ErrNotCSV{fmt.Sprintf("The column %q stands twice in the first line.", h)}
		}
		at[h] = i
	}
	for _, need := range []string{"name", "kind", "colours"} {
		if _, ok := at[need]; !ok {
			return nil, ErrNotCSV{fmt.Sprintf("The first line names no column %q. The columns are: %s.", need, strings.Join(LotColumns, ", "))}
		}
	}
	return at, nil
}

func readLot(rec []string, at map[string]int, line int) (row LotRow, bad []BadLine) {
	get := func(col string) string {
		if i, ok := at[col]; ok && i < len(rec) {
			return rec[i]
		}
		return ""
	}
	fail := func(col, format string, args ...any) {
		bad = append(bad, BadLine{line, col, fmt.Sprintf(format, args...)})
	}
	num := func(col string) *float64 {
		s := strings.TrimSpace(get(col))
		if s == "" {
			return nil
		}
		v, err := Number(s)
		if err != nil {
			fail(col, "%q is not a number.", clip(s))
			return nil
		}
		return &v
	}
	row = LotRow{
		Line: line, Name: infuse(get("name")), Kind: infuse(get("kind")), Preparation: infuse(get("preparation")),
		StapleMM: num("staple_mm"), CostPer100g: num("cost_per_100g"), Lies: strings.TrimSpace(get("lies")),
	}
	for _, w := range row.Words.Each() {
		*w.Text = infuse(get(w.Name))
	}
	if row.Preparation == "" {
		row.Preparation = "combed_top"
	}
	if v := num("grams"); v != nil {
		row.Grams = *v
	}
	if v := num("run_cm"); v != nil {
		row.RunCM = *v
	}
	switch strings.ToLower(strings.TrimSpace(get("superwash"))) {
	case "yes", "true", "1":
		row.Superwash = true
	case "no", "false", "0", "":
	default:
		fail("superwash", "%q is neither yes nor no.", clip(get("superwash")))
	}
	row.Colours = readColours(get("colours"), fail)
	return row, bad
}

func clip(s string) string {
	if r := []rune(s); len(r) > 30 {
		return string(r[:30]) + "…"
	}
	return s
}

// Number reads a number as people write it: a point or a comma for the
// decimals, spaces around it, no infinity and no NaN.
func Number(s string) (float64, error) {
	s = strings.TrimSpace(s)
	if strings.Count(s, ",") == 1 && !strings.Contains(s, ".") {
		s = strings.Replace(s, ",", ".", 1)
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil || v != v || v > 1e300 || v < -1e300 || strings.ContainsAny(s, "xXpP_") {
		return 0, errors.New("not a number")
	}
	return v, nil
}

// readColours reads the colours of a line: "#rrggbb 0.6 picker; #rrggbb 0.4 photo".
func readColours(text string, fail func(col, format string, args ...any)) (out []LotColour) {
	for _, part := range strings.Split(text, ";") {
		f := strings.Fields(part)
		if len(f) == 0 {
			continue
		}
		c := LotColour{Hex: f[0], Share: 1, Source: "value"}
		if len(f) > 1 {
			v, err := Number(f[1])
			if err != nil {
				fail("colours", "%q is not a share.", clip(f[1]))
			}
			c.Share = v
		}
		if len(f) > 2 {
			c.Source = f[2]
		}
		out = append(out, c)
	}
	return out
}
