package formats

import (
	"bytes"
	"encoding/csv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func drawPalette(t *rapid.T) (list []Swatch) {
	return rapid.SliceOfN(rapid.Custom(func(t *rapid.T) Swatch {
		return Swatch{rapid.SampledFrom([]string{"rust", "قطن", "ไหม 🧶", "a\tb", "", "two  words", "#1"}).Draw(t, "name"),
			rapid.StringMatching(`#[0-9a-f]{6}`).Draw(t, "hex")}
	}), 0, 40).Draw(t, "palette")
}

// What is written as a palette is read with the same colours to the digit, and the names as they fit on a line.
func TestPalettesComeInAsTheyWentOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		list := drawPalette(t)
		var want []Swatch
		for _, v := range list {
			want = append(want, swatch(oneLine(v.Name), v.Hex))
		}
		var gpl, ase bytes.Buffer
		require.NoError(t, WriteGPL(&gpl, "Dyed\nby hand", list))
		require.NoError(t, WriteASE(&ase, list))
		for _, data := range [][]byte{gpl.Bytes(), ase.Bytes()} {
			got, err := ReadPalette(data)
			require.NoError(t, err)
			assert.Equal(t, want, got)
		}
	})
}

// By the published form: bytes of one block, made by hand.
func TestAPaletteOfADrawingProgram(t *testing.T) {
	data := []byte("ASEF\x00\x01\x00\x00\x00\x00\x00\x02" +
		"\xc0\x01\x00\x00\x00\x06\x00\x02\x00g\x00\x00" + // a group begins
		"\x00\x01\x00\x00\x00\x1a\x00\x03\x00o\x00k\x00\x00RGB \x3f\x80\x00\x00\x00\x00\x00\x00\x3f\x00\x00\x00\x00\x02" +
		"\xc0\x02\x00\x00\x00\x00")
	got, err := ReadPalette(data)
	require.NoError(t, err)
	assert.Equal(t, []Swatch{{"ok", "#ff0080"}}, got)
	for model, want := range map[string]string{"CMYK": "#000000", "Gray": "#808080", "LAB ": "#777777"} {
		f := map[string][]float64{"CMYK": {0, 0.5, 0, 1}, "Gray": {0.502}, "LAB ": {0.5, 0, 0}}[model]
		assert.Equal(t, want, aseHex(model, f), model)
	}
}

// Whatever comes: a palette or a message, never more than so many colours, each of six digits.
func FuzzPalette(f *testing.F) {
	var b bytes.Buffer
	require.NoError(f, WriteASE(&b, []Swatch{{"rust", "#a5512f"}}))
	f.Add(b.Bytes())
	f.Add([]byte("GIMP Palette\n1 2 3 x\n"))
	f.Fuzz(func(t *testing.T, data []byte) {
		list, err := ReadPalette(data)
		if err == nil {
			for _, v := range list {
				assert.Regexp(t, `^#[0-9a-f]{6}$`, v.Hex)
				assert.NotEmpty(t, v.Name)
			}
		}
	})
}

// A palette of a million colours is read to its bound, and no further.
func TestAPaletteOfAMillion(t *testing.T) {
	list, err := ReadPalette([]byte("GIMP Palette\n" + strings.Repeat("1 2 3\n", 1_000_000)))
	require.NoError(t, err)
	assert.Len(t, list, MostSwatches)
	for _, none := range []string{"", "name,kind\n", "GIMP Palette\n1 2\n", "GIMP Palette\n1 2 256 x\n", "ASEF", "ASEF\x00\x01\x00\x00\x00\x00\x00\x01\x00\x01\xff\xff\xff\xff"} {
		_, err := ReadPalette([]byte(none))
		var not ErrNotPalette
		assert.ErrorAs(t, err, &not, "%q", none)
	}
}

// A table keeps figures as figures and marks what a spreadsheet would run.
func TestATableIsNoProgram(t *testing.T) {
	var b bytes.Buffer
	w := NewTable(&b)
	require.NoError(t, w.Line([]string{"=1+1", "-12.5", "+x", "a, b\n\"c\"", "-1e-05", "@x"}))
	require.NoError(t, w.End())
	rec, err := csv.NewReader(&b).Read()
	require.NoError(t, err)
	assert.Equal(t, []string{"'=1+1", "-12.5", "'+x", "a, b\n\"c\"", "-1e-05", "'@x"}, rec)
}
