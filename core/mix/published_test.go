package mix

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

// The formulas as they were published, band by band, against the forms that
// are computed: Stearns and Noechel's f and its inverse, Friele's exponential,
// Kubelka and Munk's K/S.
func TestModelsAsPublished(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		share := rapid.Float64Range(0, 1).Draw(t, "share")
		p, q := rapid.Float64Range(0.02, 0.98).Draw(t, "p"), rapid.Float64Range(0.02, 0.98).Draw(t, "q")
		var lots [2]colour.Reflectance
		for i := range colour.Bands {
			lots[0][i], lots[1][i] = p, q
		}
		shares := []float64{share, 1 - share}
		mixed := func(f func(float64) float64) float64 { return share*f(p) + (1-share)*f(q) }

		b := rapid.Float64Range(0.02, 0.6).Draw(t, "b")
		f := mixed(func(r float64) float64 { return (1 - r) / (b*(r-0.01) + 0.01) })
		r := Model{StearnsNoechel, b}.Even(lots[:], shares)
		assert.InDelta(t, (1-0.01*(1-b)*f)/(1+b*f), r[17], 1e-9)

		s := rapid.Float64Range(0.1, 0.6).Draw(t, "s")
		g := mixed(func(r float64) float64 { return math.Exp(-s * (1 - r) * (1 - r) / (2 * r)) })
		ks := -math.Log(g) / s
		r = Model{Friele, s}.Even(lots[:], shares)
		assert.InDelta(t, 1/(1+ks+math.Sqrt(ks*ks+2*ks)), r[17], 1e-6)

		ks = mixed(func(r float64) float64 { return (1 - r) * (1 - r) / (2 * r) })
		r = Model{KubelkaMunk, 0}.Even(lots[:], shares)
		assert.InDelta(t, 1+ks-math.Sqrt(ks*ks+2*ks), r[17], 1e-9)
	})
}

// More of the lighter lot never makes a mix darker, in any model.
func TestMoreOfTheLighterIsLighter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := rapid.SampledFrom(models).Draw(t, "model")
		lots := []colour.Reflectance{fromHex(t, "#26324a"), fromHex(t, drawHex(t, "hex"))}
		if lots[1].Lab().L < lots[0].Lab().L {
			lots[0], lots[1] = lots[1], lots[0]
		}
		less := rapid.Float64Range(0, 1).Draw(t, "less")
		more := rapid.Float64Range(less, 1).Draw(t, "more")
		a := m.Even(lots, []float64{1 - less, less})
		b := m.Even(lots, []float64{1 - more, more})
		// Only where the lighter one is lighter in every band.
		for i := range lots[0] {
			if lots[1][i] < lots[0][i] {
				return
			}
		}
		assert.GreaterOrEqual(t, b.Lab().L, a.Lab().L-1e-9)
	})
}

// Navy and white half and half is far darker mixed than side by side: that is
// why colours are never averaged.
func TestIntimateMixIsDarkerThanPatches(t *testing.T) {
	lots := []colour.Reflectance{fromHex(t, "#1f2f5f"), fromHex(t, "#f6f4ee")}
	half := []float64{0.5, 0.5}
	even, patches := Default().Even(lots, half), Area(lots, half)
	assert.Greater(t, patches.Lab().L, even.Lab().L+20)
}

// The sigmas keep their order, and covering shares add up to 1.
func TestSourcesAndCoverLaws(t *testing.T) {
	last := 0.0
	for _, s := range Sources() {
		assert.GreaterOrEqual(t, s.Sigma(), last)
		last = s.Sigma()
	}
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 6).Draw(t, "n")
		shares, thick := make([]float64, n), make([]float64, n)
		var sum float64
		for i := range n {
			shares[i] = rapid.Float64Range(0.01, 1).Draw(t, "share")
			thick[i] = rapid.SampledFrom([]float64{0, 15, 30, 60}).Draw(t, "thickness")
			sum += shares[i]
		}
		for i := range shares {
			shares[i] /= sum
		}
		var total float64
		for _, v := range Cover(shares, thick) {
			assert.Greater(t, v, 0.0)
			total += v
		}
		assert.InDelta(t, 1, total, 1e-9)
	})
}
