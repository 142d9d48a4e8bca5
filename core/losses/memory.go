package losses

import "math"

// Went is a fibre that went through passes between two weighings, counted from the one at
// which it joined.
type Went struct {
	Kind        string
	Grams       float64
	First, Last int
	Decay       float64 // see Fall
}

// times is how many first passes those passes lose together.
func (w Went) times() float64 { return Fall{Decay: w.Decay}.times(w.First, w.Last) }

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

// Known is what is believed of the loss of a kind in its first pass, and from how many weighings.
type Known struct {
	Belief
	Seen int
}

// Remember learns from lessons, one after the other, what each kind loses in its first pass:
// what a whole blend lost is shared out by grams and how unsure each is, what went through
// several passes by what each of them loses. usual is what is believed of a kind before
// anything was seen.
func Remember(usual func(kind string) Belief, lessons []Lesson) map[string]Known {
	out := map[string]Known{}
	of := func(kind string) Known {
		if k, ok := out[kind]; ok {
			return k
		}
		return Known{Belief: usual(kind)}
	}
	for _, l := range lessons {
		all := together(l.Parts)
		parts := make([]Part, len(all))
		for i, w := range all {
			k, n := of(w.kind), w.times
			parts[i] = Part{Belief{n * k.Mean, n * k.SD}, w.grams}
		}
		after, _ := Share(parts, l.Loss, l.SD)
		for i, w := range all {
			k, n := of(w.kind), w.times
			out[w.kind] = Known{Belief{after[i].Mean / n, math.Max(leastSD, after[i].SD/n)}, k.Seen + 1}
		}
	}
	return out
}

// merged is all of a kind between two weighings.
type merged struct {
	kind         string
	grams, times float64
}

// together adds up what is of one kind, how often it lost as a mean by grams.
func together(parts []Went) (out []merged) {
	at := map[string]int{}
	for _, p := range parts {
		if p.Grams <= 0 || p.Last < p.First {
			continue
		}
		i, ok := at[p.Kind]
		if !ok {
			i = len(out)
			at[p.Kind] = i
			out = append(out, merged{kind: p.Kind})
		}
		out[i].grams += p.Grams
		out[i].times += p.Grams * p.times()
	}
	for i := range out {
		out[i].times /= out[i].grams
	}
	return out
}

// Expect is what is expected to come off of fibres that go through passes from their first, and
// how unsure that is, one standard deviation, with what moisture and the scale add; grams.
func Expect(parts []Went, of func(kind string) Belief, step float64) (grams, sd float64) {
	var in, variance float64
	for _, p := range parts {
		b, n := of(p.Kind), p.times()
		in += p.Grams
		grams += p.Grams * Fall{b.Mean, p.Decay}.Left(p.Last)
		variance += p.Grams * n * b.SD * p.Grams * n * b.SD
	}
	return grams, math.Sqrt(variance + 2*step*step + usualMoisture*in*usualMoisture*in)
}

// Within is how far to each side a range reaches that holds 9 times of 10, in standard
// deviations.
const Within = within
