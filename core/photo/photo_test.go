package photo

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

// plain is a picture of one colour.
func plain(c colour.Linear, w, h int) *Picture {
	v := c.Clipped().SRGB255()
	p := &Picture{W: w, H: h}
	for range w * h {
		p.Pix = append(p.Pix, uint8(v[0]+0.5), uint8(v[1]+0.5), uint8(v[2]+0.5))
	}
	return p
}

var whole = Area{0, 0, 1, 1}

func drawLinear(t *rapid.T) (c colour.Linear) {
	for i := range c {
		c[i] = rapid.Float64Range(0.05, 0.8).Draw(t, "channel")
	}
	return c
}

func TestABalancedCardIsNeutral(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		seen := drawLinear(t)
		reflects := rapid.Float64Range(0.05, 0.95).Draw(t, "reflects")
		p := plain(seen, 30, 20)
		b, _, err := p.Card(whole, reflects)
		if err != nil {
			assert.ErrorContains(t, err, "strongly coloured")
			return
		}
		r, err := p.Read(whole, b)
		require.NoError(t, err)
		for ch := range r.Colour {
			assert.InDelta(t, reflects, r.Colour[ch], 1e-9)
		}
		assert.InDelta(t, 0, r.Spread, 1e-6)
	})
}

// A few glints and shadows in a spot do not change its colour, and are told
// apart from what the mean rests on.
func TestTheMeanIsRobust(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := drawLinear(t)
		p := plain(c, 40, 40)
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		for range 160 { // a tenth of the pixels
			at := 3 * rng.IntN(1600)
			v := uint8(30)
			if rng.IntN(2) == 0 {
				v = 250
			}
			p.Pix[at], p.Pix[at+1], p.Pix[at+2] = v, v, v
		}
		r, err := p.Read(whole, Unbalanced)
		require.NoError(t, err)
		assert.Less(t, colour.CIEDE2000(c.Lab(), r.Colour.Lab()), 1.0)
		assert.LessOrEqual(t, r.Pixels, 1600)
	})
}

func TestPalettePartsAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := &Picture{W: 10, H: 10}
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 2))
		for range 100 {
			p.Pix = append(p.Pix, uint8(rng.IntN(256)), uint8(rng.IntN(256)), uint8(rng.IntN(256)))
		}
		k := rapid.IntRange(LeastColours, MostColours).Draw(t, "k")
		out, err := p.Palette(t.Context(), k, Unbalanced)
		require.NoError(t, err)
		require.Len(t, out, k)
		var sum float64
		last := 1.0
		for _, s := range out {
			sum += s.Part
			require.LessOrEqual(t, s.Part, last, "the largest first")
			last = s.Part
		}
		assert.InDelta(t, 1, sum, 1e-9)
	})
}

func TestAPictureOfOneColourHasAPalette(t *testing.T) {
	out, err := plain(colour.Linear{0.2, 0.3, 0.4}, 20, 20).Palette(t.Context(), 6, Unbalanced)
	require.NoError(t, err)
	assert.Len(t, out, 1, "there is only one colour in it")
}

// A quantile is one of the values: the least at 0, the middle one, the most at 1.
func TestQuantile(t *testing.T) {
	v := []float64{5, 1, 4, 2, 3}
	for q, want := range map[float64]float64{0: 1, 0.25: 2, 0.5: 3, 0.75: 4, 0.99: 4, 1: 5} {
		assert.Equal(t, want, quantile(v, q), "%v", q)
	}
	assert.Equal(t, []float64{5, 1, 4, 2, 3}, v, "left as it was")
}
