package formats

import (
	"bytes"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Spectra go out and come in with every figure as it was.
func TestSpectraComeInAsTheyWentOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		list := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) (s Spectrum) {
			s.Name = rapid.SampledFrom([]string{"rust", `5" of top`, "قطن", "a # b", "END_DATA", ""}).Draw(t, "name")
			for i := range s.Reflectance {
				s.Reflectance[i] = rapid.Float64Range(0, 1).Draw(t, "r")
			}
			return s
		}), 1, 5).Draw(t, "spectra")
		var b bytes.Buffer
		require.NoError(t, WriteCGATS(&b, list))
		got, err := ReadSpectra(b.Bytes())
		require.NoError(t, err, b.String())
		require.Equal(t, list, got)
	})
}

// As an instrument writes it: percent, other fields between, comments, lines broken anywhere.
func TestSpectraOfAnInstrument(t *testing.T) {
	var heads, values []string
	for _, w := range wavelengths(400, 700, 10) {
		heads = append(heads, "NM_"+w)
		values = append(values, "25.0")
	}
	file := "CGATS.17 # by hand\nKEYWORD \"X\"\nBEGIN_DATA_FORMAT\nSAMPLE_ID LAB_L " + strings.Join(heads, " ") + "\nEND_DATA_FORMAT\nBEGIN_DATA\n" +
		"\"grey card\" 57.1\n" + strings.Join(values, "\n") + "\nEND_DATA\n"
	got, err := ReadSpectra([]byte(file))
	require.NoError(t, err)
	require.Len(t, got, 1)
	assert.Equal(t, "grey card", got[0].Name)
	assert.InDelta(t, 0.25, got[0].Reflectance[10], 1e-12)
	for _, bad := range []string{strings.Replace(file, "END_DATA\n", "", 1), strings.ReplaceAll(file, "NM_", "LAB_X"), strings.Replace(file, "25.0", "much", 1)} {
		_, err := ReadSpectra([]byte(bad))
		assert.Error(t, err)
	}
}
