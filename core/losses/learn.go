package losses

import (
	"fmt"
	"math"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Belief is what is held of a rate of loss: Normal, with a mean and a standard deviation.
type Belief struct{ Mean, SD float64 }

// Bounds of a belief: no fibre gains, and it never stops learning.
const leastSD = 0.002

// within is the half width, in standard deviations, of the range that is stated: 90 %.
const within = 1.6449

// Range is from where to where the rate lies, 9 times of 10.
func (b Belief) Range() (low, high float64) {
	return max(0, b.Mean-within*b.SD), b.Mean + within*b.SD
}

// Seen is one batt of one fibre: what went in, grams, and the rate of loss.
type Seen struct{ In, Rate float64 }

// usualMoisture is how far the moisture of wool drifts between two weighings, of the mass.
const usualMoisture = 0.008

// Error is the standard deviation of an observed rate: two readings of a scale with such a
// step, and the drift of moisture (0: as usual).
func (s Seen) Error(step, moisture float64) float64 {
	return math.Hypot(math.Sqrt2*step/s.In, moisture)
}

// Learn updates what is believed of one fibre by what was seen, batt after batt (a Normal
// update), and returns how much each weighed, 0 to 1.
func (b Belief) Learn(seen []Seen, step, moisture float64) (Belief, []float64) {
	gains := make([]float64, len(seen))
	for i, s := range seen {
		noise := s.Error(step, moisture)
		gains[i] = b.SD * b.SD / (b.SD*b.SD + noise*noise)
		b.Mean = max(0, b.Mean+gains[i]*(s.Rate-b.Mean))
		b.SD = max(leastSD, math.Sqrt(1/(1/(b.SD*b.SD)+1/(noise*noise))))
	}
	return b, gains
}

// Fibre is a fibre of a blend: what is believed of it, and its grams.
type Fibre struct {
	Belief
	Grams float64
}

// Share shares the loss of a whole blend out over its fibres, by grams and how unsure each
// is: loss and sd are grams. It returns what is believed then, and how much of a gram of
// difference each takes, as a rate.
func Share(parts []Fibre, loss, sd float64) ([]Belief, []float64) {
	expected, spread := 0.0, sd*sd
	for _, p := range parts {
		expected += p.Grams * p.Mean
		spread += p.Grams * p.SD * p.Grams * p.SD
	}
	out, gains := make([]Belief, len(parts)), make([]float64, len(parts))
	for i, p := range parts {
		if spread > 0 {
			gains[i] = p.Grams * p.SD * p.SD / spread
		}
		out[i] = Belief{max(0, p.Mean+gains[i]*(loss-expected)), math.Sqrt(max(0, p.SD*p.SD-p.Grams*p.SD*p.SD*gains[i]))}
	}
	return out, gains
}

// MaxParts is how many fibres are looked at together.
const MaxParts = 200

// CheckParts finds what is wrong with beliefs as they are sent: rates of 0 to 1, standard
// deviations above 0. Fields are those of the API, which speaks of percent.
func CheckParts(parts []Fibre) error {
	var l fault.List
	if len(parts) == 0 || len(parts) > MaxParts {
		l.Add("components", "There are 1 to %d components.", MaxParts)
	}
	for i, p := range parts {
		at := fmt.Sprintf("components[%d].", i)
		if !(p.Mean >= 0 && p.Mean <= 0.9) {
			l.Add(at+"mean_pct", "A loss lies between 0 and 90 %%.")
		}
		if !(p.SD > 0 && p.SD <= 0.9) {
			l.Add(at+"sd_pct", "How unsure it is lies above 0 and at most 90 %%.")
		}
		if !(p.Grams >= 0 && p.Grams <= 1e5) {
			l.Add(at+"grams", "This weighs from %s to %s.", unit.Grams(0), unit.Grams(1e5))
		}
	}
	return l.Err()
}
