package studio

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/advice"
	"fairtangle/core/layup"
	"fairtangle/studio/advising"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
)

// builders choose what these rules look at: what lies first and last, by which method, how wide, at which pass it joins, and
// that all of it lies there.
var builtRules = []string{"R19", "R20", "R24", "R25", "R27", "R28", "R29", "R30", "R37", "L01", "L02", "L05", "L09", "L10", "L12"}

// Whatever the blend, no builder is found fault with by the second look for what it chose itself, on a drum, a board, cards
// or by hand, as long as there is wool to carry the rest.
func TestNoBuilderIsToldOffForWhatItChose(t *testing.T) {
	s, _, m := shelfOf(t)
	ctx := t.Context()
	equipment, err := s.Workshop.Equipment(ctx)
	require.NoError(t, err)
	kinds := []string{"corriedale", "romney", "merino", "lincoln", "silk_tussah", "viscose", "mohair_kid", "nylon_trilobal", "neps_wool", "film_metallised"}
	built := map[string]int{}
	rapid.Check(t, func(t *rapid.T) {
		list := []recipe.BlendComponent{{
			Name: "the wool", Kind: rapid.SampledFrom(kinds[:2]).Draw(t, "wool"), Preparation: "carded_sliver", Hex: "#d8d0c0",
			Parts: float64(rapid.IntRange(40, 90).Draw(t, "much")),
		}}
		for i := range rapid.IntRange(1, 4).Draw(t, "n") {
			list = append(list, recipe.BlendComponent{
				Name: fmt.Sprint("fibre ", i), Kind: rapid.SampledFrom(kinds).Draw(t, "kind"), Preparation: "combed_top",
				Hex: rapid.SampledFrom([]string{"#f2f0ea", "#203050", "#a04020"}).Draw(t, "hex"), Parts: float64(rapid.IntRange(2, 20).Draw(t, "parts")),
			})
		}
		b, err := s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{
			Name: "any", TotalG: float64(rapid.IntRange(40, 160).Draw(t, "grams")), Passes: rapid.IntRange(1, 3).Draw(t, "passes"), Components: list,
		})
		require.NoError(t, err)
		e := rapid.SampledFrom(equipment).Draw(t, "on")
		builder := rapid.SampledFrom(layup.Builders()).Draw(t, "builder")
		l, err := s.Laying.BuildOnto(ctx, b.ID, e.ID, 4, "any", laying.BuildInput{Builder: builder})
		if err != nil {
			return // that builder is not for this equipment
		}
		built[e.Type]++
		looks, err := s.Advising.LookFrom(ctx, advising.LookWhere{Place: advice.AtLayup, Blend: b.ID, Layup: l.ID})
		require.NoError(t, err)
		for _, f := range looks[0].Findings {
			if f.Severity != advice.Hint && slices.Contains(builtRules, f.Rule) {
				t.Fatalf("%s on %s: %s %s", builder, e.Name, f.Rule, f.What)
			}
		}
	})
	require.Greater(t, len(built), 1, "kinds of equipment that something was built on")
}
