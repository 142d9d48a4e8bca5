// Package advice is the experienced eye beside every plan: rules that say what is likely to go
// wrong, why, what to do, and who sees it otherwise. A rule whose inputs are not known is not
// judged, and names the one thing to tell.
package advice

import "slices"

// Text is what a rule says of itself.
type Text struct {
	ID      string // R01
	Key     string // staple_mismatch
	Group   string // what it is about
	When    string
	Why     string
	Do      string
	Schools string
}

// rule is a rule of the second look, whole: to add one is to add a value to its group.
type rule struct {
	Text
	at      []Station // it is spoken of there; the first is its home, where it is counted and usually mended
	figures Bounds    // the usual ones, by name; shares and loads are parts of 1
	matter  string    // what it is about that makers differ in by name
	laid    []string

	waits     func(Fibre) bool   // it is not judged while a fibre that matters is like this; nil: it hangs on none
	judge     func(*look)        // nil: it is seen on the cloth alone
	stake     func(*stakes) Cost // nil: nothing that can be worked out
	mend      mender             // nil: it is no change of the plan but something to do, or to get
	otherwise mender             // where the first change does not end it
	shelf     bool               // wool of the shelf may end it
	kin       string             // the rule by whose figures its mend goes, where they are not its own: it keeps to the milder one
}

// rules are all of them, those of a lay-up alone last.
var rules = slices.Concat(suitRules, amountRules, orderRules, passRules, colourRules, weighRules, stateRules, rollRules, safetyRules, laidRules)

// byID finds a rule.
var byID = func() map[string]*rule {
	out := map[string]*rule{}
	for i := range rules {
		out[rules[i].ID] = &rules[i]
	}
	return out
}()

// byLaid finds the rule that a finding of a lay-up goes by.
var byLaid = func() map[string]*rule {
	out := map[string]*rule{}
	for i := range rules {
		for _, key := range rules[i].laid {
			out[key] = &rules[i]
		}
	}
	return out
}()

// TextOf is what a rule says of itself.
func TextOf(id string) (Text, bool) {
	if r := byID[id]; r != nil {
		return r.Text, true
	}
	return Text{}, false
}

// Texts lists what all rules say, in their order.
func Texts() []Text {
	out := make([]Text, len(rules))
	for i, r := range rules {
		out[i] = r.Text
	}
	return out
}
