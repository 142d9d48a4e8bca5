package carding

import (
	"context"
	"fmt"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Method is how fibre gets on the cloth.
type Method string

// The methods, as a lay-up names them.
const (
	FeedIt  Method = "feed"
	PaintIt Method = "paint"
	PlaceIt Method = "place"
)

// Lay is fibre of one component lying in one place. Places are parts of the width and
// the length.
type Lay struct {
	Component  int
	From, To   float64
	Start, End float64
	Grams      float64
	Method     Method
	Chunky     float64 // 0: teased as most do
}

// Component is what the cloth has to know of a fibre.
type Component struct {
	Joins   int     // the pass at which it comes in; 0: the first
	ThingG  float64 // of one thing that is placed; 0: 1 g
	ThingMM float64 // how long it is; 0: a lock
	// TipOf is the component whose staples it is the tip of, Tip which part of them; nil: none.
	TipOf *int
	Tip   float64
	// Alone is through how many passes it went by itself before it is laid.
	Alone int
}

// Plan is a lay-up with the passes after it.
type Plan struct {
	Bed        Bed
	Components []Component
	Layers     [][]Lay // from the cloth outwards
	Passes     []Pass
	// Loss is as in Pass, for all passes, that of its first feed too.
	Loss func(component, n int) float64
	// BurnishMM is how far the batt is brushed down before it is lifted; 0: not.
	BurnishMM float64
}

const (
	usualThingG  = 1.0
	usualThingMM = 90.0
)

// Check finds what is wrong with a plan. Fields are those of the API.
func (p *Plan) Check() error {
	var l fault.List
	if !(p.Bed.WidthMM >= LeastWide && p.Bed.WidthMM <= MostWide) {
		l.Add("equipment", "A forecast needs a cloth from %s to %s wide.", unit.Millimetres(LeastWide), unit.Millimetres(MostWide))
	}
	if !(p.Bed.LengthMM >= LeastLong && p.Bed.LengthMM <= MostLong) {
		l.Add("equipment", "A forecast needs a cloth from %s to %s long.", unit.Millimetres(LeastLong), unit.Millimetres(MostLong))
	}
	if !(p.Bed.FullG > 0 && p.Bed.FullG <= 1e5) {
		l.Add("equipment", "A cloth holds above %s and at most %s.", unit.Grams(0), unit.Grams(1e5))
	}
	lays, grams, first := 0, 0.0, 0.0
	for i, layer := range p.Layers {
		for j, v := range layer {
			lays++
			grams += v.Grams
			if v.Component >= 0 && v.Component < len(p.Components) && p.joinsAt(v.Component) == 1 {
				first += v.Grams
			}
			v.check(&l, fmt.Sprintf("layers[%d].lays[%d]", i, j), len(p.Components))
		}
	}
	switch {
	case lays == 0 || len(l) == 0 && !(grams > 0):
		l.Add("layers", "Lay something first.")
	case len(l) == 0 && !(first > 0):
		l.Add("layers", "Something has to lie there from the first pass on, for the rest to join.")
	case lays > MaxLays:
		l.Add("layers", "A forecast follows at most %d lays.", MaxLays)
	case len(l) == 0 && p.slots() > MaxSlots:
		l.Add("components", "A forecast follows at most %d sorts of fibre; one that is fed, painted and placed counts thrice.", MaxSlots)
	}
	p.checkPasses(&l)
	return l.Err()
}

// leastLay is what a lay weighs at least, grams, where it weighs anything: less is lost in the
// single precision of the cells.
const leastLay = 1e-6

func (v Lay) check(l *fault.List, at string, components int) {
	if v.Component < 0 || v.Component >= components {
		l.Add(at+".component", "There is no component %d.", v.Component)
	}
	if !(v.From >= 0 && v.To <= 1 && v.From < v.To) {
		l.Add(at+".from", "A lay goes from the left to the right, within 0 to 1.")
	}
	if !(v.Start >= 0 && v.End <= 1 && v.Start < v.End) {
		l.Add(at+".start", "A lay goes from its start to its end, within 0 to 1.")
	}
	if !(v.Grams == 0 || v.Grams >= leastLay && v.Grams <= 1e5) {
		l.Add(at+".grams", "A lay weighs %s or more and at most %s.", unit.Grams(0), unit.Grams(1e5))
	}
	if v.Method != FeedIt && v.Method != PaintIt && v.Method != PlaceIt {
		l.Add(at+".method", "Fibre is fed, painted or placed.")
	}
	if v.Chunky != 0 && !(v.Chunky >= 0.1 && v.Chunky <= 10) {
		l.Add(at+".chunky", "How lumpy it is lies from 0.1 to 10; 1 is usual.")
	}
}

func (p *Plan) checkPasses(l *fault.List) {
	if len(p.Passes) > MaxPasses {
		l.Add("passes", "A forecast follows at most %d passes.", MaxPasses)
		return
	}
	lanes := FineGrid(p.Bed.WidthMM, p.Bed.LengthMM).Coarse().Lanes
	for i, v := range p.Passes {
		at := fmt.Sprintf("passes[%d]", i)
		if v.Turns < 0 || v.Turns > MaxTurns {
			l.Add(at+".turns_about", "Strips and what joins are fed turn about 1 to %d times; 0: all along.", MaxTurns)
		}
		if v.Strips < 1 || v.Strips > 8 || lanes%v.Strips != 0 {
			l.Add(at+".split", "The batt is divided into 1, 2, 3, 4, 6 or 8 strips.")
		}
		if v.Refeed != OwnPlace && v.Refeed != Spread && v.Refeed != Pieces {
			l.Add(at+".refeed", "Strips are fed again in their own place, spread or in pieces.")
		}
	}
}

// slots is for how many sorts of fibre there must be room.
func (p *Plan) slots() int {
	seen := map[sort]bool{}
	for _, layer := range p.Layers {
		for _, v := range layer {
			if v.Grams > 0 {
				seen[p.sortOf(v)] = true
			}
		}
	}
	return max(1, len(seen))
}

// sort is fibre that comes in by one method in one state.
type sort struct {
	component int
	method    Method
	chunky    float64
}

func (p *Plan) sortOf(v Lay) sort {
	switch {
	case v.Method == PlaceIt:
		return sort{v.Component, PlaceIt, 0}
	case p.Bed.Open || v.Method == PaintIt: // drawn over a board, however it is said
		return sort{v.Component, PaintIt, 0}
	}
	return sort{v.Component, FeedIt, v.chunky()}
}

func (v Lay) chunky() float64 {
	if v.Chunky == 0 {
		return Teased
	}
	return v.Chunky
}

// Run lays a plan and cards it, pass by pass. After each, the first being the batt as
// first laid and lifted, see is shown what lies there and the things that were placed
// on top of it. Cancelling ctx ends it between two operations with its error.
func Run(ctx context.Context, p Plan, params Params, g Grid, seed uint64, see func(stage int, b *Batt, things []Placed) error) error {
	if err := p.Check(); err != nil {
		return err
	}
	b, err := New(p.Bed, g, params, seed, p.slots())
	if err != nil {
		return err
	}
	b.tips = p.tips()
	for _, c := range p.Components {
		b.alone = append(b.alone, c.Alone)
	}
	for stage := 1; stage <= len(p.Passes)+1; stage++ {
		if stage > 1 {
			v := p.Passes[stage-2]
			v.Loss, v.Joins = p.Loss, p.joining(stage)
			if err := b.Card(v); err != nil {
				return err
			}
		}
		things, err := p.lay(ctx, b, stage)
		if err != nil {
			return err
		}
		b.lostFirst = p.lostFirst(stage)
		if err := ctx.Err(); err != nil {
			return err
		}
		if err := see(stage, b, things); err != nil {
			return err
		}
	}
	return nil
}

func (p *Plan) joinsAt(c int) int { return max(1, p.Components[c].Joins) }

// joining is what is fed between the strips of a pass.
func (p *Plan) joining(stage int) (out []Join) {
	for _, layer := range p.Layers {
		for _, v := range layer {
			if p.joinsAt(v.Component) == stage && v.Method == FeedIt && v.Grams > 0 {
				out = append(out, Join{
					Component: v.Component, Grams: v.Grams * p.kept(v.Component), When: Between, Chunky: v.chunky(),
					From: v.From * p.Bed.WidthMM, To: v.To * p.Bed.WidthMM,
				})
			}
		}
	}
	return out
}

// kept is the part that comes off of fibre at the first pass that it goes through,
// however it was laid: weigh-out and bench count it so.
func (p *Plan) kept(component int) float64 {
	if p.Loss == nil {
		return 1
	}
	return 1 - p.Loss(component, 1)
}

// lostFirst is what is lost of each component that comes in at a stage, in the pass at which it does.
func (p *Plan) lostFirst(stage int) []float64 {
	out := make([]float64, len(p.Components))
	for _, layer := range p.Layers {
		for _, v := range layer {
			if p.joinsAt(v.Component) == stage {
				out[v.Component] += v.Grams * (1 - p.kept(v.Component))
			}
		}
	}
	return out
}

// lay lays what comes in at a stage: all that is first, later on what goes on top.
func (p *Plan) lay(ctx context.Context, b *Batt, stage int) (things []Placed, err error) {
	for i, layer := range p.Layers {
		b.covered = stage == 1 && p.fedAfter(i)
		for _, v := range layer {
			if p.joinsAt(v.Component) != stage || v.Grams == 0 || stage > 1 && v.Method == FeedIt {
				continue
			}
			if err := ctx.Err(); err != nil {
				return nil, err
			}
			put, err := p.put(b, v)
			if err != nil {
				return nil, err
			}
			things = append(things, put...)
		}
	}
	b.bury(things)
	if p.BurnishMM > 0 {
		return things, b.Burnish(p.BurnishMM)
	}
	return things, nil
}

// fedAfter reports whether layers after one hold what is fed first, so that it covers
// what lies there.
func (p *Plan) fedAfter(layer int) bool {
	for _, l := range p.Layers[layer+1:] {
		for _, v := range l {
			if v.Grams > 0 && p.joinsAt(v.Component) == 1 && (v.Method == FeedIt || p.Bed.Open && v.Method == PaintIt) {
				return true
			}
		}
	}
	return false
}

func (p *Plan) put(b *Batt, v Lay) ([]Placed, error) {
	from, to := v.From*p.Bed.WidthMM, v.To*p.Bed.WidthMM
	grams := v.Grams * p.kept(v.Component)
	switch {
	case v.Method == PlaceIt:
		c := p.Components[v.Component]
		each, long := c.ThingG, c.ThingMM
		if each == 0 {
			each = usualThingG
		}
		if long == 0 {
			long = usualThingMM
		}
		return b.Place(v.Component, grams, each, long, from, to, v.Start, v.End)
	case p.Bed.Open:
		return nil, b.Draw(v.Component, grams, from, to, v.Start, v.End)
	case v.Method == PaintIt:
		return nil, b.Paint(v.Component, grams, from, to, v.Start, v.End)
	}
	return nil, b.Feed(v.Component, grams, from, to, v.chunky())
}
