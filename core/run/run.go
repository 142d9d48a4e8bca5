// Package run is what happened at the carder: entries in the order in which they were
// made, and what stands when they are read from the first to the last. An entry is never
// changed; a wrong one is taken back by another, and both are kept.
package run

import (
	"slices"

	"fairtangle/core/losses"
	"fairtangle/core/unit"
)

// What is what an entry tells.
type What string

// What is told of a pass of a unit. All of it may be left out.
const (
	Step      What = "step"      // the work is at this step of the unit: Number; Text is its action
	Pause     What = "pause"     // the clock stands still until the next entry
	In        What = "in"        // grams put in, where they are not those that were weighed out
	Off       What = "off"       // grams that came off
	Residue   What = "residue"   // grams picked off the small drum; Text: what becomes of them
	Droppings What = "droppings" // grams
	Picked    What = "picked"    // grams of specks, by hand
	Cloth     What = "cloth"     // grams by which the fibre in the cloth grew
	Specks    What = "specks"    // in a pinch: Number
	Look      What = "look"      // as seen: Text
	Minutes   What = "minutes"   // the clock corrected: Number
	Clearance What = "clearance" // of the drums, mm: Number
	Pace      What = "pace"      // turns of the drum in a minute: Number
	Note      What = "note"      // Text
	Photo     What = "photo"     // Number; several may stand
	Tick      What = "tick"      // a check that was made: Text; several may stand
	More      What = "more"      // another pass follows
	Enough    What = "enough"    // none follows
	Count     What = "count"     // rolags or punis that came off: Number
	Piece     What = "piece"     // one of them weighed, grams; several may stand
	Apart     What = "apart"     // nothing is learned from what was weighed at this pass: Number 1; 0: it is again
	Decided   What = "decided"   // of a sample: Number is one of Decisions, Text the words
	Cleaned   What = "cleaned"   // the cloth was cleaned before the run
	Raw       What = "raw"       // grams of raw fleece that the run began with
	Parted    What = "part"      // a part of the fleece: Text is its name; "": it is none any more
	Hex       What = "hex"       // the colour of a part: Text
	Oil       What = "oil"       // spinning oil, percent of the weight: Number
	Helped    What = "helped"    // what made it go again: Text is what was seen and the cause; several may stand
	Shelved   What = "shelved"   // grams of it went onto the shelf: Number is the lot; several may stand
)

// What may be decided on a sample.
const (
	TakeIt   = 1 // the blend as it is
	ChangeIt = 2 // and try again
	LeaveIt  = 3
)

// Weights are those that tell a weight.
func (w What) Weights() bool {
	return slices.Contains([]What{In, Off, Residue, Droppings, Picked, Cloth, Piece, Raw, Shelved}, w)
}

// Several reports whether more than one may stand beside each other; of the others the
// last one counts.
func (w What) Several() bool {
	return slices.Contains([]What{Photo, Tick, Piece, Shelved, Step, Pause, Helped}, w)
}

// Entry is one thing told, at a moment.
type Entry struct {
	ID     int64
	At     int64 // milliseconds since any fixed moment
	Unit   int   // counted from 0
	Pass   int   // counted from 1; 0: of the unit as a whole
	What   What
	Mg     unit.Milligrams
	Number float64
	Text   string
	Undoes int64 // the entry that it takes back; 0: none
}

// Standing are the entries that were not taken back, without those that took others back.
func Standing(entries []Entry) (out []Entry) {
	gone := map[int64]bool{}
	for _, e := range entries {
		if e.Undoes != 0 {
			gone[e.Undoes] = true
		}
	}
	for _, e := range entries {
		if e.Undoes == 0 && !gone[e.ID] {
			out = append(out, e)
		}
	}
	return out
}

// Pass is what is known of a pass of a unit.
type Pass struct {
	Facts   map[What]Entry // by what, the last that stands
	Seconds float64        // by the clock, or as it was corrected
	Typed   bool           // it was corrected
	Stood   bool           // a gap was so long that it was not counted
	Photos  []Entry
}

// Mg is a weight of the pass; ok is false where it was not weighed.
func (p Pass) Mg(w What) (mg unit.Milligrams, ok bool) {
	e, ok := p.Facts[w]
	return e.Mg, ok
}

// back is what becomes of the residue.
func (p Pass) back() losses.Residue {
	if b := losses.Residue(p.Facts[Residue].Text); b != "" {
		return b
	}
	return losses.Returned
}

// Unit is what is known of one filling of the equipment.
type Unit struct {
	At      int  // the step at which the work is; -1: not begun
	Enough  bool // the maker has said that no other pass follows
	Passes  []Pass
	Whole   map[What]Entry // what is told of it as a whole
	Pieces  []Entry
	Shelved []Entry
}

// Began reports whether anything is known of the unit.
func (u Unit) Began() bool {
	if u.At >= 0 || len(u.Pieces) > 0 {
		return true
	}
	return slices.ContainsFunc(u.Passes, func(p Pass) bool { return len(p.Facts) > 0 })
}

// OffAtLast is what came off at the last pass of the unit.
func (u Unit) OffAtLast() (mg unit.Milligrams, ok bool) {
	if len(u.Passes) == 0 {
		return 0, false
	}
	return u.Passes[len(u.Passes)-1].Mg(Off)
}

// State is a run as it stands.
type State struct {
	Units  []Unit
	Unit   int // where the work is
	Paused bool
	Last   int64 // moment of the last entry; 0: none
	Ticks  map[string]bool
	// Shelved is what went onto the shelf of all units together.
	Shelved []Entry
	Clean   bool // the cloth was clean at the beginning
}

// LongestStep is how long, in seconds, a step can take without an entry; what goes on
// for longer was an interruption, and none of it is counted.
const LongestStep = 45 * 60

// The clock does not run at the steps before and after the carding of a unit, nor at what is carded alone for all of them.
const (
	beforeIt = "ready"
	aloneIt  = "alone"
	afterIt  = "finish"
)

// Read reads entries, in the order in which they were made, for so many units that go
// through so many passes as planned.
func Read(entries []Entry, units, passes int) State {
	s := State{Units: make([]Unit, units), Ticks: map[string]bool{}}
	for i := range s.Units {
		s.Units[i] = Unit{At: -1, Whole: map[What]Entry{}}
		s.Units[i].upTo(max(passes, 1))
	}
	standing := Standing(entries)
	for _, e := range standing {
		if e.Unit >= 0 && e.Unit < units {
			s.Units[e.Unit].take(e)
		}
	}
	for i := range s.Units {
		s.Units[i].cut(max(passes, 1), i, standing)
		s.Units[i].addPieces()
	}
	for _, e := range standing {
		switch e.What {
		case Tick:
			s.Ticks[e.Text] = true
		case Cleaned:
			s.Clean = e.Number != 0
		case Shelved:
			if e.Unit < 0 {
				s.Shelved = append(s.Shelved, e)
			}
		}
	}
	s.time(entries)
	return s
}

func (u *Unit) upTo(n int) {
	for len(u.Passes) < n {
		u.Passes = append(u.Passes, Pass{Facts: map[What]Entry{}})
	}
}

// take puts an entry where it belongs.
func (u *Unit) take(e Entry) {
	switch {
	case e.What == Step:
		u.At = int(e.Number)
	case e.What == Piece:
		u.Pieces = append(u.Pieces, e)
	case e.What == Shelved:
		u.Shelved = append(u.Shelved, e)
	case e.What == Tick || e.What == Pause || e.What == Cleaned || e.What == More || e.What == Enough:
	case e.Pass < 1:
		u.Whole[e.What] = e
	default:
		u.upTo(e.Pass)
		p := &u.Passes[e.Pass-1]
		if e.What == Photo {
			p.Photos = append(p.Photos, e)
		} else {
			p.Facts[e.What] = e
		}
	}
}

// cut brings the unit to as many passes as were decided: those planned, one more where
// another follows, none after enough. What was told of a pass is never cut off.
func (u *Unit) cut(planned, at int, standing []Entry) {
	n := planned
	for _, e := range standing {
		if e.Unit != at {
			continue
		}
		switch e.What {
		case More:
			n, u.Enough = max(n, e.Pass+1), false
		case Enough:
			n, u.Enough = max(e.Pass, 1), true
		}
	}
	for n < len(u.Passes) && slices.ContainsFunc(u.Passes[n:], func(p Pass) bool { return len(p.Facts)+len(p.Photos) > 0 }) {
		n++
	}
	u.upTo(n)
	u.Passes = u.Passes[:n]
}

// time lets the clock run from entry to entry: what passes between two of them belongs to
// the pass at which the work was, unless it paused or nobody was there.
func (s *State) time(entries []Entry) {
	unitNo, pass, runs := -1, 0, false
	for i, e := range entries {
		if e.What == Step && e.Undoes == 0 && e.Unit >= 0 && e.Unit < len(s.Units) {
			unitNo, pass, runs = e.Unit, e.Pass, e.Text != beforeIt && e.Text != aloneIt && e.Text != afterIt
			s.Unit = e.Unit
		}
		s.Paused, s.Last = e.What == Pause, e.At
		if i+1 == len(entries) || !runs || s.Paused {
			continue
		}
		gap := float64(entries[i+1].At-e.At) / 1000
		if p := s.passAt(unitNo, pass); p != nil {
			if gap > LongestStep {
				p.Stood = true
			} else {
				p.Seconds += max(0, gap)
			}
		}
	}
	for u := range s.Units {
		for i := range s.Units[u].Passes {
			if p := &s.Units[u].Passes[i]; p.Facts[Minutes].What == Minutes {
				p.Seconds, p.Typed = 60*p.Facts[Minutes].Number, true
			}
		}
	}
}

// addPieces takes rolags that were all weighed one by one for what came off, where that was
// not weighed as a whole.
func (u *Unit) addPieces() {
	last := u.Passes[len(u.Passes)-1].Facts
	if _, whole := last[Off]; whole || len(u.Pieces) == 0 || int(u.Whole[Count].Number) != len(u.Pieces) {
		return
	}
	sum := Entry{What: Off}
	for _, e := range u.Pieces {
		sum.Mg += e.Mg
	}
	last[Off] = sum
}

func (s *State) passAt(u, pass int) *Pass {
	if u < 0 || u >= len(s.Units) || pass < 1 || pass > len(s.Units[u].Passes) {
		return nil
	}
	return &s.Units[u].Passes[pass-1]
}
