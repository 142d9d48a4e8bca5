// Package plate follows what lies on a scale towards what is wanted: what counts as
// nothing, how much is still missing, and when a weighing may be taken. It has no clock
// and no scale of its own; moments are milliseconds that only grow.
package plate

import "fairtangle/core/unit"

// Mode is how fibre is put on the scale.
type Mode string

// Into one bowl, one fibre after the other, where what was weighed before counts as
// nothing; or each fibre in a dish of its own, which is taken off between.
const (
	Bowl   Mode = "bowl"
	Dishes Mode = "dishes"
)

// Heard is what a scale says, with everything that lies on it.
type Heard struct {
	Gross  unit.Milligrams
	Stable bool
	Over   bool // more than it can weigh
	At     int64
}

// Phase is how far it has come.
type Phase string

// The phases. Only in Ready may a weighing be taken by itself.
const (
	Overload Phase = "overload"
	Clear    Phase = "clear" // what was weighed is to be taken off
	Nothing  Phase = "nothing"
	Short    Phase = "short"
	Inside   Phase = "inside" // within the tolerance, not yet for long enough
	Ready    Phase = "ready"
	Over     Phase = "over"
	Unsteady Phase = "unsteady" // within the tolerance, still moving
	Undone   Phase = "undone"   // within the tolerance, taken back and not moved since
)

// SteadyMS is how long a reading stands within the tolerance before it is taken: long
// enough for a hand to put one more pinch on. A choice.
const SteadyMS = 900

// Plate is one place at a scale. The zero Plate is a bowl that weighs nothing.
type Plate struct {
	Mode   Mode
	Base   unit.Milligrams // what counts as nothing: bowl, dish, what was weighed before
	Dish   unit.Milligrams // the dish that comes back after each weighing
	Wanted unit.Milligrams
	Step   unit.Milligrams // the tolerance to either side

	heard    Heard
	since    int64 // when it came inside
	inside   bool
	clearing bool
	weighed  unit.Milligrams // gross when it was taken
	undone   bool            // a weighing was taken back and nothing has moved since
	settling bool            // it was moving when that was taken back
	left     unit.Milligrams // gross when it was taken back
	taring   bool            // it was moving when it was tared
	tared    unit.Milligrams // gross then
}

// Shown is what a plate shows.
type Shown struct {
	Net   unit.Milligrams
	Left  unit.Milligrams // that are missing; below 0: too much
	Part  float64         // of what is wanted, from 0
	Phase Phase
}

// Want says what is wanted next.
func (p *Plate) Want(wanted, step unit.Milligrams) {
	if p.Wanted != wanted || p.Step != step {
		p.Wanted, p.Step, p.inside = wanted, step, false
	}
}

// Tare has what lies there count as nothing. Among dishes it is the dish that comes back. Where it
// moves still, what it comes to rest at counts.
func (p *Plate) Tare() {
	p.Base, p.clearing, p.inside = p.heard.Gross, false, false
	p.taring, p.tared = !p.heard.Stable, p.heard.Gross
	if p.Mode == Dishes {
		p.Dish = p.Base
	}
}

// Put says that a container of a known weight stands there, or none (0).
func (p *Plate) Put(container unit.Milligrams) {
	p.Base, p.Dish, p.clearing, p.inside, p.taring = container, container, false, false, false
}

// Taken says that so much of what lies there is booked: in a bowl it counts as nothing
// from now on, whatever was put on since; a dish is to be taken off.
func (p *Plate) Taken(net unit.Milligrams) {
	p.inside, p.undone = false, false
	if p.Mode == Dishes {
		p.clearing, p.weighed = true, p.Base+net
		return
	}
	p.Base += net
}

// Holds reports whether so much lies there, as near as the tolerance.
func (p *Plate) Holds(net unit.Milligrams) bool {
	d := p.heard.Gross - p.Base - net
	return d >= -p.Step && d <= p.Step
}

// Back says that a weighing is taken back: in a bowl it lies there still, and counts again.
// Whoever takes it back wants to change it, so it is not ready before something has moved.
func (p *Plate) Back(net unit.Milligrams) {
	p.inside, p.clearing = false, false
	p.undone, p.left, p.settling = true, p.heard.Gross, !p.heard.Stable
	if p.Mode == Bowl {
		p.Base -= net
	}
}

// Hear follows what the scale says.
func (p *Plate) Hear(h Heard) Shown {
	p.heard = h
	if p.taring && h.Stable && !h.Over {
		by := h.Gross - p.tared
		p.Base, p.taring = p.Base+by, false
		if p.Mode == Dishes {
			p.Dish += by
		}
	}
	if p.clearing && !h.Over && 2*(p.weighed-h.Gross) > p.weighed-p.Base {
		p.clearing, p.Base = false, p.Dish
	}
	if p.settling && h.Stable { // what it comes to rest at is what lies there still
		p.left, p.settling = h.Gross, false
	}
	if d := h.Gross - p.left; !p.settling && (d < -p.Step || d > p.Step) {
		p.undone = false
	}
	net := h.Gross - p.Base
	s := Shown{Net: net, Left: p.Wanted - net, Phase: p.phase(h, net)}
	if p.Wanted > 0 {
		s.Part = max(0, float64(net)/float64(p.Wanted))
	}
	return s
}

func (p *Plate) phase(h Heard, net unit.Milligrams) Phase {
	within := net >= p.Wanted-p.Step && net <= p.Wanted+p.Step
	was := p.inside
	p.inside = within && h.Stable && !h.Over && !p.clearing && p.Wanted > 0
	switch {
	case h.Over:
		return Overload
	case p.clearing:
		return Clear
	case p.Wanted <= 0 || net <= p.Step && !within:
		return Nothing
	case !within && net < p.Wanted:
		return Short
	case !within:
		return Over
	case !h.Stable:
		return Unsteady
	}
	if !was {
		p.since = h.At
	}
	if p.undone {
		return Undone
	}
	if h.At-p.since >= SteadyMS {
		return Ready
	}
	return Inside
}
