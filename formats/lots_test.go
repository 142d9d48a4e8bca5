package formats

import (
	"bytes"
	"encoding/csv"
	"fairtangle/core/fibre"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// text draws what fits into a field: any UTF-8 without a carriage return,
// which RFC 4180 readers fold, and without NUL.
func text(t *rapid.T, label string) string {
	s := rapid.OneOf(rapid.String(), rapid.SampledFrom([]string{"=1+1", "'=x", "''", "-3", "@a", "a;b", "\"", "🧶", "a\nb", " x "})).Draw(t, label)
	return strings.Map(func(r rune) rune {
		if r == '\r' || r == 0 || !utf8.ValidRune(r) {
			return -1
		}
		return r
	}, s)
}

// What is written is read back exactly, whatever the texts hold.
func TestRoundTripIsExact(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var rows []LotRow
		for i := range rapid.IntRange(0, 4).Draw(t, "n") {
			staple := rapid.Float64Range(1, 300).Draw(t, "staple")
			rows = append(rows, LotRow{
				Name: "n" + text(t, "name"), Kind: "romney", Preparation: "combed_top", Grams: rapid.Float64Range(0, 1e6).Draw(t, "grams"),
				StapleMM: &staple, Superwash: i%2 == 0, Words: fibre.Words{WhereFrom: text(t, "from"), Place: text(t, "place"), Note: text(t, "note")},
				Colours: []LotColour{{"#112233", 0.25, "photo"}, {"#445566", 0.75, "picker"}},
			})
		}
		var buf bytes.Buffer
		require.NoError(t, WriteLots(&buf, rows))
		got, bad, err := ReadLots(buf.Bytes())
		require.NoError(t, err)
		require.Empty(t, bad)
		for i := range got {
			got[i].Line = 0
		}
		assert.Equal(t, rows, got)
	})
}

func TestFormulasAreDefused(t *testing.T) {
	for _, s := range []string{"=1+1", "+1", "-1", "@x", "\tx", "'=x"} {
		var buf bytes.Buffer
		require.NoError(t, WriteLots(&buf, []LotRow{{Name: s, Kind: "k", Preparation: "p"}}))
		rec, err := csv.NewReader(&buf).ReadAll()
		require.NoError(t, err)
		assert.Equal(t, "'"+s, rec[1][0])
	}
}

func TestBadLinesAreNamed(t *testing.T) {
	data := "\xef\xbb\xbfName;kind;grams;superwash;staple_mm;colours\n" +
		"grey;romney;12,5;yes;;#112233\n" +
		"bad;romney;twelve;maybe;1e309;#112233\n" +
		"short;romney\n" +
		"good;romney;;;120;#112233\n"
	rows, bad, err := ReadLots([]byte(data))
	require.NoError(t, err)
	require.Len(t, rows, 2)
	assert.Equal(t, 12.5, rows[0].Grams)
	assert.True(t, rows[0].Superwash)
	require.Len(t, bad, 4)
	assert.Equal(t, []int{3, 3, 3, 4}, []int{bad[0].Line, bad[1].Line, bad[2].Line, bad[3].Line})
	_, bad, err = ReadLots([]byte("name,kind,colours\na,romney,#112233\nb\"c,romney,#112233\n"))
	require.NoError(t, err)
	require.Len(t, bad, 1)
	assert.Equal(t, 3, bad[0].Line)
}

func TestNotCSV(t *testing.T) {
	for what, data := range map[string]string{
		"zip": "PK\x03\x04rest", "empty": " \n", "binary": "a\x00b", "latin": "name,kind\nbl\xe4u,romney",
		"no columns": "1,2,3\n", "twice": "name,kind,name\n", "long": "name,kind,colours\n" + strings.Repeat("a,romney,#112233\n", 100_000),
	} {
		_, _, err := ReadLots([]byte(data))
		var not ErrNotCSV
		assert.ErrorAs(t, err, &not, what)
	}
}

func FuzzReadLots(f *testing.F) {
	f.Add([]byte("name,kind,colours\na,romney,#112233 1\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		rows, bad, err := ReadLots(data)
		if err != nil && len(rows)+len(bad) > 0 {
			t.Error("an unreadable file gives no lines")
		}
	})
}

func TestNumber(t *testing.T) {
	for s, want := range map[string]float64{"12.5": 12.5, " 12,5 ": 12.5, "1e3": 1000, "-2": -2} {
		got, err := Number(s)
		require.NoError(t, err)
		assert.Equal(t, want, got)
	}
	for _, s := range []string{"", "abc", "NaN", "Inf", "1e309", "0x10", "1_000", "1,000,000", "1,000.5", "12g"} {
		_, err := Number(s)
		assert.Error(t, err, s)
	}
}

// TestNoCellStartsAFormula parts what is written by whatever a spreadsheet may part
// it by: no piece starts with a sign, and reading gives back what was there.
func TestNoCellStartsAFormula(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.StringOf(rapid.RuneFrom([]rune("=+-@;'\t\r\n a"))).Draw(t, "s")
		out := defuse(s)
		require.Equal(t, s, infuse(out))
		for _, piece := range strings.FieldsFunc(out, func(r rune) bool { return strings.ContainsRune(";\t\r\n", r) }) {
			piece = strings.TrimLeft(piece, " ")
			require.False(t, piece != "" && strings.ContainsRune(formulaSigns, rune(piece[0])), "%q of %q", piece, out)
		}
	})
}
