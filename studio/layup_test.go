package studio

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
	"fairtangle/store"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// laid is a blend of 60 g in white, navy and silk on the drum, carded twice,
// with a sandwich.
func laid(t *testing.T) (*Studio, []shelf.Lot, recipe.Blend, laying.Layup) {
	s, lots, m := shelfOf(t)
	b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: "b", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{
		{LotID: &lots[0].ID, Parts: 3}, {LotID: &lots[1].ID, Parts: 2}, {LotID: &lots[6].ID, Parts: 1},
	}})
	require.NoError(t, err)
	list, err := s.Workshop.Equipment(t.Context())
	require.NoError(t, err)
	l, err := s.Laying.BuildOnto(t.Context(), b.ID, list[0].ID, 0, "", laying.BuildInput{Builder: layup.Sandwich})
	require.NoError(t, err)
	return s, lots, b, l
}

// 30 g that lose 1.5 %, then 0.9 %, 20 g that lose 2.0 %, then 1.2 %, and 10 g of
// silk at 2 % that joins at the second pass: 30.73, 20.66 and 10.20 g, rounded to
// the scale's 0.1 g.
func TestALayupLaysWhatIsWeighed(t *testing.T) {
	_, _, _, l := laid(t)
	assert.InDeltaSlice(t, []float64{30.7, 20.7, 10.2}, []float64{l.Fibres[0].Grams, l.Fibres[1].Grams, l.Fibres[2].Grams}, 1e-9)
	assert.Equal(t, []int{1, 1, 2}, l.JoinsAtPass)
	for _, f := range l.Fibres {
		assert.Zero(t, f.UnplacedG)
	}
	assert.Equal(t, "b", l.Name)
}

func TestALayupFollowsItsBlend(t *testing.T) {
	s, lots, b, l := laid(t)
	in := b.Input()
	in.Components = []recipe.BlendComponent{{LotID: &lots[6].ID, Parts: 1}, {LotID: &lots[0].ID, Parts: 4}, {LotID: &lots[4].ID, Parts: 1}}
	_, err := s.Recipe.SaveBlend(t.Context(), b.ID, b.Version, in, "")
	require.NoError(t, err)
	now, err := s.Laying.Layup(t.Context(), l.ID)
	require.NoError(t, err)
	var names []string
	for _, f := range now.Fibres {
		names = append(names, fmt.Sprintf("%s %.1f laid %v", f.Name, f.PlacedG, f.Gone))
	}
	assert.Equal(
		t,
		[]string{"silk 10.2 laid false", "white 30.7 laid false", "grey 0.0 laid false", "navy 20.7 laid true"},
		names,
		"lays stay with their fibre, whatever its place",
	)
	assert.Equal(t, []int{2, 1, 1, 1}, now.JoinsAtPass)
	keys := map[string]bool{}
	for _, f := range now.Findings {
		keys[f.Key] = true
	}
	assert.True(t, keys["overplaced"] && keys["unplaced"])
	fitted, err := s.Laying.ApplyLayup(t.Context(), l.ID, now.LayupInput, laying.LayupChange{Verb: "fit"})
	require.NoError(t, err)
	require.Len(t, fitted.Fibres, 3, "what is gone is gone")
	assert.Zero(t, fitted.Fibres[1].UnplacedG)
	placed, err := s.Laying.ApplyLayup(t.Context(), l.ID, fitted.LayupInput, laying.LayupChange{Verb: "place", At: 2})
	require.NoError(t, err)
	assert.Zero(t, placed.Fibres[2].UnplacedG)
	saved, err := s.Laying.SaveLayup(t.Context(), l.ID, now.Version, placed.LayupInput, false)
	require.NoError(t, err)
	_, err = s.Laying.SaveLayup(t.Context(), l.ID, now.Version, placed.LayupInput, false)
	var stale store.Stale
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, saved.Version, stale.Current.(laying.Layup).Version)
}

func TestChangesOfALayup(t *testing.T) {
	s, _, _, l := laid(t)
	apply := func(in laying.LayupInput, c laying.LayupChange) laying.Layup {
		out, err := s.Laying.ApplyLayup(t.Context(), l.ID, in, c)
		require.NoError(t, err, c.Verb)
		return out
	}
	from, to := 0.0, 0.25
	now := apply(l.LayupInput, laying.LayupChange{Verb: "take", Layer: 3, At: 0})
	left := now.Fibres[0].UnplacedG
	assert.Greater(t, left, 0.0)
	some := apply(now.LayupInput, laying.LayupChange{Verb: "lay", Layer: -1, Lay: &laying.LayInput{From: &from, To: &to, Grams: 2}})
	assert.InDelta(t, left-2, some.Fibres[0].UnplacedG, 1e-9)
	assert.Equal(t, layup.Feed, some.Layers[len(some.Layers)-1].Lays[0].Method, "as is usual for it")
	all := apply(some.LayupInput, laying.LayupChange{Verb: "lay", Layer: 0, Lay: &laying.LayInput{}})
	assert.Zero(t, all.Fibres[0].UnplacedG, "0 g takes all that is left")
	_, err := s.Laying.ApplyLayup(t.Context(), l.ID, all.LayupInput, laying.LayupChange{Verb: "lay", Layer: 0, Lay: &laying.LayInput{}})
	assert.ErrorContains(t, err, "All of white is laid")
	_, err = s.Laying.ApplyLayup(t.Context(), l.ID, some.LayupInput, laying.LayupChange{Verb: "lay", Layer: -1, Lay: &laying.LayInput{Grams: 99}})
	list, ok := fault.From(err)
	require.True(t, ok)
	assert.Equal(t, "grams", list[0].Field)
	assert.Equal(t, fmt.Sprintf("Only %.4g g of white are left to lay; this is 99 g.", left-2), list[0].Message)
	four := apply(l.LayupInput, laying.LayupChange{Verb: "units", Times: 2})
	assert.InDelta(t, l.Loads.TotalG/2, four.Loads.TotalG, 0.2, "half in each of two")
	for _, f := range four.Fibres {
		assert.InDelta(t, 0, f.UnplacedG, 1e-6)
	}
	later := apply(l.LayupInput, laying.LayupChange{Verb: "joins", At: 1, Times: 2})
	assert.Less(t, later.Fibres[1].Grams, l.Fibres[1].Grams, "one pass less to lose in")
	assert.InDelta(t, 0, later.Fibres[1].UnplacedG, 1e-6)
	equipment, err := s.Workshop.Equipment(t.Context())
	require.NoError(t, err)
	board := apply(l.LayupInput, laying.LayupChange{Verb: "equipment", EquipmentID: equipment[1].ID})
	assert.Equal(t, layup.Paint, board.Layers[0].Lays[0].Method, "a board has no tray")
	for verb, c := range map[string]laying.LayupChange{
		"layer": {Verb: "take", Layer: 9}, "at": {Verb: "set", Layer: 0, At: 9}, "verb": {Verb: "throw"}, "last": {Verb: "repeat", Layer: 1, To: 0, Times: 2},
		"times": {Verb: "split", Times: 1}, "joins": {Verb: "joins", Times: 7}, "units": {Verb: "units"}, "to": {Verb: "lay", Layer: -1,
			Lay: &laying.LayInput{From: &to, To: &from}},
		"equipment_id": {Verb: "equipment", EquipmentID: 99}, "builder": {Verb: "build", Build: &laying.BuildInput{Builder: "pile"}}, "component": {Verb: "lay",
			Layer: -1, Lay: &laying.LayInput{Component: 7}}, "name": {Verb: "name"},
	} {
		_, err := s.Laying.ApplyLayup(t.Context(), l.ID, l.LayupInput, c)
		list, ok := fault.From(err)
		require.True(t, ok, "%s: %v", verb, err)
		assert.Equal(t, verb, list[0].Field)
	}
}

func TestAWeighoutFollowsTheLayup(t *testing.T) {
	s, _, b, l := laid(t)
	in, err := s.Scale.WeighoutSuggestion(t.Context(), b)
	require.NoError(t, err)
	require.NotNil(t, in.LayupID)
	assert.Equal(t, l.ID, *in.LayupID)
	w, err := s.Scale.CreateWeighout(t.Context(), b.ID, in)
	require.NoError(t, err)
	require.Len(t, w.Lays, 4, "white below and above, navy, silk")
	assert.InDelta(t, w.Components[0].TotalG, w.Lays[0].TotalG+w.Lays[1].TotalG, 1e-9)
	assert.Equal(t, 2, w.Components[2].JoinsAtPass)
	assert.InDeltaSlice(t, l.Loads.PlacedG, l.Turned().Loads.PlacedG, 1e-9)
	next, err := s.Laying.ApplyLayup(t.Context(), l.ID, l.LayupInput, laying.LayupChange{Verb: "mirror"})
	require.NoError(t, err)
	_, err = s.Laying.SaveLayup(t.Context(), l.ID, l.Version, next.LayupInput, false)
	require.NoError(t, err)
	again, err := s.Scale.Weighout(t.Context(), w.ID)
	require.NoError(t, err)
	assert.Equal(t, w.Lays, again.Lays, "what was planned stays as it was")
	other := int64(99)
	in.LayupID = &other
	_, err = s.Scale.PlanWeighout(t.Context(), b.ID, in)
	assert.ErrorContains(t, err, "no such lay-up")
}

func TestSchoolsGuideTheBuilders(t *testing.T) {
	s, _, b, _ := laid(t)
	m, err := s.Recipe.Making(t.Context(), b.MakingID)
	require.NoError(t, err)
	assert.Equal(t, "full", m.Schools["loading"])
	full, err := s.Laying.ChooseEquipment(t.Context(), b.ID)
	require.NoError(t, err)
	require.Len(t, full, 4, "drum, board, and the cards and hands that are not there")
	assert.Zero(t, full[2].EquipmentID)
	m, err = s.Recipe.UpdateMaking(
		t.Context(),
		m.ID,
		m.Version,
		recipe.MakingInput{Name: "m", Schools: map[string]string{"loading": "thin", "rolags": "one", "delicate": "between", "first": "bare"}},
	)
	require.NoError(t, err)
	thin, err := s.Laying.ChooseEquipment(t.Context(), b.ID)
	require.NoError(t, err)
	assert.Greater(t, thin[0].Units, full[0].Units)
	o := laying.BuildInput{Builder: layup.StripesAlong}.Options(layup.Bed{Type: layup.Board}, m.Schools)
	assert.Equal(t, layup.Options{Builder: layup.StripesAlong, Bare: true, DelicateNow: true, Rolags: 1, Step: 0.1}, o)
	not := false
	o = laying.BuildInput{Builder: layup.StripesAlong, Bare: &not, Rolags: 4}.Options(layup.Bed{Type: layup.Board}, m.Schools)
	assert.Equal(t, layup.Options{Builder: layup.StripesAlong, DelicateNow: true, Rolags: 4, Step: 0.1}, o, "what is told holds before a school")
	kept, err := s.Recipe.UpdateMaking(t.Context(), m.ID, m.Version, recipe.MakingInput{Name: "m again"})
	require.NoError(t, err)
	assert.Equal(t, "one", kept.Schools["rolags"], "left out, schools stay")
	_, err = s.Recipe.UpdateMaking(t.Context(), m.ID, kept.Version, recipe.MakingInput{Name: "m", Schools: map[string]string{"loading": "heap"}})
	assert.ErrorContains(t, err, "no such school")
}

// The scale is changed, also for one in ounces, and back: what was all laid is all
// laid, in steps of the scale there is, and nothing speaks against it.
func TestALayupFollowsTheScale(t *testing.T) {
	s, _, b, l := laid(t)
	for _, step := range append(slices.Clone(workshop.ScaleSteps[1:]), 57, 142, 100) { // 57 and 142 mg are 0.002 and 0.005 oz
		_, err := s.Workshop.ChangeSettings(t.Context(), 0, func(set *workshop.Settings) { set.StepMg = step })
		require.NoError(t, err)
		now, err := s.Laying.Layup(t.Context(), l.ID)
		require.NoError(t, err)
		for _, f := range now.Fibres {
			assert.Zero(t, f.UnplacedG, "%s at %d mg", f.Name, step)
		}
		for _, f := range now.Findings {
			assert.NotContains(t, []string{"overplaced", "unplaced"}, f.Key)
		}
		in, err := s.Scale.WeighoutSuggestion(t.Context(), b)
		require.NoError(t, err)
		w, err := s.Scale.PlanWeighout(t.Context(), b.ID, in)
		require.NoError(t, err)
		for i, f := range now.Fibres {
			assert.InDelta(t, w.Units[0].Cells[i].PlannedG, f.Grams, 1e-9, "%s at %d mg", f.Name, step)
		}
	}
	again, err := s.Laying.Layup(t.Context(), l.ID)
	require.NoError(t, err)
	assert.Equal(t, l.Layers, again.Layers, "the scale it was laid with, and nothing has moved")
}

// What is stored of a plan is the whole plan.
func TestAPlanIsKeptWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := layup.Plan{
			Joins: rapid.SliceOfN(rapid.IntRange(1, 4), 1, 5).Draw(t, "joins"), Rolags: rapid.IntRange(0, 9).Draw(t, "rolags"),
			Draft: rapid.Float64Range(1, 2).Draw(t, "draft"), Uneven: rapid.Bool().Draw(t, "uneven"), MirrorPairs: rapid.Bool().Draw(t, "mirrored"),
			Bare: rapid.Bool().Draw(t, "bare"), Passes: rapid.IntRange(0, 5).Draw(t, "passes"), Refeed: layup.OwnPlace,
			Strips: rapid.IntRange(0, 12).Draw(t, "strips"), Step: 0.1, Layers: []layup.Layer{},
		}
		for range rapid.IntRange(0, 4).Draw(t, "layers") {
			p.Layers = append(p.Layers, layup.Layer{Key: rapid.Int64().Draw(t, "key"), Lays: []layup.Lay{{
				Component: rapid.IntRange(0, 4).Draw(t, "component"), From: 0.1, To: 0.6, Start: 0.2, End: 0.9,
				Grams: rapid.Float64Range(0, 50).Draw(t, "grams"), Method: layup.Feed, Key: 7,
			}}})
		}
		assert.Equal(t, p, laying.PlanOf(laying.KeptPlan(p)))
	})
}
