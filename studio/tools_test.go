package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/layup"
	"fairtangle/studio/floor"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/workshop"
)

// A tool of the workshop stands at its step with its own minutes, and takes part in the day; two windows do not overwrite each other.
func TestToolsOfTheWorkshop(t *testing.T) {
	s, lots, m := shelfOf(t)
	for field, v := range map[string]workshop.Tool{
		"name": {Kind: layup.ToolPicker, Minutes: 5}, "kind": {Name: "x", Kind: layup.ToolOil, Minutes: 5}, "minutes": {Name: "x", Kind: layup.ToolPicker},
		"loss_pct": {Name: "x", Kind: layup.ToolPicker, Minutes: 5, LossPct: 95},
	} {
		_, err := s.Workshop.Rack.Save(t.Context(), v)
		assert.ErrorContains(t, err, field)
	}
	own, err := s.Workshop.Rack.Save(t.Context(), workshop.Tool{Name: "swing picker", Kind: layup.ToolPicker, Minutes: 3, LossPct: 6, Cleaning: "clear the bed"})
	require.NoError(t, err)
	own.Minutes = 4
	_, err = s.Workshop.Rack.Save(t.Context(), own)
	require.NoError(t, err)
	_, err = s.Workshop.Rack.Save(t.Context(), own)
	assert.True(t, floor.IsStale(err))
	b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: "b", TotalG: 50, Passes: 1, Components: []recipe.BlendComponent{{LotID: &lots[0].ID, Parts: 1}}})
	require.NoError(t, err)
	e, err := s.Workshop.Equipment(t.Context())
	require.NoError(t, err)
	l, err := s.Laying.BuildOnto(t.Context(), b.ID, e[0].ID, 1, "", laying.BuildInput{Builder: layup.Depth})
	require.NoError(t, err)
	for _, key := range []string{"picker", "oil"} {
		l, err = s.Laying.ChangeLayup(t.Context(), l.ID, l.Version, laying.LayupChange{Verb: "before", Text: key, Times: 1})
		require.NoError(t, err)
	}
	l, err = s.Laying.ChangeLayup(t.Context(), l.ID, l.Version, laying.LayupChange{Verb: "after", Text: "hand-cards", Times: 1})
	require.NoError(t, err)
	l, err = s.Laying.Layup(t.Context(), l.ID)
	require.NoError(t, err)
	assert.Equal(t, []layup.Tool{layup.ToolPicker, layup.ToolOil}, l.LaidPlan.Before)
	assert.InDelta(t, 4*0.5+layup.ToolOil.Minutes(50)+layup.ToolCards.Minutes(50), workshop.ToolMinutes(l.Tools, l.LaidPlan, 50), 1e-9)
	var actions []layup.Action
	for _, v := range l.Steps {
		actions = append(actions, v.Action)
	}
	assert.Equal(t, []layup.Action{layup.Ready, layup.First, layup.First}, actions[:3])
	assert.Equal(t, []layup.Action{layup.Then, layup.Clean}, actions[len(actions)-2:])
	again, err := s.Laying.ChangeLayup(t.Context(), l.ID, l.Version, laying.LayupChange{Verb: "build", Build: &laying.BuildInput{Builder: layup.Sandwich}})
	require.NoError(t, err)
	assert.Equal(t, l.LaidPlan.Before, again.LaidPlan.Before, "laid anew, the tools stay")
	l = again
	_, err = s.Laying.ChangeLayup(t.Context(), l.ID, l.Version, laying.LayupChange{Verb: "after", Text: "picker", Times: 1})
	assert.Error(t, err)
}
