package carding

import "math"

// Wisps that are painted on, and what a lock is in the grid.
const (
	wispG, wispWide, wispLong    = 0.012, 2.2, 180.0
	lockBody, lockWide, lockSide = 0.6, 3.0, 7.0
)

// Paint lays roving that is held against the turning drum, between two places across
// in mm and two parts of the way round.
func (b *Batt) Paint(component int, grams, from, to, start, end float64) error {
	unopened, clump := b.inClumps(component, painted, 1, wispG)
	k, err := b.slotOf(component, painted, unopened, clump)
	if err != nil {
		return err
	}
	b.op++
	n := b.slots[k].clumpsOf(grams, wispG)
	if b.slots[k].to == 0 {
		n = int(grams/wispG) + 1
	}
	arc := (end - start) * b.bed.LengthMM
	whole := end-start > 0.999
	for i := range n {
		d := b.chance(k, i, true)
		centre := (from + d.next()*(to-from)) / b.lane
		length := min(wispLong*(0.6+0.8*d.next()), arc)
		at := d.next() * float64(b.grid.Cells)
		if !whole {
			at = (start*b.bed.LengthMM + at/float64(b.grid.Cells)*(arc-length)) / b.cell
		}
		b.lay(b.end(b.wide(k, b.on(centre, int(at)), centre, int(at)%b.grid.Cells, b.slots[k].whole(grams/float64(n)), length, wispWide)))
	}
	b.slots[k].ledger += grams
	return b.settled(k)
}

// Placed is something that was laid on as it is, where it lies: for who draws it.
type Placed struct {
	Component int
	X, Y      float64 // mm across and along
	Angle     float64 // from the fibre, radians
	Grams     float64
	LongMM    float64
	Seed      uint64
	Shows     float64 // how much of it what lies above leaves to be seen, 0..1
	high      float64 // of its place when it was placed
}

// mostThings is how many things are placed one by one; of more, each stands for some.
const mostThings = 600

// Place lays locks or other things of about a mass on as they are, somewhere between
// two places across in mm and two parts of the way along, and returns where.
func (b *Batt) Place(component int, grams, about, long, from, to, start, end float64) ([]Placed, error) {
	n := int(math.Round(min(max(grams/about, 1), mostThings)))
	each := grams / float64(n)
	k, err := b.slotOf(component, placed, 1, about)
	if err != nil {
		return nil, err
	}
	b.op++
	out := make([]Placed, n)
	for i := range n {
		d := key(b.seed, b.op, k, i)
		x, y := from+d.next()*(to-from), (start+d.next()*(end-start))*b.bed.LengthMM
		at := int(math.Mod(y, b.bed.LengthMM) / b.cell)
		out[i] = Placed{Component: component, X: x, Y: y, Angle: (d.next() - 0.5) * math.Pi / 6, Grams: each, LongMM: long, Shows: 1}
		out[i].high, out[i].Seed = b.high[b.blockOf(x/b.lane, at)], uint64(d)
		b.lay(b.wide(k, b.on(x/b.lane, at), x/b.lane, at, lockBody*each, long, lockWide))
		late := (at + int(0.2*long/b.cell)) % b.grid.Cells
		b.lay(b.wide(k, b.on(x/b.lane, at), x/b.lane+2*d.next()-1, late, each-lockBody*each, 0.6*long, lockSide))
	}
	b.slots[k].ledger += grams
	return out, b.settled(k)
}

// blockOf is where the height is known of a place across, in lanes, and along, in cells.
func (b *Batt) blockOf(centre float64, cell int) int {
	return min(max(int(centre), 0), b.grid.Lanes-1)*b.blocks() + min(max(cell, 0)/boardBlock, b.blocks()-1)
}

// on is the layer in which something comes to lie that is laid on what is there: the
// surface, or where more will be fed over it, on top of what was fed so far.
func (b *Batt) on(centre float64, cell int) int {
	if !b.covered {
		return b.surface()
	}
	return b.layer(b.high[b.blockOf(centre, cell)] * float64(b.blocks()))
}

// bury works out how much of placed things what was fed since leaves to be seen.
func (b *Batt) bury(list []Placed) {
	for i, p := range list {
		over := (b.high[b.blockOf(p.X/b.lane, int(p.Y/b.cell))] - p.high) * float64(b.blocks())
		list[i].Shows = math.Exp(-max(over, 0) / (b.lane * b.bed.LengthMM * 1e-6) / b.HidingGsm)
	}
}

// Burnish brushes the batt down over a length in mm: what lies on top is drawn out
// along the fibre, in its lane.
func (b *Batt) Burnish(long float64) error {
	n := int(math.Round(long/b.cell)) | 1
	if n < 3 {
		return nil
	}
	b.op++
	for x := range b.grid.Lanes {
		for z := b.surface() - 1; z >= 0; z-- {
			if b.smooth(z, x, n) {
				break
			}
		}
		b.smooth(b.surface(), x, n)
	}
	return b.settle()
}

// smooth makes the cells of a lane of a layer means over n of them; false where
// nothing lies there.
func (b *Batt) smooth(z, x, n int) (any bool) {
	mean := b.work.row
	for k := range b.slots {
		row := b.row(z, x, k)
		var sum, was float64
		for i := -(n / 2); i <= n/2; i++ {
			sum += float64(row[b.beside(0, i)])
		}
		for c := range row {
			mean[c] = sum / float64(n)
			sum += float64(row[b.beside(c, n/2+1)]) - float64(row[b.beside(c, -(n/2))])
			was += float64(row[c])
		}
		if was == 0 {
			continue
		}
		any = true
		var now float64
		for c := range row {
			row[c] = float32(max(0, mean[c]))
			now += float64(row[c])
		}
		b.sum[z*b.k+k] += now - was
	}
	return any
}

// beside is the cell some steps from another: round the drum, or reflected where the
// cloth ends.
func (b *Batt) beside(c, by int) int {
	n := b.grid.Cells
	c += by
	if !b.bed.Open {
		return (c%n + n) % n
	}
	for c < 0 || c >= n {
		if c < 0 {
			c = -1 - c
		} else {
			c = 2*n - 1 - c
		}
	}
	return c
}
