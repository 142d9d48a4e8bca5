package carding

import (
	"sync"
)

// rise finds how high each bin of each lane comes to lie, and gathers what is opened
// by layer.
func (b *Batt) rise() {
	w := &b.work
	clear(w.opened)
	for x := range b.grid.Lanes {
		h := b.high[x]
		for t := range bins {
			var grams float64
			for k := range b.slots {
				grams += w.from[(x*b.k+k)*bins+t]
			}
			z := b.layer(h + grams/2)
			for k, s := range b.slots {
				w.opened[(z*b.grid.Lanes+x)*b.k+k] += (1 - s.unopened) * w.from[(x*b.k+k)*bins+t]
			}
			w.height[x*bins+t] = h
			h += grams
		}
		b.high[x] = h
	}
}

// write lays what is opened, evenly along each lane; it replaces the old batt, or
// goes on what was fed before.
func (b *Batt) write(onto bool) {
	b.shared(job{write: true, onto: onto})
}

func (b *Batt) writeLayer(z int, onto bool) {
	for x := range b.grid.Lanes {
		for k := range b.slots {
			v := float32(b.work.opened[(z*b.grid.Lanes+x)*b.k+k] / float64(b.grid.Cells))
			if v == 0 && (onto || b.work.before[z*b.k+k] == 0) {
				continue // there is nothing, and there was nothing
			}
			row := b.row(z, x, k)
			if !onto {
				fill(row, v)
				b.sum[z*b.k+k] += float64(v) * float64(len(row))
				continue
			}
			for c, was := range row {
				row[c] = was + v
				b.sum[z*b.k+k] += float64(row[c]) - float64(was)
			}
		}
	}
}

// fill writes one value, by doubling copies.
func fill(row []float32, v float32) {
	row[0] = v
	for n := 1; n < len(row); n *= 2 {
		copy(row[n:], row[:n])
	}
}

// scatter lays the clumps: where there is fibre, more of them.
func (b *Batt) scatter() {
	w := &b.work
	w.streaks = w.streaks[:0]
	sums := w.cumulated
	for k, s := range b.slots {
		grams := b.cumulateOf(k, sums) * s.unopened
		if grams <= 0 {
			continue
		}
		n := s.clumpsOf(grams, s.clump)
		if s.body >= 0 { // where its body lies
			b.cumulateOf(s.body, sums)
		}
		for i := range n {
			d := b.chance(k, i, false)
			at := pick(sums, d.next())
			x, t := at/bins, at%bins
			var mass float64
			for j := range b.slots {
				mass += w.from[(x*b.k+j)*bins+t]
			}
			z := b.layer(w.height[at] + d.next()*mass)
			length := b.StreakMM * (0.6 + 0.8*d.next())
			centre := float64(x) + d.next()
			start := int(d.next() * float64(b.grid.Cells))
			w.streaks = append(w.streaks, b.end(b.streakOf(k, z, centre, start, s.whole(grams/float64(n)), length)))
		}
	}
	b.layAll()
}

// cumulateOf writes the running sums of what a slot has in each bin of each lane, and returns the whole.
func (b *Batt) cumulateOf(k int, sums []float64) (all float64) {
	for x := range b.grid.Lanes {
		for t, v := range b.bins(b.work.from, x, k) {
			all += v
			sums[x*bins+t] = all
		}
	}
	return all
}

// layAll lays streaks layer by layer, each layer's in their order.
func (b *Batt) layAll() {
	w := &b.work
	clear(w.count)
	for _, s := range w.streaks {
		w.count[s.layer+1]++
		b.taper(s.cells) // before more than one need it
	}
	for z := range b.grid.Layers {
		w.count[z+1] += w.count[z]
	}
	if cap(w.ordered) < len(w.streaks) {
		w.ordered = make([]streak, len(w.streaks), 2*len(w.streaks))
	}
	w.ordered = w.ordered[:len(w.streaks)]
	copy(w.next, w.count)
	for _, s := range w.streaks {
		w.ordered[w.next[s.layer]] = s
		w.next[s.layer]++
	}
	b.shared(job{})
}

// job is what is done to every layer.
type job struct{ write, onto bool }

func (b *Batt) do(j job, z int) {
	if j.write {
		b.writeLayer(z, j.onto)
		return
	}
	for _, s := range b.work.ordered[b.work.count[z]:b.work.count[z+1]] {
		b.lay(s)
	}
}

// shared does something to every layer, on as many goroutines as there are workers;
// each layer belongs to one, so that every cell is summed in one order.
func (b *Batt) shared(j job) {
	if b.workers < 2 {
		for z := range b.grid.Layers {
			b.do(j, z)
		}
		return
	}
	b.together(j)
}

func (b *Batt) together(j job) {
	var all sync.WaitGroup
	for g := range b.workers {
		all.Go(func() {
			for z := g; z < b.grid.Layers; z += b.workers {
				b.do(j, z)
			}
		})
	}
	all.Wait()
}
