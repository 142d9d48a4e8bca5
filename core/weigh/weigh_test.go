package weigh

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// withinOne asserts that a rounded count is within one step of exact.
func withinOne(t require.TestingT, exact float64, got int64, what string) {
	require.LessOrEqual(t, math.Abs(float64(got)-exact), 1+1e-6, what)
}

func TestRoundAlikeLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n, units := rapid.IntRange(1, 14).Draw(t, "n"), rapid.IntRange(1, 12).Draw(t, "units")
		exact := make([]float64, n)
		var total float64
		for j := range exact {
			exact[j] = rapid.OneOf(rapid.Float64Range(0, 500), rapid.Map(rapid.IntRange(0, 400), func(i int) float64 { return float64(i) / 4 })).Draw(t, "exact")
			total += exact[j]
		}
		table := RoundAlike(exact, units)
		require.Len(t, table, units)
		columns := make([]int64, n)
		var grand int64
		for _, row := range table {
			var sum int64
			for j, c := range row {
				withinOne(t, exact[j], c, "cell")
				assert.GreaterOrEqual(t, c, int64(0))
				columns[j] += c
				sum += c
			}
			withinOne(t, total, sum, "unit")
			grand += sum
		}
		for j := range columns {
			withinOne(t, exact[j]*float64(units), columns[j], "component")
		}
		assert.LessOrEqual(t, math.Abs(float64(grand)-total*float64(units)), 0.5+1e-6, "the grand total is the nearest")
	})
}

// 312.5 + 187.5 steps, twice: identical units are possible (313, 187), as each
// column is then one step off. Three thirds in two units are not.
func TestIdenticalUnitsWhereTheTotalsAllow(t *testing.T) {
	assert.Equal(t, [][]int64{{313, 187}, {313, 187}}, RoundAlike([]float64{312.5, 187.5}, 2))
	assert.Equal(t, [][]int64{{10, 20}, {10, 20}, {10, 20}}, RoundAlike([]float64{10, 20}, 3))
	table := RoundAlike([]float64{10.25, 20.25}, 2) // 61 steps in all
	assert.NotEqual(t, table[0], table[1])
}

// A plan loses nothing: what is weighed in, carded and lost gives what was
// asked for, to half a step in all.
func TestPlanLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 10).Draw(t, "n")
		o := Order{
			Units: rapid.IntRange(1, 12).Draw(t, "units"), Passes: rapid.IntRange(0, 5).Draw(t, "passes"),
			Finished: unit.Grams(rapid.Float64Range(5, 300).Draw(t, "finished")),
			Step:     unit.Grams(rapid.SampledFrom([]float64{0.01, 0.05, 0.1, 0.5, 1, 2.835}).Draw(t, "step")),
		}
		parts := make([]float64, n)
		var sum float64
		for i := range parts {
			parts[i] = rapid.Float64Range(0.05, 1).Draw(t, "parts")
			sum += parts[i]
		}
		for _, p := range parts {
			o.Components = append(o.Components, Component{
				Share: p / sum, LossPass: rapid.Float64Range(0, 0.15).Draw(t, "loss"),
				Decay: rapid.SampledFrom([]float64{0, 0.6, 0.9, 1}).Draw(t, "decay"), JoinsAt: rapid.IntRange(0, max(o.Passes, 1)).Draw(t, "joins"),
			})
		}
		p, err := Make(o)
		require.NoError(t, err)
		var shares float64
		for i, s := range p.FinishedShares {
			shares += s
			back, c := float64(p.Exact[i]), o.Components[i]
			for n, lost := max(c.JoinsAt, 1), c.LossPass; n <= o.Passes; n++ {
				back *= 1 - lost
				if c.Decay > 0 {
					lost *= c.Decay
				}
			}
			assert.InDelta(t, float64(o.Finished)*parts[i]/sum, back, 1e-9*float64(o.Finished))
		}
		assert.InDelta(t, 1, shares, 1e-9)
		var units, components int64
		for _, v := range p.UnitTotals {
			units += v
		}
		for _, v := range p.ComponentTotals {
			components += v
		}
		assert.Equal(t, p.Total, units)
		assert.Equal(t, p.Total, components)
		worst := float64(n+1) * float64(o.Step) // n cells a step off each, at most
		assert.InDelta(t, float64(o.Finished)*float64(o.Units), float64(p.Finished), worst*float64(o.Units))
	})
}

// Worked by hand: half each of 60 g, 4 % and 0 % loss, two passes: 30/0.9216 =
// 32.552 g and 30 g. Four units: 130.208 g is 1302 steps of 0.1 g, so two units
// take 32.6 g and two 32.5 g.
func TestPlanByHand(t *testing.T) {
	p, err := Make(Order{Components: []Component{{Share: 0.5, LossPass: 0.04}, {Share: 0.5}}, Units: 4, Finished: 60, Passes: 2, Step: 0.1})
	require.NoError(t, err)
	assert.Equal(t, []int64{1302, 1200}, p.ComponentTotals)
	assert.Equal(t, int64(2502), p.Total)
	assert.InDelta(t, 32.552083, float64(p.Exact[0]), 1e-6)
	assert.InDelta(t, 130.2*0.9216+120, float64(p.Finished), 1e-9)
	late, err := Make(Order{Components: []Component{{Share: 1, LossPass: 0.1, JoinsAt: 2}}, Units: 1, Finished: 9, Passes: 2, Step: 1})
	require.NoError(t, err)
	assert.Equal(t, int64(10), late.Total, "one pass of the two is suffered")
}

func TestMakeNamesTheField(t *testing.T) {
	good := func() Order {
		return Order{Components: []Component{{Share: 0.5}, {Share: 0.5}}, Units: 1, Finished: 10, Passes: 1, Step: 0.1}
	}
	tests := map[string]func(*Order){
		"components[1].share":    func(o *Order) { o.Components[1].Share = math.NaN() },
		"components[0].loss_pct": func(o *Order) { o.Components[0].LossPass = 1 },
		"components":             func(o *Order) { o.Components = o.Components[:1] },
		"units":                  func(o *Order) { o.Units = 0 },
		"finished_g":             func(o *Order) { o.Finished = unit.Grams(math.Inf(1)) },
		"passes":                 func(o *Order) { o.Passes = -1 },
		"step_g":                 func(o *Order) { o.Step = 0 },
	}
	for field, spoil := range tests {
		o := good()
		spoil(&o)
		_, err := Make(o)
		l, ok := fault.From(err)
		require.True(t, ok, field)
		assert.Equal(t, field, l[0].Field)
	}
}

// 12.9 g of a planned 12 (60 %) wants a total of 21.5: the other grows to 8.6.
func TestReweighByHand(t *testing.T) {
	lines := []Line{{Planned: 12, Weighed: 12.9, Done: true}, {Planned: 8}}
	c, err := Reweigh(lines, 0.1, KeepShares)
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{12.9, 8.6}, grams(c.ToWeigh), 1e-9)
	assert.InDelta(t, 0, c.WorstShareError, 1e-9)
	c, err = Reweigh(lines, 0.1, KeepTotal)
	require.NoError(t, err)
	assert.InDeltaSlice(t, []float64{12.9, 7.1}, grams(c.ToWeigh), 1e-9)
	assert.InDelta(t, 0.045, c.WorstShareError, 1e-9)
	_, err = Reweigh(lines, 0.1, "shrug")
	assert.Error(t, err)
}

func grams(g []unit.Grams) []float64 {
	out := make([]float64, len(g))
	for i := range g {
		out[i] = float64(g[i])
	}
	return out
}

func TestReweighLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 8).Draw(t, "n")
		lines := make([]Line, n)
		var total, weighed unit.Grams
		for i := range lines {
			lines[i] = Line{Planned: unit.Grams(rapid.IntRange(10, 900).Draw(t, "planned")) / 10, Done: rapid.Bool().Draw(t, "done")}
			if lines[i].Done {
				lines[i].Weighed = unit.Grams(rapid.IntRange(0, 1000).Draw(t, "weighed")) / 10
				weighed += lines[i].Weighed
			}
			total += lines[i].Planned
		}
		for _, p := range []Policy{KeepShares, KeepTotal} {
			c, err := Reweigh(lines, 0.1, p)
			require.NoError(t, err)
			var sum unit.Grams
			open := false
			for i, g := range c.ToWeigh {
				sum += g
				open = open || !lines[i].Done
				assert.InDelta(t, math.Round(float64(g)*10), float64(g)*10, 1e-6, "whole steps")
				if lines[i].Done {
					assert.GreaterOrEqual(t, float64(g), float64(lines[i].Weighed)-1e-9, "nothing is taken out of the bowl")
				}
			}
			assert.InDelta(t, float64(sum), float64(c.Total), 1e-9)
			switch p {
			case KeepShares:
				assert.GreaterOrEqual(t, float64(c.Total), float64(total)-0.051)
				assert.LessOrEqual(t, c.WorstShareError, 0.1*float64(n)/float64(c.Total)+1e-9, "shares hold to the step")
			case KeepTotal:
				if open {
					assert.InDelta(t, math.Max(float64(total), float64(weighed)), float64(c.Total), 0.051)
				}
			}
		}
	})
}

func TestApportionByHand(t *testing.T) {
	assert.Equal(t, []int64{34, 33, 33}, Apportion([]float64{100. / 3, 100. / 3, 100. / 3}, 100))
	assert.Equal(t, []int64{1, 3}, Apportion([]float64{1.2, 2.8}, 4))
}

func exact12() []float64 {
	out := make([]float64, 12)
	for i := range out {
		out[i] = 31.7 + float64(i*i)*1.37
	}
	return out
}

func BenchmarkRound12x8(b *testing.B) {
	exact := exact12()
	b.ReportAllocs()
	for b.Loop() {
		RoundAlike(exact, 8)
	}
}

// The floor: every cell rounded by itself, which does not add up.
func BenchmarkRound12x8Floor(b *testing.B) {
	exact := exact12()
	var cells [8][12]int64
	b.ReportAllocs()
	for b.Loop() {
		for u := range cells {
			for j, x := range exact {
				cells[u][j] = int64(math.Round(x))
			}
		}
	}
	_ = cells
}

// TestSharesThatNearlyAddUp: shares may miss 1 by rounding; what comes off is still all
// that was asked for.
func TestSharesThatNearlyAddUp(t *testing.T) {
	o := Order{Units: 1, Finished: 300, Step: 0.01, Components: []Component{{Share: 0.3336}, {Share: 0.3336}, {Share: 0.3336}}}
	p, err := Make(o)
	require.NoError(t, err)
	for _, g := range p.Exact {
		assert.InDelta(t, 100, float64(g), 1e-9)
	}
}

// A unit of exactly one gram has its shares like any other.
func TestAUnitOfOneGram(t *testing.T) {
	p, err := Make(Order{Components: []Component{{Share: 0.5}, {Share: 0.5}}, Units: 1, Finished: 1, Step: 0.1})
	require.NoError(t, err)
	assert.InDelta(t, 0, p.WorstShareError, 1e-12)
	assert.Zero(t, over(3, 0))
}
