package layup

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestHalfTheFirstLayerGrips lays grippy wool and a smooth one side by side first: from
// half of it on that is enough, and a little slippery fibre is too much.
func TestHalfTheFirstLayerGrips(t *testing.T) {
	grippy, smooth, slippery := wool("grippy", 20), wool("smooth", 20), wool("slippery", 20)
	smooth.Cohesion, slippery.Cohesion = "smooth", "slippery"
	finds := func(other Fibre, own float64) []string {
		fibres := []Fibre{grippy, other}
		p := Plan{Draft: DefaultDraft, Layers: []Layer{
			{Lays: []Lay{{Component: 0, To: 0.5, End: 1, Grams: own, Method: Feed}, {Component: 1, From: 0.5, To: 1, End: 1, Grams: 10 - own, Method: Feed}}},
			{Lays: []Lay{{Component: 0, To: 1, End: 1, Grams: 20 - own, Method: Feed}}},
			{Lays: []Lay{{Component: 1, To: 1, End: 1, Grams: 10 + own, Method: Feed}}},
		}}
		return keys(p.Survey(standardDrum, fibres, 1, nil).Findings)
	}
	assert.NotContains(t, finds(smooth, 5), "base_layer", "half is enough")
	assert.Contains(t, finds(smooth, 4.5), "base_layer")
	assert.Contains(t, finds(slippery, 9), "base_layer")
}

// TestATenthIsAMainFibre counts rolags by the longest fibre of which there is a tenth.
func TestATenthIsAMainFibre(t *testing.T) {
	board := Bed{Type: Board, WidthMM: 300, LengthMM: 300, Smooth: 40, Lofty: 26}
	short, long := wool("short", 90), wool("long", 10)
	short.StapleMM, long.StapleMM = 50, 150
	assert.Equal(t, 2, SuggestRolags(board, 1.75, []Fibre{short, long}), "300 · 1.75 / (1.75 · 150)")
	long.Grams = 9.5
	assert.Equal(t, 6, SuggestRolags(board, 1.75, []Fibre{short, long}), "300 · 1.75 / (1.75 · 50)")
}
