package carding

import (
	"encoding/json"
	"flag"
	"os"
	"testing"

	"github.com/stretchr/testify/require"
)

var update = flag.Bool("update", false, "keep the forecasts as they are now")

// TestForecastsStayWhatTheyWere cards two small batts in every way there is, and a
// board, and compares all that is measured with what it was before: the strengths are
// tuned to what makers say, so no number may move unnoticed.
func TestForecastsStayWhatTheyWere(t *testing.T) {
	e := Eye{Palette: hexes(t, "#1f2a44", "#f4f1ea", "#8a2f2f")}
	var got [][]float64
	keep := func(s Stage) {
		row := []float64{s.Patch, s.Across, s.Turned}
		for _, side := range []Side{Face, Back, Cut} {
			v := s.Spreads[side]
			row = append(row, v.Patch, v.Across, v.Mean[0], v.Mean[2])
		}
		row = append(row, s.Irregular.Section...)
		row = append(row, s.Irregular.Strand...)
		row = append(row, s.Irregular.Local...)
		for c := range s.Grams {
			row = append(row, s.Grams[c], s.Lost[c], s.Lanes.Spread(c), s.Strips.Spread(c))
		}
		got = append(got, row)
	}
	p := Plan{
		Bed: Bed{WidthMM: 100, LengthMM: 300, FullG: 15}, Components: []Component{{}, {ThingG: 0.3, ThingMM: 60}, {Joins: 2}}, BurnishMM: 15,
		Layers: [][]Lay{
			{{Component: 0, From: 0.1, To: 0.6, End: 1, Grams: 4, Method: FeedIt}, {Component: 1, From: 0.5, To: 1, End: 1, Grams: 3, Method: FeedIt, Chunky: Lumps}},
			{
				{Component: 1, To: 1, Start: 0.2, End: 0.8, Grams: 1, Method: PaintIt},
				{Component: 0, From: 0.2, To: 0.9, End: 1, Grams: 2, Method: FeedIt, Chunky: Cloud},
			},
			{
				{Component: 1, From: 0.1, To: 0.5, Start: 0.1, End: 0.9, Grams: 1.2, Method: PlaceIt},
				{Component: 2, From: 0.3, To: 0.8, End: 1, Grams: 1.5, Method: FeedIt},
			},
		},
		Passes: []Pass{
			{Strips: 4, Refeed: Spread, Turned: true}, {Strips: 3, Refeed: OwnPlace}, {Strips: 2, Refeed: Pieces, ByHand: true}, {Strips: 6, Refeed: Spread},
		},
		Loss: func(c, n int) float64 { return 0.03 / float64(n+c) },
	}
	see := func(stage int, b *Batt, things []Placed) error {
		for _, v := range things {
			got = append(got, []float64{v.X, v.Y, v.Angle, v.Grams, v.LongMM, v.Shows})
		}
		keep(e.Measure(b, stage))
		return nil
	}
	require.NoError(t, Run(t.Context(), p, DefaultParams(), FineGrid(100, 300), 5, see))
	p.Bed.Open, p.Passes, p.Components[2].Joins = true, nil, 0
	require.NoError(t, Run(t.Context(), p, DefaultParams(), FineGrid(100, 300), 5, see))

	b, err := New(Bed{WidthMM: 100, LengthMM: 300, FullG: 15}, FineGrid(100, 300), DefaultParams(), 9, 3)
	require.NoError(t, err)
	require.NoError(t, b.Feed(0, 5, 10, 70, Teased))
	join := []Join{
		{Component: 1, Grams: 2, From: 0, To: 60, When: Before, Chunky: Teased}, {Component: 2, Grams: 1, From: 40, To: 100, When: Between, Chunky: Lumps},
	}
	require.NoError(t, b.Card(Pass{Strips: 4, Refeed: OwnPlace, Joins: join}))
	keep(e.Measure(b, 2))
	got = append(got, b.Rolags(4, 3)...)
	cut := b.Slice(120, 3)
	got = append(got, cut.Grams[:60], cut.Patch[:60], b.StreakWidths(3))
	for _, l := range Looks() {
		got = append(got, []float64{likely(1.5, l), likely(4, l), likely(7, l), likely(12, l)})
	}
	for _, c := range Unknown(4).Carders {
		got = append(got, []float64{c.Clumps, c.Opens})
	}

	const file = "testdata/forecasts.json"
	if *update {
		data, err := json.Marshal(got)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(file, append(data, '\n'), 0o644))
	}
	data, err := os.ReadFile(file)
	require.NoError(t, err)
	var want [][]float64
	require.NoError(t, json.Unmarshal(data, &want))
	require.Len(t, got, len(want))
	for i := range want {
		require.InDeltaSlice(t, want[i], got[i], 1e-6, "row %d", i)
	}
}
