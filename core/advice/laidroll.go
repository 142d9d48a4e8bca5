package advice

import (
	"fmt"

	"fairtangle/core/layup"
	"fairtangle/core/unit"
)

// short looks at fibre for punis: a companion that is much longer is cut.
func (s *cloth) short() {
	which, to := layup.ToCut(s.fibres)
	for _, i := range which {
		f := s.measured("companion_long", Caution, "",
			unit.Say("%s is %s long beside fibre of %s.", s.fibres[i].Name, unit.Millimetres(s.fibres[i].StapleMM), unit.Millimetres(to)),
			plain("The long fibre drafts first and the short comes after it in lumps."),
			unit.Say("Cut it to about %s, or keep it under 10 %%.", unit.Millimetres(to)))
		f.Component = i
	}
}

func (s *cloth) rolags() {
	if s.rolls == nil {
		return
	}
	r := s.rolls
	s.wrap()
	locks := false
	for i, l := range s.plan.Layers {
		for j, v := range l.Lays {
			f := s.fibres[v.Component]
			locks = locks || f.Lock() && v.Grams > speck
			if f.Lock() && v.Crosses(f, s.bed, r.Cuts) {
				what, do, mend := fmt.Sprintf("Locks of %s lie across a cut.", f.Name), "Put them clear of the cuts", "clear"
				if f.StapleMM > r.ZoneMM {
					what, do, mend = fmt.Sprintf("Locks of %s are longer than a rolag’s zone.", f.Name), "Make fewer rolags, or cut the locks.", ""
				}
				m := s.add("locks_cut", Hint, mend, what, "A lock over the line belongs to two rolags; it tears, or pulls a hole as the first is rolled.", do)
				m.Layer, m.Lay = i, j
				return
			}
		}
	}
	if locks && len(r.Cuts) > 0 {
		s.right = append(s.right, "locks_clear")
	}
	var short, all float64
	for _, f := range s.fibres {
		all += f.Grams
		if f.Ground() && f.StapleMM < 45 {
			short += f.Grams
		}
	}
	if short > s.b("R63 short")*all {
		s.measured("punis", Hint, "", unit.Say("%.0f %% of it is shorter than %s.", 100*short/all, unit.Millimetres(45)),
			plain("Short fibre has few overlaps; a firm thin roll keeps it in order until twist reaches it."),
			unit.Say("Roll punis instead: a rod of %s to %s, %s to %s each.", unit.Millimetres(5), unit.Millimetres(8), unit.Grams(1.5), unit.Grams(3)))
	}
}

// wrap looks at what is drawn off for each rolag. It never advises the number
// that there is, nor one against the school that was chosen.
func (s *cloth) wrap() {
	r := s.rolls
	w := r.Staples
	chosen := map[string][2]int{"one": {1, 1}, "three": {3, 3}, "five": {4, 5}}[s.schools["rolags"]]
	if w >= s.b("R61 short")-1e-9 && w <= s.b("R61 long")+1e-9 || r.Suggested == r.Count || chosen[0] <= r.Count && r.Count <= chosen[1] {
		return
	}
	why := "Too long a wrap builds thick layers that do not draft in order."
	if w < s.b("R61 short") {
		why = "Too short a wrap leaves no lap, and the rolag falls open."
	}
	s.add("wrap_length", Caution, "rolags", fmt.Sprintf("Each of %d rolags wraps %.1f staples of the longest main fibre.", r.Count, w), why,
		fmt.Sprintf("Make %d of the board", r.Suggested)).Times = r.Suggested
}
