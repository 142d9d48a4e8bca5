package layup

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// What is laid as another lies has all its grams, in the other's places moved and turned, weighed in proportion, and nothing
// else moves; copied back and forth it lies the same.
func TestLaidAsAnotherLies(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, fibres, o, p := drawBuilt(t)
		if len(fibres) < 2 {
			return
		}
		which := rapid.Permutation(seq(len(fibres))).Draw(t, "which")
		at, as, mirrored := which[0], which[1], rapid.Bool().Draw(t, "mirrored")
		out, err := p.Copied(b, fibres, at, as, 0, mirrored, o.Step)
		require.NoError(t, err)
		require.NoError(t, out.Check(b, fibres, true))
		assert.InDeltaSlice(t, p.Placed(len(fibres)), out.Placed(len(fibres)), 1e-9)
		assert.Equal(t, p.lifted(at).Layers, out.lifted(at).Layers, "the rest stays")
		base := p.lifted(at)
		like, there := base.of(as)
		mine, grams := out.of(at)
		for n, m := range mine {
			v := out.Layers[m.layer].Lays[m.lay]
			found := false
			for _, l := range like {
				w := base.Layers[l.layer].Lays[l.lay]
				if mirrored {
					w.From, w.To = 1-w.To, 1-w.From
				}
				found = found || l.layer == m.layer && math.Abs(v.From-w.From)+math.Abs(v.To-w.To)+math.Abs(v.Start-w.Start) < 1e-5
			}
			assert.True(t, found, "lay %d lies where the other does", n)
		}
		assert.LessOrEqual(t, len(grams), len(there))
	})
}

func TestWhatCanNotBeLaidAsAnother(t *testing.T) {
	fibres := []Fibre{wool("a", 20), wool("b", 20), wool("c", 10)}
	p, err := Build(standardDrum, fibres, Options{Builder: Lanes, Passes: 1, Step: 0.1})
	require.NoError(t, err)
	for moved, fits := range map[float64]bool{0.3: true, -0.3: true, 0.999: false, -1: false} {
		_, err := p.Copied(standardDrum, fibres, 1, 0, moved, false, 0.1)
		assert.Equal(t, fits, err == nil, "%v", moved)
	}
	for _, c := range [][2]int{{0, 0}, {9, 0}, {0, -1}} {
		_, err := p.Copied(standardDrum, fibres, c[0], c[1], 0, false, 0.1)
		assert.ErrorContains(t, err, "to:")
	}
	_, err = p.lifted(0).Copied(standardDrum, fibres, 1, 0, 0, false, 0.1)
	assert.ErrorContains(t, err, "does not lie anywhere")
}
