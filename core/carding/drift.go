package carding

import "math"

// sideways are the weights with which a pass spreads what lies in a lane to those
// beside it.
func sideways(spread, lane float64) []float64 {
	if spread <= 0 {
		return []float64{1}
	}
	reach := int(math.Ceil(3 * spread / lane))
	out := make([]float64, 2*reach+1)
	for i := range out {
		at := float64(i-reach) * lane
		out[i] = math.Exp(-at * at / (2 * spread * spread))
	}
	sum := total(out)
	for i := range out {
		out[i] /= sum
	}
	return out
}

// lateral spreads what is in each lane to its neighbours, from to to from.
func (b *Batt) lateral() {
	w := &b.work
	lanes := b.grid.Lanes
	reach := len(w.side) / 2
	clear(w.from)
	for x := range lanes {
		for i, part := range w.side {
			at := x + i - reach
			for at < 0 || at >= lanes {
				if at < 0 {
					at = -1 - at
				} else {
					at = 2*lanes - 1 - at
				}
			}
			from, to := w.to[x*b.k*bins:][:len(b.slots)*bins], w.from[at*b.k*bins:][:len(b.slots)*bins]
			for j, g := range from {
				to[j] += g * part
			}
		}
	}
}

// smear draws what is fed out along the strip, by about a staple.
func (b *Batt) smear(p Pass) {
	strips := p.Strips
	if p.Refeed != Spread && p.Refeed != Pieces {
		strips = 1
	}
	n := int(math.Round(b.StapleMM * bins / b.bed.LengthMM / float64(strips)))
	n = min(n|1, bins-1)
	if n < 3 {
		return
	}
	var drawn [bins]float64
	for x := range b.grid.Lanes {
		for k := range b.slots {
			f := b.bins(b.work.from, x, k)
			clear(drawn[:])
			for t, v := range f {
				for i := -(n / 2); i <= n/2; i++ {
					at := t + i
					if at < 0 {
						at = -1 - at
					}
					if at >= bins {
						at = 2*bins - 1 - at
					}
					drawn[at] += v / float64(n)
				}
			}
			copy(f, drawn[:])
		}
	}
}
