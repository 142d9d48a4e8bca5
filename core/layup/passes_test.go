package layup

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

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
		s := p.Survey(b, fibres, 1)
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

// Two lanes of 20 g that lose 5 %, carded twice: 38 g come off and are divided in
// two strips, side by side on the tray as they lay; a tray takes 9·0.3 = 2.7 g, and
// 38/2.7 = 14.07 is fourteen: a hundredth more makes none of its own.
func TestStepsOfASecondPassByHand(t *testing.T) {
	fibres := []Fibre{wool("grey", 20), wool("blue", 20)}
	fibres[0].Loses.First, fibres[1].Loses.First = 0.05, 0.05
	p := Plan{Draft: 1.75, Refeed: OwnPlace, Layers: []Layer{{Lays: []Lay{
		{Component: 0, To: 0.5, End: 1, Grams: 20, Method: Feed}, {Component: 1, From: 0.5, To: 1, End: 1, Grams: 20, Method: Feed},
	}}}}
	s := p.Survey(standardDrum, fibres, 2)
	var actions []Action
	for _, v := range s.Steps {
		actions = append(actions, v.Action)
	}
	assert.Equal(t, []Action{Ready, Put, Lift, Split, Again, Lift, Clean}, actions)
	split, again, off := s.Steps[3], s.Steps[4], s.Steps[5]
	assert.Equal(t, 2, split.Strips, "a strip for each lane")
	assert.InDelta(t, 38, split.Grams, 1e-9)
	assert.Equal(t, 31, again.Feeds)
	assert.InDelta(t, 40*0.95*0.95, off.Grams, 1e-9)
	spread := p
	spread.Refeed = ""
	assert.Equal(t, 4, spread.Survey(standardDrum, fibres, 2).Steps[3].Strips, "20 cm make five of 4 cm; a forecast follows four")
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
	assert.True(t, p.Gathered(2), "drawn where it will lie")
	for turns, want := range map[int][]Action{
		0: {Split, Again, Put, Again, Lift, Clean}, 1: {Split, Again, Put, Again, Lift, Clean},
		2: {Split, Again, Put, Again, Put, Again, Lift, Clean}, 9: {Split, Again, Put, Again, Put, Again, Put, Again, Lift, Clean},
	} {
		p.Turns = turns
		var seen []Action
		for _, v := range p.Survey(standardDrum, fibres, 2).Steps {
			if v.Pass == 2 {
				seen = append(seen, v.Action)
			}
		}
		assert.Equal(t, want, seen, "%d times; between four strips there are three places", turns)
	}
}

// Turn about, every strip is fed once and every gram of what joins is laid, in portions that differ by nothing.
func TestTurnAboutFeedsAllOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		_, fibres, o, p := drawBuilt(t)
		p.Turns, p.Passes = rapid.IntRange(0, MaxTurns).Draw(t, "turns"), max(2, o.Passes)
		p.Refeed = rapid.SampledFrom([]Refeed{Spread, OwnPlace}).Draw(t, "refeed")
		for pass := 2; pass <= p.Passes; pass++ {
			var strips, portions int
			var late, on, fed float64
			for _, s := range p.Steps(standardDrum, fibres, p.Passes) {
				switch {
				case s.Pass != pass:
				case s.Action == Split:
					on = s.Grams
				case s.Action == Again && s.Portions > 0:
					fed, portions = fed+s.Grams, s.Portions
				case s.Action == Again:
					assert.Equal(t, strips+1, s.First)
					fed, strips = fed+s.Grams, s.Last
				case s.Action == Put:
					late += s.Grams
				}
			}
			assert.True(t, portions > 0 || strips == p.StripsOf(standardDrum))
			assert.InDelta(t, on, fed, 1e-9)
			var want float64
			for i, f := range fibres {
				if p.JoinsAt(i) == pass {
					want += f.Grams
				}
			}
			assert.InDelta(t, want, late, 1e-9)
		}
	})
}
