package fibre

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func kindNamed(t require.TestingT, key string) Kind {
	k, ok := FindKind(key)
	require.True(t, ok, key)
	return k
}

// A blend of two fibres by hand: 75 % of 1.31 g/cm³ and 25 % of 1.5 g/cm³ weigh 1.353 g/cm³.
func TestTogetherByHand(t *testing.T) {
	wool, flax := kindNamed(t, "corriedale"), kindNamed(t, "flax_top")
	flax.Density = 1.5
	k := Together("a batt", []Portion{{Kind: wool, Share: 0.75, StapleMM: 100}, {Kind: flax, Share: 0.25, StapleMM: 120}})
	assert.InDelta(t, 1/(0.75/1.31+0.25/1.5), k.Density, 1e-12)
	assert.InDelta(t, 1.353, k.Density, 1e-3)
	assert.InDelta(t, 105, k.StapleMM.Mid(), 1e-9)
	assert.Equal(t, "wool", k.Family)
	assert.Equal(t, wool.Crimp, k.Crimp)
	assert.InDelta(t, 0.75*wool.LossPct.Mid()+0.25*flax.LossPct.Mid(), k.LossPct.Mid(), 1e-9)
	require.NoError(t, k.Check())
}

// A gram of a blend covers as much as its portions together, so that a blend of blends is
// predicted as all of it mixed at once; one fibre alone stays what it is.
func TestTogetherKeepsTheCover(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		all := Kinds()
		list := make([]Portion, rapid.IntRange(1, 5).Draw(t, "n"))
		var sum float64
		for i := range list {
			list[i] = Portion{Kind: all[rapid.IntRange(0, len(all)-1).Draw(t, "kind")], Share: rapid.Float64Range(0.05, 1).Draw(t, "share")}
			sum += list[i].Share
		}
		var cover float64
		for i := range list {
			list[i].Share /= sum
			cover += list[i].Share / list[i].Thickness()
		}
		k := Together("x", list)
		if k.Family == "sparkle" {
			return // of film the width is kept
		}
		require.InEpsilon(t, 1/cover, k.Thickness(), 1e-9)
		require.Greater(t, k.DiameterUM.Low, 0.0)
		if len(list) == 1 {
			require.InDelta(t, list[0].Density, k.Density, 1e-9)
			require.InDelta(t, list[0].DiameterUM.Mid(), k.DiameterUM.Mid(), 1e-9)
		}
	})
}
