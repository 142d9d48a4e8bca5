package formats

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func wavelengths(from, to, by int) (out []string) {
	for w := from; w <= to; w += by {
		out = append(out, fmt.Sprint(w))
	}
	return out
}

// ramp is a reflectance that rises with the wavelength, as text.
func ramp(at []string, factor float64) (out []string) {
	for _, s := range at {
		var w float64
		fmt.Sscan(s, &w)
		out = append(out, fmt.Sprint(factor*(w-300)/1000))
	}
	return out
}

func TestSpectraInTheirFormats(t *testing.T) {
	full, short := wavelengths(380, 730, 10), wavelengths(400, 700, 10)
	for name, text := range map[string]string{
		"36 bands, two readings": "sample," + strings.Join(full, ",") + "\nteal," + strings.Join(ramp(full, 1), ",") + "\nrust," + strings.Join(ramp(full,
			1), ",") + "\n",
		"percent":                strings.Join(full, ",") + "\n" + strings.Join(ramp(full, 100), ","),
		"with nm and semicolons": strings.ReplaceAll("name;"+strings.Join(full, "nm;")+"nm\nteal;"+strings.Join(ramp(full, 1), ";"), ".", ","),
	} {
		t.Run(name, func(t *testing.T) {
			out, err := ReadSpectra([]byte(text))
			require.NoError(t, err)
			for b, v := range out[0].Reflectance {
				assert.InDelta(t, (80+10*float64(b))/1000, v, 1e-9)
			}
		})
	}
	out, err := ReadSpectra([]byte("nm,R\n" + pairs(short)))
	require.NoError(t, err)
	r := out[0].Reflectance
	assert.InDelta(t, 0.1, r[0], 1e-9, "the first value holds below 400 nm")
	assert.InDelta(t, 0.25, r[17], 1e-9)
	assert.InDelta(t, 0.4, r[35], 1e-9, "the last holds above 700 nm")
}

func pairs(at []string) string {
	var b strings.Builder
	for i, v := range ramp(at, 1) {
		fmt.Fprintf(&b, "%s,%s\n", at[i], v)
	}
	return b.String()
}

func TestSpectraThatAreNone(t *testing.T) {
	short := wavelengths(400, 700, 10)
	for name, c := range map[string][2]string{
		"nothing":       {"", "no reading"},
		"only a head":   {strings.Join(short, ","), "no reading"},
		"too narrow":    {pairs(wavelengths(450, 700, 10)), "at least 400 to 700"},
		"too coarse":    {pairs(wavelengths(400, 700, 50)), "steps of at most 20"},
		"falling":       {"410,0.1\n400,0.1\n", "rise"},
		"a word":        {strings.Join(short, ",") + "\n" + strings.Repeat("x,", len(short)-1) + "x", "is no number"},
		"impossible":    {"nm,R\n" + strings.Replace(pairs(short), "0.25", "-3", 1), "no reflectance"},
		"ragged":        {strings.Join(short, ",") + "\n0.1,0.2,0.3", "columns"},
		"heading":       {"a,b,c,d\n1,2,3,4", "no wavelength"},
		"open quote":    {"\"400,410,420\n1,2,3", "no CSV"},
		"half a column": {"nm,R\n400,0.1\n410", "no reflectance"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := ReadSpectra([]byte(c[0]))
			assert.ErrorContains(t, err, c[1])
		})
	}
}

func FuzzReadSpectra(f *testing.F) {
	f.Add([]byte("nm,R\n" + pairs(wavelengths(400, 700, 10))))
	f.Add([]byte("sample,400,410\nx,0.1,0.2"))
	f.Add([]byte("BEGIN_DATA_FORMAT\nSAMPLE_ID NM_400 NM_410\nEND_DATA_FORMAT\nBEGIN_DATA\n1 0.2 0.3\nEND_DATA"))
	f.Add([]byte("BEGIN_DATA_FORMAT 0 BEGIN_DATA 0 0 END_DATA"))
	f.Fuzz(func(t *testing.T, data []byte) {
		out, err := ReadSpectra(data)
		if err != nil {
			return
		}
		for _, s := range out {
			for _, v := range s.Reflectance {
				if !(v >= 0 && v <= 1) {
					t.Fatalf("%v is no reflectance", v)
				}
			}
		}
	})
}
