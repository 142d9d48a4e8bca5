package layup

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// drawPlan draws lays anywhere, some over one another.
func drawPlan(t *rapid.T, b Bed, fibres []Fibre) Plan {
	p := Plan{Draft: DefaultDraft, Rolags: rapid.IntRange(0, 5).Draw(t, "rolags")}
	left := make([]float64, len(fibres))
	for i, f := range fibres {
		left[i] = f.Grams
	}
	for range rapid.IntRange(1, 6).Draw(t, "layers") {
		var l Layer
		for range rapid.IntRange(1, 5).Draw(t, "lays") {
			c := rapid.IntRange(0, len(fibres)-1).Draw(t, "component")
			from, start := float64(rapid.IntRange(0, 80).Draw(t, "from"))/100, float64(rapid.IntRange(0, 80).Draw(t, "start"))/100
			v := Lay{
				Component: c,
				From:      from,
				To:        from + float64(rapid.IntRange(1, 20).Draw(t, "wide"))/100,
				Start:     start,
				End:       start + float64(rapid.IntRange(1, 20).Draw(t, "long"))/100,
				Grams:     left[c] * rapid.Float64Range(0.05, 0.5).Draw(t, "part"),
				Method:    b.Usual(fibres[c]),
			}
			left[c] -= v.Grams
			l.Lays = append(l.Lays, v)
		}
		p.Layers = append(p.Layers, l)
	}
	return p.OnGrid()
}

// standing is the height at one spot, added up lay by lay.
func standing(p Plan, b Bed, fibres []Fibre, x, y float64) (mm float64) {
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			if x > v.From && x < v.To && y > v.Start && y < v.End {
				full := b.capacityOf(fibres[v.Component]) * (v.To - v.From) * (v.End - v.Start)
				mm += v.Grams / full * b.ToothMM
			}
		}
	}
	return mm
}

func middles(edges []float64) (out []float64) {
	for i := 1; i < len(edges); i++ {
		out = append(out, (edges[i-1]+edges[i])/2)
	}
	return out
}

// TestHeightBySampling looks into the middle of every field between edges: the
// highest of them is the height.
func TestHeightBySampling(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, fibres := drawBed(t), drawFibres(t)
		p := drawPlan(t, b, fibres)
		require.NoError(t, p.Check(b, fibres, true))
		var most float64
		for _, x := range middles(p.edges(across)) {
			for _, y := range middles(p.edges(along)) {
				most = max(most, standing(p, b, fibres, x, y))
			}
		}
		l := p.Loads(b, fibres)
		assert.InEpsilon(t, most, l.HeightMM, 1e-9)
		assert.Equal(t, l.HeightMM > b.ToothMM+overMM, l.Over)
	})
}

// TestLanesAndRolagsBySampling cuts the bed into 2,000 slices and puts each
// into its lane or rolag.
func TestLanesAndRolagsBySampling(t *testing.T) {
	const slices = 2000
	rapid.Check(t, func(t *rapid.T) {
		b, fibres := drawBed(t), drawFibres(t)
		b.Type = Board
		p := drawPlan(t, b, fibres).OffTheTray()
		in := func(x float64, span func(Lay) (float64, float64)) (sum float64) {
			for _, l := range p.Layers {
				for _, v := range l.Lays {
					if from, to := span(v); x >= from && x < to {
						sum += v.Grams / ((to - from) * slices)
					}
				}
			}
			return sum
		}
		l := p.Loads(b, fibres)
		for _, lane := range l.Lanes {
			assert.GreaterOrEqual(t, lane.To-lane.From, finest-1e-9, "no lane is narrower than a twentieth")
			var sum float64
			for i := range slices {
				if x := (float64(i) + 0.5) / slices; x >= lane.From && x < lane.To {
					sum += in(x, across)
				}
			}
			assert.InDelta(t, lane.Grams, sum, 0.02*l.TotalG+1e-9)
		}
		if r := p.Rolls(b, fibres); r != nil {
			for _, rolag := range r.Each {
				var sum, shares float64
				for i := range slices {
					if y := (float64(i) + 0.5) / slices; y >= rolag.Start && y < rolag.End {
						sum += in(y, along)
					}
				}
				assert.InDelta(t, rolag.Grams, sum, 0.02*l.TotalG+1e-9)
				for _, s := range rolag.Shares {
					shares += s
				}
				if rolag.Grams > 0.001 {
					assert.InDelta(t, 1, shares, 1e-6)
				}
			}
		}
	})
}

// TestRefitKeepsTheParts: when there is more or less of a fibre, what was all laid
// is all laid again, what was laid in part stays the same part to a step of the
// scale, and no more is laid than there is.
func TestRefitKeepsTheParts(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, fibres := drawBed(t), drawFibres(t)
		p := drawPlan(t, b, fibres)
		if rapid.Bool().Draw(t, "all") {
			for i := range fibres {
				p = p.PlaceRest(b, fibres, i, 0.1)
			}
		}
		other := slices.Clone(fibres)
		for i := range other {
			other[i].Grams = float64(rapid.IntRange(1, 900).Draw(t, "tenths")) / 10
		}
		was, is := p.Placed(len(fibres)), p.Refit(b, fibres, other, 0.1).Placed(len(fibres))
		for i := range fibres {
			assert.LessOrEqual(t, is[i], other[i].Grams+1e-9)
			switch {
			case was[i] == 0:
				assert.Zero(t, is[i])
			case fibres[i].Grams-was[i] <= OverplacedG:
				assert.InDelta(t, other[i].Grams, is[i], 1e-9)
			default:
				assert.InDelta(t, was[i]/fibres[i].Grams*other[i].Grams, is[i], 0.1+1e-9)
			}
		}
	})
}
