package carding

import "math"

// streak is a clump, drawn out along the fibre.
type streak struct {
	slot, layer  int
	centre       float64 // across, in lanes
	start, cells int     // along
	half         float64 // half its width, in lanes
	grams        float64
	lo, hi       int // on a board: the cells that it is folded back into
}

// widest is how many lanes one streak touches at most.
func (b *Batt) widest() float64 { return math.Ceil(18/b.lane + 1.2) }

// streakOf is a streak of a mass and a length, as wide as its mass makes it.
func (b *Batt) streakOf(k, z int, centre float64, start int, grams, length float64) streak {
	return b.wide(k, z, centre, start, grams, length, grams/(b.ClumpGsm*1e-6*length))
}

func (b *Batt) wide(k, z int, centre float64, start int, grams, length, width float64) streak {
	half := min(max(width/(2*b.lane), 0.02), (b.widest()-1.2)/2)
	lanes := float64(b.grid.Lanes)
	return streak{
		slot: k, layer: z, centre: min(max(centre, half), lanes-half), start: start, half: half, grams: grams,
		cells: min(max(int(math.Round(length/b.cell)), 2), b.grid.Cells), hi: b.grid.Cells,
	}
}

// taper is how the mass of a streak of n cells lies along it: thin at both ends.
func (b *Batt) taper(n int) []float64 {
	if t := b.tapers[n]; t != nil {
		return t
	}
	t := make([]float64, n)
	var sum float64
	for i := range t {
		at := (float64(i) + 0.5) / float64(n)
		t[i] = 1
		if e := min(at, 1-at) / 0.3; e < 1 {
			t[i] = 0.5 - 0.5*math.Cos(math.Pi*e)
		}
		sum += t[i]
	}
	for i := range t {
		t[i] /= sum
	}
	b.tapers[n] = t
	return t
}

// lay adds a streak to the lanes that it lies over, each by how much of it is
// there.
func (b *Batt) lay(s streak) {
	lo, hi := s.centre-s.half, s.centre+s.half
	first, last := int(lo), min(int(math.Ceil(hi)), b.grid.Lanes)-1
	t := b.taper(s.cells)
	var got float64
	for x := first; x <= last; x++ {
		part := (min(hi, float64(x+1)) - max(lo, float64(x))) / (hi - lo)
		if part <= 0 {
			continue
		}
		row := b.row(s.layer, x, s.slot)
		if b.bed.Open {
			got += fold(row, t, s, s.grams*part)
			continue
		}
		grams := s.grams * part
		n := min(len(t), len(row)-s.start)
		got += add(row[s.start:s.start+n], t[:n], grams)
		got += add(row[:len(t)-n], t[n:], grams)
	}
	b.sum[s.layer*b.k+s.slot] += got
}

// add adds grams along a taper and returns what the cells really took.
func add(row []float32, t []float64, grams float64) (got float64) {
	for i, p := range t {
		was := row[i]
		row[i] = was + float32(grams*p)
		got += float64(row[i]) - float64(was)
	}
	return got
}

// fold is add where the ends do not meet: what would hang over is folded back.
func fold(row []float32, t []float64, s streak, grams float64) (got float64) {
	for i, p := range t {
		c := s.start + i
		if c < s.lo {
			c = 2*s.lo - 1 - c
		}
		if c >= s.hi {
			c = 2*s.hi - 1 - c
		}
		c = min(max(c, s.lo), s.hi-1)
		was := row[c]
		row[c] = was + float32(grams*p)
		got += float64(row[c]) - float64(was)
	}
	return got
}
