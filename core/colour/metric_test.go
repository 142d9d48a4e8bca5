package colour

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func anyLab(t *rapid.T, name string) Lab {
	return Lab{rapid.Float64Range(5, 95).Draw(t, name+"L"), rapid.Float64Range(-60, 60).Draw(t, name+"a"), rapid.Float64Range(-60, 60).Draw(t, name+"b")}
}

func TestDifferenceHasTheLengthOfCIEDE2000(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, q := anyLab(t, "p"), anyLab(t, "q")
		d := Difference(p, q)
		assert.InDelta(t, CIEDE2000(p, q), math.Hypot(math.Hypot(d[0], d[1]), d[2]), 1e-9)
	})
}

func TestMetricMeetsSmallDifferences(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := anyLab(t, "p")
		if p.Chroma() < 2 {
			return // the hue turns fast near grey; the search only wants a direction there
		}
		d := [3]float64{rapid.Float64Range(-1, 1).Draw(t, "dl"), rapid.Float64Range(-1, 1).Draw(t, "da"), rapid.Float64Range(-1, 1).Draw(t, "db")}
		const h = 1e-3
		want := CIEDE2000(p, Lab{p.L + h*d[0], p.A + h*d[1], p.B + h*d[2]})
		m := Metric(p)
		var sum float64
		for i := range 3 {
			v := h * (m[i][0]*d[0] + m[i][1]*d[1] + m[i][2]*d[2])
			sum += v * v
		}
		assert.InDelta(t, want, math.Sqrt(sum), 0.01*want+1e-6)
	})
}

func TestLabSlope(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := Linear{rapid.Float64Range(0.01, 1).Draw(t, "r"), rapid.Float64Range(0.01, 1).Draw(t, "g"), rapid.Float64Range(0.01, 1).Draw(t, "b")}
		lab, slope := c.LabSlope()
		assert.InDelta(t, c.Lab().L, lab.L, 1e-12)
		for ch := range 3 {
			const h = 1e-7
			up, down := c, c
			up[ch] += h
			down[ch] -= h
			u, d := up.Lab(), down.Lab()
			assert.InDelta(t, (u.L-d.L)/(2*h), slope[0][ch], 1e-2)
			assert.InDelta(t, (u.A-d.A)/(2*h), slope[1][ch], 1e-2)
			assert.InDelta(t, (u.B-d.B)/(2*h), slope[2][ch], 1e-2)
		}
	})
}
