package yarn

import (
	"fmt"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
)

// How a batt is divided, spun and plied.
const (
	Strips = "strips" // of full length, side by side
	Halves = "halves" // two strips
	Whole  = "whole"
	Rolags = "rolags" // across the board, rolled up

	LeftToRight  = "left-to-right"
	RightToLeft  = "right-to-left"
	BackAndForth = "back-and-forth" // every second strip from its other end

	End    = "end"    // drawn out along the fibre
	Fold   = "fold"   // from the fold of a staple over the finger
	Across = "across" // from the side

	Single = "single"
	Two    = "two"
	Three  = "three"
	Chain  = "chain"
)

// Names in the order in which they are offered.
var (
	Ways   = []string{Strips, Halves, Whole, Rolags}
	Orders = []string{LeftToRight, RightToLeft, BackAndForth}
	Froms  = []string{End, Fold, Across}
	Plies  = []string{Single, Two, Three, Chain}
)

// PliesOf is how many singles lie side by side in a yarn.
func PliesOf(ply string) int {
	switch ply {
	case Single:
		return 1
	case Two:
		return 2
	case Three, Chain:
		return 3
	}
	return 0
}

// UsualTex is that of a single where nothing else is told, grams in 1000 m.
const UsualTex = 210.0

// Limits of a plan.
const (
	MaxParts  = 48
	leastTex  = 5.0
	mostTex   = 5000.0
	mostSteps = 60_000
)

// Request asks what yarn a batt becomes.
type Request struct {
	Field  Field
	Way    string
	Parts  int
	Even   bool // the parts weigh the same, rather than being as wide
	Order  string
	From   string
	Ply    string
	Tex    float64 // of the single, g in 1000 m
	TakeUp float64 // the part by which singles are longer than what is plied of them
	Waste  float64 // part lost in spinning
	Mix    func(shares []float64) colour.Lab
	Seed   uint64

	Second   *Field // another batt: each of the two plies is all of one of them
	Mirrored bool   // the second batt is spun from its other end
}

func (q Request) check() error {
	var l fault.List
	one := func(field, v string, of []string) {
		if !slices.Contains(of, v) {
			l.Add(field, "Choose one of %s.", fmt.Sprint(of))
		}
	}
	one("division.way", q.Way, Ways)
	one("spin.order", q.Order, Orders)
	one("spin.from", q.From, Froms)
	one("ply", q.Ply, Plies)
	if q.Parts < 1 || q.Parts > MaxParts {
		l.Add("division.parts", "A batt is divided into 1 to %d parts.", MaxParts)
	}
	if q.Second != nil && q.Ply != Two {
		l.Add("ply", "Two batts are spun for a two-ply.")
	}
	if !(q.Tex >= leastTex && q.Tex <= mostTex) {
		l.Add("singles_tex", "A single has %g to %g tex.", leastTex, mostTex)
	}
	if !(q.TakeUp >= 0 && q.TakeUp <= 1) {
		l.Add("take_up_pct", "Taken up are 0 to 100 %%.")
	}
	if !(q.Waste >= 0 && q.Waste <= 0.9) {
		l.Add("waste_pct", "Lost in spinning are 0 to 90 %%.")
	}
	return l.Err()
}

// Part is a piece of the batt, and where it lies in the single.
type Part struct {
	Grams  float64 // of fibre
	Shares []float64
	FromM  float64 // in the single
	ToM    float64
}

// Stretch is a length of the yarn of one colour.
type Stretch struct {
	FromM, ToM float64
	Shares     []float64
	Lab        colour.Lab
}

// Yarn is what a batt becomes.
type Yarn struct {
	SinglesM  float64
	PliedM    float64
	GristM    float64   // m of the yarn in 100 g of it
	Parts     []Part    // in the order in which they are spun
	Stretches []Stretch // without a gap from 0 to PliedM
	Pattern   string    // long gradient, stripes, barber pole, marl, flecks, even
	PlyDE     float64   // how far the plies differ from each other, side by side (CIEDE2000, mean)
	Ply       string
	LeftM     float64 // of single that the longer of two batts has over

	n      int
	step   float64   // m of single
	shares []float64 // of each component, step by step along the single
	takeUp float64
	second float64 // m of single where a second batt begins, or 0
	turned bool    // which is plied from its other end
}

// What a hand takes hold of: how wide it drafts, how long a piece of the strip passes at once,
// and over how much yarn the place wanders (appearance.md, section 7).
const (
	narrowMM   = 8.0
	wideMM     = 14.0
	heldMM     = 21.0
	wanderM    = 0.350
	wideWander = 0.090
	stepM      = 0.010
)

// foldM is how long the folds of a chain-ply are.
const foldM = 0.25

// Plan works out the yarn.
func Plan(q Request) (*Yarn, error) {
	switch q.Way {
	case Halves:
		q.Parts = 2
	case Whole:
		q.Parts = 1
	}
	if err := q.check(); err != nil {
		return nil, err
	}
	y := &Yarn{Ply: q.Ply, n: q.Field.N, takeUp: q.TakeUp}
	fields := []Field{q.Field}
	if q.Second != nil {
		fields = append(fields, *q.Second)
		y.turned = q.Mirrored
	}
	all := 0.0
	batts := make([]batt, len(fields))
	for i, f := range fields {
		batts[i] = q.divide(f)
		if batts[i].grams <= 0 {
			return nil, fault.New("layers", "There is no fibre in the batt.")
		}
		all += batts[i].grams
	}
	y.SinglesM = 1000 * all * (1 - q.Waste) / q.Tex
	y.step = max(stepM, y.SinglesM/mostSteps)
	at := 0.0
	for b, v := range batts {
		if b > 0 {
			y.second = at
		}
		for _, p := range v.pieces {
			if p.total <= 0 {
				continue
			}
			long := y.SinglesM * p.total / all
			y.Parts = append(y.Parts, Part{Grams: p.total, Shares: shares(p.grams), FromM: at, ToM: at + long})
			v.spin(q, y, p, at+long, q.Seed+uint64(b*10_007+p.number)*977)
			at += long
		}
	}
	y.Parts[len(y.Parts)-1].ToM = y.SinglesM
	y.ply()
	y.GristM = 100000 / q.Tex // of a single
	if n := float64(PliesOf(q.Ply)); n > 1 {
		y.GristM /= n * (1 + q.TakeUp)
	}
	y.run(q.Mix)
	return y, nil
}

// batt is one that is divided.
type batt struct {
	Field
	sums
	pieces []piece
	grams  float64
}

func (q Request) divide(f Field) batt {
	b := batt{Field: f, sums: f.sums()}
	b.pieces = q.pieces(f, b.cuts(q))
	for i := range b.pieces {
		p := &b.pieces[i]
		p.grams = make([]float64, f.N)
		p.total = b.window(p.x0, p.x1, p.c0, p.c1, p.grams)
		b.grams += p.total
	}
	return b
}

func shares(grams []float64) []float64 {
	out := make([]float64, len(grams))
	var sum float64
	for _, g := range grams {
		sum += g
	}
	for k, g := range grams {
		if sum > 0 {
			out[k] = g / sum
		}
	}
	return out
}

// piece is a part of the batt in lanes and cells, and from which end it is spun.
type piece struct {
	x0, x1, c0, c1 float64
	turned         bool
	number         int // from the left
	grams          []float64
	total          float64
}

// cuts are where the batt is parted, in lanes or, for rolags, in cells: from one side to the other.
func (s batt) cuts(q Request) []float64 {
	long := float64(s.Lanes)
	below := func(at float64, into []float64) float64 { return s.window(0, at, 0, float64(s.Cells), into) }
	if q.Way == Rolags {
		long = float64(s.Cells)
		below = func(at float64, into []float64) float64 { return s.window(0, float64(s.Lanes), 0, at, into) }
	}
	out := make([]float64, q.Parts+1)
	for i := range out {
		out[i] = long * float64(i) / float64(q.Parts)
	}
	if !q.Even {
		return out
	}
	room := make([]float64, s.N)
	all := below(long, room)
	for i := 1; i < q.Parts; i++ {
		lo, hi := out[i-1], long
		for range 60 { // what lies below a cut grows with it
			if mid := (lo + hi) / 2; below(mid, room) < all*float64(i)/float64(q.Parts) {
				lo = mid
			} else {
				hi = mid
			}
		}
		out[i] = (lo + hi) / 2
	}
	return out
}

// pieces are the parts of the batt in the order in which they are spun.
func (q Request) pieces(f Field, cuts []float64) []piece {
	out := make([]piece, q.Parts)
	for i := range out {
		p := piece{x1: float64(f.Lanes), c1: float64(f.Cells), number: i}
		if q.Way == Rolags {
			p.c0, p.c1 = cuts[i], cuts[i+1]
		} else {
			p.x0, p.x1 = cuts[i], cuts[i+1]
		}
		out[i] = p
	}
	switch q.Order {
	case RightToLeft: // a bobbin turned round: the last strip first, each from its other end
		slices.Reverse(out)
		for i := range out {
			out[i].turned = true
		}
	case BackAndForth:
		for i := range out {
			out[i].turned = i%2 == 1
		}
	}
	return out
}

// ply works out the length of the yarn.
func (y *Yarn) ply() {
	y.PliedM = y.SinglesM
	switch n := PliesOf(y.Ply); {
	case y.second > 0:
		long := min(y.second, y.SinglesM-y.second)
		y.PliedM, y.LeftM = long/(1+y.takeUp), y.SinglesM-2*long
	case n > 1:
		y.PliedM = y.SinglesM / float64(n) / (1 + y.takeUp)
	}
}
