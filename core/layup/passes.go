package layup

import (
	"fmt"
	"math"
	"slices"
)

// What later passes do. A pass opens all that lies on the cloth: strips that are
// spread lose their lanes, whatever was painted over a part of the length is
// drawn out, and locks, dots and film are opened and buried. Until a forecast
// says how far, the plan says that it happens.

// usualStripMM is how wide a strip is torn for the next pass.
const usualStripMM = 40

// StripsOf returns into how many strips the batt is divided for a later pass: one for
// each lane where each goes back to its place, else so many of about 40 mm.
func (p Plan) StripsOf(b Bed) int {
	if p.Strips > 0 {
		return p.Strips
	}
	if p.Refeed == OwnPlace {
		if n := len(p.lanes(1)); n > 1 {
			return min(n, MaxStrips)
		}
	}
	return int(max(2, math.Ceil(b.WidthMM/usualStripMM)))
}

// later looks at what is laid before the last pass and would not outlast it.
func (s *findings) later() {
	if s.last < 2 {
		return
	}
	before := func(v Lay) bool { return s.plan.JoinsAt(v.Component) < s.last }
	one := Way{Mend: "passes", Do: "Card it once", Times: 1}
	s.lanesLost(before, one)
	s.strokesLost(before, one)
	carried := slices.ContainsFunc(s.fibres, func(f Fibre) bool { return f.ground() && f.Grams > speck })
	for i, f := range s.fibres {
		if !carried || f.ground() || s.plan.JoinsAt(i) >= s.last || s.loads.PlacedG[i] <= speck {
			continue
		}
		late := Way{Mend: "joins", Do: fmt.Sprintf("Let it join at pass %d", s.last), Times: s.last}
		key, what, why := "extras_opened", f.Name+" goes through %s more.", "Each pass opens dots and film a little further and buries them; they end as specks and dust."
		if f.lock() {
			key, why = "locks_opened", "Each pass over the pins opens the curl that locks are there for."
		}
		more := s.last - s.plan.JoinsAt(i)
		m := s.add(key, Caution, late.Mend, fmt.Sprintf(what, times(more)), why, late.Do)
		m.Component, m.Times, m.Others = i, late.Times, []Way{one}
	}
	s.scattered()
}

func times(n int) string {
	if n == 1 {
		return "one pass"
	}
	return fmt.Sprintf("%d passes", n)
}

// lanesLost finds colours side by side that are spread at a later pass.
func (s *findings) lanesLost(before func(Lay) bool, one Way) {
	if s.plan.Refeed == OwnPlace {
		return
	}
	for i, l := range s.plan.Layers {
		first := -1
		for _, v := range l.Lays {
			if !before(v) || v.To-v.From > 0.999 {
				continue
			}
			if first >= 0 && v.Component != first {
				m := s.add(
					"lanes_lost",
					Caution,
					"refeed",
					fmt.Sprintf("Lanes do not outlast pass %d as it is planned.", s.last),
					"Strips that are fed again over the whole width lay every colour everywhere; the stripes are gone.",
					"Feed each strip back in its own place",
				)
				m.Layer, m.Others = i, []Way{one}
				return
			}
			first = v.Component
		}
	}
}

// strokesLost finds what covers a part of the length only.
func (s *findings) strokesLost(before func(Lay) bool, one Way) {
	for i, l := range s.plan.Layers {
		for j, v := range l.Lays {
			short := v.End-v.Start < 0.999
			if !before(v) || !s.fibres[v.Component].ground() || !short {
				continue
			}
			late := Way{Mend: "joins", Do: fmt.Sprintf("Let %s join at pass %d", s.fibres[v.Component].Name, s.last), Times: s.last}
			m := s.add("strokes_lost", Caution, late.Mend, fmt.Sprintf("What is painted over a part of the length does not outlast pass %d.", s.last),
				"The batt is drawn out lengthwise as it is fed again; a stroke becomes a streak, then a tint.", late.Do)
			m.Layer, m.Lay, m.Component, m.Times, m.Others = i, j, v.Component, late.Times, []Way{one}
			return
		}
	}
}

// scattered finds what joins late in more places than one: it all goes between
// the two halves of what is fed again.
func (s *findings) scattered() {
	if !s.plan.isGathered(s.last) {
		s.add("joins_scattered", Hint, "gather", fmt.Sprintf("What joins at pass %d is drawn in several places.", s.last),
			"What lay there before is fed again in two halves; all that joins then goes between them.", "Draw it where it will lie")
	}
}

// late reports whether a layer holds nothing but what joins at a later pass.
func (p Plan) late(l Layer) bool {
	for _, v := range l.Lays {
		if p.JoinsAt(v.Component) < 2 {
			return false
		}
	}
	return len(l.Lays) > 0
}

// isGathered reports whether the layers that join late lie together, with others
// below and above them.
func (p Plan) isGathered(last int) bool {
	first, end, mixed := -1, -1, false
	for i, l := range p.Layers {
		some := false
		for _, v := range l.Lays {
			some = some || p.JoinsAt(v.Component) > 1
		}
		if some {
			if first < 0 {
				first = i
			}
			end = i
			mixed = mixed || !p.late(l)
		}
	}
	if first < 0 {
		return true
	}
	if mixed {
		return false
	}
	for i := first; i <= end; i++ {
		if !p.late(p.Layers[i]) {
			return false
		}
	}
	rest := len(p.Layers) - (end - first + 1)
	return first > 0 && end < len(p.Layers)-1 || rest < 2
}

// Gather moves what joins late together into the middle of the others, in its
// order, where it will lie: between the halves of what is fed again. Where those
// are too light to be halved, late ground covers late extras.
func (p Plan) Gather(fibres []Fibre, step float64) Plan {
	out := p.clone()
	var rest, late []Layer
	for _, l := range out.Layers {
		keep, wait := Layer{Key: l.Key}, Layer{}
		for _, v := range l.Lays {
			if p.JoinsAt(v.Component) > 1 {
				wait.Lays = append(wait.Lays, v)
			} else {
				keep.Lays = append(keep.Lays, v)
			}
		}
		if len(keep.Lays) > 0 {
			rest = append(rest, keep)
		} else {
			wait.Key = l.Key
		}
		if len(wait.Lays) > 0 {
			late = append(late, wait)
		}
	}
	if len(rest) == 0 || len(late) == 0 {
		return p
	}
	if len(rest) == 1 {
		halves := Plan{Layers: rest}
		halves, _ = halves.Split(0, 2, step)
		rest = halves.Layers
	}
	if len(rest) == 1 {
		ground := func(l Layer) int {
			if fibres[l.Lays[0].Component].ground() {
				return 1
			}
			return 0
		}
		slices.SortStableFunc(late, func(a, b Layer) int { return ground(a) - ground(b) })
	}
	mid := (len(rest) + 1) / 2
	out.Layers = append(append(append([]Layer{}, rest[:mid]...), late...), rest[mid:]...)
	return out
}
