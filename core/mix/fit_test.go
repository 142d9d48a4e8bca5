package mix

import (
	"context"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/diff/fd"

	"fairtangle/core/colour"
)

// TestLeftOutIsWhatAFitWithoutTheSampleSays fits again without each sample and
// compares: the shortcut is one step of many, so nearly that.
func TestLeftOutIsWhatAFitWithoutTheSampleSays(t *testing.T) {
	for _, m := range []Model{Default(), {Friele, 0.28}, {KubelkaMunk, 0}} {
		for _, extent := range []Extent{Parameter, Strengths} {
			samples := newMaker(3, 0.3, 0.2).cards(14, 0.7)
			f := newFit(m, samples, extent)
			if f.unknowns() == 0 {
				continue
			}
			x, err := f.solve(t.Context())
			require.NoError(t, err)
			left, err := f.leftOut(t.Context(), x)
			require.NoError(t, err)
			again := make([]colour.Lab, len(samples))
			for i := range samples {
				rest := f // the same unknowns, one sample less
				rest.samples = slices.Delete(slices.Clone(f.samples), i, i+1)
				rest.at = slices.Delete(slices.Clone(f.at), i, i+1)
				y, err := rest.solve(t.Context())
				require.NoError(t, err)
				lin, _ := f.mixed(i, f.modelAt(y), y)
				again[i] = lin.Lab()
				assert.Less(t, colour.CIEDE2000(again[i], left[i]), 0.4, "%s %s, sample %d", m.Name, extent, i)
			}
			assert.InEpsilon(t, rms(again, samples), rms(left, samples), 0.05, "%s %s", m.Name, extent)
		}
	}
}

// TestTheFitEndsWhereNothingIsBetter checks the derivative by finite
// differences: at the end of a fit all of them are 0, and before it they are
// what the normal equations say.
func TestTheFitEndsWhereNothingIsBetter(t *testing.T) {
	for _, m := range []Model{Default(), {Friele, 0.28}, {KubelkaMunk, 0}} {
		f := newFit(m, newMaker(5, 0.3, 0.2).cards(20, 0.7), Strengths)
		start := make([]float64, f.unknowns())
		for i := range start {
			start[i] = 0.1 * math.Sin(float64(i))
		}
		_, _, g := f.normal(t.Context(), start)
		slope := fd.Gradient(nil, f.misfit, start, &fd.Settings{Formula: fd.Central})
		for i := range g {
			assert.InDelta(t, slope[i], 2*g[i], 1e-2*(1+math.Abs(slope[i])), m.Name)
		}
		x, err := f.solve(t.Context())
		require.NoError(t, err)
		assert.Less(t, f.misfit(x), f.misfit(start))
		for i, v := range fd.Gradient(nil, f.misfit, x, &fd.Settings{Formula: fd.Central}) {
			assert.InDelta(t, 0, v, 0.05, "%s, unknown %d", m.Name, i)
		}
	}
}

func TestACalibrationThatNobodyWaitsForEnds(t *testing.T) {
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	_, err := Calibrate(ctx, Default(), newMaker(1, 0.3, 0.2).cards(10, 0.5))
	require.ErrorIs(t, err, context.Canceled)
}

// BenchmarkCalibrate is a calibration with 200 samples of 8 lots.
func BenchmarkCalibrate(b *testing.B) {
	samples := newMaker(1, 0.3, 0.2).cards(200, 0.7)
	for b.Loop() {
		if _, err := Calibrate(b.Context(), Default(), samples); err != nil {
			b.Fatal(err)
		}
	}
}
