package layup

import (
	"slices"

	"fairtangle/core/losses"
)

// Action is what is done in a step of the work.
type Action string

// The actions of a lay-up, in the order in which they come.
const (
	Ready Action = "ready"  // before the hands come near the pins
	Alone Action = "alone"  // a fibre is carded by itself, before anything is laid
	Put   Action = "lay"    // a layer, or the part of it that is laid in a pass
	Lift  Action = "lift"   // the batt comes off the drum
	Split Action = "divide" // the batt is divided into strips
	Again Action = "refeed" // strips go through again: all of them, or a half
	Roll  Action = "roll"   // rolags come off the board
	Card  Action = "card"   // hand cards: stroke, and roll
	Tear  Action = "tear"   // by hand: tear it, and lay the pieces on each other
	Clean Action = "finish" // and leave the cloth covered
	First Action = "before" // a tool, before anything is laid
	Then  Action = "after"  // a tool, on what came off
)

// Step is one step of the work at the carder.
type Step struct {
	Action   Action  `json:"action"`
	Pass     int     `json:"pass"`
	Layer    int     `json:"layer"` // -1 where it is not a layer
	Lays     []Lay   `json:"lays"`
	Grams    float64 `json:"grams"`
	Feeds    int     `json:"feeds"`
	PortionG float64 `json:"portion_g"`
	// First and Last are the strips that a step feeds again, counted from 1 at the
	// left; Strips is how many there are in all; Refeed how they go back.
	First  int    `json:"first_strip,omitempty"`
	Last   int    `json:"last_strip,omitempty"`
	Strips int    `json:"strips,omitempty"`
	Refeed Refeed `json:"refeed,omitempty"`
	Half   bool   `json:"half,omitempty"` // half the thickness of each strip
	// Portion is which of so many portions are fed turn about, counted from 1.
	Portion  int  `json:"portion,omitempty"`
	Portions int  `json:"portions,omitempty"`
	Tool     Tool `json:"tool,omitempty"`
	// Cautions come first and are short; the maker's manual and local rules go
	// before them.
	Cautions []string `json:"cautions"`
}

// What is said where hands come near pins or a drive.
const (
	ManualFirst = "The maker’s manual and local rules come first."
	SharpPins   = "Pins pierce skin: strokes go away from the wrist, closed shoes, eyes covered when brushing out."
	MovingDrum  = "The drums draw in fingers, hair, cords and sleeves: hair tied, sleeves tight, no rings or lanyard, guards on, clamp tight, hands " +
		"behind the edge of the tray."
	Unplug     = "Switch off, pull the plug, wait until everything stands still."
	StandStill = "Let go of the crank before a hand goes near the pins."
	CoverCloth = "Cover the cloth before it is put away."
)

// Steps is the order of the work through so many passes: what is carded alone, then what is laid at the
// first from the cloth outwards, then lifted; for each later pass the batt is
// divided into strips, and the strips are fed again, in two halves where
// something joins, which goes between them. Grams are those on the cloth, after
// what the passes before have lost.
func (p Plan) Steps(b Bed, fibres []Fibre, last int) []Step {
	ready := Step{Action: Ready, Pass: 1, Layer: -1, Cautions: []string{}}
	if b.Pins() {
		ready.Cautions = append(ready.Cautions, ManualFirst, SharpPins)
	}
	if b.Type == Drum {
		ready.Cautions = append(ready.Cautions, MovingDrum)
	}
	var all float64
	for _, f := range fibres {
		all += f.Grams
	}
	out := append([]Step{ready}, toolSteps(First, 1, p.Before, all)...)
	out = append(out, p.alone(b, fibres)...)
	on := 0.0 // grams in the batt
	for pass := 1; pass <= last; pass++ {
		joining := p.laid(b, pass)
		switch {
		case pass == 1:
			out = append(out, joining...)
		case b.Type == Hands:
			out = append(append(out, joining...), Step{Action: Tear, Pass: pass, Layer: -1, Grams: on, Cautions: []string{}})
		default:
			out = append(out, p.again(b, pass, on, joining)...)
		}
		on = p.onCloth(b, fibres, pass)
		if b.Type == Drum {
			lift := Step{Action: Lift, Pass: pass, Layer: -1, Grams: on, Cautions: []string{StandStill, SharpPins}}
			if b.Electric {
				lift.Cautions[0] = Unplug
			}
			out = append(out, lift)
		}
	}
	switch b.Type {
	case Board:
		out = append(out, Step{Action: Roll, Pass: last, Layer: -1, Cautions: []string{SharpPins}})
	case Cards:
		out = append(out, Step{Action: Card, Pass: last, Layer: -1, Cautions: []string{SharpPins}})
	}
	out = append(out, toolSteps(Then, last, p.After, on)...)
	done := Step{Action: Clean, Pass: last, Layer: -1, Grams: on, Cautions: []string{}}
	if b.Pins() {
		done.Cautions = append(done.Cautions, CoverCloth)
	}
	out = append(out, done)
	for i := range out {
		if out[i].Lays == nil {
			out[i].Lays = []Lay{}
		}
	}
	return out
}

// alone is the steps of what is carded by itself first, palest first, so that no cloth has to be cleaned for the next; Grams are
// what is laid of it in one unit.
func (p Plan) alone(b Bed, fibres []Fibre) (out []Step) {
	for _, v := range PaleFirst(p.Loadings(b, fibres, 1), fibres) {
		s := Step{Action: Alone, Pass: 1, Layer: -1, Lays: []Lay{whole(v.Component, v.LaidG, Feed)}, Grams: v.LaidG, Cautions: []string{}}
		if b.Pins() {
			s.Cautions = append(s.Cautions, SharpPins)
		}
		out = append(out, s)
	}
	return out
}

// laid is the steps of what is laid at a pass, layer by layer.
func (p Plan) laid(b Bed, pass int) (out []Step) {
	for i, l := range p.Layers {
		var now Layer
		for _, v := range l.Lays {
			if p.JoinsAt(v.Component) == pass {
				now.Lays = append(now.Lays, v)
			}
		}
		if len(now.Lays) == 0 {
			continue
		}
		load := now.load(b)
		out = append(
			out,
			Step{Action: Put, Pass: pass, Layer: i, Lays: now.Lays, Cautions: []string{}, Grams: load.Grams, Feeds: load.Feeds, PortionG: load.PortionG},
		)
	}
	return out
}

// again is the steps of a later pass before the batt is lifted.
func (p Plan) again(b Bed, pass int, grams float64, joining []Step) []Step {
	n := p.StripsOf(b)
	how := p.Refeed
	if how == "" {
		how = Spread
	}
	feed := func(first, last int) Step {
		s := Step{Action: Again, Pass: pass, Layer: -1, Cautions: []string{MovingDrum}, First: first, Last: last, Strips: n, Refeed: how}
		s.Grams = grams * float64(last-first+1) / float64(n)
		all := Layer{Lays: []Lay{{To: 1, End: 1, Grams: s.Grams, Method: Feed}}}
		load := all.load(b)
		s.Feeds, s.PortionG = load.Feeds, load.PortionG
		return s
	}
	out := []Step{{Action: Split, Pass: pass, Layer: -1, Grams: grams, Strips: n, Refeed: how, Cautions: []string{}}}
	if len(joining) == 0 || n < 2 {
		return append(append(out, feed(1, n)), joining...)
	}
	turns := max(p.Turns, 1)
	if how == Spread {
		turns = min(turns, n-1)
	}
	last := 0
	for i := range turns + 1 {
		var s Step
		if how == OwnPlace { // each portion runs over the whole width: strips are thinned
			s = feed(1, n)
			s.Grams /= float64(turns + 1)
			load := Layer{Lays: []Lay{{To: 1, End: 1, Grams: s.Grams, Method: Feed}}}.load(b)
			s.Feeds, s.PortionG, s.Half = load.Feeds, load.PortionG, turns == 1
			s.Portion, s.Portions = i+1, turns+1
		} else {
			to := ((i+1)*n + turns) / (turns + 1) // the first portions have one more
			s = feed(last+1, to)
			last = to
		}
		out = append(out, s)
		if i < turns {
			out = append(out, portionOf(joining, i, turns, b)...)
		}
	}
	return out
}

// portionOf is the i-th of n portions of what joins, each of the same grams.
func portionOf(joining []Step, i, n int, b Bed) (out []Step) {
	if n == 1 {
		return joining
	}
	for _, s := range joining {
		s.Lays = slices.Clone(s.Lays)
		for j := range s.Lays {
			s.Lays[j].Grams /= float64(n)
		}
		load := Layer{Lays: s.Lays}.load(b)
		s.Grams, s.Feeds, s.PortionG, s.Portion, s.Portions = load.Grams, load.Feeds, load.PortionG, i+1, n
		out = append(out, s)
	}
	return out
}

// onCloth is the grams of the batt after a pass: of what has joined by then, less
// what each pass has lost.
func (p Plan) onCloth(b Bed, fibres []Fibre, pass int) (sum float64) {
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			if joins := p.JoinsAt(v.Component); joins <= pass {
				var loses losses.Fall
				if v.Component < len(fibres) {
					loses = fibres[v.Component].Loses
				}
				way := losses.Way{Fall: loses, Alone: p.LosesAlone(b, v.Component), Joins: joins, Passes: pass}
				sum += v.Grams * way.Yield() / way.Laid()
			}
		}
	}
	return sum
}
