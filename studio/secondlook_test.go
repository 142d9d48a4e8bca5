package studio

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/advice"
	"fairtangle/core/layup"
	"fairtangle/studio/advising"
	"fairtangle/studio/carder"
	"fairtangle/studio/laying"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// badLayup is a newcomer's: mostly slippery, neps first, one lane double, from the tray.
func badLayup(t *testing.T, s *Studio, m recipe.Making) laying.Layup {
	ctx := t.Context()
	of := func(name, kind, hex string, parts float64) recipe.BlendComponent {
		return recipe.BlendComponent{Name: name, Kind: kind, Preparation: "carded_sliver", Hex: hex, Parts: parts}
	}
	b, err := s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: "bad", TotalG: 60, Passes: 1, Components: []recipe.BlendComponent{
		of("shine", "viscose", "#e8e8f0", 40), of("wool", "corriedale", "#ffffff", 50), of("dots", "neps_wool", "#ffffff", 10),
	}})
	require.NoError(t, err)
	l, err := s.Laying.CreateLayup(ctx, b.ID, laying.LayupInput{EquipmentID: drumOf(t, s), Units: 1, PlanInput: laying.PlanInput{Draft: 1.75}})
	require.NoError(t, err)
	lay := func(c int, from, to, grams float64) laying.LayInput {
		zero, one := 0.0, 1.0
		return laying.LayInput{Component: c, From: &from, To: &to, Start: &zero, End: &one, Grams: grams, Method: "feed"}
	}
	g := func(i int) float64 { return l.Fibres[i].Grams }
	half := float64(int(g(1)*10/2)) / 10
	in := l.LayupInput
	in.Layers = []laying.LayerInput{
		{Lays: []laying.LayInput{lay(2, 0, 1, g(2))}},
		{Lays: []laying.LayInput{lay(0, 0, 0.75, g(0)/2), lay(1, 0.75, 1, half)}},
		{Lays: []laying.LayInput{lay(0, 0, 0.75, g(0)-g(0)/2), lay(1, 0.75, 1, g(1)-half)}},
	}
	l, err = s.Laying.SaveLayup(ctx, l.ID, l.Version, in, false)
	require.NoError(t, err)
	return l
}

func found(l advising.SecondLook, rule string) *advice.Finding {
	i := slices.IndexFunc(l.Findings, func(f advice.Finding) bool { return f.Rule == rule })
	if i < 0 {
		return nil
	}
	return &l.Findings[i]
}

func lookAt(t *testing.T, s *Studio, at advising.LookWhere) advising.SecondLook {
	list, err := s.Advising.LookFrom(t.Context(), at)
	require.NoError(t, err)
	require.Len(t, list, 1)
	return list[0]
}

// Every press in a lay-up ends what it was offered for, leaves of each fibre what lay there in whole
// steps of the scale, and is undone as any change is; until only hints are left.
func TestMendsOfALayupByAPress(t *testing.T) {
	s, _, m := shelfOf(t)
	l := badLayup(t, s, m)
	at := advising.LookWhere{Place: advice.AtLayup, Blend: l.BlendID, Layup: l.ID}
	before := lookAt(t, s, at)
	require.NotEmpty(t, before.Findings)
	assert.NotNil(t, found(before, "R29"), "dots alone from the tray")
	assert.NotNil(t, found(before, "R19"), "a lane twice as full")
	pressed := map[string]bool{}
	for range 20 {
		look := lookAt(t, s, at)
		i := slices.IndexFunc(look.Findings, func(f advice.Finding) bool { return f.Mend != nil && look.Mends(f.Mend) == advising.MendsLayup })
		if i < 0 {
			break
		}
		f := look.Findings[i]
		now, err := s.Laying.Layup(t.Context(), l.ID)
		require.NoError(t, err)
		taken, err := s.Advising.TakeMend(t.Context(), at, f.Rule, f.Component, f.Layer)
		require.NoError(t, err, f.Rule)
		pressed[f.Rule] = true
		after := lookAt(t, s, at)
		for _, o := range after.Findings {
			assert.False(t, o.Rule == f.Rule && o.Component == f.Component && o.Layer == f.Layer, "%s: %s is there still", f.Rule, o.What)
		}
		next, err := s.Laying.Layup(t.Context(), l.ID)
		require.NoError(t, err)
		placed := next.Loads.PlacedG
		for c, g := range now.Loads.PlacedG {
			if f.Mend.Verb != "units" {
				assert.InDelta(t, g, placed[c], 1e-6, "%s moved grams of %s", f.Rule, next.Fibres[c].Name)
			}
			for _, y := range next.Layers {
				for _, v := range y.Lays {
					assert.InDelta(t, float64(int(v.Grams*10+0.5)), v.Grams*10, 1e-6, "whole steps")
				}
			}
		}
		require.NoError(t, s.Advising.UndoMend(t.Context(), taken))
		back, err := s.Laying.Layup(t.Context(), l.ID)
		require.NoError(t, err)
		assert.Equal(t, now.LayupInput, back.LayupInput, "undone")
		assert.Error(t, s.Advising.UndoMend(t.Context(), taken), "not twice: it was changed since")
		_, err = s.Advising.TakeMend(t.Context(), at, f.Rule, f.Component, f.Layer)
		require.NoError(t, err, f.Rule)
	}
	t.Logf("pressed: %v", pressed)
	assert.Greater(t, len(pressed), 2)
	end := lookAt(t, s, at)
	assert.Zero(t, end.Weighty(advice.AtLayup), "%v", end.Findings)
	_, err := s.Advising.TakeMend(t.Context(), at, "R29", 2, 0)
	assert.ErrorContains(t, err, "not there any more")
}

// A mend of a blend, a sample, and what is only told; each can be taken back.
func TestMendsOfABlendASampleAndWhatIsTold(t *testing.T) {
	s, _, m := shelfOf(t)
	l := badLayup(t, s, m)
	ctx := t.Context()
	blend := advising.LookWhere{Place: advice.AtBlend, Blend: l.BlendID}
	f := found(lookAt(t, s, blend), "R08")
	require.NotNil(t, f)
	taken, err := s.Advising.TakeMend(ctx, blend, "R08", f.Component, -1)
	require.NoError(t, err)
	assert.Equal(t, advising.MendsBoth, taken.Kind, "what lies in its lay-up follows")
	stops := lookAt(t, s, advising.LookWhere{Place: advice.AtLayup, Blend: l.BlendID, Layup: l.ID})
	assert.Nil(t, found(stops, "L01"), "nothing is laid that is not there")
	assert.Nil(t, found(stops, "L02"), "and nothing is left")
	b, err := s.Recipe.Blend(ctx, l.BlendID)
	require.NoError(t, err)
	assert.InDelta(t, 0.3, b.Components[0].Share, 1e-9)
	assert.Nil(t, found(lookAt(t, s, blend), "R08"))
	require.NoError(t, s.Advising.UndoMend(ctx, taken))
	assert.NotNil(t, found(lookAt(t, s, blend), "R08"))
	back, err := s.Laying.Layup(ctx, l.ID)
	require.NoError(t, err)
	assert.Equal(t, l.LayupInput, back.LayupInput)

	require.NotNil(t, found(lookAt(t, s, blend), "R46"), "three fibres and no sample")
	taken, err = s.Advising.TakeMend(ctx, blend, "R46", -1, -1)
	require.NoError(t, err)
	w, err := s.Scale.Weighout(ctx, taken.ID)
	require.NoError(t, err)
	assert.True(t, w.Row.Sample)
	assert.Nil(t, found(lookAt(t, s, blend), "R46"))
	require.NoError(t, s.Advising.UndoMend(ctx, taken))
	assert.NotNil(t, found(lookAt(t, s, blend), "R46"))

	card := advising.LookWhere{Place: advice.AtCard, Blend: l.BlendID, Layup: l.ID}
	dark := 2.0
	before, err := s.Advising.TellLook(ctx, workshop.Told{Of: advice.OfPlan, ID: l.BlendID, Key: "before", Value: &dark})
	require.NoError(t, err)
	require.Len(t, before, 1)
	assert.Nil(t, before[0].Value, "nothing was told before")
	require.NotNil(t, found(lookAt(t, s, card), "R40"), "white after something dark")
	taken, err = s.Advising.TakeMend(ctx, card, "R40", -1, -1)
	require.NoError(t, err)
	assert.Equal(t, advising.MendsTold, taken.Kind)
	assert.Nil(t, found(lookAt(t, s, card), "R40"), "it is cleaned first")
	require.NoError(t, s.Advising.UndoMend(ctx, taken))
	assert.NotNil(t, found(lookAt(t, s, card), "R40"))

	for _, wrong := range []workshop.Told{
		{Of: advice.OfPlan, ID: l.BlendID, Key: "nothing", Value: &dark}, {Of: advice.OfLot, ID: 1, Key: "before", Value: &dark},
		{Of: advice.OfPlan, ID: 999, Key: "before", Value: &dark}, {Of: advice.OfPlan, ID: l.BlendID, Key: "wisps", Value: &dark},
	} {
		_, err := s.Advising.TellLook(ctx, wrong)
		assert.Error(t, err, "%v", wrong)
	}
}

// What if I did: it shows what would be there if the mend was taken, to the last digit, and keeps nothing.
func TestWhatIfIsWhatThenIs(t *testing.T) {
	s, _, m := shelfOf(t)
	l := badLayup(t, s, m)
	for _, place := range []advice.Station{advice.AtBlend, advice.AtLayup} {
		at := advising.LookWhere{Place: place, Blend: l.BlendID, Layup: l.ID}
		for _, f := range lookAt(t, s, at).Findings {
			look := lookAt(t, s, at)
			if f.Mend == nil || !slices.Contains([]string{advising.MendsBlend, advising.MendsBoth, advising.MendsLayup}, look.Mends(f.Mend)) {
				continue
			}
			name := fmt.Sprintf("%s_%d_%d", f.Rule, f.Component, f.Layer)
			foreseen, err := s.Laying.Foretell(t.Context(), l.ID, laying.Division{If: name})
			require.NoError(t, err, name)
			asIs, err := s.Laying.Foretell(t.Context(), l.ID, laying.Division{})
			require.NoError(t, err)
			taken, err := s.Advising.TakeMend(t.Context(), at, f.Rule, f.Component, f.Layer)
			require.NoError(t, err, name)
			then, err := s.Laying.Foretell(t.Context(), l.ID, laying.Division{})
			require.NoError(t, err)
			assert.Equal(t, then.Digest, foreseen.Digest, name)
			assert.NotEqual(t, asIs.Digest, foreseen.Digest, name)
			require.NoError(t, s.Advising.UndoMend(t.Context(), taken))
		}
	}
	_, err := s.Laying.Foretell(t.Context(), l.ID, laying.Division{If: "R99_0_0"})
	assert.Error(t, err)
	_, err = s.Laying.Foretell(t.Context(), l.ID, laying.Division{If: "nonsense"})
	assert.Error(t, err)
}

// Three runs that had it and went well let a caution go quiet on that equipment, and it says so.
func TestTheNotebookLetsACautionGoQuiet(t *testing.T) {
	s, _, m := shelfOf(t)
	ctx := t.Context()
	l := badLayup(t, s, m)
	at := advising.LookWhere{Place: advice.AtBlend, Blend: l.BlendID, Layup: l.ID}
	require.NotNil(t, found(lookAt(t, s, at), "R08"))
	for i := range 3 {
		assert.NotNil(t, found(lookAt(t, s, at), "R08"), "%d runs are too few", i)
		w, err := s.Scale.CreateWeighout(ctx, l.BlendID, scale.WeighoutInput{Units: 1, FinishedG: 60, Passes: 1, StepG: 0.1, LayupID: &l.ID})
		require.NoError(t, err)
		w = weighAll(t, s, w)
		v, err := s.Carder.StartRun(ctx, w.ID, carder.StartRun{})
		require.NoError(t, err)
		assert.Contains(t, v.Row.Plan.Advised, "R08")
		_, err = s.Carder.Tell(ctx, v.ID, carder.EntryInput{Key: fmt.Sprintf("off-of-calm-%d", i), Pass: 1, What: "off", Grams: &w.ExpectedG})
		require.NoError(t, err)
	}
	look := lookAt(t, s, at)
	assert.Nil(t, found(look, "R08"))
	i := slices.IndexFunc(look.Quiet, func(q advising.Quieted) bool { return q.Rule == "R08" })
	require.GreaterOrEqual(t, i, 0)
	assert.True(t, strings.HasPrefix(look.Quiet[i].Because, "3 runs"), look.Quiet[i].Because)
}

// A mend lies in the lay-up of whoever has it open: the press of its page works from what is there, kept or not.
func TestAMendOfALayupThatIsNotKept(t *testing.T) {
	s, _, m := shelfOf(t)
	l := badLayup(t, s, m)
	in := l.LayupInput
	in.Name = "as it is on my page"
	next, err := s.Laying.ApplyLayup(t.Context(), l.ID, in, laying.LayupChange{Verb: "mend", Text: "R29", At: 2, Layer: 0})
	require.NoError(t, err)
	assert.Equal(t, in.Name, next.Name)
	for _, y := range next.Layers {
		for _, v := range y.Lays {
			assert.False(t, v.Component == 2 && v.Method == layup.Feed, "the dots are scattered by hand")
		}
	}
	kept, err := s.Laying.Layup(t.Context(), l.ID)
	require.NoError(t, err)
	assert.Equal(t, l.Name, kept.Name)
	_, err = s.Laying.ApplyLayup(t.Context(), l.ID, in, laying.LayupChange{Verb: "mend", Text: "R45", At: -1, Layer: -1})
	assert.Error(t, err)
}

// A blend without fibre is not judged anywhere, and nothing breaks.
func TestNothingToLookAt(t *testing.T) {
	s, _, m := shelfOf(t)
	b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: "b", TotalG: 40, Passes: 2})
	require.NoError(t, err)
	for _, at := range advice.Stations() {
		look := lookAt(t, s, advising.LookWhere{Place: at, Blend: b.ID})
		assert.Empty(t, look.Findings)
		assert.Empty(t, look.Plan.Fibres)
	}
	_, err = s.Advising.TakeMend(t.Context(), advising.LookWhere{Place: advice.AtBlend, Blend: b.ID}, "R08", 0, -1)
	assert.Error(t, err)
	list, err := s.Advising.LookFrom(t.Context(), advising.LookWhere{Place: advice.AtNeed, Making: m.ID})
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

// What a run knows stands in the look at it: the lay-up that it follows, the specks that were counted, what each batt
// weighs, and whether what lay there before was cleaned off.
func TestARunTellsWhatItKnows(t *testing.T) {
	s, _, m := shelfOf(t)
	ctx := t.Context()
	dark := carded(t, s, m.ID, "dark", 40, []recipe.BlendComponent{{Name: "navy", Kind: "corriedale", Preparation: "carded_sliver", Hex: "#101830", Parts: 1}})
	l := badLayup(t, s, m)
	w, err := s.Scale.CreateWeighout(ctx, l.BlendID, scale.WeighoutInput{Units: 1, FinishedG: 60, Passes: 1, StepG: 0.1, LayupID: &l.ID})
	require.NoError(t, err)
	w = weighAll(t, s, w)
	v, err := s.Carder.StartRun(ctx, w.ID, carder.StartRun{})
	require.NoError(t, err)
	require.NotEqual(t, dark.ID, v.ID)
	later, err := s.Laying.CreateLayup(
		ctx,
		l.BlendID,
		laying.LayupInput{Name: "another", EquipmentID: drumOf(t, s), Units: 1, PlanInput: laying.PlanInput{Draft: 1.75}},
	)
	require.NoError(t, err)
	at := advising.LookWhere{Place: advice.AtCard, Blend: l.BlendID, Run: v.ID}
	look := lookAt(t, s, at)
	assert.Equal(t, l.ID, look.LayupID, "not %d, which was touched last", later.ID)
	require.NotNil(t, found(look, "R40"), "white after navy")
	assert.Nil(t, found(look, "R36"))
	specks := 14.0
	_, err = s.Carder.Tell(ctx, v.ID, carder.EntryInput{Key: "specks-of-the-run", Pass: 1, What: "specks", Number: &specks})
	require.NoError(t, err)
	assert.NotNil(t, found(lookAt(t, s, at), "R36"))
	_, err = s.Carder.Clean(ctx, drumOf(t, s), carder.CleaningInput{Full: true})
	require.NoError(t, err)
	blend := lookAt(t, s, advising.LookWhere{Place: advice.AtCard, Blend: l.BlendID, Layup: l.ID})
	assert.Nil(t, found(blend, "R40"), "cleaned since")
}

// A gradient is looked at by its rungs, where it jumps, and by the fibres of its stops, with what was told of their lots.
func TestAGradientIsLookedOver(t *testing.T) {
	s, lots, m := shelfOf(t)
	ctx := t.Context()
	stop := func(l shelf.Lot, grams float64) reach.Stop {
		return reach.Stop{LotID: &l.ID, Name: l.Name, Kind: l.Kind, Preparation: l.Preparation, Hex: l.Colours[0].Hex, Grams: grams}
	}
	g, err := s.Reach.CreateGradient(ctx, m.ID, reach.GradientInput{Name: "g", GradientPlan: reach.GradientPlan{
		School: "even", MaxJump: 8, Stops: []reach.Stop{stop(lots[4], 30), stop(lots[7], 30), stop(lots[0], 30), stop(lots[1], 30)},
	}})
	require.NoError(t, err)
	at := advising.LookWhere{Place: advice.AtGradient, Gradient: g.ID}
	look := lookAt(t, s, at)
	f := found(look, "R39")
	require.NotNil(t, f, "from silt to white without a bridge")
	assert.Nil(t, f.Mend, "its page has the bridges")
	assert.Equal(t, 2, f.Component, "the first rung that it jumps to: white after silt")
	assert.Nil(t, found(look, "R42"))
	dyed := 1.0
	_, err = s.Advising.TellLook(ctx, workshop.Told{Of: advice.OfLot, ID: lots[1].ID, Key: "dyed_by_hand", Value: &dyed})
	require.NoError(t, err)
	assert.NotNil(t, found(lookAt(t, s, at), "R42"), "navy that was not tested, beside white")
	require.NoError(t, s.Floor.Discard(ctx, "lots", lots[1].ID))
	assert.Empty(t, lookAt(t, s, advising.LookWhere{Place: advice.AtGradient, Gradient: g.ID}).Quiet)
}
