package studio

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
)

var bought = recipe.BlendComponent{Name: "x", Kind: "romney", Preparation: "combed_top", Hex: "#8899aa", Parts: 1}

// Any run of changes leaves a recipe whose shares add up to 1, whose grams add
// up to the total, whose locks held, and that can be kept; what is refused is
// refused with a field and a sentence.
func TestAnyRunOfChanges(t *testing.T) {
	s, _ := open(t)
	ctx := context.Background()
	rapid.Check(t, func(t *rapid.T) {
		in := recipe.BlendInput{Name: "x", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{bought, bought, bought}}
		for range rapid.IntRange(1, 12).Draw(t, "steps") {
			before, err := s.Recipe.WorkOut(ctx, in)
			require.NoError(t, err)
			c := recipe.Change{
				Verb: rapid.SampledFrom([]string{"share", "slide", "parts", "grams", "lock", "unlock", "add", "remove", "remove-shrink", "even"}).
					Draw(t, "verb"),
				At:        rapid.IntRange(0, 4).Draw(t, "at"),
				Value:     rapid.Float64Range(-0.1, 1.2).Draw(t, "value"),
				Component: &bought,
			}
			b, err := s.Recipe.Apply(ctx, in, c)
			if err != nil {
				l, ok := fault.From(err)
				require.True(t, ok, "%v", err)
				assert.NotEmpty(t, l[0].Message)
				continue
			}
			var shares, grams float64
			for i, v := range b.Components {
				shares += v.Share
				grams += v.Grams
				moved := c.Verb == "remove" || c.Verb == "remove-shrink" || (i == c.At && c.Verb != "add" && c.Verb != "even")
				if !moved && v.Locked && before.Components[i].Locked {
					assert.InDelta(t, before.Components[i].Share, v.Share, 1e-9, c.Verb)
				}
			}
			if len(b.Components) > 0 {
				assert.InDelta(t, 1, shares, 1e-9)
				assert.InDelta(t, b.TotalG, grams, 1e-6)
			}
			if len(b.Components) == 0 || b.TotalG < 0.01 {
				return
			}
			in = b.Input()
		}
	})
}

func TestWrongRecipesNameTheField(t *testing.T) {
	s, _ := open(t)
	good := func() recipe.BlendInput {
		return recipe.BlendInput{Name: "x", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{bought}}
	}
	tests := map[string]func(*recipe.BlendInput){
		"name":                      func(b *recipe.BlendInput) { b.Name = " " },
		"total_g":                   func(b *recipe.BlendInput) { b.TotalG = 0 },
		"passes":                    func(b *recipe.BlendInput) { b.Passes = 99 },
		"target":                    func(b *recipe.BlendInput) { b.Target = "blue" },
		"components[0].parts":       func(b *recipe.BlendInput) { b.Components[0].Parts = -1 },
		"components[0].kind":        func(b *recipe.BlendInput) { b.Components[0].Kind = "stone" },
		"components[0].preparation": func(b *recipe.BlendInput) { b.Components[0].Preparation = "boiled" },
		"components[0].hex":         func(b *recipe.BlendInput) { b.Components[0].Hex = "" },
		"components[0].name":        func(b *recipe.BlendInput) { b.Components[0].Name = "" },
	}
	for field, spoil := range tests {
		in := good()
		spoil(&in)
		_, err := s.Recipe.WorkOut(context.Background(), in)
		l, ok := fault.From(err)
		require.True(t, ok, field)
		assert.Equal(t, field, l[0].Field)
	}
}

// Two windows on a blend: the second is refused with the first one's state.
func TestSecondWindowIsRefused(t *testing.T) {
	s, _ := open(t)
	ctx := context.Background()
	m, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "m"})
	require.NoError(t, err)
	b, err := s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: "b", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{bought}})
	require.NoError(t, err)
	in := b.Input()
	in.TotalG = 70
	_, err = s.Recipe.SaveBlend(ctx, b.ID, b.Version, in, "")
	require.NoError(t, err)
	in.TotalG = 80
	_, err = s.Recipe.SaveBlend(ctx, b.ID, b.Version, in, "")
	var stale store.Stale
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, 70.0, stale.Current.(recipe.Blend).TotalG)
}

// A copy has the blends and none of the weighing; the first is left as it was.
func TestCopyOfAMaking(t *testing.T) {
	s, _ := open(t)
	ctx := context.Background()
	m, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "Throw", Note: "six panels"})
	require.NoError(t, err)
	b, err := s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: "b", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{bought, bought}})
	require.NoError(t, err)
	_, err = s.Scale.CreateWeighout(ctx, b.ID, scale.WeighoutInput{Units: 1, FinishedG: 60, Passes: 2, StepG: 0.1})
	require.NoError(t, err)
	copied, err := s.Recipe.CopyMaking(ctx, m.ID)
	require.NoError(t, err)
	assert.Equal(t, "Throw, copy", copied.Name)
	assert.Equal(t, "six panels", copied.Note)
	blends, err := s.Recipe.BlendsOf(ctx, copied.ID)
	require.NoError(t, err)
	require.Len(t, blends, 1)
	assert.NotEqual(t, b.ID, blends[0].ID)
	assert.Equal(t, b.Input(), blends[0].Input())
	weighs, err := s.Recipe.WeighoutsOf(ctx, blends[0].ID)
	require.NoError(t, err)
	assert.Empty(t, weighs)
}

// Over-weighed by hand: 12.9 g of a planned 12 (60 % of 20 g), no losses.
func TestOptionsShowTheirEffect(t *testing.T) {
	s, _ := open(t)
	ctx := context.Background()
	blue, white := shelve(t, s, "blue", "#26324a", 100), shelve(t, s, "white", "#f1ece1", 8.2)
	m, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "m"})
	require.NoError(t, err)
	b, err := s.Recipe.CreateBlend(
		ctx,
		m.ID,
		recipe.BlendInput{Name: "b", TotalG: 20, Components: []recipe.BlendComponent{{LotID: &blue.ID, Parts: 60}, {LotID: &white.ID, Parts: 40}}},
	)
	require.NoError(t, err)
	w, err := s.Scale.CreateWeighout(ctx, b.ID, scale.WeighoutInput{Units: 1, FinishedG: 20, StepG: 0.1})
	require.NoError(t, err)
	got, err := s.Scale.Consider(ctx, w.ID, scale.Reading{Unit: 0, Component: 0, Grams: 12.9})
	require.NoError(t, err)
	assert.Equal(t, "over", got.Verdict)
	assert.InDelta(t, 0.9, got.OffG, 1e-9)
	shares, total, asIs := got.Options[0], got.Options[1], got.Options[2]
	assert.InDeltaSlice(t, []float64{12.9, 8.6}, shares.ToWeighG, 1e-9)
	assert.InDelta(t, 0, shares.DeltaE, 1e-6)
	require.Len(t, shares.Short, 1)
	assert.Equal(t, "white", shares.Short[0].Name)
	assert.InDelta(t, 0.4, shares.Short[0].Grams, 1e-9)
	assert.InDeltaSlice(t, []float64{12.9, 7.1}, total.ToWeighG, 1e-9)
	assert.InDelta(t, 0.045, total.WorstShare, 1e-9)
	assert.Greater(t, total.DeltaE, 1.0)
	assert.InDeltaSlice(t, []float64{12.9, 8}, asIs.ToWeighG, 1e-9)
	under, err := s.Scale.Consider(ctx, w.ID, scale.Reading{Unit: 0, Component: 0, Grams: 11})
	require.NoError(t, err)
	assert.Equal(t, "under", under.Verdict)
	fine, err := s.Scale.Consider(ctx, w.ID, scale.Reading{Unit: 0, Component: 0, Grams: 12.1})
	require.NoError(t, err)
	assert.Equal(t, "fine", fine.Verdict)
}
