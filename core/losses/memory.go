package losses

import "math"

// Went is a fibre that went through passes between two weighings, counted from the one at
// which it joined.
type Went struct {
	Kind        string
	Grams       float64
	First, Last int
	Decay       float64 // see Fall
	Drier       float64 // what of wool's moisture it does not take up, parts of 1; 0: it does as wool
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
	return Lesson{parts, loss, math.Hypot(math.Sqrt2*step, drift(parts)*in)}
}

// drift is how far the moisture of fibres together drifts between two weighings, of their mass.
func drift(parts []Went) float64 { return usualMoisture * (1 - Drier(parts)) }

// Drier is what of wool's moisture fibres together do not take up, by their mass.
func Drier(parts []Went) float64 {
	var less, all float64
	for _, p := range parts {
		less, all = less+p.Grams*p.Drier, all+p.Grams
	}
	if !(all > 0) {
		return 0
	}
	return less / all
}

// Known is what is believed of the loss of a kind in its first pass, and from how many weighings.
type Known struct {
	Belief
	Seen int
}

// Memory is what is believed of the losses of several kinds in their first pass, as one estimate: where only
// the loss of a whole blend is seen, what one fibre lost more another lost less, and a range that forgets
// that is too narrow (losses.md, section 5d).
type Memory struct {
	Known map[string]Known
	at    map[string]int
	cov   [][]float64
}

// Cov is how what is believed of two kinds hangs together; 0 where nothing has tied them.
func (m Memory) Cov(a, b string) float64 {
	i, okA := m.at[a]
	k, okB := m.at[b]
	if !okA || !okB {
		return 0
	}
	return m.cov[i][k]
}

// Remember learns from lessons, one after the other, what each kind loses in its first pass:
// what a whole blend lost is shared out by grams and how unsure each is (a Kalman update with all
// covariances), what went through several passes by what each of them loses. usual is what is believed
// of a kind before anything was seen.
func Remember(usual func(kind string) Belief, lessons []Lesson) Memory {
	m := Memory{Known: map[string]Known{}, at: map[string]int{}}
	var mean []float64
	for _, l := range lessons {
		all := together(l.Parts)
		for _, w := range all {
			if _, known := m.at[w.kind]; !known {
				b := usual(w.kind)
				mean = append(mean, b.Mean)
				m.add(w.kind, b.SD)
			}
		}
		m.learn(mean, all, l)
	}
	for kind, i := range m.at {
		k := m.Known[kind]
		k.Belief = Belief{mean[i], math.Sqrt(m.cov[i][i])}
		m.Known[kind] = k
	}
	return m
}

// add makes room for a kind that is not tied to any other yet.
func (m *Memory) add(kind string, sd float64) {
	n := len(m.cov)
	m.at[kind] = n
	for i := range m.cov {
		m.cov[i] = append(m.cov[i], 0)
	}
	m.cov = append(m.cov, make([]float64, n+1))
	m.cov[n][n] = sd * sd
}

// learn takes a lesson in.
func (m *Memory) learn(mean []float64, all []merged, l Lesson) {
	expected, spread := 0.0, l.SD*l.SD
	pull := make([]float64, len(mean)) // covariance of each kind with the loss of the blend
	for _, w := range all {
		g, i := w.grams*w.times, m.at[w.kind]
		expected += g * mean[i]
		for k := range pull {
			pull[k] += g * m.cov[k][i]
		}
		known := m.Known[w.kind]
		known.Seen++
		m.Known[w.kind] = known
	}
	for _, w := range all {
		spread += w.grams * w.times * pull[m.at[w.kind]]
	}
	if !(spread > 0) {
		return
	}
	for i := range mean {
		mean[i] = max(0, mean[i]+pull[i]/spread*(l.Loss-expected))
		for k := range mean {
			m.cov[i][k] -= pull[i] * pull[k] / spread
		}
	}
	for i := range mean {
		m.cov[i][i] = max(leastSD*leastSD, m.cov[i][i]) // it keeps learning
	}
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
// how unsure that is, one standard deviation, with what moisture and the scale add; grams. cov tells how
// what is believed of two kinds hangs together; nil: not at all.
func Expect(parts []Went, of func(kind string) Belief, cov func(a, b string) float64, step float64) (grams, sd float64) {
	var in, variance float64
	for i, p := range parts {
		b, g := of(p.Kind), p.Grams*p.times()
		in += p.Grams
		grams += p.Grams * Fall{b.Mean, p.Decay}.Left(p.Last)
		for k, o := range parts {
			switch {
			case i == k || p.Kind == o.Kind:
				variance += g * o.Grams * o.times() * b.SD * b.SD
			case cov != nil:
				variance += g * o.Grams * o.times() * cov(p.Kind, o.Kind)
			}
		}
	}
	return grams, math.Sqrt(max(0, variance) + 2*step*step + drift(parts)*in*drift(parts)*in)
}

// Within is how far to each side a range reaches that holds 9 times of 10, in standard
// deviations.
const Within = within
