package layup

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/losses"
)

// Two wools of 12 g a unit, each carded alone once at 2 % a pass, then together once more at 1.2 %: 12/0.98 g of each are weighed
// in a unit, and 24·0.988 g come off. The pale one goes first, so that nothing has to be cleaned.
func TestEachAloneFirstByHand(t *testing.T) {
	b := Bed{Type: Drum, WidthMM: 200, LengthMM: 580, ToothMM: 10, Smooth: 40, Lofty: 20, FeedG: 0.3}
	fibres := []Fibre{
		{Name: "Madder", Grams: 12, Family: "wool", Crimp: "high", Preparation: "carded_sliver", StapleMM: 80, Loses: losses.Fall{First: 0.02, Decay: 0.6},
			Colour: colour.Lab{L: 40}},
		{Name: "Chalk", Grams: 12, Family: "wool", Crimp: "high", Preparation: "carded_sliver", StapleMM: 80, Loses: losses.Fall{First: 0.02, Decay: 0.6},
			Colour: colour.Lab{L: 90}},
		{Name: "Neps", Grams: 1, Family: "wool", Preparation: "neps", StapleMM: 10},
	}
	p, err := Build(b, fibres, Options{Builder: Sandwich, Step: 0.1, Passes: 1, Alone: 1})
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1, 0}, p.Alone, "neps do not hold together")
	list := PaleFirst(p.Loadings(b, fibres, 2), fibres)
	require.Len(t, list, 2)
	assert.Equal(t, 1, list[0].Component)
	for _, l := range list {
		assert.InDelta(t, 2*12/0.98, l.WeighG, 1e-9)
		assert.InDelta(t, 12, l.LaidG, 1e-9)
		assert.Equal(t, 2, l.Loads, "the cloth holds 20 g of it")
		assert.InDelta(t, 12/0.98, l.EachG, 1e-9)
	}
	steps := p.Steps(b, fibres, 1)
	assert.Equal(t, []Action{Ready, Alone, Alone}, []Action{steps[0].Action, steps[1].Action, steps[2].Action})
	assert.Equal(t, 1, steps[1].Lays[0].Component)
	for _, s := range steps {
		if s.Action == Lift {
			assert.InDelta(t, 24*0.988+1, s.Grams, 1e-9)
		}
	}
}

func TestWhatCanNotBeCardedAlone(t *testing.T) {
	fibres := []Fibre{{Name: "Madder", Family: "wool", Preparation: "carded_sliver"}, {Name: "Locks", Family: "wool", Preparation: "locks"}}
	_, err := Plan{}.AloneFirst(fibres, 1, 1)
	require.ErrorContains(t, err, "Locks does not hold together")
	_, err = Plan{}.AloneFirst(fibres, 0, losses.MaxAlone+1)
	require.Error(t, err)
	p, err := Plan{}.AloneFirst(fibres, -1, 2)
	require.NoError(t, err)
	assert.Equal(t, []int{2, 0}, p.Alone)
	assert.Zero(t, p.LosesAlone(Bed{Type: Hands}, 0), "hands lose nothing")
	p, err = p.AloneFirst(fibres, 0, 0)
	require.NoError(t, err)
	assert.Zero(t, p.AloneOf(0))
	p.Fed = []FedAs{{How: "stirred-first"}}
	assert.Equal(t, 1, p.AloneOf(0), "what is stirred first has a pass of its own")
	require.Error(t, Plan{Draft: 1, Alone: []int{-1}}.Check(Bed{Type: Drum}, []Fibre{{Grams: 1, StapleMM: 80}}, false))
	require.Error(t, Plan{Draft: 1, Alone: []int{0, 1}}.Check(Bed{Type: Drum}, []Fibre{{Grams: 1, StapleMM: 80}}, false))
}

// What is weighed in alone, less what those passes lose, is what is laid; the fillings hold all of it, none more than the cloth.
func TestLoadingsHoldAll(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := Bed{Type: Drum, Smooth: 60, Lofty: 30}
		f := Fibre{Grams: rapid.Float64Range(0.1, 900).Draw(t, "grams"), Family: "wool", Crimp: rapid.SampledFrom([]string{"low", "medium", "high"}).Draw(t, "crimp"),
			Loses: losses.Fall{First: rapid.Float64Range(0, 0.2).Draw(t, "loss"), Decay: rapid.Float64Range(0, 1).Draw(t, "decay")}}
		times, units := rapid.IntRange(1, losses.MaxAlone).Draw(t, "times"), rapid.IntRange(1, 20).Draw(t, "units")
		p, err := Plan{}.AloneFirst([]Fibre{f}, 0, times)
		require.NoError(t, err)
		l := p.Loadings(b, []Fibre{f}, units)[0]
		require.InEpsilon(t, f.Grams*float64(units), l.WeighG*f.Loses.Left(times), 1e-9)
		require.InEpsilon(t, l.WeighG, l.EachG*float64(l.Loads), 1e-9)
		require.LessOrEqual(t, l.EachG, b.capacityOf(f)+1e-9)
		if l.Loads > 1 {
			require.Greater(t, l.WeighG, b.capacityOf(f)*float64(l.Loads-1))
		}
	})
}

// Lifting begins with the plug where there is one, with the crank where there is none; pins stay sharp. Nothing waits in one pass, so
// that nothing is fed turn about.
func TestWhatIsSaidBeforeLifting(t *testing.T) {
	fibres := []Fibre{{Name: "wool", Grams: 12, Family: "wool", Crimp: "high", Preparation: "carded_sliver", StapleMM: 80}}
	for electric, first := range map[bool]string{true: Unplug, false: StandStill} {
		b := Bed{Type: Drum, Electric: electric, WidthMM: 200, LengthMM: 580, ToothMM: 10, Smooth: 60, Lofty: 30, FeedG: 0.3}
		p, err := Build(b, fibres, Options{Builder: Lanes, Step: 0.1})
		require.NoError(t, err)
		assert.Zero(t, p.Turns)
		for _, s := range p.Steps(b, fibres, 1) {
			if s.Action == Lift {
				assert.Equal(t, []string{first, SharpPins}, s.Cautions)
			}
		}
	}
}
