package advice

import "fairtangle/core/layup"

// matters are what makers differ in that a rule is about.
var matters = map[string]string{
	"R11": "extras", "R12": "extras", "L07": "extras", "R16": "loading", "R18": "loading", "R24": "first", "R26": "delicate", "R33": "passes", "R34": "passes",
	"R36": "specks", "R39": "gradient", "R61": "rolags",
}

// Camps are the school that a maker holds to in what a rule is about, and the others; ok is false
// where the rule is about nothing in which makers differ by name.
func Camps(rule string, schools map[string]string) (own layup.School, others []layup.School, ok bool) {
	chosen := layup.Chosen(schools)
	for _, m := range layup.Matters() {
		if m.Key != matters[rule] {
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
