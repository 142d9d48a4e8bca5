package mix

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

// TestSlopeIsTheChangeOfTheMix moves weight from one lot to another and
// compares the change of colour with the slope, for every model.
func TestSlopeIsTheChangeOfTheMix(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 5).Draw(t, "n")
		m := []Model{Default(), {Friele, 0.28}, {KubelkaMunk, 0}}[rapid.IntRange(0, 2).Draw(t, "model")]
		lots, refs := make([]Prepared, n), make([]*Prepared, n)
		shares, strength := make([]float64, n), make([]float64, n)
		var sum float64
		for i := range lots {
			var c colour.Linear
			for ch := range c {
				c[ch] = rapid.Float64Range(0.02, 0.9).Draw(t, "channel")
			}
			r, _ := c.Reflectance()
			lots[i], strength[i] = m.Prepare(&r), rapid.Float64Range(0.5, 2).Draw(t, "strength")
			refs[i] = &lots[i]
			shares[i] = rapid.Float64Range(0.1, 1).Draw(t, "share")
			sum += shares[i]
		}
		for i := range shares {
			shares[i] /= sum
		}
		even := func(s []float64) colour.Linear {
			e, w := make([]float64, n), 0.0
			for i := range s {
				e[i] = s[i] * strength[i]
				w += e[i]
			}
			for i := range e {
				e[i] /= w
			}
			r := m.Mix(lots, e)
			return r.Linear()
		}
		slope := make([]colour.Linear, n)
		mixed := m.Slope(refs, strength, shares, slope)
		here := even(shares)
		const h = 1e-5
		up, down := append([]float64(nil), shares...), append([]float64(nil), shares...)
		up[0], up[1] = up[0]+h, up[1]-h
		down[0], down[1] = down[0]-h, down[1]+h
		a, b := even(up), even(down)
		for ch := range 3 {
			assert.InDelta(t, here[ch], mixed[ch], 1e-9)
			assert.InDelta(t, (a[ch]-b[ch])/(2*h), slope[0][ch]-slope[1][ch], 1e-4)
		}
	})
}
