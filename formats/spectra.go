package formats

import (
	"encoding/csv"
	"fmt"
	"math"
	"slices"
	"strings"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
)

// Spectrum is a measured reflectance with the name that its file gives it.
type Spectrum struct {
	Name        string
	Reflectance colour.Reflectance
}

// MaxSpectra is how many readings a file may hold.
const MaxSpectra = 500

// ReadSpectra reads the CSV of a colour reader, or a file of spectra as programs of colour exchange them (CGATS). Of a CSV either the first row names the
// wavelengths (in nm, an optional first column the sample) and each further row
// is a reading, or there are two columns, wavelength and reflectance, for a
// single one. Wavelengths cover at least 400 to 700 nm in steps of at most 20;
// between them the value is read off a straight line, beyond them the last one
// holds. Reflectances are 0 to 1, or 0 to 100 where any is above 2; slightly
// below 0 or above 1, as instruments say, counts as the limit.
func ReadSpectra(data []byte) ([]Spectrum, error) {
	if isCGATS(data) {
		rows, err := cgatsRows(data)
		if err != nil {
			return nil, err
		}
		return table(rows)
	}
	r := csv.NewReader(strings.NewReader(strings.TrimPrefix(string(data), "\ufeff")))
	r.FieldsPerRecord, r.TrimLeadingSpace = -1, true
	first, _, _ := strings.Cut(string(data), "\n")
	switch {
	case strings.Contains(first, "\t"):
		r.Comma = '\t'
	case strings.Contains(first, ";"):
		r.Comma = ';'
	}
	rows, err := r.ReadAll()
	if err != nil {
		return nil, fault.New("spectra", "This is no CSV that can be read: %v.", err)
	}
	rows = slices.DeleteFunc(rows, func(row []string) bool { return strings.TrimSpace(strings.Join(row, "")) == "" })
	switch {
	case len(rows) < 2:
		return nil, fault.New("spectra", "There is no reading in this file: the first row names the wavelengths, the others are readings.")
	case len(rows) > MaxSpectra+1 && len(rows[0]) > 2:
		return nil, fault.New("spectra", "The file has more than %d readings.", MaxSpectra)
	}
	if len(rows[0]) == 2 {
		return single(rows)
	}
	return table(rows)
}

// single reads two columns.
func single(rows [][]string) ([]Spectrum, error) {
	if _, err := Number(rows[0][0]); err != nil {
		rows = rows[1:] // a heading
	}
	var at, v []float64
	for i, row := range rows {
		if len(row) < 2 {
			return nil, fault.New("spectra", "Row %d has no reflectance.", i+1)
		}
		w, err1 := wavelength(row[0])
		y, err2 := Number(row[1])
		if err1 != nil || err2 != nil {
			return nil, fault.New("spectra", "Row %d is not a wavelength and a reflectance.", i+1)
		}
		at, v = append(at, w), append(v, y)
	}
	s, err := resample("", at, v, "The file")
	return []Spectrum{s}, err
}

// table reads a heading of wavelengths and a row for each reading.
func table(rows [][]string) ([]Spectrum, error) {
	head := rows[0]
	named := 0
	if _, err := wavelength(head[0]); err != nil {
		named = 1
	}
	var at []float64
	for i, h := range head[named:] {
		w, err := wavelength(h)
		if err != nil {
			return nil, fault.New("spectra", "Column %d of the heading, %q, is no wavelength in nm.", i+named+1, h)
		}
		at = append(at, w)
	}
	var out []Spectrum
	for i, row := range rows[1:] {
		what := fmt.Sprintf("Row %d", i+2)
		if len(row) != len(head) {
			return nil, fault.New("spectra", "%s has %d columns, the heading %d.", what, len(row), len(head))
		}
		v := make([]float64, len(at))
		for j, s := range row[named:] {
			y, err := Number(s)
			if err != nil {
				return nil, fault.New("spectra", "%s: %q at %g nm is no number.", what, s, at[j])
			}
			v[j] = y
		}
		name := ""
		if named == 1 {
			name = strings.TrimSpace(row[0])
		}
		s, err := resample(name, at, v, what)
		if err != nil {
			return nil, err
		}
		out = append(out, s)
	}
	return out, nil
}

func wavelength(s string) (float64, error) {
	w, err := Number(strings.TrimSuffix(strings.TrimSpace(strings.ToLower(s)), "nm"))
	if err == nil && !(w >= 200 && w <= 2500) {
		err = fmt.Errorf("no wavelength")
	}
	return w, err
}

// resample brings a reading to the 36 bands.
func resample(name string, at, v []float64, what string) (Spectrum, error) {
	s := Spectrum{Name: name}
	for i := 1; i < len(at); i++ {
		if gap := at[i] - at[i-1]; gap <= 0 || gap > 20 {
			return s, fault.New("spectra", "Wavelengths rise in steps of at most 20 nm; after %g comes %g.", at[i-1], at[i])
		}
	}
	if len(at) == 0 || at[0] > 400 || at[len(at)-1] < 700 {
		return s, fault.New("spectra", "A reading covers at least 400 to 700 nm.")
	}
	scale := 1.0
	if slices.Max(v) > 2 {
		scale = 100
	}
	for i, y := range v {
		if y /= scale; math.IsNaN(y) || y < -0.05 || y > 1.1 {
			return s, fault.New("spectra", "%s: %g at %g nm is no reflectance of 0 to 1, or 0 to 100 %%.", what, v[i], at[i])
		}
	}
	for b := range s.Reflectance {
		w := min(max(380+10*float64(b), at[0]), at[len(at)-1])
		j := max(1, slices.IndexFunc(at, func(x float64) bool { return x >= w }))
		t := (w - at[j-1]) / (at[j] - at[j-1])
		s.Reflectance[b] = min(max(((1-t)*v[j-1]+t*v[j])/scale, 0), 1)
	}
	return s, nil
}
