package mix

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/diff/fd"
	"gonum.org/v1/gonum/optimize"

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
// three samples it changes nothing.
func Calibrate(m Model, samples []Sample) Calibration {
	best := Calibration{Extent: Nothing, Model: m, Strength: map[int64]float64{}}
	best.Predicted = predict(m, nil, samples)
	best.Before = rms(best.Predicted, samples)
	best.LeftOutBefore = best.Before
	best.After, best.LeftOut, best.Fitted = best.Before, best.Before, best.Predicted
	if len(samples) < FewestSamples {
		return best
	}
	for _, extent := range []Extent{Parameter, Strengths} {
		f := newFit(m, samples, extent)
		if len(f.lots) == 0 && extent == Strengths || !f.parameter && len(f.lots) == 0 {
			continue
		}
		left := make([]colour.Lab, len(samples))
		for i := range samples {
			rest := slices.Delete(slices.Clone(samples), i, i+1)
			model, strength := newFit(m, rest, extent).solve()
			left[i] = predict(model, strength, samples[i:i+1])[0]
		}
		if v := rms(left, samples); v < worthwhile*best.LeftOut {
			c := Calibration{Extent: extent, Before: best.Before, LeftOutBefore: best.Before, LeftOut: v, Predicted: best.Predicted}
			c.Model, c.Strength = f.solve()
			c.Fitted = predict(c.Model, c.Strength, samples)
			c.After = rms(c.Fitted, samples)
			best = c
		}
	}
	return best
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

func predict(m Model, strength map[int64]float64, samples []Sample) []colour.Lab {
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

// fit is one least squares problem. Its unknowns are the logarithms of the
// parameter over the usual one and of the strengths.
type fit struct {
	model     Model
	samples   []Sample
	parameter bool
	lots      []int64
}

func newFit(m Model, samples []Sample, extent Extent) fit {
	f := fit{model: m, samples: samples, parameter: m.Name != KubelkaMunk}
	if extent != Strengths {
		return f
	}
	seen := map[int64]int{}
	for _, s := range samples {
		for _, l := range s.Lots {
			if l != 0 {
				seen[l]++
			}
		}
	}
	for l, n := range seen {
		if n >= samplesPerLot {
			f.lots = append(f.lots, l)
		}
	}
	slices.Sort(f.lots)
	return f
}

func (f fit) read(x []float64) (Model, map[int64]float64) {
	m, strength := f.model, map[int64]float64{}
	if f.parameter {
		m.Parameter = min(1, m.Parameter*math.Exp(x[0]))
		x = x[1:]
	}
	for i, l := range f.lots {
		strength[l] = math.Exp(x[i])
	}
	return m, strength
}

// misfit is minus twice the logarithm of the posterior, up to a constant.
func (f fit) misfit(x []float64) float64 {
	m, strength := f.read(x)
	var sum float64
	for i, lab := range predict(m, strength, f.samples) {
		s := f.samples[i]
		d := colour.CIEDE2000(lab, s.Measured)
		sigma := math.Hypot(modelSigma, s.Source.Sigma())
		sum += d * d / (sigma * sigma)
	}
	for i, v := range x {
		spread := strengthSpread
		if f.parameter && i == 0 {
			spread = parameterSpread
		}
		sum += v * v / (spread * spread)
	}
	return sum
}

func (f fit) solve() (Model, map[int64]float64) {
	n := len(f.lots)
	if f.parameter {
		n++
	}
	if n == 0 {
		return f.model, nil
	}
	problem := optimize.Problem{
		Func: f.misfit,
		Grad: func(grad, x []float64) { fd.Gradient(grad, f.misfit, x, &fd.Settings{Formula: fd.Central}) },
	}
	result, err := optimize.Minimize(problem, make([]float64, n), &optimize.Settings{MajorIterations: 60}, &optimize.BFGS{})
	if result == nil || err != nil && !(result.F < f.misfit(make([]float64, n))) {
		return f.model, nil
	}
	return f.read(result.X)
}
