package layup

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// TestABuilderIsNotCautionedForWhatItChose: whatever is built, its own order,
// methods and places are no finding; only what the fibre is may be.
func TestABuilderIsNotCautionedForWhatItChose(t *testing.T) {
	chosen := []string{"base_layer", "cover_layer", "locks_last", "lane_full", "lane_thin", "thick_and_thin", "licker_in", "fed_bare",
		"lanes_lost", "joins_scattered", "extras_opened", "locks_opened", "unplaced", "overplaced"}
	rapid.Check(t, func(t *rapid.T) {
		b, fibres, _, p := drawBuilt(t)
		var ground float64
		for _, f := range fibres {
			if f.ground() {
				ground += f.Grams
			}
		}
		if ground < 1 { // too little to lie below and above
			return
		}
		for _, k := range keys(p.Survey(b, fibres, 1, nil).Findings) {
			if k == "lanes_lost" && p.Passes > 1 { // asked for against what is usual
				continue
			}
			assert.NotContains(t, chosen, k)
		}
	})
}

// TestThePlanAddsUpOverItsPasses: the feeds are those of the steps; what is fed
// again at a pass is what came off before it, in one part or two, and no step
// weighs more than there is.
func TestThePlanAddsUpOverItsPasses(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, fibres, _, p := drawBuilt(t)
		for i := range fibres {
			fibres[i].Loses.First = rapid.Float64Range(0, 0.1).Draw(t, "loss")
		}
		if rapid.Bool().Draw(t, "own") {
			p.Refeed = OwnPlace
		}
		s := p.Survey(b, fibres, 1, nil)
		feeds, came, again := 0, 0.0, 0.0
		for _, v := range s.Steps {
			feeds += v.Feeds
			switch v.Action {
			case Split:
				assert.InDelta(t, came, v.Grams, 1e-9)
				assert.GreaterOrEqual(t, v.Strips, 1)
				again = 0
			case Again:
				again += v.Grams
				if b.FeedG > 0 {
					assert.GreaterOrEqual(t, float64(v.Feeds)*TrayTurns*b.FeedG*trayGrace*1.001, v.Grams, "the tray shows through")
				}
			case Lift:
				if v.Pass > 1 {
					assert.InDelta(t, came, again, 1e-9, "all that came off is fed again")
				}
				came = v.Grams
			}
		}
		assert.Equal(t, feeds, s.Loads.Feeds)
		assert.LessOrEqual(t, came, s.Loads.TotalG+1e-9)
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
		"lanes_lost":    {[]Fibre{grey, blue}, Plan{Draft: 1.75, Layers: []Layer{{Lays: []Lay{lane(0, 0, 0.5), lane(1, 0.5, 1)}}}}},
		"strokes_lost":  {[]Fibre{grey, blue}, halves(stroke)},
		"locks_opened":  {[]Fibre{grey, curl}, halves(whole(1, 5, Place))},
		"extras_opened": {[]Fibre{grey, nep}, halves(whole(1, 2, Place))},
	} {
		find := func(p Plan, passes int) *Finding {
			for _, f := range p.Survey(standardDrum, c.fibres, passes, nil).Findings {
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
		for _, way := range append([]Way{{f.Mend, f.Do.String(), f.Times}}, f.Others...) {
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

// Two lanes of 20 g that lose 5 %, carded twice: 38 g come off and are divided in
// two strips, side by side on the tray as they lay; a tray takes 9·0.3 = 2.7 g, and
// 38/2.7 = 14.07 is fourteen: a hundredth more makes none of its own.
func TestStepsOfASecondPassByHand(t *testing.T) {
	fibres := []Fibre{wool("grey", 20), wool("blue", 20)}
	fibres[0].Loses.First, fibres[1].Loses.First = 0.05, 0.05
	p := Plan{Draft: 1.75, Refeed: OwnPlace, Layers: []Layer{{Lays: []Lay{
		{Component: 0, To: 0.5, End: 1, Grams: 20, Method: Feed}, {Component: 1, From: 0.5, To: 1, End: 1, Grams: 20, Method: Feed},
	}}}}
	s := p.Survey(standardDrum, fibres, 2, nil)
	var actions []Action
	for _, v := range s.Steps {
		actions = append(actions, v.Action)
	}
	assert.Equal(t, []Action{Ready, Put, Lift, Split, Again, Lift, Clean}, actions)
	split, again, off := s.Steps[3], s.Steps[4], s.Steps[5]
	assert.Equal(t, 2, split.Strips, "a strip for each lane")
	assert.InDelta(t, 38, split.Grams, 1e-9)
	assert.Equal(t, 14, again.Feeds)
	assert.InDelta(t, 40*0.95*0.95, off.Grams, 1e-9)
	spread := p
	spread.Refeed = ""
	assert.Equal(t, int(math.Ceil(standardDrum.WidthMM/40)), spread.Survey(standardDrum, fibres, 2, nil).Steps[3].Strips)
}

// What joins at the second pass lies between two halves, and both have a step.
func TestWhatJoinsLaterLiesBetweenTwoHalves(t *testing.T) {
	film := Fibre{
		Name:        "film",
		Grams:       1,
		Family:      "sparkle",
		Role:        "sparkle",
		Crimp:       "none",
		Cohesion:    "slippery",
		LickerIn:    "avoid",
		Preparation: "threads",
		StapleMM:    60,
	}
	fibres := []Fibre{wool("grey", 30), wool("blue", 20), film}
	p, err := Build(standardDrum, fibres, Options{Builder: Depth, Repeats: 2, Passes: 2, Step: 0.1})
	require.NoError(t, err)
	assert.True(t, p.isGathered(2), "drawn where it will lie")
	var seen []Action
	for _, v := range p.Survey(standardDrum, fibres, 2, nil).Steps {
		if v.Pass == 2 {
			seen = append(seen, v.Action)
		}
	}
	assert.Equal(t, []Action{Split, Again, Put, Again, Lift, Clean}, seen)
}

// Boards that are right say so; cards and boards have no drive and no passes.
func TestABoardThatIsRightSaysSo(t *testing.T) {
	curl := wool("curls", 4)
	curl.Preparation, curl.StapleMM = "locks", 60
	fibres := []Fibre{wool("white", 20), curl}
	p, err := Build(largeBoard, fibres, Options{Builder: StripesAlong, Rolags: 3, Step: 0.1})
	require.NoError(t, err)
	s := p.Survey(largeBoard, fibres, 2, nil)
	assert.Equal(t, []string{"locks_clear"}, s.Right)
	for _, v := range s.Steps {
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
		for _, f := range p.Survey(largeBoard, fibres, 1, map[string]string{"rolags": school}).Findings {
			if f.Key == "wrap_length" {
				assert.NotEqual(t, p.Rolags, f.Times)
				assert.NotEqual(t, map[string]int{"one": 1, "three": 3}[school], p.Rolags)
				p.Rolags = f.Times
				assert.NotContains(t, keys(p.Survey(largeBoard, fibres, 1, nil).Findings), "wrap_length", "what is advised is kept to")
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
		got := Choose(c.bed, c.fibres, FillFull, 2)
		if c.says == "" {
			assert.Empty(t, got.Against)
		} else {
			assert.Contains(t, got.Against, c.says)
		}
	}
	assert.True(t, Choose(cards, []Fibre{cotton}, FillFull, 1).Punis, "punis for cotton")
	assert.Contains(t, Choose(drum, []Fibre{grey}, FillFull, 2).Evenness, "one fibre")
	assert.Contains(t, keys(Plan{Draft: 1.75}.Survey(drum, []Fibre{raw}, 1, nil).Findings), "greasy_raw")
	full := Choose(drum, []Fibre{wool("grey", 70)}, FillFull, 2)
	assert.InDelta(t, 1, full.Fill, 1e-9, "as full as the cloth takes fills it")
	assert.InDelta(t, 2*full.Minutes, Choose(drum, []Fibre{wool("grey", 140)}, FillFull, 2).Minutes, 1e-9)
	assert.InDelta(t, full.Minutes/2, Choose(drum, []Fibre{wool("grey", 70)}, FillFull, 1).Minutes, 1e-9)
}
