package yarn

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
)

// How the rungs of a sequence are shared out among the strands of a yarn.
const (
	EachRung = "each-rung"             // each rung in equal parts, the same fade in all
	InParts  = "first-and-second-half" // the first rungs in the first strand, the last in the last
	ByWeight = "equal-weight"          // as InParts, but each strand weighs the same: a rung is parted where it has to be
)

// Rung is fibre of one colour in a sequence.
type Rung struct {
	Grams  float64
	Colour colour.Linear
}

// Sequence is a row of rungs that are spun one after the other, and plied.
type Sequence struct {
	Rungs   []Rung
	Strands int // of the sequence; 0: as many as the ply takes beside the plain ones
	Split   string
	Plain   []colour.Linear // strands of one colour beside them
	Ply     string
	Tex     float64 // of the single, g in 1000 m
	TakeUp  float64 // the part by which singles are longer than what is plied of them
	Waste   float64 // part lost in spinning
	Jump    float64 // from which a join is abrupt, CIEDE2000
}

// Limits of a sequence.
const (
	MaxRungs  = 240
	UsualJump = 8.0
)

// SequenceRun is a stretch of the yarn of one colour.
type SequenceRun struct {
	Rungs  []int // of each strand of the sequence
	From   float64
	To     float64
	Colour colour.Linear
}

// Join is where a strand goes on to another rung.
type Join struct {
	At     float64
	Jump   float64 // of the yarn, CIEDE2000
	Abrupt bool
	From   int // the rung before, of the strand that changes most
	To     int
}

// Sequenced is the yarn of a sequence, in metres.
type Sequenced struct {
	Singles float64 // of the sequence
	Plied   float64
	Grist   float64 // m in 100 g
	Runs    []SequenceRun
	Joins   []Join
	Left    []float64 // of single, of each strand of the sequence
}

// LongOf is over how much of the yarn a rung is seen, in whichever strand, metres.
func (y Sequenced) LongOf(rung int) (m float64) {
	for _, r := range y.Runs {
		if slices.Contains(r.Rungs, rung) {
			m += r.To - r.From
		}
	}
	return m
}

func (q Sequence) check() error {
	var l fault.List
	if n := len(q.Rungs); n == 0 || n > MaxRungs {
		l.Add("rungs", "A sequence has 1 to %d rungs.", MaxRungs)
	}
	for i, r := range q.Rungs {
		if !(r.Grams > 0 && r.Grams <= 1e6) {
			l.Add(fmt.Sprintf("rungs[%d].grams", i), "A rung weighs something.")
		}
	}
	plies := PliesOf(q.Ply)
	switch {
	case plies == 0:
		l.Add("ply", "A yarn is single, two, three or chain.")
	case q.Ply == Chain && (q.Strands != 1 || len(q.Plain) > 0):
		l.Add("strands", "A chain ply is made of one strand.")
	case q.Ply != Chain && (q.Strands < 1 || q.Strands+len(q.Plain) != plies):
		l.Add("strands", "This ply takes %d strands in all.", plies)
	case q.Split == InParts && q.Strands > len(q.Rungs):
		l.Add("split", "There are fewer rungs than strands.")
	}
	if q.Split != EachRung && q.Split != InParts && q.Split != ByWeight {
		l.Add("split", "Rungs are shared out as each-rung, first-and-second-half or equal-weight.")
	}
	if !(q.Tex >= leastTex && q.Tex <= mostTex) {
		l.Add("singles_tex", "A single has %g to %g tex.", leastTex, mostTex)
	}
	for field, v := range map[string]float64{"take_up_pct": q.TakeUp, "waste_pct": q.Waste} {
		if !(v >= 0 && v <= 0.5) {
			l.Add(field, "It lies from 0 to 50 %%.")
		}
	}
	if !(q.Jump >= 0 && q.Jump <= 100) {
		l.Add("jump", "A jump lies from 0 to 100.")
	}
	return l.Err()
}

// segment is a rung in a strand, to a place in metres of single.
type segment struct {
	rung int
	to   float64
}

// Held is so much of a rung.
type Held struct {
	Rung  int
	Grams float64
}

// Shared are the rungs of each strand, one after the other, with the fibre that goes into it.
func (q Sequence) Shared() [][]Held {
	out := make([][]Held, q.Strands)
	if q.Split == ByWeight {
		return q.byWeight(out)
	}
	for s := range out {
		first, end, part := 0, len(q.Rungs), 1.0
		if q.Split == InParts {
			first, end = s*len(q.Rungs)/q.Strands, (s+1)*len(q.Rungs)/q.Strands
		} else {
			part = 1 / float64(q.Strands)
		}
		for i := first; i < end; i++ {
			out[s] = append(out[s], Held{i, q.Rungs[i].Grams * part})
		}
	}
	return out
}

// tiny is what no scale shows, g.
const tiny = 1e-9

// byWeight fills one strand after the other with the same weight.
func (q Sequence) byWeight(out [][]Held) [][]Held {
	var all float64
	for _, r := range q.Rungs {
		all += r.Grams
	}
	s, room := 0, all/float64(q.Strands)
	for i, r := range q.Rungs {
		for g := r.Grams; g > tiny; {
			if room <= tiny && s < q.Strands-1 {
				s, room = s+1, all/float64(q.Strands)
			}
			part := g
			if s < q.Strands-1 {
				part = min(g, room)
			}
			out[s] = append(out[s], Held{i, part})
			g, room = g-part, room-part
		}
	}
	return out
}

// strands are the rungs of each strand, one after the other, to where each ends.
func (q Sequence) strands() [][]segment {
	out := make([][]segment, q.Strands)
	perGram := (1 - q.Waste) * 1000 / q.Tex
	for s, held := range q.Shared() {
		at := 0.0
		for _, h := range held {
			at += h.Grams * perGram
			out[s] = append(out[s], segment{h.Rung, at})
		}
	}
	return out
}

// Held is Shared of a sequence as it is spun.
func (q Sequence) Held() [][]Held { return q.settled().Shared() }

// settled has as many strands of the sequence as its ply takes, where nothing else was said.
func (q Sequence) settled() Sequence {
	if q.Strands == 0 {
		if q.Strands = PliesOf(q.Ply) - len(q.Plain); q.Ply == Chain {
			q.Strands = 1
		}
	}
	return q
}

// Spin works out the yarn of a sequence: its stretches without a gap, its joins with how far the yarn jumps there, and what is left of
// each strand. A yarn of several strands has the mean of their colours in linear light; a chain goes along one strand.
func (q Sequence) Spin() (Sequenced, error) {
	q = q.settled()
	if err := q.check(); err != nil {
		return Sequenced{}, err
	}
	strands := q.strands()
	takes := 1.0 // metres of single of a strand in a metre of yarn
	if q.Ply != Single {
		takes = 1 + q.TakeUp
	}
	if q.Ply == Chain {
		takes *= 3
	}
	out := Sequenced{Plied: math.Inf(1), Joins: []Join{}}
	for _, s := range strands {
		all := s[len(s)-1].to
		out.Singles += all
		out.Plied = min(out.Plied, all/takes)
	}
	for _, s := range strands {
		out.Left = append(out.Left, max(0, s[len(s)-1].to-out.Plied*takes))
	}
	plies := float64(PliesOf(q.Ply))
	out.Grist = 100_000 / (plies * q.Tex * takes / map[bool]float64{true: 3, false: 1}[q.Ply == Chain])
	q.runs(&out, strands, takes)
	return out, nil
}

// runs cuts the yarn where a strand goes on to another rung.
func (q Sequence) runs(out *Sequenced, strands [][]segment, takes float64) {
	var ends []float64
	for _, s := range strands {
		for _, v := range s[:len(s)-1] {
			if at := v.to / takes; at < out.Plied-1e-9 {
				ends = append(ends, at)
			}
		}
	}
	slices.Sort(ends)
	ends = slices.CompactFunc(ends, func(a, b float64) bool { return math.Abs(a-b) < 1e-9 })
	from := 0.0
	for _, to := range append(ends, out.Plied) {
		r := SequenceRun{From: from, To: to}
		for _, s := range strands {
			at := slices.IndexFunc(s, func(v segment) bool { return v.to/takes > (from+to)/2 })
			r.Rungs = append(r.Rungs, s[max(at, 0)].rung)
		}
		r.Colour = q.seen(r.Rungs)
		if n := len(out.Runs); n > 0 {
			before := out.Runs[n-1]
			j := Join{At: from, Jump: colour.CIEDE2000(before.Colour.Lab(), r.Colour.Lab())}
			j.Abrupt = j.Jump > q.Jump
			j.From, j.To = q.most(before.Rungs, r.Rungs)
			out.Joins = append(out.Joins, j)
		}
		out.Runs = append(out.Runs, r)
		from = to
	}
}

// seen is the colour of strands side by side.
func (q Sequence) seen(rungs []int) (c colour.Linear) {
	n := float64(len(rungs) + len(q.Plain))
	add := func(v colour.Linear) {
		for i := range c {
			c[i] += v[i] / n
		}
	}
	for _, i := range rungs {
		add(q.Rungs[i].Colour)
	}
	for _, v := range q.Plain {
		add(v)
	}
	return c
}

// most is the change of rung that is farthest, where several strands change at once.
func (q Sequence) most(before, after []int) (from, to int) {
	changes := make([]int, 0, len(before))
	for s := range before {
		if before[s] != after[s] {
			changes = append(changes, s)
		}
	}
	far := func(s int) float64 {
		return colour.CIEDE2000(q.Rungs[before[s]].Colour.Lab(), q.Rungs[after[s]].Colour.Lab())
	}
	s := slices.MaxFunc(changes, func(a, b int) int { return cmp.Compare(far(a), far(b)) })
	return before[s], after[s]
}
