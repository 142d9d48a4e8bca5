// Package gradient plans a row of colours from one end to the other: the order
// of the bundles, the bridging blends between neighbours, and how each bundle
// is divided so that every gram is used.
package gradient

import (
	"context"
	"fmt"
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/mix"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
)

// School is a way to choose the bridges between two neighbours.
type School string

// The schools of bridging.
const (
	Thirds School = "thirds" // two parts of one and one of the other, then the reverse
	Even   School = "even"   // a number of bridges with jumps equal to the eye
	Count  School = "count"  // as many even bridges as keep every jump small enough
)

// Limits of a plan.
const (
	MaxStops   = 60
	MaxBridges = 24 // between two neighbours
)

// Stop is a bundle of one colour. Strength is how much a gram of it counts for
// the colour of a mix, 0 meaning 1.
type Stop struct {
	Colour   colour.Reflectance
	Strength float64
	Grams    float64
}

// Request asks for a plan. Extra[i] bridges are added between the i-th and the
// next stop of the resulting order; missing entries are 0.
type Request struct {
	Stops    []Stop
	Model    mix.Model
	School   School
	Bridges  int     // of Even
	MaxJump  float64 // CIEDE2000; larger jumps are abrupt
	Reorder  bool
	KeepEnds bool // Reorder leaves the first and the last stop where they are
	// Step is the scale's: pieces come in whole steps where it is above 0, and
	// what a stop has beyond whole steps stays in its own rung.
	Step  float64
	Extra []int
}

// Given is what a stop gives to a rung.
type Given struct {
	Stop         int // index into Request.Stops
	Share, Grams float64
}

// Rung is a rung of the ladder: a bundle as it is, or a bridge of two.
type Rung struct {
	Parts  []Given
	Grams  float64
	Colour colour.Reflectance
	Jump   float64 // CIEDE2000 to the next rung; 0 for the last

	span int
}

// Plan is a gradient.
type Plan struct {
	Order  []int // indexes of stops
	Rungs  []Rung
	Abrupt []int // rungs whose jump is above MaxJump
}

// Make plans a gradient. Every gram of every stop is used: a stop gives the
// bridges on each side a piece, and keeps the rest as a rung of its own.
//
// Thirds divides by weight: of k bridges the i-th has i/(k+1) of the second
// stop, two bridges being 2:1 and 1:2, and a stop gives at most a third of
// itself to each side. Even and Count choose shares whose jumps are equal, and
// a stop gives at most as much as makes its own rung and its bridges weigh the
// same. All bridges between two stops weigh the same; the stop with less to
// give decides how much. Cancelling ctx ends it within some milliseconds, with ctx's error.
func Make(ctx context.Context, q Request) (Plan, error) {
	if err := q.check(); err != nil {
		return Plan{}, err
	}
	n := len(q.Stops)
	p := Plan{Order: make([]int, n)}
	for i := range p.Order {
		p.Order[i] = i
	}
	if q.Reorder {
		p.Order = Path(ctx, q.jumps(), q.KeepEnds)
	}
	spans := make([]span, max(n-1, 0))
	for i := range spans {
		if err := ctx.Err(); err != nil {
			return Plan{}, err
		}
		a, b := q.Stops[p.Order[i]], q.Stops[p.Order[i+1]]
		extra := 0
		if i < len(q.Extra) {
			extra = q.Extra[i]
		}
		spans[i].path = newPath(q.Model, a, b)
		spans[i].shares = q.bridges(spans[i].path, extra)
	}
	q.divide(&p, spans)
	if q.Step > 0 {
		q.onSteps(&p)
		for i := range p.Rungs {
			if v := &p.Rungs[i]; len(v.Parts) == 2 {
				v.Colour = spans[v.span].path.at(v.Parts[1].Share)
			}
		}
	}
	for i := range p.Rungs[:len(p.Rungs)-1] {
		p.Rungs[i].Jump = colour.CIEDE2000(p.Rungs[i].Colour.Lab(), p.Rungs[i+1].Colour.Lab())
		if p.Rungs[i].Jump > q.MaxJump {
			p.Abrupt = append(p.Abrupt, i)
		}
	}
	return p, nil
}

func (q *Request) check() error {
	var l fault.List
	if n := len(q.Stops); n == 0 || n > MaxStops {
		l.Add("stops", "A gradient has 1 to %d stops.", MaxStops)
	}
	for i, s := range q.Stops {
		if !(s.Grams > 0 && s.Grams <= 1e6) {
			l.Add(fmt.Sprintf("stops[%d].grams", i), "A stop weighs above %s and at most %s.", unit.Grams(0), unit.MaxGrams)
		}
	}
	switch q.School {
	case Thirds, Count:
	case Even:
		if q.Bridges < 0 || q.Bridges > MaxBridges {
			l.Add("bridges", "Between two stops there are 0 to %d bridges.", MaxBridges)
		}
	default:
		l.Add("school", "The school is thirds, even or count.")
	}
	if !(q.MaxJump > 0 && q.MaxJump <= 100) {
		l.Add("max_jump", "The largest jump lies above 0 and at most 100 CIEDE2000.")
	}
	for i, v := range q.Extra {
		if v < -MaxBridges || v > MaxBridges {
			l.Add(fmt.Sprintf("extra[%d]", i), "At most %d bridges more or fewer.", MaxBridges)
		}
	}
	return l.Err()
}

// jumps returns CIEDE2000 between every two stops.
func (q *Request) jumps() [][]float64 {
	labs := make([]colour.Lab, len(q.Stops))
	for i := range labs {
		labs[i] = q.Stops[i].Colour.Lab()
	}
	d := make([][]float64, len(labs))
	for i := range d {
		d[i] = make([]float64, len(labs))
		for j := range d {
			d[i][j] = colour.CIEDE2000(labs[i], labs[j])
		}
	}
	return d
}

// span is the way from one stop to the next.
type span struct {
	path   path
	shares []float64 // of the second stop, rising
}

// bridges chooses the shares of the bridges of a span.
func (q *Request) bridges(p path, extra int) []float64 {
	k := 2
	switch q.School {
	case Even:
		k = q.Bridges
	case Count:
		k = p.enough(q.MaxJump)
	}
	k = min(max(k+extra, 0), MaxBridges)
	if q.School == Thirds {
		out := make([]float64, k)
		for i := range out {
			out[i] = float64(i+1) / float64(k+1)
		}
		return out
	}
	out, _ := p.even(k)
	return out
}

// divide returns every gram of every stop its place.
func (q *Request) divide(p *Plan, spans []span) {
	// What a bridge of 1 g each takes of the stops on both sides.
	first, second := make([]float64, len(spans)), make([]float64, len(spans))
	for i, s := range spans {
		for _, x := range s.shares {
			first[i] += 1 - x
			second[i] += x
		}
	}
	// weight is the most that stop at may give per gram of a bridge.
	weight := func(at int, takes float64) float64 {
		grams := q.Stops[p.Order[at]].Grams
		if q.School == Thirds {
			return grams / 3 / takes
		}
		rungs := 1.0
		if at > 0 {
			rungs += second[at-1]
		}
		if at < len(spans) {
			rungs += first[at]
		}
		return grams / rungs
	}
	each := make([]float64, len(spans))
	for i, s := range spans {
		if len(s.shares) > 0 {
			each[i] = min(weight(i, first[i]), weight(i+1, second[i]))
		}
	}
	for i, stop := range p.Order {
		keeps := q.Stops[stop].Grams
		if i > 0 {
			keeps -= each[i-1] * second[i-1]
		}
		if i < len(spans) {
			keeps -= each[i] * first[i]
		}
		p.Rungs = append(p.Rungs, Rung{Parts: []Given{{stop, 1, keeps}}, Grams: keeps, Colour: q.Stops[stop].Colour})
		if i == len(spans) {
			break
		}
		for _, x := range spans[i].shares {
			g := each[i]
			p.Rungs = append(p.Rungs, Rung{
				Parts: []Given{{stop, 1 - x, g * (1 - x)}, {p.Order[i+1], x, g * x}},
				Grams: g, Colour: spans[i].path.at(x), span: i,
			})
		}
	}
}

// onSteps brings every piece of every stop to whole steps of the scale by
// largest remainder, so that the pieces still add up to the stop.
func (q *Request) onSteps(p *Plan) {
	type place struct{ rung, part int }
	places := make([][]place, len(q.Stops))
	for i, v := range p.Rungs {
		for j, part := range v.Parts {
			places[part.Stop] = append(places[part.Stop], place{i, j})
		}
	}
	for stop, list := range places {
		exact := make([]float64, len(list))
		for n, at := range list {
			exact[n] = p.Rungs[at.rung].Parts[at.part].Grams / q.Step
		}
		whole := math.Floor(q.Stops[stop].Grams/q.Step + 1e-9)
		for n, count := range weigh.Apportion(exact, int64(whole)) {
			v := &p.Rungs[list[n].rung]
			v.Parts[list[n].part].Grams = float64(count) * q.Step
			if len(v.Parts) == 1 {
				v.Parts[0].Grams += q.Stops[stop].Grams - whole*q.Step
			}
		}
	}
	for i := range p.Rungs {
		v := &p.Rungs[i]
		v.Grams = 0
		for _, part := range v.Parts {
			v.Grams += part.Grams
		}
		for j := range v.Parts {
			if v.Grams > 0 {
				v.Parts[j].Share = v.Parts[j].Grams / v.Grams
			}
		}
	}
}

// path is the colours on the way from one end, at 0, to the other, at 1.
type path struct {
	at func(x float64) colour.Reflectance
}

// newPath is the mix of two stops, by the share of the second by weight.
func newPath(m mix.Model, from, to Stop) path {
	ends := [2]mix.Prepared{m.Prepare(&from.Colour), m.Prepare(&to.Colour)}
	strength := [2]float64{from.Strength, to.Strength}
	for i, s := range strength {
		if s <= 0 {
			strength[i] = 1
		}
	}
	return path{func(x float64) colour.Reflectance {
		a, b := (1-x)*strength[0], x*strength[1]
		return m.Mix(ends[:], []float64{a / (a + b), b / (a + b)})
	}}
}

func (p *path) lab(x float64) colour.Lab {
	r := p.at(x)
	return r.Lab()
}

// enough is the least number of even bridges whose jumps do not exceed most,
// at most MaxBridges. It starts from the path's length in small jumps, since
// CIEDE2000 between far colours is not the sum of the jumps between.
func (p *path) enough(most float64) int {
	fits := func(k int) bool {
		_, jump := p.even(k)
		return jump <= most
	}
	k := min(max(0, int(math.Ceil(p.length(p.table())/most))-1), MaxBridges)
	for k > 0 && fits(k-1) {
		k--
	}
	for k < MaxBridges && !fits(k) {
		k++
	}
	return k
}
