package carding

import "math"

// Wisps that are drawn over a board.
const (
	boardBlock    = 16 // cells along, over which a height is known
	boardG        = 0.014
	boardWide     = 3.0
	boardLong     = 90.0
	boardUnopened = 0.9
	boardSide     = 5.0 // mm that a wisp strays across
	boardEnd      = 8.0 // mm that the ends of a patch are rough
)

// Draw lays wisps on a board, between two places across in mm and two parts of its
// length.
func (b *Batt) Draw(component int, grams, from, to, start, end float64) error {
	unopened, clump := b.inClumps(component, painted, boardUnopened, boardG)
	k, err := b.slotOf(component, painted, unopened, clump)
	if err != nil {
		return err
	}
	b.op++
	lo, hi := start*b.bed.LengthMM, end*b.bed.LengthMM
	n := b.slots[k].clumpsOf(grams, boardG)
	each := b.slots[k].whole(grams / float64(n))
	for i := range n {
		d := b.chance(k, i, true)
		length := min(boardLong*(0.6+0.8*d.next()), hi-lo)
		centre := (from + d.next()*(to-from) + boardSide*(d.next()+d.next()-1)) / b.lane
		along := lo + d.next()*(hi-lo)
		rough := func(at float64) int {
			at += boardEnd * (2*d.next() - 1)
			return min(max(int(math.Round(at/b.cell)), 0), b.grid.Cells)
		}
		s := b.wide(k, 0, centre, 0, each, length, boardWide)
		s.lo, s.hi = rough(lo), rough(hi)
		if s.hi-s.lo < 2 {
			s.lo = min(s.lo, b.grid.Cells-2)
			s.hi = s.lo + 2
		}
		s.cells = min(s.cells, s.hi-s.lo)
		s.start = int(math.Round(along/b.cell)) - s.cells/2
		s = b.end(s)
		s.layer = b.layer(b.heightAt(s) * float64(b.blocks()))
		b.lay(s)
		b.heap(s)
	}
	b.slots[k].ledger += grams
	return b.settled(k)
}

// heightAt is the grams that lie in the block where a wisp has its middle.
func (b *Batt) heightAt(s streak) float64 {
	x := min(int(s.centre), b.grid.Lanes-1)
	c := min(max(s.start+s.cells/2, 0), b.grid.Cells-1)
	return b.high[x*b.blocks()+min(c/boardBlock, b.blocks()-1)]
}

// heap raises the blocks that a wisp lies over.
func (b *Batt) heap(s streak) {
	lo, hi := s.centre-s.half, s.centre+s.half
	from, to := min(max(s.start, s.lo), s.hi-1), min(max(s.start+s.cells, s.lo+1), s.hi)
	for x := int(lo); x < min(int(math.Ceil(hi)), b.grid.Lanes); x++ {
		part := s.grams * max(0, min(hi, float64(x+1))-max(lo, float64(x))) / (hi - lo)
		for k := from / boardBlock; k*boardBlock < to && k < b.blocks(); k++ {
			over := min(to, (k+1)*boardBlock) - max(from, k*boardBlock)
			b.high[x*b.blocks()+k] += part * float64(over) / float64(to-from)
		}
	}
}

// Rolags divides a board into n rolags from its foot: the grams of each component in
// each. Fibres bridge the borders, the more the longer they are; all parts of a cell
// add up to it.
func (b *Batt) Rolags(n, components int) [][]float64 {
	out := make([][]float64, n)
	for i := range out {
		out[i] = make([]float64, components)
	}
	weights := b.zones(n)
	for z := range b.grid.Layers {
		for x := range b.grid.Lanes {
			for k, s := range b.slots {
				for c, v := range b.row(z, x, k) {
					for i := range n {
						out[i][s.component] += float64(v) * weights[i][c]
					}
				}
			}
		}
	}
	return out
}

// zones is how much of what lies in each cell along goes into each of n rolags.
func (b *Batt) zones(n int) [][]float64 {
	out := make([][]float64, n)
	spread := b.StapleMM / 6
	beyond := func(u, edge float64) float64 { return 0.5 * (1 + math.Erf((u-edge)/(spread*math.Sqrt2))) }
	for i := range out {
		out[i] = make([]float64, b.grid.Cells)
		for c := range out[i] {
			u := (float64(c) + 0.5) * b.cell
			lo, hi := 1.0, 0.0
			if i > 0 {
				lo = beyond(u, float64(i)*b.bed.LengthMM/float64(n))
			}
			if i < n-1 {
				hi = beyond(u, float64(i+1)*b.bed.LengthMM/float64(n))
			}
			out[i][c] = lo - hi
		}
	}
	return out
}
