package studio

import (
	"flag"
	"fmt"
	"math"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/core/match"
	"fairtangle/store"
	"fairtangle/studio/laying"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// drawShelf puts lots of random kinds and colours on a shelf: some measured, with
// spectra that no smooth one of the same colour has, some painted; samples that
// the calibration follows; and covering power or not.
func drawShelf(t *rapid.T, s *Studio) []shelf.Lot {
	kinds := fibre.Kinds()
	hex := func() string {
		c := colour.Lab{L: rapid.Float64Range(20, 90).Draw(t, "L"), A: rapid.Float64Range(-40, 40).Draw(t, "a"), B: rapid.Float64Range(-40, 40).Draw(t, "b")}
		return c.Linear().Hex()
	}
	var in []shelf.NewLot
	for i := range 6 {
		k := kinds[rapid.IntRange(0, len(kinds)-1).Draw(t, "kind")]
		l := shelf.NewLot{LotInput: shelf.LotInput{Name: fmt.Sprint("lot ", i), Kind: k.Key, Preparation: "combed_top"}, Grams: 300}
		first := shelf.LotColour{Hex: hex(), Share: 1, Source: "value"}
		if rapid.Bool().Draw(t, "measured") {
			first.Source, first.Reflectance = "reader", make([]float64, colour.Bands)
			for n := range first.Reflectance {
				first.Reflectance[n] = 0.1 + 0.6*rapid.Float64Range(0, 1).Draw(t, "R")
			}
			var r colour.Reflectance
			copy(r[:], first.Reflectance)
			first.Hex = r.Linear().Hex()
		}
		l.Colours = []shelf.LotColour{first}
		if rapid.IntRange(0, 3).Draw(t, "painted") == 0 {
			l.Colours = append(l.Colours, shelf.LotColour{Hex: hex(), Share: 0.5, Source: "photo"})
		}
		in = append(in, l)
	}
	ctx := t.Context()
	lots, err := s.Shelf.CreateLots(ctx, in, "")
	require.NoError(t, err)
	m, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "samples"})
	require.NoError(t, err)
	for i := range 5 {
		b, err := s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: fmt.Sprint("s", i), TotalG: 20, Passes: 1, Components: []recipe.BlendComponent{
			{LotID: &lots[i].ID, Parts: 2}, {LotID: &lots[i+1].ID, Parts: float64(1 + i)},
		}})
		require.NoError(t, err)
		h := hex()
		require.NoError(t, s.Reach.AddSample(ctx, reach.SampleInput{Name: b.Name, BlendID: &b.ID, Measured: workshop.ColourInput{Hex: &h}, Source: "reader"}))
	}
	_, err = s.Workshop.ChangeSettings(ctx, 0, func(set *workshop.Settings) {
		set.Calibrated, set.CoveringPower = rapid.Bool().Draw(t, "calibrated"), rapid.Bool().Draw(t, "covering")
		set.Model, set.ModelParameter = string(rapid.SampledFrom(workshop.Models).Draw(t, "model")), 0
	})
	require.NoError(t, err)
	return lots
}

// drawRecipe draws a blend of three lots, picked out where a lot is painted.
func drawRecipe(t *rapid.T, lots []shelf.Lot) recipe.BlendInput {
	in := recipe.BlendInput{Name: "b", TotalG: 60, Passes: rapid.IntRange(0, 3).Draw(t, "passes"), Target: "#84979a"}
	first := rapid.IntRange(0, len(lots)-3).Draw(t, "first")
	for i := range 3 {
		l := lots[first+i]
		c := recipe.BlendComponent{LotID: &l.ID, Parts: rapid.Float64Range(1, 5).Draw(t, "parts")}
		if len(l.Colours) > 1 && rapid.Bool().Draw(t, "picked") {
			c.Only = l.Colours[0].Hex
		}
		in.Components = append(in.Components, c)
	}
	return in
}

// TestOneColour: for one blend the blend's page, the weigh-out and its ways on,
// the search, a mend, a gradient and a lay-up foretell one colour, to 1e-9, on any
// shelf and with any settings.
func TestOneColour(t *testing.T) {
	few(t, 15) // each try has a program of its own
	rapid.Check(t, func(t *rapid.T) {
		s := fresh(t)
		ctx := t.Context()
		lots := drawShelf(t, s)
		in := drawRecipe(t, lots)
		m, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "m"})
		require.NoError(t, err)
		b, err := s.Recipe.CreateBlend(ctx, m.ID, in)
		require.NoError(t, err)
		same := func(what string, want, got [3]float64) {
			for i := range want {
				assert.InDelta(t, want[i], got[i], 1e-9, what)
			}
		}
		labOf := func(r colour.Reflectance) [3]float64 {
			l := r.Lab()
			return [3]float64{l.L, l.A, l.B}
		}
		pageOf := func(grams []float64) [3]float64 {
			as := in
			as.Components = append([]recipe.BlendComponent(nil), in.Components...)
			for i := range as.Components {
				as.Components[i].Parts = grams[i]
			}
			v, err := s.Recipe.WorkOut(ctx, as)
			require.NoError(t, err)
			return v.Lab
		}

		w, err := s.Scale.CreateWeighout(ctx, b.ID, scale.WeighoutInput{Units: 2, FinishedG: 30, Passes: in.Passes, StepG: 0.1})
		require.NoError(t, err)
		row, err := s.Store.Weighout(ctx, w.ID)
		require.NoError(t, err)
		for u := range w.Units {
			same("weigh-out", pageOf(scale.UnitGrams(row, u)), labOf(w.Colour(scale.UnitGrams(row, u))))
		}
		over := w.Units[0].Cells[0].TargetG + 2
		ways, err := s.Scale.Consider(ctx, w.ID, scale.Reading{Unit: 0, Component: 0, Grams: over})
		require.NoError(t, err)
		for _, o := range ways.Options {
			finished := make([]float64, 3)
			for i := range finished {
				finished[i] = scale.WayAt(row, i).Finished(o.ToWeighG[i])
			}
			then, now := pageOf(scale.UnitGrams(row, 0)), pageOf(finished)
			assert.InDelta(
				t,
				colour.CIEDE2000(colour.Lab{L: then[0], A: then[1], B: then[2]}, colour.Lab{L: now[0], A: now[1], B: now[2]}),
				o.DeltaE,
				1e-9,
				"way on",
			)
		}

		locked := in
		locked.Components = append([]recipe.BlendComponent(nil), in.Components...)
		for i := range locked.Components {
			locked.Components[i].Locked = locked.Components[i].Only != ""
		}
		a, err := s.Reach.Find(ctx, locked, reach.FindInput{MaxComponents: 4, Count: 3}, nil)
		require.NoError(t, err)
		for _, f := range a.Found {
			got, err := s.Recipe.WorkOut(ctx, recipe.BlendInput{Name: "b", TotalG: 60, Passes: in.Passes, Target: in.Target, Components: f.Components})
			require.NoError(t, err)
			assert.InDelta(t, f.DeltaE, got.Target.DeltaE, 1e-9, "search")
		}

		ans, err := s.Reach.Mend(
			ctx,
			0,
			in,
			reach.MendInput{MadeG: 58.2, Said: []match.Said{{What: "light", How: "clearly"}}, MaxComponents: 2, MaxAddedG: 20, Count: 3},
		)
		require.NoError(t, err)
		for _, v := range ans.Mends {
			mended := in
			mended.Components, mended.TotalG, mended.Came = v.Components, v.TotalG, &v.Came
			got, err := s.Recipe.WorkOut(ctx, mended)
			require.NoError(t, err)
			require.True(t, got.Carded.Holds)
			assert.InDelta(t, v.DeltaE, got.Target.DeltaE, 1e-9, "mend")
			assert.Equal(t, v.Hex, got.Hex)
		}

		var stops []store.GradientStop
		for _, l := range lots[:3] {
			stops = append(stops, reach.Stop{LotID: &l.ID, Name: l.Name, Kind: l.Kind, Preparation: l.Preparation, Hex: l.Colours[0].Hex, Grams: 40})
		}
		g, err := s.Reach.CreateGradient(
			ctx,
			m.ID,
			reach.GradientInput{Name: "g", GradientPlan: reach.GradientPlan{Stops: stops, School: "thirds", MaxJump: 8, Passes: &in.Passes}},
		)
		require.NoError(t, err)
		rungs, err := s.Reach.GradientBlends(ctx, g.ID)
		require.NoError(t, err)
		for i, r := range rungs {
			same("rung", g.Steps[i].Lab, r.Lab)
		}

		if len(b.Components) > 0 {
			l, err := s.Laying.WorkOutLayup(ctx, b, laying.LayupInput{Name: "l", EquipmentID: 1, Units: 1}, true)
			require.NoError(t, err)
			for i, f := range l.LaidFibres {
				assert.Equal(t, b.Tints[i].Colour.Lab(), f.Colour, "lay-up")
			}
		}
	})
}

// few lets a law be tried n times only.
func few(t *testing.T, n int) {
	checks := flag.Lookup("rapid.checks")
	was := checks.Value.String()
	require.NoError(t, checks.Value.Set(strconv.Itoa(n)))
	t.Cleanup(func() { require.NoError(t, checks.Value.Set(was)) })
}

// fresh is a studio of its own for one try of a law.
func fresh(t *rapid.T) *Studio {
	db, err := store.Open(tempDir(t), time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { db.Close() })
	s, err := New(t.Context(), db)
	require.NoError(t, err)
	return s
}

// A kept lay-up has the grams of its blend's weigh-out, at every step of the
// scale and for any number of units.
func TestALayupHasTheGramsOfItsWeighout(t *testing.T) {
	s, lots, m := shelfOf(t)
	few(t, 50)
	rapid.Check(t, func(t *rapid.T) {
		step := rapid.SampledFrom(workshop.ScaleSteps[1:8]).Draw(t, "step")
		_, err := s.Workshop.ChangeSettings(t.Context(), 0, func(set *workshop.Settings) { set.StepMg = step })
		require.NoError(t, err)
		b, err := s.Recipe.CreateBlend(
			t.Context(),
			m.ID,
			recipe.BlendInput{
				Name:   "b",
				TotalG: float64(rapid.IntRange(200, 1500).Draw(t, "tenths")) / 10,
				Passes: rapid.IntRange(1, 3).Draw(t, "passes"),
				Components: []recipe.BlendComponent{
					{
						LotID: &lots[0].ID,
						Parts: rapid.Float64Range(1, 9).Draw(t, "white"),
					}, {LotID: &lots[1].ID, Parts: rapid.Float64Range(1, 9).Draw(t, "navy")}, {LotID: &lots[6].ID, Parts: 1},
				},
			},
		)
		require.NoError(t, err)
		units := rapid.IntRange(1, 5).Draw(t, "units")
		l, err := s.Laying.BuildOnto(t.Context(), b.ID, 1, units, "", laying.BuildInput{Builder: "sandwich"})
		require.NoError(t, err)
		in, err := s.Scale.WeighoutSuggestion(t.Context(), b)
		require.NoError(t, err)
		w, err := s.Scale.PlanWeighout(t.Context(), b.ID, in)
		require.NoError(t, err)
		for i, f := range l.Fibres {
			assert.InDelta(t, w.Units[0].Cells[i].PlannedG, f.Grams, 1e-9)
			assert.LessOrEqual(t, math.Abs(f.UnplacedG), 1e-6, "and all of it is laid")
		}
		more, err := s.Laying.ApplyLayup(t.Context(), l.ID, l.LayupInput, laying.LayupChange{Verb: "units", Times: units + 2})
		require.NoError(t, err)
		for _, f := range more.Findings {
			assert.NotContains(t, []string{"overplaced", "unplaced"}, f.Key, "a change of units fits it at once")
		}
	})
}
