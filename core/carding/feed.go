package carding

import "math"

// across fills in how much of a portion between two places across, in mm, goes into
// each lane: the edges stray by EdgeMM, and what strays over the side comes back.
func (b *Batt) across(from, to float64) []float64 {
	w := b.work.weight
	var sum float64
	for x := range w {
		c := (float64(x) + 0.5) * b.lane
		w[x] = 0
		if b.EdgeMM <= 0 {
			if from <= c && c < to {
				w[x] = 1
			}
		} else {
			for _, at := range [3]float64{c, -c, 2*b.bed.WidthMM - c} {
				f := b.EdgeMM * math.Sqrt2
				w[x] += (math.Erf((to-at)/f) - math.Erf((from-at)/f)) / 2
			}
			if w[x] < 1e-6 {
				w[x] = 0
			}
		}
		sum += w[x]
	}
	if sum == 0 { // narrower than a lane
		w[min(int((from+to)/2/b.lane), len(w)-1)], sum = 1, 1
	}
	for x := range w {
		w[x] /= sum
	}
	return w
}

// cumulate writes the running sums of w into out and returns the whole.
func cumulate(w, out []float64) (sum float64) {
	for i, v := range w {
		sum += v
		out[i] = sum
	}
	return sum
}

// pick is the place in running sums where a part of the whole lies.
func pick(sums []float64, part float64) int {
	v := part * sums[len(sums)-1]
	lo, hi := 0, len(sums)-1
	for lo < hi {
		mid := (lo + hi) / 2
		if sums[mid] > v {
			hi = mid
		} else {
			lo = mid + 1
		}
	}
	return lo
}

// Feed lets a portion in through the tray, between two places across in mm. It is
// carded once by that: clumps in opened fibre, evenly round the drum.
func (b *Batt) Feed(component int, grams, from, to, chunky float64) error {
	unopened := b.Unopened
	if chunky > 1 {
		unopened = min(0.97, unopened*math.Pow(chunky, 0.15))
	}
	unopened, clump := b.inClumps(component, fed, unopened, b.ClumpG*chunky)
	k, err := b.slotOf(component, fed, unopened, clump)
	if err != nil {
		return err
	}
	b.op++
	b.feed(k, grams, b.across(from, to))
	b.slots[k].ledger += grams
	return b.settled(k)
}

func (b *Batt) feed(k int, grams float64, w []float64) {
	s := b.slots[k]
	for x, part := range w {
		if part > 0 {
			b.raise(k, x, b.high[x], grams*part, 1-s.unopened)
		}
	}
	b.clumps(k, grams, w)
	for x, part := range w {
		b.high[x] += grams * part
	}
}

// raise lays the opened part of grams on a lane from a height on, evenly along it.
func (b *Batt) raise(k, x int, from, grams, opened float64) {
	for at, end := from, from+grams; at < end; {
		z := b.layer(at)
		top := min(end, float64(z+1)*b.full)
		if z == b.grid.Layers-2 || top <= at {
			top = end
		}
		v := float32((top - at) * opened / float64(b.grid.Cells))
		row := b.row(z, x, k)
		var got float64
		for c, was := range row {
			row[c] = was + v
			got += float64(row[c]) - float64(was)
		}
		b.sum[z*b.k+k] += got
		at = top
	}
}

// clumps lays the clumps of a portion at random: across by the weights, in depth
// anywhere in what the portion adds to a lane.
func (b *Batt) clumps(k int, portion float64, w []float64) {
	grams := b.slots[k].unopened * portion
	if grams <= 0 {
		return
	}
	sums := b.work.cumulated[:len(w)]
	cumulate(w, sums)
	n := b.slots[k].clumpsOf(grams, b.slots[k].clump)
	for i := range n {
		d := b.chance(k, i, true)
		x := pick(sums, d.next())
		under, lies := b.slots[k].under(b.high[x], portion*w[x])
		z := b.layer(under + d.next()*lies)
		length := b.StreakMM * (0.6 + 0.8*d.next())
		centre := float64(x) + d.next()
		start := int(d.next() * float64(b.grid.Cells))
		b.lay(b.end(b.streakOf(k, z, centre, start, b.slots[k].whole(grams/float64(n)), length)))
	}
}
