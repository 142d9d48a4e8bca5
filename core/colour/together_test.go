package colour

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Whatever lies on the table: a set has three to six lots, none twice, none of which there is next to nothing, each where its scheme
// has it; the same table gives the same sets.
func TestSetsLieWhereTheirSchemeHasThem(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		list := make([]Lain, rapid.IntRange(0, 60).Draw(t, "lots"))
		for i := range list {
			c, err := ParseHex(rapid.StringMatching(`#[0-9a-f]{6}`).Draw(t, "hex"))
			require.NoError(t, err)
			list[i] = Lain{c, rapid.Float64Range(0, 300).Draw(t, "grams")}
		}
		sets := Sets(list, 5)
		require.Equal(t, sets, Sets(list, 5))
		require.LessOrEqual(t, len(sets), 5)
		for _, s := range sets {
			seen := map[int]bool{}
			require.GreaterOrEqual(t, len(s.Lots), leastSet)
			require.LessOrEqual(t, len(s.Lots), mostInSet)
			least := math.Inf(1)
			_, _, first := list[s.Lots[0]].Colour.OKLCH()
			for k, i := range s.Lots {
				require.False(t, seen[i])
				seen[i] = true
				least = math.Min(least, list[i].Grams)
				_, chroma, hue := list[i].Colour.OKLCH()
				if k > 0 && k <= len(schemes[s.Scheme]) {
					require.LessOrEqual(t, apart(hue, first+schemes[s.Scheme][k-1]), UsualWheelWidth/2.0+1e-9)
				} else if k > 0 {
					require.Less(t, chroma, HueFrom, "the calm one")
				}
			}
			require.InDelta(t, least, s.Least, 1e-9)
			require.GreaterOrEqual(t, least, plentiful)
		}
	})
}

func TestSetsByHand(t *testing.T) {
	var list []Lain
	for i, hex := range []string{"#b5533a", "#3a7bb5", "#3a8f86", "#c8c4bc", "#c99a2f", "#6b5fae"} {
		c, err := ParseHex(hex)
		require.NoError(t, err)
		list = append(list, Lain{c, float64(100 - 10*i)})
	}
	sets := Sets(list, 4)
	require.NotEmpty(t, sets)
	for _, s := range sets {
		assert.Contains(t, s.Lots, 3, "grey calms each")
	}
	assert.Empty(t, Sets(nil, 4))
	assert.InDelta(t, 20, apart(350, 10), 1e-9)
	assert.InDelta(t, 180, apart(0, 540), 1e-9)
}

func BenchmarkSets(b *testing.B) {
	list := make([]Lain, 5000)
	for i := range list {
		list[i] = Lain{Linear{float64(i%17) / 17, float64(i%23) / 23, float64(i%29) / 29}, float64(i % 300)}
	}
	for b.Loop() {
		Sets(list, 5)
	}
}
