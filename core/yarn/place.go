package yarn

import (
	"math"
)

// at is the composition of the single at a place, m.
func (y *Yarn) at(m float64) []float64 {
	i := min(max(int(m/y.step), 0), len(y.shares)/y.n-1)
	return y.shares[i*y.n : i*y.n+y.n]
}

// Place is where in the single a ply of the yarn lies at a place of the yarn, both in m.
func (y *Yarn) Place(ply int, m float64) float64 {
	x := m * (1 + y.takeUp)
	switch {
	case y.Ply == Single:
		return m
	case y.second > 0 && ply == 1 && y.turned:
		return y.SinglesM - x
	case y.second > 0:
		return y.second*float64(ply) + x
	case y.Ply != Chain:
		return y.SinglesM*float64(ply)/float64(PliesOf(y.Ply)) + x
	}
	fold := math.Floor(x / foldM) // each fold of the chain takes three of its length
	in := x - fold*foldM
	switch base := 3 * foldM * fold; ply {
	case 1:
		return base + 2*foldM - in
	case 2:
		return base + 2*foldM + in
	default:
		return base + in
	}
}

// Near is the composition of a ply about a place of the yarn, m, passing over from one step to
// the next.
func (y *Yarn) Near(ply int, m float64, into []float64) {
	at := y.Place(ply, m)/y.step - 0.5
	i := math.Floor(at)
	a, b := y.at((i+0.5)*y.step), y.at((i+1.5)*y.step)
	for k := range into {
		into[k] = a[k] + (b[k]-a[k])*(at-i)
	}
}

// Shares is the composition of a ply at a place of the yarn, m.
func (y *Yarn) Shares(ply int, m float64) []float64 { return y.at(y.Place(ply, m)) }

// Mean is the composition of all plies together at a place of the yarn, m.
func (y *Yarn) Mean(m float64, into []float64) {
	clear(into)
	n := PliesOf(y.Ply)
	for p := range n {
		for k, v := range y.Shares(p, m) {
			into[k] += v / float64(n)
		}
	}
}
