package studio

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/advice"
	"fairtangle/core/layup"
	"fairtangle/core/yarn"
	"fairtangle/studio/advising"
	"fairtangle/studio/carder"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/yarns"
)

// What stands at more than one stop of a making is the same at each of them: units, fill, rolags, strips, what is weighed in, what
// comes off, what is short, and how grave a finding is.
func TestWhatStandsTwiceIsTheSame(t *testing.T) {
	s, lots, _ := shelfOf(t)
	ctx := t.Context()
	equipment, err := s.Workshop.Equipment(ctx)
	require.NoError(t, err)
	matters := layup.Matters()
	rapid.Check(t, func(t *rapid.T) {
		schools := map[string]string{}
		for _, v := range matters {
			schools[v.Key] = rapid.SampledFrom(v.Schools).Draw(t, v.Key).Key
		}
		in := recipe.BlendInput{Name: "any", TotalG: float64(rapid.IntRange(20, 300).Draw(t, "grams")), Passes: rapid.IntRange(1, 3).Draw(t, "passes")}
		for i := range lots {
			if i == 0 || rapid.Bool().Draw(t, "in") {
				in.Components = append(in.Components, recipe.BlendComponent{LotID: &lots[i].ID, Parts: float64(rapid.IntRange(1, 20).Draw(t, "parts"))})
			}
		}
		m, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "any", Schools: schools})
		require.NoError(t, err)
		b, err := s.Recipe.CreateBlend(ctx, m.ID, in)
		require.NoError(t, err)
		e := rapid.SampledFrom(equipment).Draw(t, "on")
		choices, err := s.Laying.ChooseEquipment(ctx, b.ID)
		require.NoError(t, err)
		choice := choices[slices.IndexFunc(choices, func(c laying.EquipmentChoice) bool { return c.EquipmentID == e.ID })]
		if choice.Units > 40 {
			return
		}
		n, err := s.Yarns.StartNeed(ctx, m.ID, yarns.NeedPlan{Way: "batts", Count: 1, Each: b.TotalG})
		require.NoError(t, err)
		of := func(n yarns.Need) int {
			return n.Units[slices.IndexFunc(n.Units, func(u yarns.NeedUnits) bool { return u.EquipmentID == e.ID })].Units
		}
		assert.Equal(t, choice.Units, of(n), "units: the choice of equipment and the need")

		l, err := s.Laying.BuildOnto(ctx, b.ID, e.ID, 0, "any", laying.BuildInput{
			Builder: rapid.SampledFrom(layup.Builders()).Draw(t, "builder"), AloneFirst: rapid.IntRange(0, 2).Draw(t, "alone"),
		})
		if err != nil {
			return // that builder is not for this equipment
		}
		units, on, err := s.Laying.UnitsFor(ctx, b)
		require.NoError(t, err)
		assert.Equal(t, e.ID, on.ID)
		assert.Equal(t, l.Units, units, "units: the lay-up and the blend")
		n, err = s.Yarns.Need(ctx, n.ID)
		require.NoError(t, err)
		assert.Equal(t, l.Units, of(n), "units: the lay-up and the need")
		planned := (layup.Plan{}).Last(e.Bed(), layup.PassesBy(schools, b.Passes))
		if planned == l.LastPass && l.LaidPlan.Alone == nil && !slices.ContainsFunc(l.LaidPlan.Joins, func(n int) bool { return n > 1 }) {
			step := 0.1 * float64(1+len(b.Components)) // a builder that plans other passes, or joins later, weighs in less
			assert.InDelta(t, choice.UnitG, l.Loads.TotalG, step, "a unit: the choice of equipment and the lay-up on %s", e.Name)
			assert.InDelta(t, choice.Fill, l.Loads.Fill, step/choice.CapacityG, "fill: the choice of equipment and the lay-up")
		}
		assert.LessOrEqual(t, l.Units, choice.Units, "as many units as were said suffice")

		w, err := s.Scale.WeighoutSuggestion(ctx, b)
		require.NoError(t, err)
		assert.Equal(t, l.Units, w.Units)
		out, err := s.Scale.CreateWeighout(ctx, b.ID, w)
		require.NoError(t, err)
		b, err = s.Recipe.Blend(ctx, b.ID)
		require.NoError(t, err)
		assert.InDelta(t, n.WeighInG, b.WeighInG, 1e-6, "to weigh in: the need and the blend")
		sameShortage(t, b, n, out)
		weighed := make([]float64, len(b.Components))
		for _, u := range out.Units {
			for i, c := range u.Cells {
				weighed[i] += c.TargetG
			}
		}
		for i, c := range b.Components {
			assert.InDelta(t, c.WeighG, weighed[i], 0.1*float64(len(out.Units)), "to weigh in of %s: the blend and the weigh-out", c.Name)
		}
		sameStrips(t, s, l)
		sameRolags(t, s, choice, l)
		sameRun(t, s, out)
		sameSeverity(t, s, b, l)
	})
}

func sameStrips(t *rapid.T, s *Studio, l laying.Layup) {
	if l.Bed.Type != layup.Drum || l.LastPass < 2 {
		return
	}
	f, err := s.Laying.Foretell(t.Context(), l.ID, laying.Division{})
	require.NoError(t, err)
	for _, step := range l.Steps {
		if step.Action == layup.Split {
			assert.Equal(t, step.Strips, f.Division.Strips, "strips: the steps at the carder and the forecast")
		}
	}
}

func sameRolags(t *rapid.T, s *Studio, c laying.EquipmentChoice, l laying.Layup) {
	if l.Bed.Type != layup.Board || c.Punis {
		return
	}
	assert.Equal(t, c.Rolags, l.Units*l.LaidPlan.Rolags, "rolags: the choice of equipment and the lay-up")
	y, err := s.Yarns.YarnOf(t.Context(), l.ID)
	require.NoError(t, err)
	assert.Equal(t, yarn.Rolags, y.Way)
	assert.Len(t, y.Parts, l.LaidPlan.Rolags, "rolags: the lay-up and the yarn")
}

// sameShortage compares what the shelf lacks, on the blend, in the need and at the scale; a step less than nothing is no lack.
func sameShortage(t *rapid.T, b recipe.Blend, n yarns.Need, w scale.Weighout) {
	lacks := map[int64]float64{}
	for _, v := range n.Blends[0].Lacks {
		lacks[*v.LotID] = v.Grams
	}
	for i, c := range b.Components {
		assert.InDelta(t, c.ShortG, lacks[*c.LotID], 0.1, "short of %s: the blend and the need", c.Name)
		assert.InDelta(t, c.ShortG, w.Components[i].ShortG, 0.1*float64(len(w.Units)+1), "short of %s: the blend and the scale", c.Name)
	}
}

func sameRun(t *rapid.T, s *Studio, w scale.Weighout) {
	v, err := s.Carder.StartRun(t.Context(), w.ID, carder.StartRun{EquipmentID: drumOf(t, s)})
	require.NoError(t, err)
	w, err = s.Scale.Weighout(t.Context(), w.ID)
	require.NoError(t, err)
	for i, u := range v.Units {
		assert.InDelta(t, w.Units[i].ExpectedG, u.ExpectedG, 1e-6, "comes off: the weigh-out and the run")
		assert.InDelta(t, w.Units[i].ExpectedG, u.Weight.Grams, 0.1+0.01*u.ExpectedG, "comes off: the weigh-out and what was foreseen")
	}
}

// sameSeverity compares what is said of a blend and of its lay-up by one rule.
func sameSeverity(t *rapid.T, s *Studio, b recipe.Blend, l laying.Layup) {
	grave := map[string]advice.Severity{}
	for _, at := range []advising.LookWhere{{Place: advice.AtLayup, Blend: b.ID, Layup: l.ID}, {Place: advice.AtBlend, Blend: b.ID}} {
		looks, err := s.Advising.LookFrom(t.Context(), at)
		require.NoError(t, err)
		for _, f := range looks[0].Findings {
			key := fmt.Sprint(f.Rule, f.Component)
			if was, ok := grave[key]; ok {
				assert.Equal(t, was, f.Severity, "%s: %s", f.Rule, f.What)
			}
			grave[key] = f.Severity
		}
	}
}
