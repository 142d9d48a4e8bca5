package losses

import "math"

// Went is a fibre that went through so many passes between two weighings.
type Went struct {
	Kind   string
	Grams  float64
	Passes int
}

// Lesson is what was lost of fibres between two weighings, grams, and how well that is known.
type Lesson struct {
	Parts    []Went
	Loss, SD float64
}

// LessonOf is what a balance teaches of the fibres that went in, weighed on a scale with such
// a step, grams.
func LessonOf(parts []Went, in, loss, step float64) Lesson {
	return Lesson{parts, loss, math.Hypot(math.Sqrt2*step, usualMoisture*in)}
}

// Known is what is believed of the loss of a kind in one pass, and from how many weighings.
type Known struct {
	Belief
	Seen int
}

// Remember learns from lessons, one after the other, what each kind loses in one pass: what a
// whole blend lost is shared out by grams and how unsure each is, what went through several
// passes by their number. usual is what is believed of a kind before anything was seen.
func Remember(usual func(kind string) Belief, lessons []Lesson) map[string]Known {
	out := map[string]Known{}
	of := func(kind string) Known {
		if k, ok := out[kind]; ok {
			return k
		}
		return Known{Belief: usual(kind)}
	}
	for _, l := range lessons {
		merged := together(l.Parts)
		parts := make([]Part, len(merged))
		for i, w := range merged {
			k, n := of(w.Kind), float64(w.Passes)
			parts[i] = Part{Belief{n * k.Mean, n * k.SD}, w.Grams}
		}
		after, _ := Share(parts, l.Loss, l.SD)
		for i, w := range merged {
			k, n := of(w.Kind), float64(w.Passes)
			out[w.Kind] = Known{Belief{after[i].Mean / n, math.Max(leastSD, after[i].SD/n)}, k.Seen + 1}
		}
	}
	return out
}

// together adds up what is of one kind, its passes as a mean by grams.
func together(parts []Went) (out []Went) {
	at := map[string]int{}
	passes := map[string]float64{}
	for _, p := range parts {
		if p.Grams <= 0 || p.Passes < 1 {
			continue
		}
		i, ok := at[p.Kind]
		if !ok {
			i = len(out)
			at[p.Kind] = i
			out = append(out, Went{Kind: p.Kind})
		}
		out[i].Grams += p.Grams
		passes[p.Kind] += p.Grams * float64(p.Passes)
	}
	for i := range out {
		out[i].Passes = max(1, int(math.Round(passes[out[i].Kind]/out[i].Grams)))
	}
	return out
}

// Expect is what is expected to come off of fibres that go through passes, and how unsure
// that is, one standard deviation, with what moisture and the scale add; grams.
func Expect(parts []Went, of func(kind string) Belief, step float64) (grams, sd float64) {
	var in, variance float64
	for _, p := range parts {
		b, n := of(p.Kind), float64(p.Passes)
		in += p.Grams
		grams += p.Grams * math.Pow(1-b.Mean, n)
		variance += p.Grams * n * b.SD * p.Grams * n * b.SD
	}
	return grams, math.Sqrt(variance + 2*step*step + usualMoisture*in*usualMoisture*in)
}

// Within is how far to each side a range reaches that holds 9 times of 10, in standard
// deviations.
const Within = within
