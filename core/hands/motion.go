// Package hands tells what hands do at each step of the work, why, how one sees that it is right, what to mind, and where makers
// differ (hands.md; the words are its own).
package hands

import (
	_ "embed"
	"fmt"
	"slices"
	"strings"
)

//go:embed motions.txt
var text string

// Motion is one thing that hands do.
type Motion struct {
	Key   string `json:"key"`
	Do    string `json:"do"`
	Why   string `json:"why,omitempty"`
	See   string `json:"see,omitempty"`   // how one sees that it is right
	Mind  string `json:"mind,omitempty"`  // what goes wrong
	Camps string `json:"camps,omitempty"` // where makers differ
	Safe  bool   `json:"safe,omitempty"`  // it keeps from harm, and is never folded away
	often bool   // it comes again at each such step
}

var motions = map[string]Motion{}

func init() {
	if err := read(text); err != nil {
		panic(err) // it ships with the program, and its test reads it
	}
}

// Told is a motion by its key; the zero motion where there is none.
func Told(key string) Motion { return motions[key] }

// read takes the motions from their text.
func read(text string) error {
	var m *Motion
	done := func() {
		if m != nil {
			motions[m.Key] = *m
		}
	}
	for n, line := range strings.Split(text, "\n") {
		mark, rest, _ := strings.Cut(line, " ")
		if m == nil && mark != "=" && mark != "#" && line != "" {
			return fmt.Errorf("line %d: of no motion", n+1)
		}
		switch mark {
		case "", "#":
		case "=":
			done()
			words := strings.Fields(rest)
			m = &Motion{Key: words[0], often: slices.Contains(words, "often"), Safe: slices.Contains(words, "safe")}
		case ">":
			m.Why = rest
		case "?":
			m.See = rest
		case "!":
			m.Mind = rest
		case "~":
			m.Camps = rest
		default:
			if m.Do != "" {
				return fmt.Errorf("line %d: a second thing to do", n+1)
			}
			m.Do = line
		}
	}
	done()
	return nil
}
