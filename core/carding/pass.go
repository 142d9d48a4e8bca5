package carding

import (
	"fmt"
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
	// Loss is the part of a component that is lost in the n-th pass that it goes through; nil for none.
	Loss  func(component, n int) float64
	Joins []Join // what comes in at this pass
	// Turns is how often strips and what joins between them are fed turn about, strips first and last; 0: what joins is fed
	// with them all along.
	Turns int
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
	copy(b.work.before, b.sum)
	clear(b.sum)
	clear(b.high)
	if before {
		clear(b.m)
		clear(b.work.before)
		for i, j := range p.Joins {
			if j.When == Before {
				k, _ := b.joined(j)
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

// joined is the slot of what joins.
func (b *Batt) joined(j Join) (int, error) {
	unopened, clump := b.inClumps(j.Component, fed, b.Unopened, b.ClumpG*j.Chunky)
	return b.slotOf(j.Component, fed, unopened, clump)
}

// join puts what comes in at a pass between the strips; what comes before them is only
// entered.
func (b *Batt) join(p Pass) (before bool, err error) {
	for _, j := range p.Joins {
		k, err := b.joined(j)
		if err != nil {
			return before, err
		}
		b.slots[k].fresh = true
		b.slots[k].ledger += j.Grams
		if j.When == Before {
			before = true
			continue
		}
		at := turns(p.Turns)
		for x, part := range b.across(j.From, j.To) {
			for _, t := range at {
				b.work.from[(x*b.k+k)*bins+t] += j.Grams * part / float64(len(at))
			}
		}
	}
	return before, nil
}

// turns are the times at which what joins is fed: all along, or n times between n+1 portions of the strips.
func turns(n int) (at []int) {
	if n == 0 {
		for t := range bins {
			at = append(at, t)
		}
	}
	for i := range n {
		at = append(at, (i+1)*bins/(n+1))
	}
	return at
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

// lose takes away what the pass loses of each slot.
func (b *Batt) lose(p Pass) {
	for k := range b.slots {
		s := &b.slots[k]
		s.lost = 0
		s.passes++
		if p.Loss == nil {
			continue
		}
		part := p.Loss(s.component, s.passes)
		b.scale(k, 1-part)
		s.lost = s.ledger * part
		s.ledger -= s.lost
	}
}
