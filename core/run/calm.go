package run

// Shown is what a finished run has shown of what was found when it began. What is nil was not
// looked at.
type Shown struct {
	Rules  []string // that had found something
	Specks *int     // the most that were counted in a pinch
	Behind *bool    // it came out less even than was foreseen
	Light  *bool    // less came off than the range that was foreseen
}

// calmRuns is after how many runs without trouble a finding goes quiet by itself.
const calmRuns = 3

// Calm are the rules that found something in three runs or more on the same equipment, of which
// none went wrong, and in how many; more specks in a pinch than so many are wrong. A run in which nothing was looked at shows nothing.
func Calm(runs []Shown, specks float64) map[string]int {
	calm, wrong := map[string]int{}, map[string]bool{}
	for _, r := range runs {
		if r.Specks == nil && r.Behind == nil && r.Light == nil {
			continue
		}
		bad := r.Behind != nil && *r.Behind || r.Light != nil && *r.Light || r.Specks != nil && float64(*r.Specks) > specks
		for _, rule := range r.Rules {
			calm[rule]++
			wrong[rule] = wrong[rule] || bad
		}
	}
	for rule, n := range calm {
		if wrong[rule] || n < calmRuns {
			delete(calm, rule)
		}
	}
	return calm
}
