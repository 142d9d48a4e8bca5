package studio

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/advice"
	"fairtangle/studio/advising"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
)

// A blend whose colour was recorded was carded: nobody says of it that no sample was.
func TestARecordedColourIsASample(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := t.Context()
	b, err := s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: "three", TotalG: 180, Passes: 2, Components: []recipe.BlendComponent{
		{LotID: &lots[0].ID, Parts: 1}, {LotID: &lots[1].ID, Parts: 1}, {Name: "white", Kind: "romney", Preparation: "combed_top", Hex: "#f0f0f0", Parts: 1},
	}})
	require.NoError(t, err)
	unsampled := func() bool {
		looks, err := s.Advising.LookFrom(ctx, advising.LookWhere{Blend: b.ID})
		require.NoError(t, err)
		return slices.ContainsFunc(looks[0].Findings, func(f advice.Finding) bool { return f.Rule == "R46" })
	}
	assert.True(t, unsampled())
	hex := "#8a9096"
	require.NoError(t, s.Reach.AddSample(ctx, reach.SampleInput{Name: "as it came", BlendID: &b.ID, Measured: workshop.ColourInput{Hex: &hex}, Source: "reader"}))
	assert.False(t, unsampled())
}
