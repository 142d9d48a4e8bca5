package studio

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/studio/recipe"
)

func contextOf(t require.TestingT) context.Context {
	if c, ok := t.(interface{ Context() context.Context }); ok {
		return c.Context()
	}
	return context.Background()
}

// The weigh list of several blends adds up in both directions, to what the
// weigh-outs say; what is short is what all of them together take.
func TestTheWeighListAddsUp(t *testing.T) {
	s, lots, _ := shelfOf(t)
	few(t, 25)
	rapid.Check(t, func(t *rapid.T) {
		ctx := t.Context()
		m, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "m"})
		require.NoError(t, err)
		for range rapid.IntRange(1, 4).Draw(t, "blends") {
			in := recipe.BlendInput{Name: "b", TotalG: float64(rapid.IntRange(10, 150).Draw(t, "total")), Passes: 2}
			for _, i := range rapid.SliceOfNDistinct(rapid.IntRange(0, len(lots)-1), 1, 4, rapid.ID[int]).Draw(t, "lots") {
				in.Components = append(in.Components, recipe.BlendComponent{LotID: &lots[i].ID, Parts: float64(rapid.IntRange(1, 5).Draw(t, "parts"))})
			}
			_, err := s.Recipe.CreateBlend(ctx, m.ID, in)
			require.NoError(t, err)
		}
		list, err := s.Scale.WeighOutAll(ctx, m.ID, nil)
		require.NoError(t, err)
		assert.Empty(t, list.Unplanned)
		var across, down, cells float64
		for _, f := range list.Fibres {
			var sum float64
			require.Len(t, f.Grams, len(list.Columns))
			for _, v := range f.Grams {
				sum += v
			}
			assert.InDelta(t, f.TotalG, sum, 1e-6)
			assert.InDelta(t, max(0, f.TotalG-*f.HaveG), f.ShortG, 1e-6)
			across += f.TotalG
			cells += sum
		}
		for i, c := range list.Columns {
			var sum float64
			for _, f := range list.Fibres {
				sum += f.Grams[i]
			}
			assert.InDelta(t, c.TotalG, sum, 1e-6)
			down += c.TotalG
		}
		assert.InDelta(t, list.TotalG, across, 1e-6)
		assert.InDelta(t, list.TotalG, down, 1e-6)
		again, err := s.Scale.WeighOutAll(ctx, m.ID, nil)
		require.NoError(t, err)
		assert.Equal(t, list, again, "planned once")
	})
}
