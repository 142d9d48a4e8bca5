package studio

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/carding"
	"fairtangle/core/yarn"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/yarns"
)

// A painted top is followed in each of its colours: carded once they are seen, and in the yarn; carded again and again they end at
// the even mix that stirred fibre of the same colours has from the first. What is said of fibres is of fibres.
func TestAPaintedTopIsNoBrown(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := t.Context()
	colours := []shelf.LotColour{{Hex: "#33586b", Share: 0.4, Source: "value"}, {Hex: "#d6b36a", Share: 0.35, Source: "value"}, {Hex: "#a2473f", Share: 0.25, Source: "value"}}
	two, err := s.Shelf.CreateLots(ctx, []shelf.NewLot{
		{LotInput: shelf.LotInput{Name: "painted", Kind: "merino", Preparation: "combed_top", Colours: colours}, Grams: 200},
		{LotInput: shelf.LotInput{Name: "stirred", Kind: "merino", Preparation: "batt", Colours: colours}, Grams: 200},
	}, "")
	require.NoError(t, err)
	foretold := func(lot int64) (*laying.Foretelling, []carding.Stage, yarns.Yarn) {
		b, err := s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: "b", TotalG: 40, Passes: 1, Components: []recipe.BlendComponent{
			{LotID: &lot, Parts: 3}, {LotID: &lots[0].ID, Parts: 1},
		}})
		require.NoError(t, err)
		l, err := s.Laying.BuildOnto(ctx, b.ID, drumOf(t, s), 1, "l", laying.BuildInput{Builder: "depth"})
		require.NoError(t, err)
		f, err := s.Laying.Foretell(ctx, l.ID, laying.Division{})
		require.NoError(t, err)
		stages, err := s.Laying.Stages(ctx, f, true)
		require.NoError(t, err)
		y, err := s.Yarns.YarnOf(ctx, l.ID)
		require.NoError(t, err)
		return f, stages, y
	}
	f, painted, y := foretold(two[0].ID)
	g, stirred, _ := foretold(two[1].ID)
	assert.Len(t, painted[0].Grams, 4)
	assert.Len(t, stirred[0].Grams, 2)
	assert.Greater(t, painted[0].Patch, stirred[0].Patch+3, "its colours are seen")
	assert.Less(t, painted[3].Patch, painted[0].Patch, "and mix, pass by pass")
	whole := f.OfFibres(painted[0])
	require.Len(t, whole.Grams, 2)
	assert.InDelta(t, g.OfFibres(stirred[0]).Grams[0], whole.Grams[0], 0.1, "as much of the fibre")
	assert.InDelta(t, painted[0].TotalG(), whole.TotalG(), 1e-9)
	assert.Len(t, painted[0].Irregular.Section, 2)
	for i, share := range []float64{0.4, 0.35, 0.25} {
		assert.InDelta(t, share, painted[0].Grams[i]/whole.Grams[0], 0.09, "but for the run that a lay ends in")
	}
	assert.NotEqual(t, "even", y.Pattern)
	for _, r := range y.Runs {
		assert.Len(t, r.Shares, 2)
	}
	assert.True(t, slices.Contains(yarn.Plies, y.Ply))
}
