package carding

import "math"

// Lies is how the colours of a fibre of many colours lie in it.
type Lies string

// The ways.
const (
	Along   Lies = "along"   // one after the other, each a run of so many grams: a painted top
	Across  Lies = "across"  // side by side over the width
	Patches Lies = "patches" // blotches
	Tips    Lies = "tips"    // the second colour at the end of each staple
)

// Fed is how such a fibre is used.
type Fed string

// The ways.
const (
	InOrder Fed = "in-order" // one length after the other
	Abreast Fed = "abreast"  // so many lengths side by side, each begun at another colour
	TornUp  Fed = "torn-up"  // short pieces by chance
)

// Coloured is a component of many colours.
type Coloured struct {
	Shares  []float64 // of each colour; they add up to 1
	RunsG   []float64 // grams of one run of each, where they lie along
	Lies    Lies
	Fed     Fed
	Abreast int     // how many lengths
	PieceG  float64 // of one piece, torn up or a patch
}

// partOp is the operation by whose chance pieces lie: none that a batt counts.
const partOp = 1 << 40

// Slot is a colour of a component as a forecast follows it.
type Slot struct{ Component, Colour int }

// pieceMM is how wide a torn piece lies; mostPieces into how many a lay is torn at most.
const (
	pieceMM    = 50.0
	mostPieces = 120
)

// Part replaces each component of many colours by one for each of its colours, and its lays by those in which they lie; many holds
// nil for a component of one colour. The grams of each colour in a component are its share of the component, but for a run that the
// lays end within. Slots tell which colour of which component each is (simulation.md, section 14).
func (p Plan) Part(many []*Coloured, seed uint64) (Plan, []Slot) {
	var slots []Slot
	first := make([]int, len(p.Components))
	out := p
	out.Components, out.Layers = nil, make([][]Lay, len(p.Layers))
	for i, c := range p.Components {
		first[i] = len(slots)
		n := 1
		if many[i] != nil {
			n = len(many[i].Shares)
		}
		for k := range n {
			slots = append(slots, Slot{i, k})
			if n == 2 && k == 1 && many[i].Lies == Tips {
				body := len(out.Components) - 1
				c.TipOf, c.Tip = &body, many[i].Shares[1]
			}
			out.Components = append(out.Components, c)
		}
	}
	if p.Loss != nil {
		out.Loss = func(c, n int) float64 { return p.Loss(slots[c].Component, n) }
	}
	d := key(seed, partOp, 0, 0)
	cursors := make([]float64, len(p.Components))
	for y, layer := range p.Layers {
		for _, v := range layer {
			if v.Component < 0 || v.Component >= len(many) || many[v.Component] == nil || v.Grams == 0 {
				if v.Component >= 0 && v.Component < len(first) {
					v.Component = first[v.Component]
				}
				out.Layers[y] = append(out.Layers[y], v)
				continue
			}
			parts := many[v.Component].part(v, &cursors[v.Component], p.Bed.WidthMM, &d)
			for _, part := range parts {
				part.Component += first[v.Component]
				out.Layers[y] = append(out.Layers[y], part)
			}
		}
	}
	return out, slots
}

// part is a lay as its colours lie; the components of the parts are colours. at is the cursor: how far into the repeat of its runs
// it begins.
func (c *Coloured) part(v Lay, at *float64, widthMM float64, d *draws) (out []Lay) {
	put := func(colour int, grams, from, to float64) {
		if grams < leastLay {
			return
		}
		part := v
		part.Component, part.Grams, part.From, part.To = colour, grams, from, to
		out = append(out, part)
	}
	switch {
	case c.Lies == Across:
		from := v.From
		for k, s := range c.Shares {
			to := from + s*(v.To-v.From)
			if k == len(c.Shares)-1 {
				to = v.To
			}
			put(k, s*v.Grams, from, to)
			from = to
		}
	case c.Lies == Tips:
		for k, s := range c.Shares {
			put(k, s*v.Grams, v.From, v.To)
		}
	case c.Lies == Patches || c.Fed == TornUp:
		c.tear(v, widthMM, d, put)
	case c.Fed == Abreast:
		n := max(1, c.Abreast)
		begun := *at
		for i := range n {
			*at = c.within(begun + float64(i)/float64(n)*c.repeat())
			from := v.From + float64(i)/float64(n)*(v.To-v.From)
			to := v.From + float64(i+1)/float64(n)*(v.To-v.From)
			for _, f := range c.walk(at, v.Grams/float64(n)) {
				put(f.colour, f.grams, from, to)
			}
		}
		*at = c.within(begun + v.Grams/float64(n))
	default:
		out = c.inOrder(v, at)
	}
	return out
}

// inOrder has the runs follow each other: from the cloth out where it is fed, along the stroke where it is painted or placed.
func (c *Coloured) inOrder(v Lay, at *float64) (out []Lay) {
	start := v.Start
	for _, f := range c.walk(at, v.Grams) {
		part := v
		part.Component, part.Grams = f.colour, f.grams
		if v.Method != FeedIt {
			end := start + f.grams/v.Grams*(v.End-v.Start)
			part.Start, part.End = start, min(end, v.End)
			start = end
		}
		out = append(out, part)
	}
	if n := len(out); n > 0 && v.Method != FeedIt {
		out[n-1].End = v.End
	}
	return out
}

// fragment is a stretch of one colour.
type fragment struct {
	colour int
	grams  float64
}

func (c *Coloured) repeat() (sum float64) {
	for _, g := range c.RunsG {
		sum += g
	}
	return sum
}

func (c *Coloured) within(at float64) float64 { return math.Mod(at, c.repeat()) }

// walk goes on from the cursor by so many grams, run after run. What is too little to lie anywhere is left to the stretch before.
func (c *Coloured) walk(at *float64, grams float64) (out []fragment) {
	k, into := 0, *at
	for into >= c.RunsG[k]-leastLay {
		into -= c.RunsG[k]
		k = (k + 1) % len(c.RunsG)
		if k == 0 {
			into = max(0, into)
		}
	}
	into = max(0, into)
	for left := grams; left > 0; {
		g := min(left, c.RunsG[k]-into)
		if left-g < leastLay {
			g = left
		}
		out = append(out, fragment{k, g})
		left -= g
		k, into = (k+1)%len(c.RunsG), 0
	}
	*at = c.within(*at + grams)
	return out
}

// tear lays pieces by chance over the place of a lay, of each colour its share to the last bit.
func (c *Coloured) tear(v Lay, widthMM float64, d *draws, put func(colour int, grams, from, to float64)) {
	piece := max(c.PieceG, v.Grams/mostPieces, 10*leastLay)
	var pieces []fragment
	for k, s := range c.Shares {
		g := s * v.Grams
		n := int(max(1, math.Round(g/piece)))
		for range n {
			pieces = append(pieces, fragment{k, g / float64(n)})
		}
	}
	for i := len(pieces) - 1; i > 0; i-- {
		j := int(d.next() * float64(i+1))
		pieces[i], pieces[j] = pieces[j], pieces[i]
	}
	half := min(pieceMM/2/widthMM, (v.To-v.From)/2)
	for _, f := range pieces {
		mid := v.From + half + d.next()*(v.To-v.From-2*half)
		put(f.colour, f.grams, max(v.From, mid-half), min(v.To, mid+half))
	}
}

// Slots is how many sorts of fibre a forecast of a plan has to follow.
func (p *Plan) Slots() int { return p.slots() }

// Gathered is a batt whose slots count for the components that of names.
func (b *Batt) Gathered(of []int, components int) *Batt {
	out := *b
	out.slots = append(out.slots[:0:0], b.slots...)
	for k := range out.slots {
		out.slots[k].component = of[out.slots[k].component]
	}
	out.lostFirst = make([]float64, components)
	for c, g := range b.lostFirst {
		out.lostFirst[of[c]] += g
	}
	return &out
}
