package carding

import "math"

// staplePart is which part of a staple a component is, from its butt: a body and its tip share their clumps.
type staplePart struct {
	from, to float64
	body     int // the component of the body; -1 of a body
}

// tips tells of each component which part of a staple it is; nil where none is.
func (p *Plan) tips() []staplePart {
	var out []staplePart
	for i, c := range p.Components {
		if c.TipOf == nil {
			continue
		}
		if out == nil {
			out = make([]staplePart, len(p.Components))
		}
		body := *c.TipOf
		out[body], out[i] = staplePart{0, 1 - c.Tip, -1}, staplePart{1 - c.Tip, 1, body}
	}
	return out
}

// ends has a slot know which part of a staple it is, and whose clumps it shares.
func (b *Batt) ends(s slot) slot {
	s.body = -1
	if s.component >= len(b.tips) || b.tips[s.component].to == 0 {
		return s
	}
	t := b.tips[s.component]
	s.from, s.to = t.from, t.to
	for k, o := range b.slots {
		if t.body >= 0 && o.component == t.body && o.how == s.how && o.unopened == s.unopened && o.clump == s.clump {
			s.body = k
		}
	}
	return s
}

// whole is what grams of a slot weigh with the rest of their staples.
func (s slot) whole(grams float64) float64 {
	if s.to > 0 {
		grams /= s.to - s.from
	}
	return grams
}

// clumpsOf is in how many clumps grams of a slot lie: a body and its tip are counted together.
func (s slot) clumpsOf(grams, each float64) int { return max(1, int(math.Round(s.whole(grams)/each))) }

// under is the height in a lane on which fibre came to lie that was fed just now, and how much of it: of a tip, where its body did.
func (s slot) under(high, grams float64) (from, fed float64) {
	if s.body < 0 {
		return high, grams
	}
	body := s.whole(grams) - grams
	return high - body, body
}

// chance is that of the i-th clump of a slot: a tip has its body's, which was laid just before.
func (b *Batt) chance(k, i int, justNow bool) draws {
	op := b.op
	if body := b.slots[k].body; body >= 0 {
		if k = body; justNow {
			op--
		}
	}
	return key(b.seed, op, k, i)
}

// end is the part of a streak that a slot has: the body begins it, and the tip ends it.
func (b *Batt) end(s streak) streak {
	of := b.slots[s.slot]
	if of.to == 0 {
		return s
	}
	s.grams *= of.to - of.from
	s.start += int(math.Round(of.from * float64(s.cells)))
	s.cells = max(2, int(math.Round((of.to-of.from)*float64(s.cells))))
	if !b.bed.Open {
		s.start %= b.grid.Cells
	}
	return s
}
