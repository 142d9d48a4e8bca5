package advice

import (
	"fmt"
	"slices"

	"fairtangle/core/layup"
)

// What later passes do. A pass opens all that lies on the cloth: strips that are spread lose their
// lanes, whatever was painted over a part of the length is drawn out, and locks, dots and film are
// opened and buried.

// later looks at what is laid before the last pass and would not outlast it.
func (s *cloth) later() {
	if s.last < 2 {
		return
	}
	before := func(v layup.Lay) bool { return s.plan.JoinsAt(v.Component) < s.last }
	one := Way{Mend: "passes", Do: "Card it once", Times: 1}
	s.lanesLost(before, one)
	s.strokesLost(before, one)
	s.depthLost(before, one)
	carried := slices.ContainsFunc(s.fibres, func(f layup.Fibre) bool { return f.Ground() && f.Grams > speck })
	for i, f := range s.fibres {
		if !carried || f.Ground() || s.plan.JoinsAt(i) >= s.last || s.loads.PlacedG[i] <= speck {
			continue
		}
		late := Way{Mend: "joins", Do: fmt.Sprintf("Let it join at pass %d", s.last), Times: s.last}
		key, what, why := "extras_opened", f.Name+" goes through %s more.",
			"Each pass opens dots and film a little further and buries them; they end as specks and dust."
		if f.Lock() {
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
func (s *cloth) lanesLost(before func(layup.Lay) bool, one Way) {
	if s.plan.Refeed == layup.OwnPlace {
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

// fewestSteps is how many layers, each of another fibre, are a way through the depth.
const fewestSteps = 3

// depthLost finds fibres that lie one over the other, each once, before a later pass.
func (s *cloth) depthLost(before func(layup.Lay) bool, one Way) {
	seen := map[int]bool{}
	for _, l := range s.plan.Layers {
		if len(l.Lays) != 1 || !before(l.Lays[0]) {
			continue
		}
		v := l.Lays[0]
		if !s.fibres[v.Component].Ground() || v.To-v.From < 0.999 || seen[v.Component] {
			return
		}
		seen[v.Component] = true
	}
	if len(seen) >= fewestSteps {
		m := s.add("depth_lost", Hint, one.Mend, fmt.Sprintf("The order through the depth does not outlast pass %d.", s.last),
			"Each strip is drawn out to a veil and laid anew: what lay below comes to lie beside and above.", one.Do)
		m.Times = one.Times
	}
}

// strokesLost finds what covers a part of the length only.
func (s *cloth) strokesLost(before func(layup.Lay) bool, one Way) {
	for i, l := range s.plan.Layers {
		for j, v := range l.Lays {
			short := v.End-v.Start < 0.999
			if !before(v) || !s.fibres[v.Component].Ground() || !short {
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
func (s *cloth) scattered() {
	if !s.plan.Gathered(s.last) {
		s.add("joins_scattered", Hint, "gather", fmt.Sprintf("What joins at pass %d is drawn in several places.", s.last),
			"What lay there before is fed again in two halves; all that joins then goes between them.", "Draw it where it will lie")
	}
}
