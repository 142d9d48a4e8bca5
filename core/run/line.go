package run

import (
	"math"

	"fairtangle/core/losses"
	"fairtangle/core/unit"
)

// Line is the mass line of a unit: from weighed in to come off, with everything that left
// on the way. In = Off + Kept + Thrown + Droppings + Picked + Cloth + Between + Rest +
// Open, to the milligram.
type Line struct {
	In        unit.Milligrams
	Oil       unit.Milligrams // of that: spinning oil
	Off       unit.Milligrams // of the last pass, with the residue that was given back onto it
	Kept      unit.Milligrams // residue that was put aside
	Thrown    unit.Milligrams
	Droppings unit.Milligrams
	Picked    unit.Milligrams
	Cloth     unit.Milligrams
	Between   unit.Milligrams // came off a pass and did not go into the next; below 0: more went in
	Rest      unit.Milligrams // not accounted for: fly, moisture, the scale; below 0: more came off
	Open      unit.Milligrams // not come off yet
	// Guessed says that what the cloth holds follows from its size, not from a scale.
	Guessed   bool
	Stretches []Stretch
}

// Stretch is what lies between two weighings: one pass, or several where the batt was not
// weighed between them.
type Stretch struct {
	First, Last int // passes
	In          unit.Milligrams
	losses.Balanced
}

// Expecting is what is usually lost, grams, of so much that goes through passes, by the lines that were not
// weighed.
type Expecting func(first, last int, in float64, droppings, picked bool) losses.Belief

// Whole adds lines up.
func Whole(lines []Line) (all Line) {
	for _, l := range lines {
		all.In += l.In
		all.Oil += l.Oil
		all.Off += l.Off
		all.Kept += l.Kept
		all.Thrown += l.Thrown
		all.Droppings += l.Droppings
		all.Picked += l.Picked
		all.Cloth += l.Cloth
		all.Between += l.Between
		all.Rest += l.Rest
		all.Open += l.Open
		all.Guessed = all.Guessed || l.Guessed
	}
	return all
}

// Line works out where the grams of the unit went. joins is what was weighed out to go in
// at each pass, counted from the first; cloth what the cloth is thought to take up at the
// first pass, where that was not weighed.
//
// expect is what is usually lost between two weighings by the lines that were not weighed; nil expects nothing.
func (u Unit) Line(joins []unit.Milligrams, cloth unit.Milligrams, expect Expecting) Line {
	var l Line
	var now stretch
	carry := unit.Milligrams(0) // what the batt weighs, where that is known
	known := true
	for i, p := range u.Passes {
		joined := at(joins, i)
		in, typed := p.Mg(In)
		if i == 0 && typed {
			joined = in // she put in something else than was weighed out
		}
		l.In += joined
		now.in += joined
		switch {
		case i > 0 && typed && known:
			l.Between += carry + joined - in
			now = stretch{first: i + 1, in: in}
		case i > 0 && typed: // what came off is known from what went in again
			now.in, now.off = now.in-joined, in-joined
			l.close(&now, i, expect)
			now = stretch{first: i + 1, in: in}
		case i > 0 && known:
			now = stretch{first: i + 1, in: carry + joined}
		}
		now.first = max(now.first, 1)
		oil := p.oil(now.in) // sprayed on what goes in
		l.In, l.Oil, now.in = l.In+oil, l.Oil+oil, now.in+oil
		last := i+1 == len(u.Passes)
		carry = l.left(p, i, cloth, &now)
		off, weighed := p.Mg(Off)
		known = weighed
		if weighed {
			now.off = off
			carry += off
			l.close(&now, i+1, expect)
			if last {
				l.Off = carry
			}
		}
	}
	rest := l.In - l.Off - l.Kept - l.Thrown - l.Droppings - l.Picked - l.Cloth - l.Between
	if known && len(u.Passes) > 0 {
		l.Rest = rest
	} else {
		l.Open = rest
	}
	return l
}

// left books what left at a pass, and returns the residue that is given back.
func (l *Line) left(p Pass, i int, cloth unit.Milligrams, now *stretch) (back unit.Milligrams) {
	residue, _ := p.Mg(Residue)
	switch p.back() {
	case losses.Kept:
		l.Kept += residue
		now.residue += residue
	case losses.Thrown:
		l.Thrown += residue
		now.residue += residue
	default:
		back = residue
		if has(p, Off) { // it is not in what was weighed
			now.residue += residue
		}
	}
	droppings, _ := p.Mg(Droppings)
	picked, _ := p.Mg(Picked)
	held, weighed := p.Mg(Cloth)
	if !weighed && i == 0 && has(p, Off) {
		held, l.Guessed = cloth, cloth != 0
	}
	l.Droppings += droppings
	l.Picked += picked
	l.Cloth += held
	now.droppings += droppings
	now.knowsDroppings, now.knowsPicked = now.knowsDroppings || has(p, Droppings), now.knowsPicked || has(p, Picked)
	now.picked += picked
	now.cloth += held
	return back
}

// oil is the spinning oil that was put on so much fibre before a pass.
func (p Pass) oil(on unit.Milligrams) unit.Milligrams {
	return unit.Milligrams(math.Round(float64(on) * p.Facts[Oil].Number / 100))
}

func has(p Pass, w What) bool {
	_, ok := p.Facts[w]
	return ok
}

func at(list []unit.Milligrams, i int) unit.Milligrams {
	if i < len(list) {
		return list[i]
	}
	return 0
}

// stretch gathers what is told between two weighings.
type stretch struct {
	first                                      int
	in, off, residue, cloth, droppings, picked unit.Milligrams
	knowsDroppings, knowsPicked                bool // that they were weighed
}

// close balances what lies between two weighings.
func (l *Line) close(s *stretch, last int, expect Expecting) {
	out := Stretch{First: s.first, Last: last, In: s.in}
	var usual losses.Belief
	if expect != nil {
		usual = expect(s.first, last, grams(s.in), s.knowsDroppings, s.knowsPicked)
	}
	b, err := losses.Balance(losses.Carded{
		Expect: usual, In: grams(s.in), Batt: grams(s.off), Residue: grams(s.residue), Cloth: grams(s.cloth), Droppings: grams(s.droppings), Picked: grams(s.picked),
	})
	if err != nil { // more stayed than went in, or nothing did: it can not be right
		b = losses.Balanced{Ask: []losses.Ask{losses.Slip}}
	}
	out.Balanced = b
	l.Stretches = append(l.Stretches, out)
}

func grams(m unit.Milligrams) float64 { return float64(m.Grams()) }
