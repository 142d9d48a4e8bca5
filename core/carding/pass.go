package carding

import (
	"fmt"
	"math"
	"sync"
)

// Refeed is how the strips of a batt are fed again.
type Refeed string

// The ways to feed strips again: each in its own place; one after the other over the
// whole width; in pieces, shuffled, over the whole width.
const (
	OwnPlace Refeed = "own-place"
	Spread   Refeed = "spread"
	Pieces   Refeed = "pieces"
)

// torn is into how many pieces each strip is torn for Pieces.
const torn = 8

// Pass is one more carding of the batt.
type Pass struct {
	Strips int
	Refeed Refeed
	Turned bool // spread: every second strip is fed from its other side
	// ByHand tears and lays by hand instead: no pins open the fibre.
	ByHand bool
	// Loss is the part of a component that is lost in its n-th carding; nil for none.
	Loss  func(component, n int) float64
	Joins []Join // what comes in at this pass
}

// When says when fibre joins a pass.
type When string

// Before the strips, between them, or after them.
const (
	Before  When = "before"
	Between When = "between"
)

// Join is fibre that comes in at a later pass.
type Join struct {
	Component       int
	Grams, From, To float64 // mm across
	When            When
	Chunky          float64
}

// StripCounts are the ways to divide a batt that its lanes allow.
var StripCounts = []int{1, 2, 3, 4, 6, 8}

// Card lifts the batt off, divides it and cards it once more.
func (b *Batt) Card(p Pass) error {
	if p.Strips < 1 || b.grid.Lanes%p.Strips != 0 {
		return fmt.Errorf("%d strips of %d lanes", p.Strips, b.grid.Lanes)
	}
	b.op++
	w := &b.work
	b.collapse()
	b.lose(p)
	switch p.Refeed {
	case Spread:
		b.spread(p)
	case Pieces:
		b.pieces(p)
	default:
		w.from, w.to = w.to, w.from
	}
	b.lateral()
	b.smear(p)
	for k := range b.slots {
		b.slots[k].fresh = false
	}
	before, err := b.join(p)
	if err != nil {
		return err
	}
	b.open(p)
	clear(b.sum)
	clear(b.high)
	if before {
		clear(b.m)
		for i, j := range p.Joins {
			if j.When == Before {
				k, _ := b.slotOf(j.Component, fed, b.Unopened, b.ClumpG*j.Chunky)
				b.op += uint64(i)
				b.feed(k, j.Grams, b.across(j.From, j.To))
			}
		}
	}
	b.rise()
	b.write(before)
	b.scatter()
	return b.settle()
}

// join puts what comes in at a pass between the strips; what comes before them is only
// entered.
func (b *Batt) join(p Pass) (before bool, err error) {
	for _, j := range p.Joins {
		k, err := b.slotOf(j.Component, fed, b.Unopened, b.ClumpG*j.Chunky)
		if err != nil {
			return before, err
		}
		b.slots[k].fresh = true
		b.slots[k].ledger += j.Grams
		if j.When == Before {
			before = true
			continue
		}
		for x, part := range b.across(j.From, j.To) {
			for t := range bins {
				b.work.from[(x*b.k+k)*bins+t] += j.Grams * part / bins
			}
		}
	}
	return before, nil
}

// open opens the clumps of what has been carded before, and makes them smaller.
func (b *Batt) open(p Pass) {
	for k := range b.slots {
		s := &b.slots[k]
		if s.fresh {
			continue
		}
		opening, thinning := b.Opening, b.Thinning
		if p.ByHand {
			opening, thinning = b.HandsOpen, b.HandsHalve
		}
		s.cardings++
		s.unopened, s.clump = s.unopened*opening, max(s.clump*thinning, b.LeastG)
	}
}

// collapse adds up what each bin of each lane holds of each slot, through all layers,
// and brings the sums to the ledger.
func (b *Batt) collapse() {
	per := b.grid.Cells / bins
	for k := range b.slots {
		var have float64
		for x := range b.grid.Lanes {
			f := b.bins(b.work.from, x, k)
			clear(f)
			for z := range b.grid.Layers {
				row := b.row(z, x, k)
				for t := range f {
					var sum float32
					for _, v := range row[t*per : t*per+per] {
						sum += v
					}
					f[t] += float64(sum)
				}
			}
			have += total(f)
		}
		if have > 0 {
			b.scale(k, b.slots[k].ledger/have)
		}
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

// lose takes away what the pass loses of each slot.
func (b *Batt) lose(p Pass) {
	for k := range b.slots {
		s := &b.slots[k]
		s.lost = 0
		if p.Loss == nil {
			continue
		}
		part := p.Loss(s.component, s.cardings+1)
		b.scale(k, 1-part)
		s.lost = s.ledger * part
		s.ledger -= s.lost
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
	d := key(b.seed, b.op, MaxSlots, 0)
	for i := n - 1; i > 0; i-- {
		j := int(d.next() * float64(i+1))
		order[i], order[j] = order[j], order[i]
	}
	for at, piece := range order {
		own := key(b.seed, b.op, MaxSlots+1, piece)
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
		var all float64
		for x := range b.grid.Lanes {
			for t, v := range b.bins(w.from, x, k) {
				all += v
				sums[x*bins+t] = all
			}
		}
		grams := all * s.unopened
		if grams <= 0 {
			continue
		}
		n := max(1, int(math.Round(grams/s.clump)))
		for i := range n {
			d := key(b.seed, b.op, k, i)
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
			w.streaks = append(w.streaks, b.streakOf(k, z, centre, start, grams/float64(n), length))
		}
	}
	b.layAll()
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
