package advice

import "fairtangle/core/layup"

// Camps are the school that a maker holds to in what a rule is about, and the others; ok is false
// where the rule is about nothing in which makers differ by name.
func Camps(rule string, schools map[string]string) (own layup.School, others []layup.School, ok bool) {
	r := byID[rule]
	if r == nil {
		return own, nil, false
	}
	chosen := layup.Chosen(schools)
	for _, m := range layup.Matters() {
		if m.Key != r.matter {
			continue
		}
		for _, s := range m.Schools {
			if s.Key == chosen[m.Key] {
				own = s
			} else {
				others = append(others, s)
			}
		}
		return own, others, true
	}
	return own, nil, false
}

// holds reports whether the maker has chosen a school.
func (l *look) holds(matter, school string) bool { return l.Schools[matter] == school }
