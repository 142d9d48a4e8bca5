// What is found of a lay-up is judged in core/advice; its cases are those of lay-ups.
package layup_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/advice"
	. "fairtangle/core/layup"
)

// shared with the tests of lay-ups.
var (
	drawBed      = DrawBedCase
	drawBuilt    = DrawBuiltCase
	drawFibres   = DrawFibresCase
	drawPlan     = DrawPlanCase
	film         = FilmCase
	largeBoard   = LargeBoardCase
	standardDrum = StandardDrumCase
	whole        = WholeCase
	wool         = WoolCase
)

func look(p Plan, b Bed, fibres []Fibre, passes int, schools map[string]string) advice.Laid {
	return advice.LaidPlan{Plan: p, Bed: b, Fibres: fibres, Passes: passes, Schools: schools, Survey: p.Survey(b, fibres, passes)}.Judge(nil)
}

func found(p Plan, b Bed, fibres []Fibre, passes int, schools map[string]string) []advice.LaidFinding {
	list := look(p, b, fibres, passes, schools).Findings
	for _, f := range list {
		if f.What.String() == "" || f.Why.String() == "" || f.Do.String() == "" {
			panic(f.Key + " says nothing")
		}
	}
	return list
}

func without2(list []string, key string) (out []string) {
	for _, v := range list {
		if v != key {
			out = append(out, v)
		}
	}
	return out
}

func keys(list []advice.LaidFinding) (out []string) {
	for _, f := range list {
		out = append(out, f.Key)
	}
	return out
}

// Every finding has a lay-up that has it, and one thing changed takes it away.
func TestEveryFinding(t *testing.T) {
	grey := func(g float64) Fibre { return wool("grey", g) }
	curl := wool("curls", 5)
	curl.Preparation, curl.StapleMM = "locks", 60
	slick := Fibre{
		Name:        "white silk",
		Grams:       10,
		Family:      "silk",
		Role:        "shine",
		Crimp:       "none",
		Cohesion:    "slippery",
		LickerIn:    "avoid",
		Preparation: "combed_top",
		StapleMM:    90,
	}
	cotton := Fibre{
		Name:        "cotton",
		Grams:       20,
		Family:      "cotton",
		Role:        "short",
		Crimp:       "low",
		Cohesion:    "smooth",
		LickerIn:    "thin_only",
		Preparation: "carded_sliver",
		StapleMM:    22,
	}
	long := wool("long", 20)
	long.StapleMM = 200
	layers := func(lays ...Lay) Plan {
		p := Plan{Draft: 1.75}
		for _, v := range lays {
			p.Layers = append(p.Layers, Layer{Lays: []Lay{v}})
		}
		return p
	}
	rolled := func(p Plan, n int) Plan {
		p.Rolags = n
		return p
	}
	half := whole(0, 20, Feed)
	half.To = 0.5
	for key, c := range map[string]struct {
		bed    Bed
		fibres []Fibre
		with   Plan
		none   Plan
	}{
		"far_too_full": {standardDrum, []Fibre{grey(90)}, layers(whole(0, 90, Feed)), layers(whole(0, 60, Feed))},
		"too_full":     {standardDrum, []Fibre{grey(80)}, layers(whole(0, 80, Feed)), layers(whole(0, 60, Feed))},
		"thin":         {standardDrum, []Fibre{grey(15)}, layers(whole(0, 15, Feed)), layers(whole(0, 10, Feed))}, // more to come
		"lane_thin":    {standardDrum, []Fibre{grey(40)}, layers(half, whole(0, 5, Feed), half), layers(whole(0, 40, Feed))},
		"locks_last": {standardDrum, []Fibre{grey(30), curl}, layers(whole(0, 10, Feed), whole(1, 5, Place), whole(0, 10, Feed), whole(0, 10, Feed)),
			layers(whole(0, 30, Feed), whole(1, 5, Place))},
		"licker_in": {standardDrum, []Fibre{grey(30), slick}, layers(whole(0, 15, Feed), whole(1, 10, Feed), whole(0, 15, Feed)), layers(whole(0, 15,
			Feed), whole(1, 10, Paint), whole(0, 15, Feed))},
		"too_long":       {standardDrum, []Fibre{long}, layers(whole(0, 20, Feed)), layers(whole(0, 20, Paint))},
		"punis":          {largeBoard, []Fibre{cotton}, rolled(layers(whole(0, 20, Paint)), 6), layers(whole(0, 20, Paint))},
		"companion_long": {largeBoard, []Fibre{cotton, grey(10)}, layers(whole(0, 20, Paint), whole(1, 10, Paint)), Plan{Draft: 1.75}},
		"wrap_length":    {largeBoard, []Fibre{grey(20)}, rolled(layers(whole(0, 20, Paint)), 2), rolled(layers(whole(0, 20, Paint)), 3)},
		"strip_slides": {standardDrum, []Fibre{grey(20), slick}, Plan{Draft: 1.75, Layers: []Layer{{Lays: []Lay{
			{Component: 0, To: 0.6, End: 1, Grams: 20, Method: Feed}, {Component: 1, From: 0.6, To: 1, End: 1, Grams: 10, Method: Paint}}}}}, layers(whole(0, 10,
			Feed), whole(1, 10, Paint), whole(0, 10, Feed))},
		"base_layer": {standardDrum, []Fibre{slick, grey(20)}, layers(whole(0, 10, Paint), whole(1, 20, Feed)), layers(whole(1, 10, Feed), whole(0, 10,
			Paint), whole(1, 10, Feed))},
	} {
		for want, p := range map[bool]Plan{true: c.with, false: c.none} {
			require.NoError(t, p.Check(c.bed, c.fibres, false), key)
			assert.Equal(t, want, slices.Contains(keys(found(p, c.bed, c.fibres, 1, nil)), key), "%s %v", key, want)
		}
	}
	quarter := map[string]string{"extras": "quarter"}
	for grams, want := range map[float64]bool{30: false, 29: true} {
		fibres := []Fibre{grey(grams), slick}
		p := layers(whole(0, grams/2, Feed), whole(1, 10, Paint), whole(0, grams/2, Feed))
		assert.Equal(t, want, slices.Contains(keys(found(p, standardDrum, fibres, 1, quarter)), "extras"), "%g g beside 10 g of silk", grams)
		assert.NotContains(t, keys(found(p, standardDrum, fibres, 1, map[string]string{"extras": "free"})), "extras")
	}
}

// What would take less than a step of the scale is said, and nothing else is.
func TestWhatRoundsToNothingIsSaid(t *testing.T) {
	p := Plan{Draft: 1.75, Passes: 1, Layers: []Layer{{Lays: []Lay{{To: 1, End: 1, Grams: 40, Method: Feed}}}}}
	for _, c := range []struct {
		wanted, grams float64
		said          bool
	}{{0.04, 0, true}, {0, 0, false}, {0.04, 0.1, false}, {0.1, 0.1, false}} {
		little := wool("little", c.grams)
		little.Wanted = c.wanted
		said := false
		for _, f := range found(p, standardDrum, []Fibre{wool("grey", 40), little}, 1, nil) {
			said = said || f.Key == "rounds_to_nothing"
		}
		assert.Equal(t, c.said, said, "%+v", c)
	}
}

// TestABuilderIsNotCautionedForWhatItChose: whatever is built, its own order,
// methods and places are no finding; only what the fibre is may be.
func TestABuilderIsNotCautionedForWhatItChose(t *testing.T) {
	chosen := []string{"base_layer", "cover_layer", "locks_last", "lane_full", "lane_thin", "thick_and_thin", "licker_in", "fed_bare",
		"lanes_lost", "joins_scattered", "extras_opened", "locks_opened", "unplaced", "overplaced"}
	rapid.Check(t, func(t *rapid.T) {
		b, fibres, _, p := drawBuilt(t)
		var ground float64
		for _, f := range fibres {
			if f.Ground() {
				ground += f.Grams
			}
		}
		if ground < 1 { // too little to lie below and above
			return
		}
		for _, k := range keys(found(p, b, fibres, 1, nil)) {
			if k == "lanes_lost" && p.Passes > 1 { // asked for against what is usual
				continue
			}
			assert.NotContains(t, chosen, k)
		}
	})
}

// Every mend of what a later pass would destroy does away with the finding, and
// loses no gram.
func TestWhatALaterPassDestroysIsMended(t *testing.T) {
	grey, blue := wool("grey", 20), wool("blue", 20)
	curl := wool("curls", 5)
	curl.Preparation, curl.StapleMM = "locks", 60
	nep := Fibre{Name: "neps", Grams: 2, Family: "wool", Role: "texture", Crimp: "none", Preparation: "neps", StapleMM: 3}
	lane := func(c int, from, to float64) Lay {
		return Lay{Component: c, From: from, To: to, End: 1, Grams: 20, Method: Feed}
	}
	stroke := Lay{Component: 1, To: 1, Start: 0.2, End: 0.5, Grams: 20, Method: Paint}
	halves := func(mid Lay) Plan {
		return Plan{Draft: 1.75, Layers: []Layer{{Lays: []Lay{whole(0, 10, Feed)}}, {Lays: []Lay{mid}}, {Lays: []Lay{whole(0, 10, Feed)}}}}
	}
	for key, c := range map[string]struct {
		fibres []Fibre
		plan   Plan
	}{
		"lanes_lost":   {[]Fibre{grey, blue}, Plan{Draft: 1.75, Layers: []Layer{{Lays: []Lay{lane(0, 0, 0.5), lane(1, 0.5, 1)}}}}},
		"strokes_lost": {[]Fibre{grey, blue}, halves(stroke)},
		"depth_lost": {[]Fibre{grey, blue, wool("rust", 20)}, Plan{Draft: 1.75, Layers: []Layer{{Lays: []Lay{lane(0, 0, 1)}}, {Lays: []Lay{lane(1, 0, 1)}},
			{Lays: []Lay{lane(2, 0, 1)}}}}},
		"locks_opened":  {[]Fibre{grey, curl}, halves(whole(1, 5, Place))},
		"extras_opened": {[]Fibre{grey, nep}, halves(whole(1, 2, Place))},
	} {
		find := func(p Plan, passes int) *advice.LaidFinding {
			for _, f := range found(p, standardDrum, c.fibres, passes, nil) {
				if f.Key == key {
					return &f
				}
			}
			return nil
		}
		require.NoError(t, c.plan.Check(standardDrum, c.fibres, true), key)
		assert.Nil(t, find(c.plan, 1), "%s: one pass destroys nothing", key)
		f := find(c.plan, 2)
		require.NotNil(t, f, key)
		for _, way := range append([]advice.Way{{Mend: f.Mend, Do: f.Do.String(), Times: f.Times}}, f.Others...) {
			p := c.plan
			switch way.Mend {
			case "passes":
				p.Passes = way.Times
			case "refeed":
				p.Refeed = OwnPlace
			case "joins":
				p.Joins = make([]int, len(c.fibres))
				p.Joins[f.Component] = way.Times
			default:
				t.Fatalf("%s is no mend here", way.Mend)
			}
			assert.Nil(t, find(p, 2), "%s is mended by %s", key, way.Mend)
		}
	}
}

// Boards that are right say so; cards and boards have no drive and no passes.
func TestABoardThatIsRightSaysSo(t *testing.T) {
	curl := wool("curls", 4)
	curl.Preparation, curl.StapleMM = "locks", 60
	fibres := []Fibre{wool("white", 20), curl}
	p, err := Build(largeBoard, fibres, Options{Builder: StripesAlong, Rolags: 3, Step: 0.1})
	require.NoError(t, err)
	s := look(p, largeBoard, fibres, 2, nil)
	assert.Equal(t, []string{"locks_clear"}, s.Right)
	for _, v := range p.Survey(largeBoard, fibres, 2).Steps {
		assert.NotContains(t, v.Cautions, MovingDrum)
		assert.NotContains(t, v.Cautions, Unplug)
	}
}

// The number of rolags that there is, and one that a school asks for, is never
// advised against.
func TestWrapLengthAdvisesWhatCanBeFollowed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		fibres := []Fibre{wool("white", 20)}
		fibres[0].StapleMM = rapid.Float64Range(15, 300).Draw(t, "staple")
		p := Plan{
			Draft:  rapid.Float64Range(1.5, 2).Draw(t, "draft"),
			Rolags: rapid.IntRange(1, MaxRolags).Draw(t, "rolags"),
			Layers: []Layer{{Lays: []Lay{whole(0, 20, Paint)}}},
		}
		school := rapid.SampledFrom([]string{"", "staple", "one", "three", "five"}).Draw(t, "school")
		for _, f := range found(p, largeBoard, fibres, 1, map[string]string{"rolags": school}) {
			if f.Key == "wrap_length" {
				assert.NotEqual(t, p.Rolags, f.Times)
				assert.NotEqual(t, map[string]int{"one": 1, "three": 3}[school], p.Rolags)
				p.Rolags = f.Times
				assert.NotContains(t, keys(found(p, largeBoard, fibres, 1, nil)), "wrap_length", "what is advised is kept to")
			}
		}
	})
}

// TestEquipmentSaysWhyNot: each reason against equipment, beside fibre that it
// takes.
func TestEquipmentSaysWhyNot(t *testing.T) {
	cards := Bed{Type: Cards, LengthMM: 95, WidthMM: 210, ToothMM: 10, TPI: 72, Smooth: 4, Lofty: 3, Minutes: 3}
	drum := standardDrum
	drum.TPI = 72
	slick := Fibre{Name: "silk", Grams: 20, Family: "silk", Crimp: "none", Cohesion: "slippery", Preparation: "combed_top", StapleMM: 90}
	film := Fibre{Name: "film", Grams: 20, Family: "sparkle", Role: "sparkle", Cohesion: "slippery", Preparation: "threads", StapleMM: 60}
	cotton := Fibre{
		Name:        "cotton",
		Grams:       20,
		Family:      "cotton",
		Role:        "short",
		Crimp:       "low",
		Cohesion:    "smooth",
		Preparation: "carded_sliver",
		StapleMM:    36,
		MinTPI:      108,
	}
	long, raw := wool("long", 20), wool("raw", 20)
	long.StapleMM, raw.Preparation = 240, "raw_fleece"
	grey := wool("grey", 30)
	for _, c := range []struct {
		bed    Bed
		fibres []Fibre
		says   string
	}{
		{drum, []Fibre{grey}, ""}, {cards, []Fibre{grey}, ""},
		{drum, []Fibre{slick}, "ribbons"}, {drum, []Fibre{grey, slick}, ""}, {cards, []Fibre{slick}, ""},
		{cards, []Fibre{long}, "too long"}, {drum, []Fibre{long}, "longer than the drums"},
		{drum, []Fibre{film}, "film"}, {cards, []Fibre{film}, "film"},
		{drum, []Fibre{cotton, grey}, "sinks"}, {cards, []Fibre{cotton}, "72 pins"}, {drum, []Fibre{raw}, "raw fleece"},
	} {
		got := Choose(c.bed, c.fibres, nil, 2)
		if c.says == "" {
			assert.Empty(t, got.Against)
		} else {
			assert.Contains(t, got.Against, c.says)
		}
	}
	assert.True(t, Choose(cards, []Fibre{cotton}, nil, 1).Punis, "punis for cotton")
	assert.Contains(t, Choose(drum, []Fibre{grey}, nil, 2).Evenness, "one fibre")
	assert.Contains(t, keys(found(Plan{Draft: 1.75}, drum, []Fibre{raw}, 1, nil)), "greasy_raw")
	full := Choose(drum, []Fibre{wool("grey", 66.5)}, nil, 2)
	assert.Equal(t, 1, full.Units)
	assert.InDelta(t, FillFull, full.Fill, 1e-9, "all but a twentieth of what the cloth takes is full")
	assert.Equal(t, 2, Choose(drum, []Fibre{wool("grey", 66.6)}, nil, 2).Units)
	assert.InDelta(t, 2*full.Minutes, Choose(drum, []Fibre{wool("grey", 133)}, nil, 2).Minutes, 1e-9)
	assert.InDelta(t, full.Minutes/2, Choose(drum, []Fibre{wool("grey", 66.5)}, nil, 1).Minutes, 1e-9)
}

// TestAnyPlanIsLookedOver: whatever lies there, findings name places that
// exist and mends that exist, and a mend never loses a gram.
func TestAnyPlanIsLookedOver(t *testing.T) {
	mends := []string{"", "place", "fit", "clear", "bury", "uneven", "rolags", "joins", "passes", "refeed", "gather", "more-units", "use"}
	rapid.Check(t, func(t *rapid.T) {
		b, fibres := drawBed(t), drawFibres(t)
		p := drawPlan(t, b, fibres)
		if b.Type != Drum {
			p = p.OffTheTray()
		}
		r := p.Rolls(b, fibres)
		for _, f := range found(p, b, fibres, 1, nil) {
			assert.NotEmpty(t, f.What.String())
			assert.NotEmpty(t, f.Why.String())
			assert.NotEmpty(t, f.Do.String())
			assert.Contains(t, mends, f.Mend)
			assert.Less(t, f.Layer, len(p.Layers))
			assert.Less(t, f.Component, len(fibres))
			if f.Lay >= 0 {
				assert.Less(t, f.Lay, len(p.Layers[f.Layer].Lays))
			}
		}
		cleared, buried := p.Clear(b, fibres, 0.1), p.Bury(fibres, 0.1)
		for _, q := range []Plan{cleared, buried} {
			require.NoError(t, q.Check(b, fibres, false))
			assert.InDeltaSlice(t, p.Placed(len(fibres)), q.Placed(len(fibres)), 1e-9)
		}
		if r != nil {
			for _, l := range cleared.Layers {
				for _, v := range l.Lays {
					if f := fibres[v.Component]; f.Lock() && f.StapleMM <= r.ZoneMM {
						assert.False(t, v.Crosses(f, b, r.Cuts), "put clear of the cuts")
					}
				}
			}
		}
		i := rapid.IntRange(0, len(fibres)-1).Draw(t, "placed")
		rest := p.PlaceRest(b, fibres, i, 0.1)
		require.NoError(t, rest.Check(b, fibres, true))
		before, after := p.Loads(b, fibres), rest.Loads(b, fibres)
		for j := range fibres {
			if j == i {
				assert.InDelta(t, 0, after.UnplacedG[j], 1e-6)
			} else {
				assert.InDelta(t, before.UnplacedG[j], after.UnplacedG[j], 1e-9)
			}
		}
	})
}

// TestHalfTheFirstLayerGrips lays grippy wool and a smooth one side by side first: from
// half of it on that is enough, and a little slippery fibre is too much.
func TestHalfTheFirstLayerGrips(t *testing.T) {
	grippy, smooth, slippery := wool("grippy", 20), wool("smooth", 20), wool("slippery", 20)
	smooth.Cohesion, slippery.Cohesion = "smooth", "slippery"
	finds := func(other Fibre, own float64) []string {
		fibres := []Fibre{grippy, other}
		p := Plan{Draft: DefaultDraft, Layers: []Layer{
			{Lays: []Lay{{Component: 0, To: 0.5, End: 1, Grams: own, Method: Feed}, {Component: 1, From: 0.5, To: 1, End: 1, Grams: 10 - own, Method: Feed}}},
			{Lays: []Lay{{Component: 0, To: 1, End: 1, Grams: 20 - own, Method: Feed}}},
			{Lays: []Lay{{Component: 1, To: 1, End: 1, Grams: 10 + own, Method: Feed}}},
		}}
		return keys(found(p, standardDrum, fibres, 1, nil))
	}
	assert.NotContains(t, finds(smooth, 5), "base_layer", "half is enough")
	assert.Contains(t, finds(smooth, 4.5), "base_layer")
	assert.Contains(t, finds(slippery, 9), "base_layer")
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
	assert.Equal(t, 48, l.Feeds, "a tray that shows through takes 1.2 g")
	assert.InDelta(t, 18.9/16, l.Layers[0].PortionG, 1e-9)
	assert.InDelta(t, 8.2, l.HeightMM, 1e-4)
	assert.Empty(t, found(p, standardDrum, fibres, 1, nil))
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
	assert.Empty(t, found(p, largeBoard, fibres, 1, nil))

	across := p.CloneCase()
	across.Layers[2].Lays = []Lay{{Component: 2, To: 1, Start: 0.05, End: 0.6, Grams: 6, Method: Place}}
	seen := found(across, largeBoard, fibres, 1, nil)
	assert.Equal(t, []string{"locks_cut"}, keys(seen))
	assert.Equal(t, "clear", seen[0].Mend)
	mended := across.Clear(largeBoard, fibres, 0.1)
	assert.Empty(t, found(mended, largeBoard, fibres, 1, nil))
	for n, want := range map[int]string{2: "Too long a wrap", 5: "Too short a wrap"} {
		p.Rolags = n
		seen := found(p, largeBoard, fibres, 1, nil)
		require.NotEmpty(t, seen)
		assert.Contains(t, seen[0].Why.String(), want)
	}
}

func TestFindingsAndTheirMends(t *testing.T) {
	fibres := []Fibre{wool("grey", 40), wool("blue", 20), film(1)}
	look := func(p Plan) []string {
		require.NoError(t, p.Check(standardDrum, fibres, false))
		return keys(found(p, standardDrum, fibres, 1, nil))
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
	bare := good.CloneCase()
	bare.Layers = []Layer{good.Layers[1], good.Layers[0], good.Layers[2], good.Layers[3]}
	assert.Equal(t, []string{"base_layer"}, look(bare))
	assert.Empty(t, look(bare.Bury(fibres, 0.1)))
	bare.Layers = []Layer{good.Layers[0], good.Layers[2], good.Layers[3], good.Layers[1]}
	assert.Equal(t, []string{"cover_layer"}, look(bare))
	assert.Empty(t, look(bare.Bury(fibres, 0.1)))
	lean := good.CloneCase()
	lean.Layers[2].Lays[0].To = 0.3
	assert.Equal(t, []string{"over_pins", "lane_full", "thick_and_thin"}, look(lean))
	lean.Uneven = true
	assert.Equal(t, []string{"over_pins"}, look(lean))
	part := good.CloneCase()
	part.Layers = part.Layers[:2]
	assert.Equal(t, []string{"unplaced", "cover_layer"}, look(part))
	part = part.PlaceRest(standardDrum, fibres, 0, 0.1).PlaceRest(standardDrum, fibres, 1, 0.1)
	assert.Empty(t, look(part))
	fibres[0].Grams = 30
	assert.Equal(t, []string{"overplaced"}, look(good))
	assert.Empty(t, look(good.Fit(fibres, 0.1)))
	fibres[0].Grams = 80
	assert.Equal(t, []string{"far_too_full"}, look(good.Fit(fibres, 0.1)), "not once more for every lane")
	fed := good.CloneCase()
	fed.Layers[1].Lays[0].Method = Feed
	fibres[0].Grams, fibres[0].StapleMM = 40, 180
	assert.Equal(t, []string{"too_long", "fed_bare"}, without2(look(fed), "too_full"))
}

// Punis are for what is short for the most part, not for a little of it among wool.
func TestALittleShortFibreIsNoPuni(t *testing.T) {
	cotton := Fibre{Name: "cotton", Grams: 3, Family: "plant", Crimp: "none", Preparation: "carded_sliver", StapleMM: 25, Cohesion: "medium"}
	p := Plan{Draft: 1.75, Rolags: 6, Layers: []Layer{{Lays: []Lay{{To: 1, End: 1, Grams: 30, Method: Paint}}},
		{Lays: []Lay{{Component: 1, To: 1, End: 1, Grams: 3, Method: Paint}}}}}
	assert.NotContains(t, keys(found(p, largeBoard, []Fibre{wool("grey", 30), cotton}, 1, nil)), "punis")
}
