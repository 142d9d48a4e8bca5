// Package layup plans what goes on the drum or the board: where, in which
// order, how thick and by which method; what that loads, and what is likely to
// go wrong with it. Places are fractions: across, 0 is the left edge of the
// cloth and 1 the right one; along, 0 is the handle edge of the board (or the
// seam of the drum) and 1 the other end. Grams are those of one unit,
// as they are weighed in.
package layup

import (
	"fmt"
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
)

// Limits of a lay-up.
const (
	MaxLayers     = 200
	MaxLays       = 1000 // in all layers together
	MaxComponents = 200
	MaxRolags     = 12
)

// Method is how fibre gets on the cloth.
type Method string

// The methods: through the small drum from the tray, held against the turning
// drum or drawn over the board, and laid on by hand as it is.
const (
	Feed  Method = "feed"
	Paint Method = "paint"
	Place Method = "place"
)

// Type is the type of equipment.
type Type string

// The types of equipment.
const (
	Drum  Type = "drum"
	Board Type = "board"
	Cards Type = "hand_cards"
	// Hands lay fibre on fibre, tear it and lay it again: no pins, so nothing is lost.
	Hands Type = "hands"
)

// Again reports whether what lies there goes through again: in passes over a drum, in
// rounds of tearing and laying by hand.
func (b Bed) Again() bool { return b.Type == Drum || b.Type == Hands }

// Pins reports whether fibre is held by pins.
func (b Bed) Pins() bool { return b.Type != Hands }

// UsualRounds of tearing and laying by hand make most blends heathered.
const UsualRounds = 6

// Bed is the cloth that is laid on: a drum unrolled, a board, one hand card.
type Bed struct {
	Type          Type
	Electric      bool
	WidthMM       float64 // of the cloth
	LengthMM      float64 // round the drum, or up the board
	ToothMM       float64 // height of the pins, or of all that two hands hold
	TPI           float64 // pins in a square inch; 0: not known
	Smooth, Lofty unit.Grams
	FeedG         float64 // grams for one turn of the drum
	Minutes       float64 // for one unit
}

// Fibre is a component as the cloth meets it.
type Fibre struct {
	Name        string
	Grams       float64 // of one unit, in steps of the scale
	Wanted      float64 // of one unit, before rounding; 0: the same
	Loses       losses.Fall
	Colour      colour.Lab
	Family      string
	Role        string
	Crimp       string
	Cohesion    string
	LickerIn    string // ok, thin_only, avoid
	Fragile     bool
	Preparation string
	StapleMM    float64
	// MinTPI is the coarsest cloth that holds it, in pins per square inch; 0: any.
	MinTPI float64
}

// Lay is fibre of one component lying in one place of a layer.
type Lay struct {
	Component int     `json:"component"`
	From      float64 `json:"from"`
	To        float64 `json:"to"`
	Start     float64 `json:"start"`
	End       float64 `json:"end"`
	Grams     float64 `json:"grams"`
	Method    Method  `json:"method"`
	Key       int64   `json:"key,omitempty"` // a name that is carried along
}

// Layer is what lies on one level.
type Layer struct {
	Lays []Lay `json:"lays"`
	Key  int64 `json:"key,omitempty"`
}

// Plan is a lay-up: layers from the cloth outwards.
type Plan struct {
	Layers []Layer `json:"layers"`
	// Joins is at which pass a component is laid, by component; left out or 0
	// means the first.
	Joins  []int `json:"joins_at_pass"`
	Rolags int   `json:"rolags"` // that a board is rolled into; 0: not rolled
	// Draft is how much longer the fibre is drawn as it is rolled, 1.5 to 2.
	Draft float64 `json:"draft"`
	// Uneven says that lanes are meant to be thick and thin.
	Uneven bool `json:"uneven"`
	// MirrorPairs lays every second unit the other way round.
	MirrorPairs bool `json:"mirror_pairs"`
	// Bare says that it lies straight on the cloth on purpose.
	Bare bool `json:"bare,omitempty"`
	// Passes that it goes through; 0: as many as the blend.
	Passes int `json:"passes,omitempty"`
	// Refeed is how the strips of the batt go back for a later pass; left out,
	// they are spread.
	Refeed Refeed `json:"refeed,omitempty"`
	// Strips that the batt is divided into for a later pass; 0: as usual.
	Strips int `json:"strips,omitempty"`
	// Turns is how often, at a later pass, strips of the batt and thin layers of what joins are fed turn about, strips first and
	// last; 0: what joins lies in one place.
	Turns int `json:"turns_about,omitempty"`
	// Uses are what the components are there for, by component; left out, the usual.
	Uses []Use `json:"as,omitempty"`
	Told []int `json:"told,omitempty"` // of which components the maker told it
	// Fed is how fibres of several colours are used, by component; left out, in their order.
	Fed []FedAs `json:"fed,omitempty"`
	// Alone is how often each component is carded alone before it is laid; left out, never.
	Alone []int `json:"alone_first,omitempty"`
	// Off is how it comes off the tool.
	Off Off `json:"off,omitzero"`
	// Before and After are the tools that it goes through before it is laid, and after it came off.
	Before []Tool `json:"before,omitempty"`
	After  []Tool `json:"after,omitempty"`
	// Step is that of the scale which its grams were laid in; 0: not known.
	Step float64 `json:"step_g,omitempty"`
}

// Refeed is how the strips of a batt are fed again.
type Refeed string

// Strips drawn thin and fed over the whole width in turn, or each back in the
// place where it lay.
const (
	Spread   Refeed = "spread"
	OwnPlace Refeed = "own-place"
)

// MaxTurns is how often strips and what joins are fed turn about at most.
const MaxTurns = 20

// MaxStrips is into how many strips a batt is divided at most.
const MaxStrips = 40

// DefaultDraft is the middle of the usual 1.5 to 2.
const DefaultDraft = 1.75

// JoinsAt is the pass at which a component is laid, from 1.
func (p Plan) JoinsAt(component int) int {
	if component < len(p.Joins) {
		return max(1, p.Joins[component])
	}
	return 1
}

// Last is the last pass that a lay-up goes through, of a blend that goes through
// passes: 1 on a board or cards.
func (p Plan) Last(b Bed, passes int) int {
	switch {
	case !b.Again():
		return 1
	case p.Passes > 0:
		return p.Passes
	case b.Type == Hands:
		return UsualRounds
	}
	return max(1, passes)
}

// LosesIn is in how many passes fibre loses, of a blend that goes through passes: all that it goes through, but for what hands tear
// and what is laid as it is.
func (p Plan) LosesIn(b Bed, passes int) int {
	if !b.Pins() || p.Passes == 0 && passes == 0 {
		return 0
	}
	return p.Last(b, passes)
}

// Within lets what would join after the last pass join at it.
func (p Plan) Within(last int) Plan {
	joins := make([]int, len(p.Joins))
	for i, n := range p.Joins {
		joins[i] = min(n, last)
	}
	p.Joins = joins
	return p
}

// Placed is the grams that the layers hold of each of n components.
func (p Plan) Placed(n int) []float64 {
	out := make([]float64, n)
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			if v.Component >= 0 && v.Component < n {
				out[v.Component] += v.Grams
			}
		}
	}
	return out
}

// speck is the weight below which nothing counts as fibre, in grams.
const speck = 1e-6

// Check finds what can not be laid. Fields are those of the API. Fibre that
// was placed beyond what there is counts as a fault only where strict.
func (p Plan) Check(b Bed, fibres []Fibre, strict bool) error {
	var l fault.List
	if len(fibres) == 0 || len(fibres) > MaxComponents {
		l.Add("components", "A lay-up has 1 to %d components.", MaxComponents)
		return l
	}
	for i, f := range fibres {
		if !(f.Grams >= 0 && f.Grams <= float64(unit.MaxGrams)) {
			l.Add(fmt.Sprintf("components[%d].grams", i), "A weight is %s or more.", unit.Grams(0))
		}
		if !(f.StapleMM > 0 && f.StapleMM <= 2000) {
			l.Add(fmt.Sprintf("components[%d].staple_mm", i), "A staple is above %s and at most %s.", unit.Millimetres(0), unit.Millimetres(2000))
		}
	}
	if len(p.Layers) > MaxLayers {
		l.Add("layers", "A lay-up has at most %d layers; this has %d.", MaxLayers, len(p.Layers))
		return l
	}
	if p.Rolags < 0 || p.Rolags > MaxRolags {
		l.Add("rolags", "A board makes 1 to %d rolags; 0 leaves it unrolled.", MaxRolags)
	}
	if !(p.Draft >= 1 && p.Draft <= 4) {
		l.Add("draft", "The draft lies from 1 to 4; 1.5 to 2 is usual.")
	}
	if p.Passes < 0 || p.Passes > losses.MaxPasses {
		l.Add("passes", "The number of passes is a whole number from 0 to %d.", losses.MaxPasses)
	}
	if p.Refeed != "" && p.Refeed != Spread && p.Refeed != OwnPlace {
		l.Add("refeed", "Strips are fed again as spread or own-place.")
	}
	if p.Strips < 0 || p.Strips > MaxStrips {
		l.Add("strips", "A batt is divided into 1 to %d strips; 0 leaves it to the plan.", MaxStrips)
	}
	p.checkUses(&l, len(fibres))
	p.checkFed(&l, len(fibres))
	p.checkAlone(&l, len(fibres))
	p.checkOff(&l)
	p.checkTools(&l)
	for i, n := range p.Joins {
		if i >= len(fibres) || n < 0 || n > losses.MaxPasses {
			l.Add("joins_at_pass", "For each component the pass at which it joins, 1 to %d.", losses.MaxPasses)
			break
		}
	}
	var count int
	for i, v := range p.Layers {
		count += len(v.Lays)
		for j, lay := range v.Lays {
			lay.check(&l, fmt.Sprintf("layers[%d].lays[%d].", i, j), b, len(fibres))
		}
	}
	if count > MaxLays {
		l = fault.List{}
		l.Add("layers", "A lay-up has at most %d lays; this has %d.", MaxLays, count)
	}
	if strict && len(l) == 0 {
		p.checkGrams(&l, fibres)
	}
	return l.Err()
}

// checkGrams finds the first lay that takes more than there is.
func (p Plan) checkGrams(l *fault.List, fibres []Fibre) {
	left := make([]float64, len(fibres))
	for i, f := range fibres {
		left[i] = f.Grams
	}
	for i, layer := range p.Layers {
		for j, v := range layer.Lays {
			if v.Grams > left[v.Component]+speck {
				l.Add(fmt.Sprintf("layers[%d].lays[%d].grams", i, j), "Only %s of %s are left to lay here; this is %s.",
					unit.Grams(max(0, left[v.Component])), fibres[v.Component].Name, unit.Grams(v.Grams))
			}
			left[v.Component] -= v.Grams
		}
	}
}

func (v Lay) check(l *fault.List, at string, b Bed, components int) {
	if v.Component < 0 || v.Component >= components {
		l.Add(at+"component", "There is no such component in the blend.")
	}
	checkSpan(l, at, [2]string{"from", "to"}, v.From, v.To)
	checkSpan(l, at, [2]string{"start", "end"}, v.Start, v.End)
	if !(v.Grams >= leastLay && v.Grams <= float64(unit.MaxGrams)) {
		l.Add(at+"grams", "A lay weighs above %s.", unit.Grams(0))
	}
	switch {
	case v.Method != Feed && v.Method != Paint && v.Method != Place:
		l.Add(at+"method", "A method is feed, paint or place.")
	case v.Method == Feed && b.Type != Drum:
		l.Add(at+"method", "Only a drum carder has a tray to feed from; paint it or place it.")
	}
}

// leastLay is what a lay weighs at least, grams: a thousandth of what any scale shows.
const leastLay = 1e-6

// checkSpan finds a stretch that is not one.
func checkSpan(l *fault.List, at string, names [2]string, from, to float64) {
	switch {
	case !(from >= 0 && from <= 1):
		l.Add(at+names[0], "A place lies from 0 to 1.")
	case !(to >= 0 && to <= 1):
		l.Add(at+names[1], "A place lies from 0 to 1.")
	case to < from:
		l.Add(at+names[1], "It ends before it begins: %s %.4g lies beyond %s %.4g.", names[0], from, names[1], to)
	case to-from < narrow:
		l.Add(at+names[1], "It has no width; %s and %s lie apart.", names[0], names[1])
	}
}

// narrow is the least width of a lay, a five hundredth of the cloth; places
// are kept to a millionth, so that turning over twice gives the same.
const (
	narrow = 0.002
	grid   = 1e6
)

func onGrid(x float64) float64 { return math.Round(x*grid) / grid }

// whole is a lay over the whole cloth.
func whole(component int, grams float64, m Method) Lay {
	return Lay{Component: component, To: 1, End: 1, Grams: grams, Method: m}
}
