package blend

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func drawIngredients(t *rapid.T, made [][]Content) []Ingredient {
	list := make([]Ingredient, rapid.IntRange(1, 6).Draw(t, "n"))
	for i := range list {
		lot := rapid.Int64Range(1, 5).Draw(t, "lot")
		list[i] = Ingredient{Content: Content{Lot: lot, Name: fmt.Sprint("lot ", lot), Kind: "merino"}, Grams: rapid.Float64Range(0.1, 80).Draw(t, "grams")}
		if len(made) > 0 && rapid.Bool().Draw(t, "made") {
			list[i].Lot, list[i].Name, list[i].Of = 100, "a batt", made[rapid.IntRange(0, len(made)-1).Draw(t, "which")]
		}
	}
	return list
}

func share(list []Content, lot int64) (sum float64) {
	for _, c := range list {
		if c.Lot == lot {
			sum += c.Share
		}
	}
	return sum
}

// Through blends of blends of any depth the shares add up to 1, and each fibre keeps its
// grams: those of what it came with, times its share in that.
func TestContentsKeepEveryGram(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var made [][]Content
		for range rapid.IntRange(1, 5).Draw(t, "depth") {
			list := drawIngredients(t, made)
			out := Contents(list)
			var all, shares float64
			for _, v := range list {
				all += v.Grams
			}
			for i, c := range out {
				shares += c.Share
				require.NotEqual(t, int64(100), c.Lot, "nothing that was made is left in it")
				require.True(t, i == 0 || out[i-1].Share >= c.Share, "the most first")
			}
			require.InDelta(t, 1, shares, 1e-9)
			for lot := int64(1); lot <= 5; lot++ {
				var grams float64
				for _, v := range list {
					if len(v.Of) > 0 {
						grams += v.Grams * share(v.Of, lot)
					} else if v.Lot == lot {
						grams += v.Grams
					}
				}
				require.InDelta(t, grams, all*share(out, lot), 1e-9)
			}
			made = append(made, out)
		}
	})
}

// 60 g of two blacks, half and half, and 20 g of white: 37.5, 37.5 and 25 %.
func TestContentsByHand(t *testing.T) {
	black := Contents([]Ingredient{{Content: Content{Lot: 1, Name: "black"}, Grams: 30}, {Content: Content{Lot: 2, Name: "brown black"}, Grams: 30}})
	out := Contents([]Ingredient{{Content: Content{Lot: 9, Name: "base"}, Grams: 60, Of: black}, {Content: Content{Lot: 3, Name: "white"}, Grams: 20}})
	require.Len(t, out, 3)
	assert.InDeltaSlice(t, []float64{0.375, 0.375, 0.25}, []float64{out[0].Share, out[1].Share, out[2].Share}, 1e-12)
	none := Contents([]Ingredient{{Content: Content{Lot: 1, Name: "black"}, Grams: 30}, {Content: Content{Lot: 2, Name: "gone"}}})
	require.Len(t, none, 1, "what there is none of is not in it")
	assert.Empty(t, Contents(nil))
	assert.Empty(t, Contents([]Ingredient{{}}))
}
