package trouble

import (
	_ "embed"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

//go:embed causes.txt
var causesText string

// drumOnly is the condition by which a cause can only be where there is a small drum.
const drumOnly = "device!=drum"

var (
	symptoms []Symptom
	wordsOf  = map[string]words{}
)

func init() {
	if err := read(causesText); err != nil {
		panic(err) // it ships with the program, and its test reads it
	}
}

// read takes the causes from their text.
func read(text string) error {
	var s *Symptom
	var last string
	drum := false
	for n, line := range strings.Split(text, "\n") {
		mark, rest, _ := strings.Cut(line, " ")
		switch {
		case line == "" || mark == "#":
		case mark == "=":
			symptoms = append(symptoms, Symptom{Key: rest})
			s = &symptoms[len(symptoms)-1]
		case mark == "@":
			drum = false
			for _, v := range strings.Fields(rest) {
				if drum = v == "drum"; !drum {
					s.Stages = append(s.Stages, Stage(v))
				}
			}
		case mark == "~":
			s.Camps = rest
		case mark == ">":
			parts := strings.Split(rest, " | ")
			if len(parts) != 3 {
				return fmt.Errorf("line %d: %d parts", n+1, len(parts))
			}
			wordsOf[last] = words{parts[0], parts[1], parts[2]}
		case s.Seen == "":
			s.Seen = line
		default:
			c, err := readCause(line, drum)
			if err != nil {
				return fmt.Errorf("line %d: %w", n+1, err)
			}
			last = c.key
			s.causes = append(s.causes, c)
		}
	}
	return nil
}

// readCause reads key|base|cost|verb|conditions; drum: it is only where there is a small drum.
func readCause(line string, drum bool) (c cause, err error) {
	parts := strings.Split(line, "|")
	if len(parts) != 5 {
		return c, fmt.Errorf("%d parts", len(parts))
	}
	c.key, c.verb = parts[0], parts[3]
	if c.base, err = strconv.ParseFloat(parts[1], 64); err != nil {
		return c, err
	}
	if c.cost, err = strconv.ParseFloat(parts[2], 64); err != nil {
		return c, err
	}
	list := strings.Split(parts[4], ";")
	if i := slices.Index(list, "drum only"); i >= 0 {
		list, drum = slices.Delete(list, i, i+1), true
	}
	if drum {
		list = append([]string{drumOnly + " x0"}, list...)
	}
	for _, v := range list {
		one, err := readCondition(v)
		if err != nil {
			return c, err
		}
		c.conds = append(c.conds, one)
	}
	return c, nil
}

// readCondition reads "a>1 and b x2".
func readCondition(text string) (v condition, err error) {
	at := strings.LastIndex(text, " x")
	if at < 0 {
		return v, fmt.Errorf("no factor in %q", text)
	}
	v.text = text[:at]
	if v.factor, err = strconv.ParseFloat(text[at+2:], 64); err != nil {
		return v, err
	}
	for _, one := range strings.Split(v.text, " and ") {
		t, err := readTerm(one)
		if err != nil {
			return v, err
		}
		v.terms = append(v.terms, t)
	}
	return v, nil
}

// readTerm reads a comparison, or a fact that is so or not.
func readTerm(text string) (t term, err error) {
	for _, op := range []string{"!=", ">=", "<=", ">", "<", "="} {
		name, value, ok := strings.Cut(text, op)
		if !ok {
			continue
		}
		t = term{name: name, op: op, word: value}
		if t.name != "device" && t.name != "step" {
			t.number, err = strconv.ParseFloat(value, 64)
		}
		break
	}
	if t.name == "" {
		t.name = text
	}
	if _, known := known[t.name]; !known {
		return t, fmt.Errorf("no fact is called %q", t.name)
	}
	return t, err
}
