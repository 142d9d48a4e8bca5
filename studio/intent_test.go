package studio

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/match"
	"fairtangle/core/mix"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
	"fairtangle/studio/workshop"
)

// shelfOf is a studio with a few lots on its shelf and a making.
func shelfOf(t testing.TB) (*Studio, []shelf.Lot, recipe.Making) {
	db, err := store.Open(t.TempDir(), time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { db.Close() })
	s, err := New(t.Context(), db)
	require.NoError(t, err)
	one := func(name, kind, hex string, grams float64) shelf.NewLot {
		return shelf.NewLot{
			LotInput: shelf.LotInput{Name: name, Kind: kind, Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: hex, Share: 1, Source: "value"}}},
			Grams:    grams,
		}
	}
	lots, err := s.Shelf.CreateLots(t.Context(), []shelf.NewLot{
		one("white", "romney", "#ece6d8", 200), one("navy", "corriedale", "#26324a", 120), one("teal", "merino", "#1d6c75", 80),
		one(
			"rust",
			"shetland",
			"#a4532c",
			60,
		), one("grey", "gotland", "#6d7072", 90), one("film", "film_metallised", "#d9c26a", 20), one("silk", "silk_tussah", "#c69a52", 50), one("silt", "shetland", "#6b4c35", 90),
	}, "")
	require.NoError(t, err)
	m, err := s.Recipe.CreateMaking(t.Context(), recipe.MakingInput{Name: "m"})
	require.NoError(t, err)
	return s, lots, m
}

func TestFoundBlendsAreWhatTheBlendPageSays(t *testing.T) {
	s, lots, _ := shelfOf(t)
	for _, covering := range []bool{false, true} {
		_, err := s.Workshop.ChangeSettings(t.Context(), 0, func(set *workshop.Settings) { set.CoveringPower = covering })
		require.NoError(t, err)
		in := recipe.BlendInput{
			Name:       "b",
			TotalG:     60,
			Passes:     2,
			Target:     "#5b7078",
			Components: []recipe.BlendComponent{{LotID: &lots[3].ID, Parts: 1, Locked: true}, {LotID: &lots[0].ID, Parts: 9}},
		}
		a, err := s.Reach.Find(t.Context(), in, reach.FindInput{MaxComponents: 4, Count: 5, Wish: reach.Wish{NoSparkle: true, LeastWoolShare: 0.5}}, nil)
		require.NoError(t, err)
		require.NotEmpty(t, a.Found)
		for _, f := range a.Found {
			got, err := s.Recipe.WorkOut(t.Context(), recipe.BlendInput{Name: "b", TotalG: 60, Passes: 2, Target: in.Target, Components: f.Components})
			require.NoError(t, err)
			assert.InDelta(t, f.DeltaE, got.Target.DeltaE, 1e-6, "the search and the page predict alike, covering %v", covering)
			assert.Equal(t, f.Hex, got.Hex)
			locked := false
			for _, c := range got.Components {
				assert.NotEqual(t, "film", c.Name)
				assert.LessOrEqual(t, c.WeighG, *c.HaveG+1e-9, "on hand after losses")
				if c.Name == "rust" {
					locked = true
					assert.InDelta(t, 0.1, c.Share, 0.001, "a locked share holds")
				}
			}
			assert.True(t, locked)
		}
	}
}

func TestMendAndDullAreWhatTheBlendPageSays(t *testing.T) {
	s, lots, _ := shelfOf(t)
	in := recipe.BlendInput{
		Name:       "b",
		TotalG:     60,
		Passes:     0,
		Components: []recipe.BlendComponent{{LotID: &lots[2].ID, Parts: 1}, {LotID: &lots[0].ID, Parts: 1}},
	}
	a, err := s.Reach.Mend(t.Context(), 0, in, reach.MendInput{MadeG: 60, Target: "#3c6f78", MaxComponents: 2, MaxAddedG: 30, Count: 3})
	require.NoError(t, err)
	require.NotEmpty(t, a.Mends)
	for _, m := range a.Mends {
		got, err := s.Recipe.WorkOut(t.Context(), recipe.BlendInput{Name: "b", TotalG: m.TotalG, Target: "#3c6f78", Components: m.Components})
		require.NoError(t, err)
		assert.InDelta(t, m.DeltaE, got.Target.DeltaE, 0.01)
		assert.Less(t, m.DeltaE, a.BeforeDeltaE)
	}
	// Said too light, it is to be darkened; the shelf has navy and teal for it.
	a, err = s.Reach.Mend(
		t.Context(),
		0,
		in,
		reach.MendInput{MadeG: 60, Said: []match.Said{{What: "light", How: "clearly"}}, MaxComponents: 1, MaxAddedG: 30, Count: 3},
	)
	require.NoError(t, err)
	assert.Contains(t, a.Words, "lighter")
	require.NotEmpty(t, a.Mends)

	d, err := s.Reach.Dull(t.Context(), in, reach.DullInput{Drop: 0.4})
	require.NoError(t, err)
	for _, w := range d.Ways {
		require.NotNil(t, w.Component, w.Way)
		got, err := s.Recipe.WorkOut(t.Context(), recipe.BlendInput{Name: "b", TotalG: 60, Components: w.Components})
		require.NoError(t, err)
		assert.InDelta(t, d.WantChroma, colour.Lab{L: got.Lab[0], A: got.Lab[1], B: got.Lab[2]}.Chroma(), 0.05, w.Way)
	}
}

func TestAPaintedTopBecomesBlendsOfItsColours(t *testing.T) {
	s, _, m := shelfOf(t)
	top, err := s.Shelf.CreateLots(
		t.Context(),
		[]shelf.NewLot{{LotInput: shelf.LotInput{Name: "painted", Kind: "merino", Preparation: "combed_top", Colours: []shelf.LotColour{
			{Hex: "#204a70", Share: 2}, {Hex: "#c9a24a", Share: 1}, {Hex: "#5d8a45", Share: 1},
		}}, Grams: 100}},
		"",
	)
	require.NoError(t, err)
	stops, err := s.Reach.StopsOfLot(t.Context(), top[0].ID)
	require.NoError(t, err)
	require.Len(t, stops, 3)
	assert.Equal(t, 50.0, stops[0].Grams)
	in, err := s.Reach.OrderGradient(
		t.Context(),
		reach.GradientInput{Name: "tide", GradientPlan: reach.GradientPlan{Stops: stops, School: "thirds", MaxJump: 8}},
		false,
	)
	require.NoError(t, err)
	assert.Equal(t, "#5d8a45", in.Stops[1].Hex, "green lies between blue and gold")
	g, err := s.Reach.CreateGradient(t.Context(), m.ID, in)
	require.NoError(t, err)
	assert.InDelta(t, 100, g.TotalG, 1e-9)
	blends, err := s.Reach.GradientBlends(t.Context(), g.ID)
	require.NoError(t, err)
	require.Len(t, blends, 7)
	var total float64
	for i, b := range blends {
		total += b.WeighInG
		assert.Less(t, b.Target.DeltaE, 0.35, "rung %d is predicted as the ladder drew it", i)
		assert.Equal(t, reach.DefaultPasses, b.Passes)
		for _, c := range b.Components {
			assert.Zero(t, c.ShortG, "every colour of the top is there for rung %d", i)
		}
	}
	assert.InDelta(t, 100, total, 0.05)
	assert.Len(t, blends[1].Components, 2, "two colours of one top are two components")
}

func TestAMeasuredLotIsPredictedFromItsSpectrum(t *testing.T) {
	s, lots, _ := shelfOf(t)
	var r colour.Reflectance
	for i := range r { // two peaks that no smooth spectrum of the same colour has
		r[i] = 0.1
		if i > 8 && i < 14 || i > 22 && i < 27 {
			r[i] = 0.8
		}
	}
	m, err := s.Shelf.PutReflectance(t.Context(), lots[1].ID, lots[1].Version, 0, r)
	require.NoError(t, err)
	assert.Equal(t, "reader", m.Lot.Colours[0].Source)
	assert.Equal(t, r.Linear().Hex(), m.Lot.MeanHex)
	got, err := s.Recipe.WorkOut(
		t.Context(),
		recipe.BlendInput{Name: "b", TotalG: 10, Components: []recipe.BlendComponent{{LotID: &lots[1].ID, Parts: 1}, {LotID: &lots[0].ID, Parts: 1}}},
	)
	require.NoError(t, err)
	want := mix.Default().Even([]colour.Reflectance{r, floor.ReflectanceOf("#ece6d8")}, []float64{0.5, 0.5})
	assert.Equal(t, want.Linear().Hex(), got.Hex)
	_, err = s.Shelf.PutReflectance(t.Context(), lots[1].ID, lots[1].Version, 0, r)
	assert.True(t, floor.IsStale(err))
}

func TestCalibrationFollowsTheSamples(t *testing.T) {
	s, lots, m := shelfOf(t)
	truth := mix.Model{Name: mix.StearnsNoechel, Parameter: 0.4}
	for i := range 6 {
		a, b := lots[i%3], lots[(i+1)%4]
		share := 0.3 + 0.1*float64(i%4)
		if a.ID == b.ID {
			b = lots[4]
		}
		v, err := s.Recipe.CreateBlend(
			t.Context(),
			m.ID,
			recipe.BlendInput{Name: "b", TotalG: 10, Components: []recipe.BlendComponent{{LotID: &a.ID, Parts: share}, {LotID: &b.ID, Parts: 1 - share}}},
		)
		require.NoError(t, err)
		r := truth.Even([]colour.Reflectance{floor.ReflectanceOf(a.MeanHex), floor.ReflectanceOf(b.MeanHex)}, []float64{share, 1 - share})
		lab := r.Lab()
		err = s.Reach.AddSample(
			t.Context(),
			reach.SampleInput{Name: "s", BlendID: &v.ID, Measured: workshop.ColourInput{Lab: []float64{lab.L, lab.A, lab.B}}, Source: "reader"},
		)
		require.NoError(t, err)
	}
	c, err := s.Reach.Calibration(t.Context())
	require.NoError(t, err)
	assert.Len(t, c.Samples, 6)
	assert.Less(t, c.After, c.Before)
	assert.InDelta(t, 0.4, c.Fitted.Parameter, 0.1)
	in := recipe.BlendInput{Name: "b", TotalG: 10, Components: []recipe.BlendComponent{{LotID: &lots[0].ID, Parts: 1}, {LotID: &lots[1].ID, Parts: 1}}}
	before, err := s.Recipe.WorkOut(t.Context(), in)
	require.NoError(t, err)
	require.NoError(t, s.Reach.UseCalibration(t.Context(), true))
	after, err := s.Recipe.WorkOut(t.Context(), in)
	require.NoError(t, err)
	assert.True(t, after.Calibrated)
	assert.NotEqual(t, before.Hex, after.Hex)
	assert.Less(t, after.Sigma, before.Sigma)
	for _, p := range c.Samples { // without samples there is nothing to follow
		require.NoError(t, s.Floor.Discard(t.Context(), "samples", p.ID))
	}
	none, err := s.Recipe.WorkOut(t.Context(), in)
	require.NoError(t, err)
	assert.Equal(t, before.Hex, none.Hex)
	assert.False(t, none.Calibrated)
}

func TestScrapsBecomeBlends(t *testing.T) {
	s, _, m := shelfOf(t)
	var in reach.BagInput
	in.Name = "ends"
	for _, hex := range []string{"#3f5f8a", "#4a6b99", "#b5533a", "#c26a4a", "#35507a"} {
		in.Scraps = append(in.Scraps, reach.Scrap{Name: "end", Kind: "merino", Hex: hex, Grams: 4})
	}
	bag, err := s.Reach.CreateBag(t.Context(), in)
	require.NoError(t, err)
	require.Len(t, bag.Piles, 1)
	require.True(t, bag.Piles[0].Wide)
	split, err := s.Reach.SplitPile(t.Context(), bag.BagInput, 0)
	require.NoError(t, err)
	require.Len(t, split.Piles, 2)
	sorted, err := s.Reach.SortBag(t.Context(), bag.BagInput, 0)
	require.NoError(t, err)
	require.Len(t, sorted.Piles, 2)
	_, err = s.Reach.SaveBag(t.Context(), bag.ID, bag.Version, sorted.BagInput)
	require.NoError(t, err)
	blends, err := s.Reach.BagBlends(t.Context(), bag.ID, m.ID)
	require.NoError(t, err)
	require.Len(t, blends, 2)
	assert.InDelta(t, 11.4, blends[0].TotalG, 0.11, "12 g less what merino loses in two passes: 2.5 and 2.2 %")
	assert.Equal(t, sorted.Piles[0].Hex, blends[0].Hex)
	for _, b := range blends {
		w, err := s.Scale.CreateWeighout(t.Context(), b.ID, scale.WeighoutInput{Units: 1, FinishedG: b.TotalG, Passes: b.Passes, StepG: 0.1})
		require.NoError(t, err)
		for _, c := range w.Components {
			assert.Zero(t, c.ShortG, "the bag suffices for %s", c.Name)
		}
		assert.InDelta(t, w.TotalG, b.WeighInG, 0.2)
	}
	_, err = s.Reach.SaveBag(t.Context(), bag.ID, bag.Version, sorted.BagInput)
	assert.True(t, floor.IsStale(err))
}

// TestABitOfManyColours: a bit that is no lot and has several colours lies on its pile by their mean, and becomes a lot of them where
// a blend is made, once.
func TestABitOfManyColours(t *testing.T) {
	s, _, m := shelfOf(t)
	many := reach.Scrap{Name: "painted end", Kind: "merino", Grams: 6, Colours: []string{"#3F5F8A", "#b5533a"}}
	bag, err := s.Reach.CreateBag(t.Context(), reach.BagInput{Name: "ends", Scraps: []reach.Scrap{many, {Name: "end", Kind: "merino", Hex: "#6b6055", Grams: 4}}})
	require.NoError(t, err)
	assert.Equal(t, [][]string{{"#3f5f8a", "#b5533a"}, {"#6b6055"}}, bag.Shown)
	before, _, err := s.Store.Lots(t.Context(), shelf.LotFilter{})
	require.NoError(t, err)
	for range 2 {
		blends, err := s.Reach.BagBlends(t.Context(), bag.ID, m.ID)
		require.NoError(t, err)
		require.Len(t, blends, 1)
		require.NotNil(t, blends[0].Components[0].Lot)
		assert.Len(t, blends[0].Components[0].Lot.Colours, 2)
		assert.Equal(t, "patches", blends[0].Components[0].Lot.Lies)
		assert.Equal(t, bag.Piles[0].Hex, blends[0].Hex, "mixed even it is what the pile said")
	}
	after, _, err := s.Store.Lots(t.Context(), shelf.LotFilter{})
	require.NoError(t, err)
	assert.Len(t, after, len(before)+1)
	many.Colours = []string{"#3f5f8a", "rust"}
	_, err = s.Reach.WorkOutBag(t.Context(), reach.BagInput{Name: "ends", Scraps: []reach.Scrap{many}})
	assert.ErrorContains(t, err, "scraps[0].colours")
}

// Every take of the reader goes through the same gate: no address, nobody
// there, and a lot without such a colour are told apart.
func TestMeasuringWithoutAReader(t *testing.T) {
	s, lots, _ := shelfOf(t)
	_, err := s.Shelf.MeasureLot(t.Context(), lots[0].ID, lots[0].Version, 0)
	assert.ErrorContains(t, err, "No colour reader is set up")
	_, err = s.Workshop.ChangeSettings(t.Context(), 0, func(set *workshop.Settings) { set.ReaderAddress = "127.0.0.1:1" })
	require.NoError(t, err)
	_, err = s.Shelf.MeasureLot(t.Context(), lots[0].ID, lots[0].Version, 0)
	assert.ErrorContains(t, err, "No colour reader answers at 127.0.0.1:1")
	_, err = s.Shelf.MeasureLot(t.Context(), lots[0].ID, lots[0].Version, 3)
	assert.ErrorContains(t, err, "no such colour")
	_, err = s.Workshop.ChangeSettings(t.Context(), 0, func(set *workshop.Settings) { set.ReaderAddress = "somewhere" })
	assert.ErrorContains(t, err, "reader_address")
	l, err := s.Shelf.Lot(t.Context(), lots[0].ID)
	require.NoError(t, err)
	assert.Equal(t, lots[0].Version, l.Version, "nothing was changed")
	_, err = s.Shelf.ColoursBack(t.Context(), l.ID, l.Version)
	assert.ErrorContains(t, err, "not changed yet")
}
