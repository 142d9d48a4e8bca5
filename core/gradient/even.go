package gradient

import (
	"math"

	"fairtangle/core/colour"
)

// fine is into how many pieces a path is cut to look along it.
const fine = 192

// even returns k shares with equal jumps along the path, and the largest of the
// jumps. It walks from the first end by jumps of a size, and halves the size
// until the walk ends at the second end. Where CIEDE2000 falls again along a
// curved path no walk arrives evenly; then each bridge is moved between its
// neighbours until both jumps are alike, again and again.
func (p *path) even(k int) (shares []float64, jump float64) {
	along := p.table()
	shares = make([]float64, k)
	if k == 0 || colour.CIEDE2000(along[0], along[fine]) < 1e-9 && p.length(along) < 1e-6 {
		for i := range shares {
			shares[i] = float64(i+1) / float64(k+1)
		}
		return shares, colour.CIEDE2000(along[0], along[fine])
	}
	lo, hi := 0.0, p.length(along)
	for range 24 {
		mid := (lo + hi) / 2
		if p.walk(along, shares, mid) > 0 {
			lo = mid
		} else {
			hi = mid
		}
	}
	p.walk(along, shares, lo)
	if low, high := p.jumps(shares); high > 1.02*low {
		p.spread(along, shares)
		p.settle(shares)
	}
	_, high := p.jumps(shares)
	return shares, high
}

// table returns the colours along the path at even shares.
func (p *path) table() *[fine + 1]colour.Lab {
	var t [fine + 1]colour.Lab
	for i := range t {
		t[i] = p.lab(float64(i) / fine)
	}
	return &t
}

// length is the sum of the small jumps along the path, the most that any jump
// can be.
func (p *path) length(along *[fine + 1]colour.Lab) (sum float64) {
	for i := range fine {
		sum += colour.CIEDE2000(along[i], along[i+1])
	}
	return sum
}

// walk fills in the shares where jumps of a size lead, and gives by how much
// what is left is more than one jump; -1 when it arrives too early.
func (p *path) walk(along *[fine + 1]colour.Lab, shares []float64, size float64) float64 {
	x, at := 0.0, along[0]
	for i := range shares {
		next, ok := p.step(along, x, at, size)
		if !ok {
			for j := i; j < len(shares); j++ {
				shares[j] = 1
			}
			return -1
		}
		x = next
		at = p.lab(x)
		shares[i] = x
	}
	return colour.CIEDE2000(at, along[fine]) - size
}

// step finds the first place beyond x whose colour is size away.
func (p *path) step(along *[fine + 1]colour.Lab, x float64, from colour.Lab, size float64) (float64, bool) {
	for i := int(x*fine) + 1; i <= fine; i++ {
		if colour.CIEDE2000(from, along[i]) < size {
			continue
		}
		lo, hi := max(x, float64(i-1)/fine), float64(i)/fine
		for range 18 {
			if mid := (lo + hi) / 2; colour.CIEDE2000(from, p.lab(mid)) < size {
				lo = mid
			} else {
				hi = mid
			}
		}
		return hi, true
	}
	return 1, false
}

// jumps returns the smallest and the largest jump between shares and both ends.
func (p *path) jumps(shares []float64) (low, high float64) {
	low = math.Inf(1)
	at := p.lab(0)
	for i := 0; i <= len(shares); i++ {
		x := 1.0
		if i < len(shares) {
			x = shares[i]
		}
		next := p.lab(x)
		d := colour.CIEDE2000(at, next)
		low, high, at = min(low, d), max(high, d), next
	}
	return low, high
}

// spread puts the shares at equal parts of the path's length.
func (p *path) spread(along *[fine + 1]colour.Lab, shares []float64) {
	all := p.length(along)
	var sum float64
	next := 0
	for i := range fine {
		d := colour.CIEDE2000(along[i], along[i+1])
		for next < len(shares) && sum+d >= all*float64(next+1)/float64(len(shares)+1) {
			part := (all*float64(next+1)/float64(len(shares)+1) - sum) / max(d, 1e-12)
			shares[next] = (float64(i) + part) / fine
			next++
		}
		sum += d
	}
	for ; next < len(shares); next++ {
		shares[next] = 1
	}
}

// settle moves each share between its neighbours to where both jumps are
// alike, or, at the edge that CIEDE2000 has between opposite hues, nearest to
// alike; such a place exists because the difference changes its sign.
func (p *path) settle(shares []float64) {
	k := len(shares)
	for range 40 + 12*k {
		for i := range shares {
			lo, hi := 0.0, 1.0
			if i > 0 {
				lo = shares[i-1]
			}
			if i < k-1 {
				hi = shares[i+1]
			}
			left, right := p.lab(lo), p.lab(hi)
			for range 16 {
				mid := (lo + hi) / 2
				if at := p.lab(mid); colour.CIEDE2000(left, at) < colour.CIEDE2000(at, right) {
					lo = mid
				} else {
					hi = mid
				}
			}
			shares[i] = (lo + hi) / 2
		}
		if low, high := p.jumps(shares); high <= 1.01*low {
			return
		}
	}
}
