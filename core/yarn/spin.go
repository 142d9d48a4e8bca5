package yarn

import (
	"cmp"
	"math"
	"slices"
)

// spin draws a piece out into single up to so many metres of the yarn: equal lengths of yarn take equal grams of it, and every gram of
// it is taken once. Where along the piece one is follows from how much was taken; where across it, from a hand
// that wanders (appearance.md, section 5) and takes each part of the width as often as there are grams in it.
func (s batt) spin(q Request, y *Yarn, p piece, to float64, seed uint64) {
	d := s.drafting(q, p, y.n)
	wander := wanderM
	if d.wide {
		wander = wideWander
	}
	n := int(math.Round(to/y.step)) - len(y.shares)/y.n
	across := wandering(max(n, 0), math.Exp(-y.step/wander), seed)
	into := make([]float64, y.n)
	for i := range n {
		f, u := (float64(i)+0.5)/float64(n), across[i]
		if p.turned {
			f, u = 1-f, across[n-1-i]
		}
		d.take(f, u, into)
		y.shares = append(y.shares, shares(into)...)
	}
}

// wandering is where across a piece a hand is, step by step, as the part of what lies there that lies to its left:
// a walk that forgets (rho a step), in which each stretch of steps has been everywhere equally long.
func wandering(n int, rho float64, seed uint64) []float64 {
	out, u := make([]float64, n), &unit{seed}
	a := u.normal()
	for i := range out {
		a = rho*a + math.Sqrt(1-rho*rho)*u.normal()
		out[i] = a
	}
	const stretch = 200
	for from := 0; from < n; {
		to := min(from+stretch, n)
		if n-to < stretch/2 {
			to = n
		}
		order := make([]int, to-from)
		for i := range order {
			order[i] = from + i
		}
		slices.SortFunc(order, func(i, k int) int { return cmp.Or(cmp.Compare(out[i], out[k]), i-k) })
		for rank, i := range order {
			out[i] = (float64(rank) + 0.5) / float64(len(order))
		}
		from = to
	}
	return out
}

// drafting is a piece in a spinner's hand.
type drafting struct {
	batt
	lo, hi, left, right float64 // along it, in the way in which it is drawn out, and across
	half                float64 // what is held at once to each side of where one is
	part                float64 // of the width that is drawn from at once
	wide                bool
	sideways            bool
	cum                 []float64 // what has passed at marks along it
	n                   int
	edges               []float64   // places across it
	toTheLeft           [][]float64 // what lies to the left of those, of what is held at each mark; nil: not looked at yet
}

const marks = 256

// drafting takes a piece in hand.
func (s batt) drafting(q Request, p piece, n int) *drafting {
	d := &drafting{batt: s, lo: p.c0, hi: p.c1, left: p.x0, right: p.x1, n: n, sideways: q.Way == Rolags || q.From == Across}
	perMM, acrossPerMM := float64(s.cells)/s.LengthMM, float64(s.lanes)/s.WidthMM
	if d.sideways {
		d.lo, d.hi, d.left, d.right = p.x0, p.x1, p.c0, p.c1
		perMM, acrossPerMM = acrossPerMM, perMM
	}
	d.wide = d.right-d.left > 60*acrossPerMM || q.Way == Rolags
	from := narrowMM
	if d.wide {
		from = wideMM
	}
	d.part = min(1, from*acrossPerMM/(d.right-d.left))
	if q.Way == Rolags { // a turn of it holds all of the zone
		d.part = 1
	}
	held := heldMM
	if q.From == Fold {
		held *= 2
	}
	d.half = held * perMM / 2
	into := make([]float64, n)
	d.cum = make([]float64, marks+1)
	for i := 1; i <= marks; i++ {
		d.cum[i] = d.gather(d.lo, d.lo+(d.hi-d.lo)*float64(i)/marks, d.left, d.right, into)
	}
	d.toTheLeft, d.edges = make([][]float64, marks+1), []float64{d.left}
	for x := math.Floor(d.left) + 1; x < d.right; x++ {
		d.edges = append(d.edges, x)
	}
	d.edges = append(d.edges, d.right)
	return d
}

// gather is what lies between two places along and two across.
func (d *drafting) gather(a0, a1, b0, b1 float64, into []float64) float64 {
	if d.sideways {
		return d.window(a0, a1, b0, b1, into)
	}
	return d.window(b0, b1, a0, a1, into)
}

// along is where along the piece such a part of its grams has passed.
func (d *drafting) along(part float64) float64 {
	want := part * d.cum[marks]
	mark, _ := slices.BinarySearch(d.cum, want)
	mark = min(max(mark-1, 0), marks-1)
	in := 0.0
	if d.cum[mark+1] > d.cum[mark] {
		in = (want - d.cum[mark]) / (d.cum[mark+1] - d.cum[mark])
	}
	return d.lo + (d.hi-d.lo)*(float64(mark)+in)/marks
}

// take takes what a hand holds where such a part of the piece has passed: of what lies there, the part of the
// width around the place across. At a side it folds over, so that the sides are taken from as often as the middle.
func (d *drafting) take(passed, across float64, into []float64) {
	at := d.along(passed)
	if d.part >= 1 {
		d.gather(max(d.lo, at-d.half), min(d.hi, at+d.half), d.left, d.right, into)
		return
	}
	h := d.held(int(math.Round((at-d.lo)/(d.hi-d.lo)*marks)), into)
	lo, hi := across-d.part/2, across+d.part/2
	h.between(d, max(lo, 0), min(hi, 1), into)
	if lo >= 0 && hi <= 1 {
		return
	}
	more := make([]float64, len(into))
	if lo < 0 {
		h.between(d, 0, -lo, more)
	} else {
		h.between(d, 2-hi, 1, more)
	}
	for k, v := range more {
		into[k] += v
	}
}

// hold is what is held at once at a mark.
type hold struct {
	from, till float64
	left       []float64 // what lies to the left of each edge
}

func (d *drafting) held(mark int, into []float64) hold {
	at := d.lo + (d.hi-d.lo)*float64(mark)/marks
	h := hold{from: max(d.lo, at-d.half), till: min(d.hi, at+d.half)}
	if d.toTheLeft[mark] == nil {
		left := make([]float64, len(d.edges))
		for i, x := range d.edges {
			left[i] = d.gather(h.from, h.till, d.left, x, into)
		}
		d.toTheLeft[mark] = left
	}
	h.left = d.toTheLeft[mark]
	return h
}

// between is what lies between two parts of the grams that are held, counted from the left.
func (h hold) between(d *drafting, low, high float64, into []float64) {
	d.gather(h.from, h.till, h.place(d, low), h.place(d, high), into)
}

// place is where such a part of the grams lies to the left.
func (h hold) place(d *drafting, part float64) float64 {
	want := part * h.left[len(h.left)-1]
	i, _ := slices.BinarySearch(h.left, want)
	i = min(max(i, 1), len(h.left)-1)
	in := 0.0
	if h.left[i] > h.left[i-1] {
		in = (want - h.left[i-1]) / (h.left[i] - h.left[i-1])
	}
	return d.edges[i-1] + (d.edges[i]-d.edges[i-1])*min(max(in, 0), 1)
}
