package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/fibre"
	"fairtangle/core/given"
	"fairtangle/studio/reach"
)

// Whatever recipe comes: what is made of it weighs what was asked for, holds each share or as much as stands in for it, and shares that
// are found anew are told where they come nearer, and come out as they were told.
func TestARecipeBecomesABlendOfThisShelf(t *testing.T) {
	s, _, _ := shelfOf(t)
	kinds := fibre.Kinds()
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 6).Draw(t, "fibres")
		r := given.Recipe{Format: given.Format, Version: 1, Name: "given", TotalG: 50, Passes: 2, Colour: rapid.StringMatching(`#[0-9a-f]{6}`).Draw(t, "colour")}
		sum := 0.0
		for range n {
			part := rapid.Float64Range(0.2, 3).Draw(t, "part")
			r.Components = append(r.Components, given.Component{Name: "fibre", Kind: kinds[rapid.IntRange(0, len(kinds)-1).Draw(t, "kind")].Key,
				Preparation: "combed_top", Colour: rapid.StringMatching(`#[0-9a-f]{6}`).Draw(t, "hex"), Share: part})
			sum += part
		}
		for i := range r.Components {
			r.Components[i].Share /= sum
		}
		q := reach.Taking{Recipe: r, TotalG: rapid.Float64Range(5, 200).Draw(t, "grams"), Anew: rapid.Bool().Draw(t, "anew")}
		seen, err := reach.GivenTo(t.Context(), s.Reach, q)
		require.NoError(t, err)
		total := 0.0
		for _, p := range seen.Parts {
			total += p.Grams
		}
		assert.InDelta(t, q.TotalG, total, 0.05+1e-6)
		if seen.Anew != "" {
			assert.Less(t, seen.AnewDE, seen.HereDE)
		}
		b, err := reach.TakeGiven(t.Context(), s.Reach, 0, q)
		require.NoError(t, err)
		shares := 0.0
		for _, c := range b.Components {
			shares += c.Share
		}
		assert.InDelta(t, 1, shares, 1e-9)
		assert.InDelta(t, q.TotalG, b.TotalG, 0.001)
		shown := seen.HereDE
		if q.Anew && seen.Anew != "" {
			shown = seen.AnewDE
		}
		assert.InDelta(t, shown, b.Target.DeltaE, 1e-6, "as it was shown")
	})
}
