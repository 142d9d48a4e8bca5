package formats

import (
	"bufio"
	"bytes"
	"fmt"
	"io"
	"regexp"
	"strings"

	"fairtangle/core/fault"
)

// The words of a CGATS file (ISO 28178) that say what stands between them.
const (
	beginFormat, endFormat = "BEGIN_DATA_FORMAT", "END_DATA_FORMAT"
	beginData, endData     = "BEGIN_DATA", "END_DATA"
)

// spectral is a field of a wavelength, as instruments write it: SPECTRAL_NM400, NM_400, R_400.
var spectral = regexp.MustCompile(`^(?:SPECTRAL_)?(?:NM|R|REFL|SPECTRAL)_?(\d{3,4})$`)

// cgatsWord is a word of such a file: between quotation marks, which stand doubled within, or up to a space.
var cgatsWord = regexp.MustCompile(`"(?:[^"]|"")*"|[^\s"]+`)

// isCGATS reports whether a file seems to be one.
func isCGATS(data []byte) bool { return bytes.Contains(data, []byte(beginFormat)) }

// cgatsRows are the readings of a file as a table: a heading of wavelengths after the name, and a row for each.
func cgatsRows(data []byte) (rows [][]string, err error) {
	wrong := func(why string, args ...any) error { return fault.New("spectra", why, args...) }
	var fields []string
	var at []int // of the name, and of each wavelength
	lines := bufio.NewScanner(bytes.NewReader(data))
	lines.Buffer(nil, 1<<20)
	in, cells := "", []string(nil)
	for lines.Scan() && in != endData {
		words := cgatsWord.FindAllString(lines.Text(), -1)
		for _, w := range words {
			if strings.HasPrefix(w, "#") {
				break
			}
			switch up := strings.ToUpper(w); {
			case up == beginFormat, up == beginData, up == endData:
				in = up
			case up == endFormat:
				in = ""
				if rows, at = cgatsHead(fields); len(rows[0]) < 2 {
					return nil, wrong("The file names no wavelengths: it has no spectra.")
				}
			case in == beginFormat:
				fields = append(fields, up)
			case in == beginData && len(rows) == 0:
				return nil, wrong("The file says nowhere what its columns are.")
			case in == beginData:
				if cells = append(cells, unquoted(w)); len(fields) > 0 && len(cells) == len(fields) {
					row := make([]string, len(at))
					for i, k := range at {
						if k >= 0 {
							row[i] = cells[k]
						}
					}
					if rows, cells = append(rows, row), nil; len(rows) > MaxSpectra+1 {
						return nil, wrong("The file has more than %d readings.", MaxSpectra)
					}
				}
			}
		}
	}
	switch {
	case lines.Err() != nil:
		return nil, wrong("A line of the file is too long.")
	case in != endData || len(cells) > 0:
		return nil, wrong("The file is cut off: a reading of it is not whole.")
	case len(rows) < 2:
		return nil, wrong("There is no reading in this file.")
	}
	return rows, nil
}

// cgatsHead is the heading of the table, and the fields that its columns are: the name before the number of a sample.
func cgatsHead(fields []string) (rows [][]string, at []int) {
	head, at := []string{"sample"}, []int{-1}
	for i, f := range fields {
		switch m := spectral.FindStringSubmatch(f); {
		case m != nil:
			head, at = append(head, m[1]), append(at, i)
		case f == "SAMPLE_NAME", f == "SAMPLE_ID" && at[0] < 0:
			at[0] = i
		}
	}
	return [][]string{head}, at
}

func unquoted(w string) string {
	if len(w) >= 2 && w[0] == '"' {
		return strings.ReplaceAll(w[1:len(w)-1], `""`, `"`)
	}
	return w
}

// WriteCGATS writes spectra as programs of colour exchange them: a line for each, 380 to 730 nm by 10, reflectances of 0 to 1.
func WriteCGATS(w io.Writer, list []Spectrum) error {
	out := bufio.NewWriter(w)
	fmt.Fprintf(out, "CGATS.17\nORIGINATOR \"Fair Tangle\"\nNUMBER_OF_FIELDS %d\n%s\nSAMPLE_ID SAMPLE_NAME", len(Spectrum{}.Reflectance)+2, beginFormat)
	for b := range (Spectrum{}).Reflectance {
		fmt.Fprintf(out, " SPECTRAL_NM%d", 380+10*b)
	}
	fmt.Fprintf(out, "\n%s\nNUMBER_OF_SETS %d\n%s\n", endFormat, len(list), beginData)
	for i, s := range list {
		fmt.Fprintf(out, "%d \"%s\"", i+1, strings.ReplaceAll(oneLine(s.Name), `"`, `""`))
		for _, v := range s.Reflectance {
			fmt.Fprintf(out, " %s", exact(v))
		}
		fmt.Fprintln(out)
	}
	fmt.Fprintln(out, endData)
	return out.Flush()
}
