package layup

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func film(grams float64) Fibre {
	return Fibre{
		Name:        "film",
		Grams:       grams,
		Family:      "sparkle",
		Role:        "sparkle",
		Crimp:       "none",
		Cohesion:    "slippery",
		LickerIn:    "avoid",
		Preparation: "combed_top",
		StapleMM:    60,
	}
}

func keys(list []Finding) (out []string) {
	for _, f := range list {
		out = append(out, f.Key)
	}
	return out
}

// Seven lanes of 8.1 g of a sliver of which the drum holds (90 + 50)/2 = 70 g,
// three times over, with 0.9 g of film (90 g) between.
//
//	capacity  57.6 / (56.7/70 + 0.9/90) = 57.6 / 0.82 = 70.24 g
//	fill      57.6 / 70.24 = 0.82; each lane (8.1 + 0.9/7) · 7 / 70.24 = 0.82
//	layers    lanes of 8.1/3 = 2.7 g, film 0.5 g and 0.4 g in the two gaps
//	feeds     a tray takes 9 turns · 0.3 g = 2.7 g over the whole width, a layer
//	          of 18.9 g seven of them: 3 · 7 = 21
//	height    10 mm · (8.1 / (70/7) + 0.9/90) = 8.2 mm, below the pins
func TestSevenLanesThreeTimesOver(t *testing.T) {
	var fibres []Fibre
	for i := range 7 {
		fibres = append(fibres, wool(fmt.Sprint("lane ", i+1), 8.1))
	}
	fibres = append(fibres, film(0.9))
	p, err := Build(standardDrum, fibres, Options{Builder: Lanes, Repeats: 3, Bare: true, Passes: 1, Step: 0.1})
	require.NoError(t, err)
	l := p.Loads(standardDrum, fibres)
	assert.InDelta(t, 57.6/0.82, l.CapacityG, 1e-9)
	assert.InDelta(t, 0.82, l.Fill, 1e-9)
	require.Len(t, l.Lanes, 7)
	for i, v := range l.Lanes {
		assert.InDelta(t, float64(i)/7, v.From, 1e-6)
		assert.InDelta(t, 8.1+0.9/7, v.Grams, 1e-4)
		assert.InDelta(t, 0.82, v.Load, 1e-4)
	}
	require.Len(t, p.Layers, 5)
	for i, want := range []float64{18.9, 0.5, 18.9, 0.4, 18.9} {
		assert.InDelta(t, want, l.Layers[i].Grams, 1e-9)
	}
	assert.Equal(t, 21, l.Feeds)
	assert.InDelta(t, 2.7, l.Layers[0].PortionG, 1e-9)
	assert.InDelta(t, 8.2, l.HeightMM, 1e-4)
	assert.Empty(t, p.Survey(standardDrum, fibres, 1, nil).Findings)
}

// A board of 300 mm in rolags of a 100 mm fibre: n = 300·1.75/(1.75·100) = 3,
// zones of 100 mm, a wrap of 175 mm, 1.75 staples. Locks of 80 mm stay with
// their middle 40 mm from the cuts at 100 and 200 mm; their lays keep 10 mm
// away: 0–90, 110–190 and 210–300 mm, 2 g of the 6 g in each.
func TestThreeRolagsWithLocksClearOfTheCuts(t *testing.T) {
	locks := wool("locks", 6)
	locks.Preparation, locks.StapleMM = "locks", 80
	blue := wool("blue", 6)
	blue.Colour.B = -30
	fibres := []Fibre{wool("grey", 12), blue, locks}
	p, err := Build(largeBoard, fibres, Options{Builder: StripesAlong, Repeats: 2, Step: 0.1})
	require.NoError(t, err)
	r := p.Rolls(largeBoard, fibres)
	require.NotNil(t, r)
	assert.Equal(t, []any{3, 3, 100.0, 175.0, 1.75}, []any{r.Count, r.Suggested, r.ZoneMM, r.WrapMM, r.Staples})
	assert.InDeltaSlice(t, []float64{1. / 3, 2. / 3}, r.Cuts, 1e-12)
	assert.InDelta(t, 60, r.Clear[0].Start*300, 1e-9)
	assert.InDelta(t, 140, r.Clear[0].End*300, 1e-9)
	for _, v := range r.Each {
		assert.InDelta(t, 8, v.Grams, 1e-9)
		assert.InDelta(t, 0.25, v.Shares[2], 1e-9)
	}
	require.Len(t, p.Layers, 4, "base, stripes, locks, cover")
	var places []float64
	for _, v := range p.Layers[2].Lays {
		places = append(places, v.Start*300, v.End*300)
		assert.InDelta(t, 2, v.Grams, 1e-9)
		assert.Equal(t, Place, v.Method)
	}
	assert.InDeltaSlice(t, []float64{0, 90, 110, 190, 210, 300}, places, 1e-3)
	assert.Empty(t, p.Survey(largeBoard, fibres, 1, nil).Findings)

	across := p.clone()
	across.Layers[2].Lays = []Lay{{Component: 2, To: 1, Start: 0.05, End: 0.6, Grams: 6, Method: Place}}
	found := across.Survey(largeBoard, fibres, 1, nil).Findings
	assert.Equal(t, []string{"locks_cut"}, keys(found))
	assert.Equal(t, "clear", found[0].Mend)
	mended := across.Clear(largeBoard, fibres, 0.1)
	assert.Empty(t, mended.Survey(largeBoard, fibres, 1, nil).Findings)
	for n, want := range map[int]string{2: "Too long a wrap", 5: "Too short a wrap"} {
		p.Rolags = n
		found := p.Survey(largeBoard, fibres, 1, nil).Findings
		require.NotEmpty(t, found)
		assert.Contains(t, found[0].Why.String(), want)
	}
}

// 28 g of a sliver that fills 28/70 = 0.4 of the drum and 27 g of a slick top
// that fills 27/90 = 0.3: 70 % in all. The wool lies 14 g below and 14 g above;
// trays take 2.7 g, so 14 g are six of 2.33 g and 27 g are ten.
func TestSandwichAtSeventyPercent(t *testing.T) {
	silk := Fibre{
		Name:        "tussah",
		Grams:       27,
		Family:      "silk",
		Role:        "shine",
		Crimp:       "none",
		Cohesion:    "slippery",
		LickerIn:    "thin_only",
		Preparation: "combed_top",
		StapleMM:    70,
	}
	fibres := []Fibre{silk, wool("grey", 28)}
	p, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Passes: 1, Step: 0.1})
	require.NoError(t, err)
	l := p.Loads(standardDrum, fibres)
	assert.InDelta(t, 0.7, l.Fill, 1e-9)
	assert.InDelta(t, 7, l.HeightMM, 1e-9)
	require.Len(t, p.Layers, 3)
	for i, want := range []struct {
		component, feeds int
		grams, portion   float64
	}{{1, 6, 14, 14. / 6}, {0, 10, 27, 2.7}, {1, 6, 14, 14. / 6}} {
		assert.Equal(t, want.component, p.Layers[i].Lays[0].Component)
		assert.Equal(t, want.feeds, l.Layers[i].Feeds)
		assert.InDelta(t, want.grams, l.Layers[i].Grams, 1e-9)
		assert.InDelta(t, want.portion, l.Layers[i].PortionG, 1e-9)
	}
	late, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Passes: 2, Step: 0.1})
	require.NoError(t, err)
	assert.Equal(t, []int{2, 1}, late.Joins, "the silk waits for the second pass")
	now, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Passes: 2, DelicateNow: true, Step: 0.1})
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1}, now.Joins)
}

func TestFindingsAndTheirMends(t *testing.T) {
	fibres := []Fibre{wool("grey", 40), wool("blue", 20), film(1)}
	look := func(p Plan) []string {
		require.NoError(t, p.Check(standardDrum, fibres, false))
		return keys(p.Survey(standardDrum, fibres, 1, nil).Findings)
	}
	good := Plan{
		Draft: 1.75,
		Layers: []Layer{
			{Lays: []Lay{whole(0, 20, Feed)}},
			{Lays: []Lay{whole(2, 1, Place)}},
			{Lays: []Lay{whole(1, 20, Feed)}},
			{Lays: []Lay{whole(0, 20, Feed)}},
		},
	}
	assert.Empty(t, look(good))
	bare := good.clone()
	bare.Layers = []Layer{good.Layers[1], good.Layers[0], good.Layers[2], good.Layers[3]}
	assert.Equal(t, []string{"base_layer"}, look(bare))
	assert.Empty(t, look(bare.Bury(fibres, 0.1)))
	bare.Layers = []Layer{good.Layers[0], good.Layers[2], good.Layers[3], good.Layers[1]}
	assert.Equal(t, []string{"cover_layer"}, look(bare))
	assert.Empty(t, look(bare.Bury(fibres, 0.1)))
	lean := good.clone()
	lean.Layers[2].Lays[0].To = 0.3
	assert.Equal(t, []string{"over_pins", "lane_full", "thick_and_thin"}, look(lean))
	lean.Uneven = true
	assert.Equal(t, []string{"over_pins"}, look(lean))
	part := good.clone()
	part.Layers = part.Layers[:2]
	assert.Equal(t, []string{"unplaced", "cover_layer"}, look(part))
	part = part.PlaceRest(standardDrum, fibres, 0, 0.1).PlaceRest(standardDrum, fibres, 1, 0.1)
	assert.Empty(t, look(part))
	fibres[0].Grams = 30
	assert.Equal(t, []string{"overplaced"}, look(good))
	assert.Empty(t, look(good.Fit(fibres, 0.1)))
	fibres[0].Grams = 80
	assert.Equal(t, []string{"far_too_full"}, look(good.Fit(fibres, 0.1)), "not once more for every lane")
	fed := good.clone()
	fed.Layers[1].Lays[0].Method = Feed
	fibres[0].Grams, fibres[0].StapleMM = 40, 180
	assert.Equal(t, []string{"too_long", "fed_bare"}, without2(look(fed), "too_full"))
}

func without2(list []string, key string) (out []string) {
	for _, v := range list {
		if v != key {
			out = append(out, v)
		}
	}
	return out
}

// 110 g of sliver: the standard drum holds 70 g, so two units of 55 g, 22 minutes
// for a full one, so 22·55/70 each and pass. A board holds 33 g: 110/33 makes
// four, three rolags each, 20 minutes for a full one. Cotton of 24 mm goes into punis of 2.25 g, and wool
// beside it is cut.
func TestChoiceOfEquipment(t *testing.T) {
	fibres := []Fibre{wool("grey", 110)}
	c := Choose(standardDrum, fibres, FillFull, 2)
	assert.Equal(t, 2, c.Units)
	assert.InDelta(t, 55, c.UnitG, 1e-9)
	assert.InDelta(t, 22*55.0/70*2*2, c.Minutes, 1e-9)
	assert.Equal(t, 3, Choose(standardDrum, fibres, FillThin, 1).Units, "110/42")
	board := Choose(largeBoard, fibres, FillFull, 2)
	assert.Equal(t, []any{4, 12}, []any{board.Units, board.Rolags})
	assert.InDelta(t, 20*110.0/33, board.Minutes, 1e-9)
	cotton := wool("cotton", 18)
	cotton.Family, cotton.StapleMM, cotton.Crimp = "cotton", 24, "none"
	mixed := []Fibre{cotton, wool("grey", 9)}
	cards := Choose(Bed{Type: Cards, LengthMM: 95, WidthMM: 210, ToothMM: 10, Smooth: 4, Lofty: 3, Minutes: 3}, mixed, FillFull, 1)
	assert.True(t, cards.Punis)
	assert.Equal(t, 12, cards.Rolags)
	assert.NotEmpty(t, Choose(standardDrum, mixed, FillFull, 1).Against)
	which, to := ToCut(mixed)
	assert.Equal(t, []int{1}, which)
	assert.InDelta(t, 24, to, 1e-9)
	mixed[1].Grams = 1.9 // under a tenth it may stay
	which, _ = ToCut(mixed)
	assert.Empty(t, which)
}

// Slack-water: A and B share a width, then B and C. Overlay: the brightest
// goes over the base colour that it is most like.
func TestFlowAndOverlay(t *testing.T) {
	fibres := []Fibre{wool("A", 8), wool("B", 8), wool("C", 8)}
	p, err := Build(standardDrum, fibres, Options{Builder: Flow, Repeats: 2, Step: 0.1})
	require.NoError(t, err)
	spans := func(l Layer) (out []string) {
		for _, v := range l.Lays {
			out = append(out, fmt.Sprintf("%d %.2f-%.2f", v.Component, v.From, v.To))
		}
		return out
	}
	assert.Equal(t, []string{"0 0.00-0.67", "1 0.00-0.67", "2 0.67-1.00"}, spans(p.Layers[0]))
	assert.Equal(t, []string{"0 0.00-0.33", "1 0.33-1.00", "2 0.33-1.00"}, spans(p.Layers[1]))
	for i, c := range [][3]float64{{40, 0, -5}, {45, 5, 5}, {60, -4, -50}, {70, 20, 60}} {
		for len(fibres) <= i {
			fibres = append(fibres, wool("D", 8))
		}
		fibres[i].Colour.L, fibres[i].Colour.A, fibres[i].Colour.B = c[0], c[1], c[2]
	}
	p, err = Build(standardDrum, fibres, Options{Builder: Overlay, Order: []int{0, 1, 3, 2}, Step: 0.1})
	require.NoError(t, err)
	require.Len(t, p.Layers, 2)
	assert.Equal(t, []string{"0 0.00-0.50", "1 0.50-1.00"}, spans(p.Layers[0]))
	assert.Equal(t, []string{"2 0.00-0.50", "3 0.50-1.00"}, spans(p.Layers[1]), "blue over the cool base, gold over the warm")
	assert.Equal(t, Paint, p.Layers[1].Lays[0].Method)
}
