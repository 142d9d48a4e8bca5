package studio

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/advice"
	"fairtangle/core/layup"
)

// stopsOf counts what says stop, wherever it is spoken of.
func stopsOf(t require.TestingT, s *Studio, blend, laid int64) (n int) {
	list, err := s.LookFrom(contextOf(t), LookWhere{Blend: blend, Layup: laid})
	require.NoError(t, err)
	for _, f := range list[0].Findings {
		if f.Severity == advice.Stop {
			n++
		}
	}
	return n
}

// Of any blend in any lay-up, pressed from any place: the finding is gone where it was pressed, there are never more stops
// anywhere than before, shares add up, what is locked has not moved, a lay-up in which all lay has all laid again, and
// taking it back brings back what was there.
func TestAnyMendThatIsPressed(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := t.Context()
	equipment, err := s.Equipment(ctx)
	require.NoError(t, err)
	drums := slices.DeleteFunc(equipment, func(e Equipment) bool { return e.Type == "hands" })
	kinds := []string{"viscose", "corriedale", "neps_wool", "silk_tussah", "cotton_upland", "merino", "film_metallised", "romney", "lincoln"}
	pressed, refused := map[string]int{}, 0
	rapid.Check(t, func(t *rapid.T) {
		var list []BlendComponent
		for i := range rapid.IntRange(2, 5).Draw(t, "n") {
			c := BlendComponent{
				Name: fmt.Sprint("fibre ", i), Kind: rapid.SampledFrom(kinds).Draw(t, "kind"), Preparation: rapid.SampledFrom([]string{"carded_sliver", "locks"}).Draw(t, "prep"),
				Hex: rapid.SampledFrom([]string{"#f2f0ea", "#203050", "#a04020"}).Draw(t, "hex"), Parts: float64(rapid.IntRange(1, 60).Draw(t, "parts")),
				Locked: rapid.IntRange(0, 4).Draw(t, "locked") == 0,
			}
			if i == 0 && rapid.Bool().Draw(t, "lot") {
				c = BlendComponent{LotID: &lots[rapid.IntRange(0, len(lots)-1).Draw(t, "which")].ID, Parts: c.Parts}
			}
			list = append(list, c)
		}
		b, err := s.CreateBlend(ctx, m.ID, BlendInput{
			Name: "any", TotalG: float64(rapid.IntRange(20, 240).Draw(t, "grams")), Passes: rapid.IntRange(1, 5).Draw(t, "passes"), Components: list,
		})
		require.NoError(t, err)
		e := rapid.SampledFrom(drums).Draw(t, "equipment")
		laid := int64(0)
		builder := rapid.SampledFrom([]layup.Builder{"", layup.Sandwich, layup.Lanes}).Draw(t, "builder")
		if builder != "" {
			in, err := s.built(ctx, b, e.ID, rapid.IntRange(1, 4).Draw(t, "units"), "any", BuildInput{Builder: builder})
			if err == nil {
				l, err := s.CreateLayup(ctx, b.ID, in)
				require.NoError(t, err)
				laid = l.ID
			}
		}
		at := LookWhere{Place: rapid.SampledFrom(advice.Places()).Draw(t, "place"), Blend: b.ID, Layup: laid}
		for range 6 {
			looks, err := s.LookFrom(ctx, at)
			require.NoError(t, err)
			look := looks[0]
			can := slices.DeleteFunc(slices.Clone(look.Findings), func(f advice.Finding) bool { return f.Mend == nil || look.Mends(f.Mend) == "" })
			if len(can) == 0 {
				break
			}
			f := rapid.SampledFrom(can).Draw(t, "finding")
			before := stopsOf(t, s, b.ID, laid)
			was, err := s.Blend(ctx, b.ID)
			require.NoError(t, err)
			taken, err := s.TakeMend(ctx, at, f.Rule, f.Component, f.Layer)
			if err != nil {
				require.ErrorContains(t, err, "In the steps of your scale", "%s: %s", f.Rule, f.What)
				refused++
				continue
			}
			pressed[f.Rule]++
			now, err := s.LookFrom(ctx, at)
			require.NoError(t, err)
			for _, o := range now[0].Findings {
				require.False(t, o.Rule == f.Rule && o.Component == f.Component && o.Layer == f.Layer, "%s is there still after %s: %s", o.What, taken.Kind, f.Mend.Preview)
			}
			require.LessOrEqual(t, stopsOf(t, s, b.ID, laid), before, "%s: %s", f.Rule, f.Mend.Preview)
			is, err := s.Blend(ctx, b.ID)
			require.NoError(t, err)
			sum := 0.0
			for i, c := range is.Components {
				sum += c.Share
				if c.Locked {
					require.InDelta(t, was.Components[i].Share, c.Share, 1e-9, "%s moved what is locked", f.Rule)
				}
			}
			require.InDelta(t, 1, sum, 1e-9)
			for _, v := range taken.Followed {
				l, err := s.Layup(ctx, v.ID)
				require.NoError(t, err)
				for _, left := range l.Loads.UnplacedG {
					require.InDelta(t, 0, left, layup.OverplacedG, f.Rule)
				}
			}
			if rapid.IntRange(0, 3).Draw(t, "back") == 0 {
				require.NoError(t, s.UndoMend(ctx, taken))
				back, err := s.Blend(ctx, b.ID)
				require.NoError(t, err)
				require.Equal(t, was.Input(), back.Input())
			}
		}
	})
	t.Logf("pressed: %v; refused with a reason: %d", pressed, refused)
	for _, n := range pressed {
		refused -= n
	}
	require.Negative(t, refused, "nearly all of them are taken")
}
