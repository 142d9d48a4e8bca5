package carding

// collapse adds up what each bin of each lane holds of each slot, through all layers,
// and brings the sums to the ledger.
func (b *Batt) collapse() {
	clear(b.work.from)
	for z := range b.grid.Layers { // in the order in which the cells lie
		for x := range b.grid.Lanes {
			for k := range b.slots {
				if b.sum[z*b.k+k] != 0 {
					b.gather(b.bins(b.work.from, x, k), b.row(z, x, k))
				}
			}
		}
	}
	for k := range b.slots {
		var have float64
		for x := range b.grid.Lanes {
			have += total(b.bins(b.work.from, x, k))
		}
		if have > 0 {
			b.scale(k, b.slots[k].ledger/have)
		}
	}
}

// gather adds a row of cells to its bins.
func (b *Batt) gather(f []float64, row []float32) {
	per := b.grid.Cells / bins
	for t := range f {
		var sum float32
		for _, v := range row[t*per : t*per+per] {
			sum += v
		}
		f[t] += float64(sum)
	}
}

// bins are what the bins of a lane hold of a slot.
func (b *Batt) bins(of []float64, x, k int) []float64 {
	at := (x*b.k + k) * bins
	return of[at : at+bins : at+bins]
}

func (b *Batt) scale(k int, by float64) {
	for x := range b.grid.Lanes {
		f := b.bins(b.work.from, x, k)
		for t := range f {
			f[t] *= by
		}
	}
}

// spread feeds the strips one after the other over the whole width.
func (b *Batt) spread(p Pass) {
	w := &b.work
	clear(w.to)
	wide := b.grid.Lanes / p.Strips
	for j := range p.Strips {
		for r := range wide {
			to := r
			if p.Turned && j%2 == 1 {
				to = wide - 1 - r
			}
			for k := range b.slots {
				for t, v := range b.bins(w.from, j*wide+r, k) {
					b.over(to, k, (j*bins+t)/p.Strips, p.Strips, v)
				}
			}
		}
	}
}

// over shares grams out to the lanes that one lane of a strip becomes.
func (b *Batt) over(r, k, t, strips int, grams float64) {
	for e := range strips {
		b.work.to[((r*strips+e)*b.k+k)*bins+t] += grams / float64(strips)
	}
}

// pieces tears every strip, and feeds the pieces in any order and either way round.
func (b *Batt) pieces(p Pass) {
	w := &b.work
	clear(w.to)
	wide, per := b.grid.Lanes/p.Strips, bins/torn
	n := p.Strips * torn
	var all [8 * torn]int
	order := all[:n]
	for i := range order {
		order[i] = i
	}
	d := key(b.seed, b.op, orderKey, 0)
	for i := n - 1; i > 0; i-- {
		j := int(d.next() * float64(i+1))
		order[i], order[j] = order[j], order[i]
	}
	for at, piece := range order {
		own := key(b.seed, b.op, pieceKey, piece)
		turned := own.next() < 0.5
		j, q := piece/torn, piece%torn
		for r := range wide {
			to := r
			if turned {
				to = wide - 1 - r
			}
			for k := range b.slots {
				f := w.from[((j*wide+r)*b.k+k)*bins+q*per:][:per]
				for i, v := range f {
					b.over(to, k, (at*per+i)/p.Strips, p.Strips, v)
				}
			}
		}
	}
}
