package mix

import (
	"context"
	"math"

	"fairtangle/core/colour"
)

// Sample is a blend that was carded until it was even and then measured.
type Sample struct {
	Lots     []int64 // what is the same lot in two samples has the same number; 0 is no lot of the shelf
	Colours  []colour.Reflectance
	Shares   []float64 // by weight (or by cover, where that is counted), adding up to 1
	Measured colour.Lab
	Source   Source // how the measured colour became known
}

// Extent is how much a calibration changes.
type Extent string

// What a calibration may change: nothing, the model's parameter, or that and
// the strength of single lots.
const (
	Nothing   Extent = "nothing"
	Parameter Extent = "parameter"
	Strengths Extent = "strengths"
)

// Calibration is a model that was fitted to samples. Errors are the root mean
// square CIEDE2000 over the samples; LeftOut is that of samples which the fit
// did not see (each left out in turn), LeftOutBefore that of the same samples
// with the model as it was.
type Calibration struct {
	Extent                 Extent
	Model                  Model
	Strength               map[int64]float64
	Before, After          float64
	LeftOutBefore, LeftOut float64
	Predicted, Fitted      []colour.Lab // of each sample, before and after
}

// FewestSamples is how many samples a calibration needs.
const FewestSamples = 3

// Standard deviations of the priors, on the natural logarithm: the parameter
// lies within a factor of 2 of the usual one, a lot's strength within a fifth
// of 1. modelSigma is what even a calibrated model misses, in CIEDE2000.
const (
	parameterSpread = 0.7
	strengthSpread  = 0.2
	modelSigma      = 1.5
	samplesPerLot   = 3    // a lot's own strength is fitted from so many on
	worthwhile      = 0.95 // of the left-out error before, or it stays as it was
)

// Calibrate fits the parameter of a model, and the strength of lots that are
// in at least three samples, by least squares with a prior (maximum a
// posteriori). Of the extents it takes the one with the least left-out error,
// and a larger one only where it lowers that by a twentieth; with fewer than
// three samples it changes nothing. Cancelling ctx ends it within some
// milliseconds with its error.
func Calibrate(ctx context.Context, m Model, samples []Sample) (Calibration, error) {
	best := Calibration{Extent: Nothing, Model: m, Strength: map[int64]float64{}}
	best.Predicted = Predict(m, nil, samples)
	best.Before = rms(best.Predicted, samples)
	best.LeftOutBefore = best.Before
	best.After, best.LeftOut, best.Fitted = best.Before, best.Before, best.Predicted
	if len(samples) < FewestSamples {
		return best, ctx.Err()
	}
	for _, extent := range []Extent{Parameter, Strengths} {
		f := newFit(m, samples, extent)
		if f.unknowns() == 0 || len(f.lots) == 0 && extent == Strengths {
			continue
		}
		x, err := f.solve(ctx)
		if err != nil {
			return best, err
		}
		left, err := f.leftOut(ctx, x)
		if err != nil {
			return best, err
		}
		if v := rms(left, samples); v < worthwhile*best.LeftOut {
			c := Calibration{Extent: extent, Before: best.Before, LeftOutBefore: best.Before, LeftOut: v, Predicted: best.Predicted}
			c.Model, c.Strength = f.read(x)
			c.Fitted = Predict(c.Model, c.Strength, samples)
			c.After = rms(c.Fitted, samples)
			best = c
		}
	}
	return best, nil
}

// Weighted turns shares into what they count for the colour: each times the
// strength of its lot, brought to a sum of 1.
func Weighted(shares []float64, lots []int64, strength map[int64]float64) []float64 {
	out := make([]float64, len(shares))
	var sum float64
	for i, s := range shares {
		out[i] = s
		if v, ok := strength[lots[i]]; ok && lots[i] != 0 {
			out[i] *= v
		}
		sum += out[i]
	}
	for i := range out {
		out[i] /= sum
	}
	return out
}

// Predict returns the colours that samples should have had.
func Predict(m Model, strength map[int64]float64, samples []Sample) []colour.Lab {
	out := make([]colour.Lab, len(samples))
	for i, s := range samples {
		r := m.Even(s.Colours, Weighted(s.Shares, s.Lots, strength))
		out[i] = r.Lab()
	}
	return out
}

func rms(labs []colour.Lab, samples []Sample) float64 {
	var sum float64
	for i, s := range samples {
		d := colour.CIEDE2000(labs[i], s.Measured)
		sum += d * d
	}
	return math.Sqrt(sum / float64(max(1, len(samples))))
}
