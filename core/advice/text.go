// Package advice is the experienced eye beside every plan: rules that say what is likely to go
// wrong, why, what to do, and who sees it otherwise. A rule whose inputs are not known is not
// judged, and names the one thing to tell.
package advice

import (
	_ "embed"
	"fmt"
	"strings"
)

//go:embed rules.md
var rulesMD string

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

// texts are read from the table of rules.
var texts = func() map[string]Text {
	out := map[string]Text{}
	group := ""
	var t Text
	keep := func() {
		if t.ID != "" {
			out[t.ID] = t
		}
	}
	for _, line := range strings.Split(rulesMD, "\n") {
		if v, ok := strings.CutPrefix(line, "## "); ok {
			_, group, _ = strings.Cut(v, ". ")
			continue
		}
		if v, ok := strings.CutPrefix(line, "### "); ok {
			keep()
			id, key, _ := strings.Cut(v, " ")
			t = Text{ID: id, Key: key, Group: group}
			continue
		}
		for name, to := range map[string]*string{"When": &t.When, "Why": &t.Why, "Do": &t.Do, "Schools": &t.Schools} {
			if v, ok := strings.CutPrefix(line, "- **"+name+":** "); ok {
				*to = plainly(v)
			}
		}
	}
	keep()
	return out
}()

// plainly leaves out the marks of the table.
func plainly(s string) string { return strings.ReplaceAll(s, "`", "") }

// TextOf is what a rule says of itself.
func TextOf(id string) (Text, bool) {
	t, ok := texts[id]
	return t, ok
}

// Texts lists what all rules say, in their order.
func Texts() []Text {
	out := make([]Text, 0, len(rules))
	for _, r := range rules {
		out = append(out, texts[r.id])
	}
	for n := 1; n <= laidOnly; n++ {
		out = append(out, texts[fmt.Sprintf("L%02d", n)])
	}
	return out
}
