package mix

import (
	"encoding/json"
	"math"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

type goldenBlend struct {
	ID         string
	Components []struct {
		Hex   string
		MassG float64 `json:"mass_g"`
	}
	UseCoveringPower bool      `json:"use_covering_power"`
	SNB              float64   `json:"sn_b"`
	FrieleS          float64   `json:"friele_s"`
	Shares           []float64 `json:"shares"`
	Predictions      map[string]struct {
		Lab [3]float64
	}
}

func fromHex(t require.TestingT, hex string) colour.Reflectance {
	lin, err := colour.ParseHex(hex)
	require.NoError(t, err)
	r, ok := lin.Reflectance()
	require.True(t, ok, hex)
	return r
}

func TestBlendsMeetGolden(t *testing.T) {
	data, err := os.ReadFile("../colour/testdata/golden.json")
	require.NoError(t, err)
	var g struct{ Blends []goldenBlend }
	require.NoError(t, json.Unmarshal(data, &g))
	require.Len(t, g.Blends, 40)
	for _, b := range g.Blends {
		var lots []colour.Reflectance
		for _, c := range b.Components {
			lots = append(lots, fromHex(t, c.Hex))
		}
		shares := b.Shares
		for name, m := range map[string]Model{
			"stearns_noechel": {StearnsNoechel, b.SNB},
			"friele":          {Friele, b.FrieleS},
			"kubelka_munk":    {KubelkaMunk, 0},
		} {
			r := m.Even(lots, shares)
			got, want := r.Lab(), b.Predictions[name].Lab
			assert.InDelta(t, want[0], got.L, 1e-4, "%s %s", b.ID, name)
			assert.InDelta(t, want[1], got.A, 1e-4, "%s %s", b.ID, name)
			assert.InDelta(t, want[2], got.B, 1e-4, "%s %s", b.ID, name)
		}
		area := Area(lots, shares)
		assert.InDelta(t, b.Predictions["linear"].Lab[0], area.Lab().L, 1e-4, b.ID)
	}
}

var models = []Model{Default(), {Friele, 0.28}, {KubelkaMunk, 0}}

func drawHex(t *rapid.T, label string) string {
	return rapid.StringMatching(`#[0-9a-f]{6}`).Draw(t, label)
}

// A lot mixed with itself keeps its colour, the order of lots does not matter,
// and every mix is a possible reflectance between its darkest and lightest lot.
func TestMixLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := rapid.SampledFrom(models).Draw(t, "model")
		n := rapid.IntRange(2, 5).Draw(t, "n")
		lots, shares, back, rev := make([]colour.Reflectance, n), make([]float64, n), make([]colour.Reflectance, n), make([]float64, n)
		var sum float64
		for i := range n {
			lots[i] = fromHex(t, drawHex(t, "hex"))
			shares[i] = rapid.Float64Range(0.01, 1).Draw(t, "share")
			sum += shares[i]
		}
		for i := range n {
			shares[i] /= sum
			back[n-1-i] = lots[i]
		}
		for i := range n {
			rev[n-1-i] = shares[i]
		}
		r, s := m.Even(lots, shares), m.Even(back, rev)
		for b := range r {
			lo, hi := 1.0, 0.0
			for i := range n {
				lo, hi = min(lo, lots[i][b]), max(hi, lots[i][b])
			}
			assert.InDelta(t, r[b], s[b], 1e-9)
			assert.GreaterOrEqual(t, r[b], min(lo, floorR)-1e-9)
			assert.LessOrEqual(t, r[b], hi+1e-4)
		}
		same := m.Even([]colour.Reflectance{lots[0], lots[0]}, []float64{0.3, 0.7})
		assert.Less(t, colour.CIEDE2000(lots[0].Lab(), same.Lab()), 0.3, "floored bands may move near-black a little")
	})
}

// Published for orientation beside the method: with a sigma of 3, one lot wrong
// at a share of 75/50/25/10 % moves the blend by 2.4/1.8/1.1/0.6.
func TestSensitivityHasTheExpectedSize(t *testing.T) {
	want := map[float64]float64{0.75: 2.4, 0.5: 1.8, 0.25: 1.1, 0.1: 0.6}
	pairs := [][2]string{{"#5b7d96", "#c9a24a"}, {"#7a8f7f", "#d9d2c0"}, {"#864a3c", "#6b86a0"}, {"#a8b8a0", "#40586a"}}
	for share, expect := range want {
		var sum float64
		for _, p := range pairs {
			lots := []colour.Reflectance{fromHex(t, p[0]), fromHex(t, p[1])}
			m := Default()
			prepared := []Prepared{m.Prepare(&lots[0]), m.Prepare(&lots[1])}
			shares := []float64{share, 1 - share}
			r := m.Mix(prepared, shares)
			sum += 3 * sensitivity(m, prepared, shares, 0, &lots[0], r.Lab())
		}
		assert.InDelta(t, expect, sum/4, 0.45, "share %v", share)
	}
}

func TestSureShrinksWithBetterColours(t *testing.T) {
	lots := []colour.Reflectance{fromHex(t, "#1f3f94"), fromHex(t, "#f4f2ee")}
	shares := []float64{0.5, 0.5}
	byEye := Sure(Default(), lots, shares, []float64{Picker.Sigma(), Picker.Sigma()}, 0)
	read := Sure(Default(), lots, shares, []float64{Reader.Sigma(), Reader.Sigma()}, 0)
	assert.Greater(t, byEye.Sigma, read.Sigma)
	assert.Greater(t, read.Model, 3.0, "navy and white is where the models part")
	single := Sure(Default(), lots[:1], []float64{1}, []float64{Reader.Sigma()}, 0)
	assert.InDelta(t, 1, single.Model, 1e-9)
	assert.InDelta(t, 0.7, single.Lots, 0.05)
}

func TestAroundLiesAtSigma(t *testing.T) {
	c := colour.Lab{L: 55, A: -8, B: -12}
	for _, q := range Around(c, 3) {
		assert.InDelta(t, 3, colour.CIEDE2000(c, q), 1e-3)
	}
}

func TestCover(t *testing.T) {
	// Twice as thick shows half as much: 1/2 : 1 of equal weights.
	got := Cover([]float64{0.5, 0.5}, []float64{40, 20})
	assert.InDeltaSlice(t, []float64{1. / 3, 2. / 3}, got, 1e-12)
	// Unknown takes the mean thickness, so it keeps its share between equals.
	assert.InDeltaSlice(t, []float64{0.4, 0.6}, Cover([]float64{0.4, 0.6}, []float64{30, 0}), 1e-12)
}

func TestNewModel(t *testing.T) {
	m, err := NewModel("", 0)
	require.NoError(t, err)
	assert.Equal(t, Default(), m)
	for _, p := range []float64{-1, 2, math.NaN(), math.Inf(1)} {
		_, err := NewModel(Friele, p)
		assert.Error(t, err)
	}
	_, err = NewModel("srgb", 0)
	assert.Error(t, err)
}

func benchLots(b *testing.B) ([]Prepared, []float64) {
	var lots []Prepared
	for _, h := range []string{"#5b7d96", "#c9a24a", "#d9d2c0", "#1d4c55"} {
		r := fromHex(b, h)
		lots = append(lots, Default().Prepare(&r))
	}
	return lots, []float64{0.4, 0.3, 0.2, 0.1}
}

func BenchmarkPredict4(b *testing.B) {
	lots, shares := benchLots(b)
	m := Default()
	b.ReportAllocs()
	for b.Loop() {
		r := m.Mix(lots, shares)
		r.Lab()
	}
}

// The floor: 4 × 36 multiply-adds, 36 divisions, 3 × 36 multiply-adds.
func BenchmarkPredict4Floor(b *testing.B) {
	lots, shares := benchLots(b)
	var out [3]float64
	b.ReportAllocs()
	for b.Loop() {
		var r [colour.Bands]float64
		for k := range lots {
			for i := range r {
				r[i] += shares[k] * lots[k][i]
			}
		}
		for i := range r {
			r[i] = 1 / r[i]
		}
		for j := range out {
			for i := range r {
				out[j] += lots[j][i] * r[i]
			}
		}
	}
	_ = out
}

// How far the models are apart is the root mean square of the three distances.
func TestSpreadOfTheModels(t *testing.T) {
	navy, err := colour.ParseHex("#26324a")
	require.NoError(t, err)
	white, err := colour.ParseHex("#f0ede3")
	require.NoError(t, err)
	a, _ := navy.Reflectance()
	b, _ := white.Reflectance()
	lots, shares := []colour.Reflectance{a, b}, []float64{0.4, 0.6}
	var sum float64
	models := []Model{Default(), {Friele, 0.28}, {KubelkaMunk, 0}}
	for i := range models {
		for j := range i {
			p, q := models[i].Even(lots, shares), models[j].Even(lots, shares)
			sum += math.Pow(colour.CIEDE2000(p.Lab(), q.Lab()), 2)
		}
	}
	assert.InDelta(t, math.Sqrt(sum/3), spread(lots, shares), 1e-9)
	assert.Greater(t, spread(lots, shares), 1.0)
}

// TestAroundGoesItsFourWays checks where each of the four colours lies.
func TestAroundGoesItsFourWays(t *testing.T) {
	c := colour.Lab{L: 55}
	q := Around(c, 3)
	for i, v := range q {
		assert.InDelta(t, 3, colour.CIEDE2000(c, v), 0.01, i)
	}
	assert.Greater(t, q[0].L, c.L)
	assert.Less(t, q[2].L, c.L)
	assert.InDelta(t, 70, q[1].Hue(), 1e-6, "warm is a yellow red")
	assert.InDelta(t, 250, q[3].Hue(), 1e-6, "cool is opposite")
}
