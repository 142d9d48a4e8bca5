package mix

import (
	"math"

	"fairtangle/core/colour"
)

// Slope returns the colour of the even mix of prepared lots and how it changes
// with each share. strength[k] is how much a gram of lot k counts beside a gram
// of the others (covering power, or what calibration found); all 1 is by
// weight. slope[k] is the derivative by share k, up to a part that is the same
// for all of them and falls out where shares keep adding up to 1. shares need
// not be positive as long as their sum is; nothing is checked or allocated.
func (m Model) Slope(lots []*Prepared, strength, shares []float64, slope []colour.Linear) (mixed colour.Linear) {
	var weight float64
	for k, s := range shares {
		weight += s * strength[k]
		slope[k] = colour.Linear{}
	}
	if m.Name == Friele {
		return m.slopeFriele(lots, strength, shares, weight, slope)
	}
	sight := colour.Sight()
	b, a := m.Parameter, 0.01*(1-m.Parameter)
	var base colour.Linear
	for i := range colour.Bands {
		var q float64
		for k, s := range shares {
			q += s * strength[k] * lots[k][i]
		}
		q /= weight
		var r, dr float64
		if m.Name == KubelkaMunk {
			r, dr = fromKOverS(q), slopeFromKOverS(max(q, 1e-12))
		} else {
			v := 1 / q
			r, dr = (v-a)/b, -v*v/b
		}
		t := &sight[i]
		mixed[0] += t[0] * r
		mixed[1] += t[1] * r
		mixed[2] += t[2] * r
		d0, d1, d2 := t[0]*dr, t[1]*dr, t[2]*dr
		base[0] += d0 * q
		base[1] += d1 * q
		base[2] += d2 * q
		for k := range slope {
			p, c := lots[k][i], &slope[k]
			c[0] += d0 * p
			c[1] += d1 * p
			c[2] += d2 * p
		}
	}
	for k := range slope {
		for ch := range 3 {
			slope[k][ch] = (slope[k][ch] - base[ch]) * strength[k] / weight
		}
	}
	return mixed
}

func (m Model) slopeFriele(lots []*Prepared, strength, shares []float64, weight float64, slope []colour.Linear) (mixed colour.Linear) {
	sight := colour.Sight()
	for i := range colour.Bands {
		top := math.Inf(-1)
		for k, s := range shares {
			if s > 0 {
				top = max(top, lots[k][i])
			}
		}
		var sum float64
		for k, s := range shares {
			sum += s * strength[k] * math.Exp(lots[k][i]-top)
		}
		sum /= weight
		q := max(0, -(top+math.Log(sum))/m.Parameter)
		dr := -slopeFromKOverS(max(q, 1e-12)) / m.Parameter
		scatter(&mixed, &sight[i], fromKOverS(q))
		for k := range shares {
			scatter(&slope[k], &sight[i], dr*strength[k]*(math.Exp(lots[k][i]-top)/sum-1)/weight)
		}
	}
	return mixed
}

// slopeFromKOverS is the derivative of fromKOverS.
func slopeFromKOverS(q float64) float64 {
	root := math.Sqrt(q*q + 2*q)
	r := 1 / (1 + q + root)
	if root == 0 {
		return math.Inf(-1)
	}
	return -r * r * (1 + (q+1)/root)
}

func scatter(c *colour.Linear, sight *[3]float64, v float64) {
	c[0] += sight[0] * v
	c[1] += sight[1] * v
	c[2] += sight[2] * v
}
