package colour

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// What is found at a place lies within it, nearest first; the opposite of the opposite is where one was; greys lie nowhere.
func TestWhatLiesAroundTheWheel(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		one := func() Linear {
			v := func() float64 { return rapid.Float64Range(0, 1).Draw(t, "v") }
			return Linear{v(), v(), v()}
		}
		of := one()
		var list []Linear
		for range rapid.IntRange(0, 12).Draw(t, "n") {
			list = append(list, one())
		}
		scheme := rapid.SampledFrom([]string{"neighbours", "opposite", "split", "triad", "square", "tints"}).Draw(t, "scheme")
		width := rapid.Float64Range(1, 90).Draw(t, "width")
		places, grey, err := Around(of, scheme, width, list)
		require.NoError(t, err)
		for _, i := range grey {
			_, chroma, _ := list[i].OKLCH()
			assert.Less(t, chroma, HueFrom)
		}
		_, chroma, hue := of.OKLCH()
		if chroma < HueFrom {
			assert.Empty(t, places)
			return
		}
		assert.Len(t, places, len(schemes[scheme]))
		for n, p := range places {
			away := math.Abs(math.Mod(p.Hue-hue-schemes[scheme][n]+3*360+180, 360) - 180)
			assert.InDelta(t, 0, away, 1e-6)
			last := 0.0
			for _, f := range p.Fits {
				assert.LessOrEqual(t, f.Off, width/2+1e-9)
				assert.GreaterOrEqual(t, f.Off, last)
				last = f.Off
			}
		}
	})
	red, _ := ParseHex("#c23b30")
	_, chroma, hue := red.OKLCH()
	assert.InDelta(t, 28.2, hue, 0.5, "by the published matrices of OKLab")
	assert.InDelta(t, 0.176, chroma, 0.005)
	for _, bad := range []struct {
		scheme string
		width  float64
	}{{"pentad", 25}, {"opposite", 0}, {"opposite", 400}} {
		_, _, err := Around(red, bad.scheme, bad.width, nil)
		assert.Error(t, err)
	}
}
