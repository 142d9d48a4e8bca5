package carding

import (
	"context"
	"math"
	"slices"

	"fairtangle/core/fault"
)

// Horizon is how many stages a forecast of passes looks at.
const Horizon = 8

// How far the mass of clumps and the opening of a pass differ from carder to carder:
// standard deviations of their logarithms.
const (
	clumpSpread   = 0.4
	openingSpread = 0.3
)

// Carder is how one's own carder differs from the usual: clumps are so many times as
// heavy, and each pass opens as much as the usual one to the power of Opens.
type Carder struct{ Clumps, Opens float64 }

// Usual is a carder as most are.
var Usual = Carder{1, 1}

// Of returns the parameters of a carder.
func (c Carder) Of(p Params) Params {
	p.ClumpG *= c.Clumps
	p.Opening, p.Thinning = math.Pow(p.Opening, c.Opens), math.Pow(p.Thinning, c.Opens)
	return p
}

// Known is what is known of a carder: some that it may be, with how likely each is.
type Known struct {
	Carders []Carder
	Weights []float64 // adding up to 1
}

// Unknown are carders as they differ, so many of them, drawn from the spreads.
func Unknown(n int) Known {
	k := Known{make([]Carder, n), make([]float64, n)}
	for i := range n {
		d := key(4711, 0, 0, i)
		// Box and Muller's normal numbers.
		r, angle := math.Sqrt(-2*math.Log(1-d.next())), 2*math.Pi*d.next()
		k.Carders[i] = Carder{math.Exp(clumpSpread * r * math.Cos(angle)), math.Exp(openingSpread * r * math.Sin(angle))}
		k.Weights[i] = 1 / float64(n)
	}
	return k
}

// Needed is how many cardings it takes until a batt has a look and keeps it, the
// median and from 5 to 95 % of the carders that it may be. Above Horizon it is not
// reached within it.
type Needed struct{ Median, Low, High int }

// CardingsTo forecasts how many cardings a plan needs until it has each of the looks.
// The passes of the plan go on as its last one does. done is told after each carder,
// and may be nil.
func CardingsTo(ctx context.Context, p Plan, base Params, e *Eye, known Known, done func(of, n int)) (map[Look]Needed, error) {
	if err := p.Check(); err != nil {
		return nil, err
	}
	if len(p.Passes) == 0 {
		p.Passes = []Pass{{Strips: 4, Refeed: Spread}}
	}
	p.Passes = slices.Clone(p.Passes[:min(len(p.Passes), Horizon-1)])
	for len(p.Passes) < Horizon-1 {
		p.Passes = append(p.Passes, p.Passes[len(p.Passes)-1])
	}
	g := FineGrid(p.Bed.WidthMM, p.Bed.LengthMM).Coarse()
	first := map[Look][]int{}
	for i, c := range known.Carders {
		list, err := patches(ctx, p, c.Of(base), g, uint64(i), e)
		if err != nil {
			return nil, err
		}
		for _, l := range Looks() {
			first[l] = append(first[l], stageOf(list, l))
		}
		if done != nil {
			done(i+1, len(known.Carders))
		}
	}
	out := map[Look]Needed{}
	for l, list := range first {
		out[l] = Needed{quantile(list, known.Weights, 0.5), quantile(list, known.Weights, 0.05), quantile(list, known.Weights, 0.95)}
	}
	return out, nil
}

// patches is the patch spread of each stage.
func patches(ctx context.Context, p Plan, params Params, g Grid, seed uint64, e *Eye) (out []float64, err error) {
	err = Run(ctx, p, params, g, seed, func(_ int, b *Batt, _ []Placed) error {
		d, _ := e.Patch(b)
		out = append(out, d)
		return nil
	})
	return out, err
}

// stageOf is the first stage from which on a look's bound is kept.
func stageOf(list []float64, l Look) int {
	stage := len(list) + 1
	for i := len(list) - 1; i >= 0 && list[i] <= l.Upper(); i-- {
		stage = i + 1
	}
	return stage
}

// quantile is the weighted quantile of whole numbers.
func quantile(list []int, weights []float64, q float64) int {
	order := make([]int, len(list))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return list[a] - list[b] })
	var sum float64
	for _, i := range order {
		if sum += weights[i]; sum >= q-1e-12 {
			return list[i]
		}
	}
	return list[order[len(order)-1]]
}

// The grid of carders that a test batt is compared with, in logarithms, and how far an
// eye's judgement of a look scatters.
const (
	clumpsAcross, clumpsStep = 4, 0.25
	opensAcross, opensStep   = 4, 0.2
	eyeScatter               = 0.25
	leastLikely              = 1e-6
)

// Fit finds which carder one's own may be, from the look that one test batt had after
// each of its cardings (Bayes' rule over a grid). An empty look was not noted.
func Fit(ctx context.Context, p Plan, base Params, e *Eye, noted []Look, done func(of, n int)) (Known, error) {
	if len(noted) == 0 || len(noted) > Horizon || len(noted) > len(p.Passes)+1 {
		return Known{}, fault.New("looks", "Note the look after each carding of the test batt, up to %d.", Horizon)
	}
	for i, l := range noted {
		if l != "" && !slices.Contains(Looks(), l) {
			return Known{}, fault.New("looks", "After carding %d: a batt is streaky, marled, heathered or even.", i+1)
		}
	}
	p.Passes = p.Passes[:len(noted)-1]
	g := FineGrid(p.Bed.WidthMM, p.Bed.LengthMM).Coarse()
	var k Known
	var sum float64
	for i := -clumpsAcross; i <= clumpsAcross; i++ {
		for j := -opensAcross; j <= opensAcross; j++ {
			a, q := float64(i)*clumpsStep, float64(j)*opensStep
			c := Carder{math.Exp(a), math.Exp(q)}
			list, err := patches(ctx, p, c.Of(base), g, 1, e)
			if err != nil {
				return Known{}, err
			}
			w := math.Exp(-a*a/(2*clumpSpread*clumpSpread) - q*q/(2*openingSpread*openingSpread))
			for stage, l := range noted {
				if l != "" {
					w *= likely(list[stage], l)
				}
			}
			k.Carders, k.Weights = append(k.Carders, c), append(k.Weights, w)
			sum += w
			if done != nil {
				done(len(k.Carders), (2*clumpsAcross+1)*(2*opensAcross+1))
			}
		}
	}
	for i := range k.Weights {
		k.Weights[i] /= sum
	}
	return k, nil
}

// likely is how likely an eye says a look of a patch spread.
func likely(d float64, l Look) float64 {
	hi, lo := l.Upper(), 0.0
	for _, finer := range Looks() {
		if finer.Upper() < hi {
			lo = max(lo, finer.Upper())
		}
	}
	at := func(bound float64) float64 {
		switch {
		case bound <= 0:
			return 0
		case math.IsInf(bound, 1):
			return 1
		}
		return 0.5 * (1 + math.Erf((math.Log(bound)-math.Log(max(d, 1e-6)))/(eyeScatter*math.Sqrt2)))
	}
	return max(at(hi)-at(lo), leastLikely)
}

// Mean is the carder that stands for all that it may be.
func (k Known) Mean() Carder {
	var a, q float64
	for i, c := range k.Carders {
		a += k.Weights[i] * math.Log(c.Clumps)
		q += k.Weights[i] * math.Log(c.Opens)
	}
	return Carder{math.Exp(a), math.Exp(q)}
}

// Likely leaves the n most likely carders.
func (k Known) Likely(n int) Known {
	order := make([]int, len(k.Carders))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		switch {
		case k.Weights[a] > k.Weights[b]:
			return -1
		case k.Weights[a] < k.Weights[b]:
			return 1
		}
		return 0
	})
	var out Known
	var sum float64
	for _, i := range order[:min(n, len(order))] {
		out.Carders, out.Weights = append(out.Carders, k.Carders[i]), append(out.Weights, k.Weights[i])
		sum += k.Weights[i]
	}
	for i := range out.Weights {
		out.Weights[i] /= sum
	}
	return out
}
