package mix

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

// maker simulates how someone's fibre really mixes: a parameter and strengths
// of its own, and a measurement with noise.
type maker struct {
	model    Model
	lots     []colour.Reflectance
	strength map[int64]float64
	rng      *rand.Rand
}

func newMaker(seed uint64, b, strengths float64) maker {
	m := maker{model: Model{StearnsNoechel, b}, strength: map[int64]float64{}, rng: rand.New(rand.NewPCG(seed, 1))}
	for i := range 8 {
		c := colour.Linear{0.02 + 0.8*m.rng.Float64(), 0.02 + 0.8*m.rng.Float64(), 0.02 + 0.8*m.rng.Float64()}
		r, _ := c.Reflectance()
		m.lots = append(m.lots, r)
		m.strength[int64(i+1)] = math.Exp(strengths * m.rng.NormFloat64())
	}
	return m
}

func (m maker) cards(n int, noise float64) (out []Sample) {
	for range n {
		s := Sample{Source: Reader}
		var sum float64
		for _, i := range m.rng.Perm(len(m.lots))[:2+m.rng.IntN(2)] {
			s.Lots, s.Colours = append(s.Lots, int64(i+1)), append(s.Colours, m.lots[i])
			s.Shares = append(s.Shares, 0.1+m.rng.Float64())
			sum += s.Shares[len(s.Shares)-1]
		}
		for i := range s.Shares {
			s.Shares[i] /= sum
		}
		r := m.model.Even(s.Colours, Weighted(s.Shares, s.Lots, m.strength))
		lab := r.Lab()
		s.Measured = colour.Lab{L: lab.L + noise*m.rng.NormFloat64(), A: lab.A + noise*m.rng.NormFloat64(), B: lab.B + noise*m.rng.NormFloat64()}
		out = append(out, s)
	}
	return out
}

func fresh(c Calibration, samples []Sample) float64 {
	return rms(Predict(c.Model, c.Strength, samples), samples)
}

// TestCalibrationIsNoWorseOnWhatItDidNotSee calibrates for made-up makers with
// few samples and judges on 30 others: over all makers it must not lose, and
// with more samples it must win clearly where there is something to learn.
func TestCalibrationIsNoWorseOnWhatItDidNotSee(t *testing.T) {
	for _, n := range []int{1, 3, 5, 12} {
		for name, world := range map[string]struct{ b, strengths float64 }{"as assumed": {0.15, 0}, "own parameter": {0.35, 0}, "own strengths": {0.15, 0.3}} {
			var before, after float64
			const makers = 6
			for seed := range uint64(makers) {
				m := newMaker(seed+100*uint64(n), world.b, world.strengths)
				c, err := Calibrate(t.Context(), Default(), m.cards(n, 0.7))
				require.NoError(t, err)
				if n < FewestSamples {
					require.Equal(t, Nothing, c.Extent)
				}
				judge := m.cards(30, 0.7)
				before += fresh(Calibration{Model: Default()}, judge) / makers
				after += fresh(c, judge) / makers
			}
			assert.LessOrEqual(t, after, before+0.05, "%s, %d samples", name, n)
			if n == 12 && name == "own parameter" {
				assert.Less(t, after, 0.7*before, name)
			}
			if n == 12 && name == "own strengths" {
				assert.Less(t, after, 0.9*before, name)
			}
		}
	}
}

func TestCalibrationFindsAKnownParameter(t *testing.T) {
	m := newMaker(7, 0.4, 0)
	c, err := Calibrate(t.Context(), Default(), m.cards(15, 0))
	require.NoError(t, err)
	assert.NotEqual(t, Nothing, c.Extent)
	assert.InDelta(t, 0.4, c.Model.Parameter, 0.08)
	assert.Less(t, c.After, c.Before/3)
	assert.Less(t, c.LeftOut, c.LeftOutBefore/2)
	assert.Len(t, c.Fitted, 15)
}

func TestWeightedSharesAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 8).Draw(t, "n")
		shares, lots, strength := make([]float64, n), make([]int64, n), map[int64]float64{}
		var sum float64
		for i := range shares {
			shares[i] = rapid.Float64Range(0.01, 1).Draw(t, "share")
			sum += shares[i]
			lots[i] = rapid.Int64Range(0, 5).Draw(t, "lot")
			if rapid.Bool().Draw(t, "known") {
				strength[lots[i]] = rapid.Float64Range(0.3, 3).Draw(t, "strength")
			}
		}
		for i := range shares {
			shares[i] /= sum
		}
		out := Weighted(shares, lots, strength)
		var total float64
		for i := range out {
			total += out[i]
			for j := range out { // equal strength keeps the proportion
				if lots[i] == lots[j] {
					require.InDelta(t, shares[i]*out[j], shares[j]*out[i], 1e-12)
				}
			}
		}
		require.InDelta(t, 1, total, 1e-12)
		require.InDeltaSlice(t, shares, Weighted(shares, lots, nil), 1e-12)
	})
}

// One sample that is 3 off is 3 off, and none is not off at all.
func TestTheMiddleErrorOfOneSample(t *testing.T) {
	a, b := colour.Lab{L: 50}, colour.Lab{L: 53}
	assert.InDelta(t, colour.CIEDE2000(a, b), rms([]colour.Lab{a}, []Sample{{Measured: b}}), 1e-12)
	assert.Zero(t, rms(nil, nil))
}
