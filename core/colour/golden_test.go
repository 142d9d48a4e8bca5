package colour

import (
	"encoding/json"
	"math"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// golden holds published and independently computed values; see meta inside
// the file for its conventions and tolerances.
type golden struct {
	Meta struct {
		T [3][Bands]float64 `json:"T_linear_rgb_weights"`
	}
	Conversions []struct {
		Hex                     string
		Linear, XYZ, Lab, OKLab [3]float64
	}
	LabToSRGB []struct {
		Lab, SRGB255 [3]float64
		Hex          string
		InGamut      bool `json:"in_gamut"`
	} `json:"lab_to_srgb"`
	DE2000 []struct {
		Lab1, Lab2 [3]float64
		DE2000     float64
	} `json:"de2000"`
	Reflectances []struct {
		Hex     string
		R       []float64
		SumSqDz float64 `json:"sum_sq_dz"`
	}
}

func readGolden(t testing.TB) (g golden) {
	data, err := os.ReadFile("testdata/golden.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(data, &g))
	return g
}

func near(t *testing.T, want, got [3]float64, tol float64, what string) {
	t.Helper()
	for i := range want {
		assert.InDelta(t, want[i], got[i], tol, what)
	}
}

func (c Lab) triple() [3]float64   { return [3]float64{c.L, c.A, c.B} }
func (c OKLab) triple() [3]float64 { return [3]float64{c.L, c.A, c.B} }

func lab(v [3]float64) Lab { return Lab{v[0], v[1], v[2]} }

func TestConversionsMeetGolden(t *testing.T) {
	g := readGolden(t)
	require.Len(t, g.Conversions, 40)
	for i := range 3 {
		for b := range Bands {
			assert.InDelta(t, g.Meta.T[i][b], toLinear[i][b], 1e-12)
		}
	}
	for _, c := range g.Conversions {
		lin, err := ParseHex(c.Hex)
		require.NoError(t, err)
		near(t, c.Linear, lin, 1e-9, c.Hex)
		near(t, c.XYZ, lin.XYZ(), 1e-9, c.Hex)
		near(t, c.Lab, lin.Lab().triple(), 1e-6, c.Hex)
		near(t, c.OKLab, lin.OKLab().triple(), 1e-7, c.Hex)
		assert.Equal(t, c.Hex, lin.Hex())
	}
	for _, c := range g.LabToSRGB {
		lin := lab(c.Lab).Linear()
		near(t, c.SRGB255, lin.SRGB255(), 1e-3, c.Hex)
		assert.Equal(t, c.Hex, lin.Hex())
		assert.Equal(t, c.InGamut, lin.InGamut(), c.Hex)
	}
}

func TestCIEDE2000MeetsPublishedPairs(t *testing.T) {
	g := readGolden(t)
	require.Len(t, g.DE2000, 34)
	for i, p := range g.DE2000 {
		got := CIEDE2000(lab(p.Lab1), lab(p.Lab2))
		assert.InDelta(t, p.DE2000, got, 1e-4, "pair %d", i+1)
		assert.InDelta(t, got, CIEDE2000(lab(p.Lab2), lab(p.Lab1)), 1e-9, "pair %d is symmetric", i+1)
	}
}

func TestReflectancesMeetGolden(t *testing.T) {
	for _, c := range readGolden(t).Reflectances {
		lin, err := ParseHex(c.Hex)
		require.NoError(t, err)
		r, ok := lin.Reflectance()
		require.True(t, ok, c.Hex)
		var slope float64
		for i := range Bands {
			assert.InDelta(t, c.R[i], r[i], 1e-6, "%s band %d", c.Hex, i)
			if i > 0 {
				d := math.Atanh(2*r[i]-1) - math.Atanh(2*r[i-1]-1)
				slope += d * d
			}
		}
		if c.SumSqDz > 0 {
			assert.InEpsilon(t, c.SumSqDz, slope, 1e-5, c.Hex)
		}
	}
}

// The whole gamut is solved: every reflectance is possible and has its colour.
func TestReflectanceOverTheGamut(t *testing.T) {
	const n = 22
	for i := range n * n * n {
		v := func(k int) float64 { return decoded[k*255/(n-1)] }
		c := Linear{v(i % n), v(i / n % n), v(i / n / n)}
		r, ok := c.Reflectance()
		require.True(t, ok, c.Hex())
		for _, x := range r {
			require.True(t, x > 0 && x <= 1, "%s: %v", c.Hex(), x)
		}
		if i > 0 { // black is 0.0001 by convention
			near(t, c, r.Linear(), 1e-9, c.Hex())
		}
	}
}

func TestOutOfGamutIsClippedAndSaid(t *testing.T) {
	r, ok := Lab{96, 83, -79}.Linear().Reflectance()
	assert.False(t, ok)
	assert.Equal(t, "#ffb6ff", r.Linear().Hex())
}

func BenchmarkReflectanceFromColour(b *testing.B) {
	c, _ := ParseHex("#4f7a86")
	b.ReportAllocs()
	for b.Loop() {
		c.Reflectance()
	}
}

// The floor: what every Newton step can not do without, 36 tanh and the 36 × 3
// products with T, for as many steps as this colour takes (8).
func BenchmarkReflectanceFromColourFloor(b *testing.B) {
	var z [Bands]float64
	var out Linear
	b.ReportAllocs()
	for b.Loop() {
		for range 8 {
			for i := range Bands {
				v := math.Tanh(z[i] + 0.3)
				for j := range 3 {
					out[j] += toLinearT[i][j] * v
				}
			}
		}
	}
	_ = out
}

func BenchmarkCIEDE2000(b *testing.B) {
	p, q := Lab{52, -10, -12}, Lab{55, -7, -15}
	b.ReportAllocs()
	for b.Loop() {
		CIEDE2000(p, q)
	}
}

// The floor: the transcendental calls the formula has, and nothing else: two
// powers, five cosines and sines, two arctangents, four hypotenuses, one
// exponential, four roots.
func BenchmarkCIEDE2000Floor(b *testing.B) {
	x := 0.7
	var s float64
	b.ReportAllocs()
	for b.Loop() {
		for range 2 {
			s += math.Pow(x, 7) + math.Atan2(x, s) + math.Sin(x+s) + math.Hypot(x, s) + math.Hypot(s, x) + math.Sqrt(x) + math.Sqrt(x+1)
		}
		s += math.Cos(x) + math.Cos(x+s) + math.Cos(x-s) + math.Cos(s) + math.Exp(-x)
		s = math.Mod(s, 3)
	}
	_ = s
}
