package colour

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func drawLab(t *rapid.T, label string) Lab {
	return Lab{
		rapid.Float64Range(0, 100).Draw(t, label+" L"), rapid.Float64Range(-110, 110).Draw(t, label+" a"), rapid.Float64Range(-110, 110).Draw(t, label+" b"),
	}
}

// There and back: Lab to XYZ to linear light, and the way back.
func TestConversionsReverse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := drawLab(t, "c")
		back := c.Linear().Lab()
		assert.InDelta(t, c.L, back.L, 1e-8)
		assert.InDelta(t, c.A, back.A, 1e-8)
		assert.InDelta(t, c.B, back.B, 1e-8)
		hex := rapid.StringMatching(`#[0-9a-f]{6}`).Draw(t, "hex")
		lin, err := ParseHex(hex)
		require.NoError(t, err)
		assert.Equal(t, hex, lin.Hex())
		assert.True(t, lin.InGamut())
		assert.Equal(t, lin, lin.Clipped())
	})
}

// A difference is nothing to itself, the same both ways, and never negative
// or NaN, wherever the two colours lie.
func TestCIEDE2000Laws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, q := drawLab(t, "p"), drawLab(t, "q")
		d := CIEDE2000(p, q)
		assert.False(t, math.IsNaN(d))
		assert.GreaterOrEqual(t, d, 0.0)
		assert.InDelta(t, d, CIEDE2000(q, p), 1e-9)
		assert.Zero(t, CIEDE2000(p, p))
		// Greys differ by lightness alone, weighted by S_L.
		a, b := Lab{L: p.L}, Lab{L: q.L}
		m := (p.L+q.L)/2 - 50
		assert.InDelta(t, math.Abs(p.L-q.L)/(1+0.015*m*m/math.Sqrt(20+m*m)), CIEDE2000(a, b), 1e-9)
	})
}

// A flat reflectance is neutral and as light as it should be: CIELAB's L* of
// its value, by the definition.
func TestFlatReflectanceIsNeutral(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.Float64Range(0.01, 1).Draw(t, "v")
		r := flat(v)
		lab := r.Lab()
		assert.InDelta(t, 116*math.Cbrt(v)-16, lab.L, 1e-9)
		assert.InDelta(t, 0, lab.Chroma(), 1e-9)
	})
}

// Words never contradict the numbers: lighter only when lighter, and opposite
// words for the opposite direction.
func TestWordsFollowTheNumbers(t *testing.T) {
	opposite := map[string]string{"lighter": "darker", "darker": "lighter", "brighter": "duller", "duller": "brighter"}
	rapid.Check(t, func(t *rapid.T) {
		p, q := drawLab(t, "p"), drawLab(t, "q")
		first, second := directions(p, q)
		back, backSecond := directions(q, p)
		for i, w := range []string{first, second} {
			switch w {
			case "lighter":
				assert.Greater(t, q.L, p.L)
			case "darker":
				assert.Less(t, q.L, p.L)
			}
			if o, ok := opposite[w]; ok {
				assert.Equal(t, o, []string{back, backSecond}[i])
			}
		}
	})
}

func TestHueAndChroma(t *testing.T) {
	assert.InDelta(t, 5, Lab{50, 3, 4}.Chroma(), 1e-12)
	assert.InDelta(t, 90, Lab{50, 0, 4}.Hue(), 1e-12)
	assert.InDelta(t, 270, Lab{50, 0, -4}.Hue(), 1e-12)
}
