// Package trouble finds why carding does not go as it should: of what is seen, the causes in the order in which a maker would
// try them, likeliest and cheapest first, from what is known of fibre, cloth, load and hand. Weights and factors are judgement
// (trouble.md); the bounds are those of the rules, the losses and the equipment.
package trouble

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/layup"
)

// Stage is where one is in the work.
type Stage string

// The stages at which something may go wrong.
const (
	Laying   Stage = "lay"
	Lifting  Stage = "lift"
	Rolling  Stage = "roll"
	Drafting Stage = "draft"
)

// Stages lists them in the order of the work.
func Stages() []Stage { return []Stage{Laying, Lifting, Rolling, Drafting} }

// StageOf is at which of them an action of the work at the carder is.
func StageOf(a layup.Action) Stage {
	switch a {
	case layup.Lift:
		return Lifting
	case layup.Roll, layup.Card:
		return Rolling
	case layup.Clean:
		return Drafting
	}
	return Laying
}

// Symptom is what a maker sees.
type Symptom struct {
	Key    string
	Seen   string  // in words
	Stages []Stage // at which it is offered; said at another it is taken too
	Camps  string  // where makers differ; empty: nowhere
	causes []cause
}

// cause is why it may be, under one symptom.
type cause struct {
	key   string
	base  float64
	cost  float64 // of trying: 1 now, 2 a new feed, 4 a new plan
	verb  string
	conds []condition
}

// words are those of a cause: what it is, what to do now, and what shows that it was it.
type words struct{ what, now, shows string }

// condition multiplies a score where it holds.
type condition struct {
	text   string // names it: the same text is the same condition
	terms  []term
	factor float64
}

// Cause is why it may be so, for the maker.
type Cause struct {
	Key    string
	Likely float64 // its part of a sensible next try; of all shown together 1
	Score  float64
	What   string
	Now    string
	Shows  string
	Verb   string // of the plan; none: nothing of it changes
}

// Answer are the causes in the order in which to try them, and what would be worth telling.
type Answer struct {
	Causes []Cause
	Ask    []string // fields, at most two
}

const (
	helped    = 3.0  // a cause that helped before
	same      = 1e-9 // scores that do not differ
	worth     = 0.10 // of a likelihood, that a question is worth
	questions = 2
)

// Find gives the causes of what is seen. helpedBefore are keys of causes that did it before; others are passed over.
func Find(seen string, f Facts, helpedBefore []string) (Answer, error) {
	s, ok := Named(seen)
	if !ok {
		return Answer{}, fault.New("seen", "There is no such thing to be seen.")
	}
	out := Answer{Causes: s.scored(f, helpedBefore, ""), Ask: []string{}}
	if len(out.Causes) == 0 {
		return Answer{Causes: []Cause{}, Ask: []string{}}, nil
	}
	out.Ask = s.ask(f, helpedBefore, out.Causes)
	for i := range out.Causes {
		out.Causes[i].Likely = math.Round(out.Causes[i].Likely*1000) / 1000
	}
	return out, nil
}

// scored are the causes that can be, in their order; held is a condition that is taken to hold.
func (s Symptom) scored(f Facts, helpedBefore []string, held string) []Cause {
	out := []Cause{}
	var sum float64
	for _, c := range s.causes {
		score, can := c.score(f, held)
		if !can {
			continue
		}
		if slices.Contains(helpedBefore, c.key) {
			score *= helped
		}
		w := wordsOf[c.key]
		out = append(out, Cause{Key: c.key, Score: score, What: w.what, Now: w.now, Shows: w.shows, Verb: c.verb})
		sum += score
	}
	slices.SortFunc(out, func(a, b Cause) int {
		if math.Abs(a.Score-b.Score) <= same {
			return cmp.Compare(a.Key, b.Key)
		}
		return cmp.Compare(b.Score, a.Score)
	})
	for i := range out {
		if sum > 0 {
			out[i].Likely = out[i].Score / sum
		}
	}
	return out
}

// score is base times the factors that hold over the cost of trying; it can not be where a factor of 0 holds.
func (c cause) score(f Facts, held string) (score float64, can bool) {
	score = c.base
	for _, v := range c.conds {
		holds := v.text == held
		if !holds {
			holds, _ = v.holds(f)
		}
		if !holds {
			continue
		}
		if v.factor == 0 {
			return 0, false
		}
		score *= v.factor
	}
	return score / c.cost, true
}

// holds tells whether a condition holds; missing is the first field that is not told where nothing is known against it.
func (v condition) holds(f Facts) (holds bool, missing string) {
	holds = true
	for _, t := range v.terms {
		ok, untold := t.holds(f)
		switch {
		case untold != "" && (missing == "" || fieldOrder(untold) < fieldOrder(missing)):
			missing = untold
		case untold == "" && !ok:
			return false, ""
		}
	}
	return holds && missing == "", missing
}

// ask are the fields that would move the likelihoods most: each untold condition of a cause that is shown counts for its first
// missing field, by half the sum of how far the likelihoods move if it alone held.
func (s Symptom) ask(f Facts, helpedBefore []string, shown []Cause) []string {
	worths := map[string]float64{}
	for _, c := range s.causes {
		if !slices.ContainsFunc(shown, func(v Cause) bool { return v.Key == c.key }) {
			continue
		}
		for _, v := range c.conds {
			_, field := v.holds(f)
			if field == "" {
				continue
			}
			then := s.scored(f, helpedBefore, v.text)
			if len(then) == 0 {
				continue
			}
			worths[field] = max(worths[field], moved(shown, then))
		}
	}
	var out []string
	for field, v := range worths {
		if v >= worth-same {
			out = append(out, field)
		}
	}
	slices.SortFunc(out, func(a, b string) int {
		if math.Abs(worths[a]-worths[b]) <= same {
			return fieldOrder(a) - fieldOrder(b)
		}
		return cmp.Compare(worths[b], worths[a])
	})
	return append([]string{}, out[:min(questions, len(out))]...)
}

// moved is half the sum of how far the likelihoods of the causes shown differ then.
func moved(shown, then []Cause) (sum float64) {
	for _, a := range shown {
		var likely float64
		for _, b := range then {
			if b.Key == a.Key {
				likely = b.Likely
			}
		}
		sum += math.Abs(likely-a.Likely) / 2
	}
	return sum
}

// Named is a symptom by its key.
func Named(key string) (Symptom, bool) {
	i := slices.IndexFunc(symptoms, func(s Symptom) bool { return s.Key == key })
	if i < 0 {
		return Symptom{}, false
	}
	return symptoms[i], true
}

// Is reports whether there is such a cause of what is seen.
func Is(seen, cause string) bool {
	s, ok := Named(seen)
	return ok && s.has(cause)
}

// Said is what was seen and the cause that it had, as an entry keeps them, in words.
func Said(entry string) string {
	seen, cause, _ := strings.Cut(entry, " ")
	s, _ := Named(seen)
	return strings.TrimSpace(s.Seen + " " + wordsOf[cause].what)
}

// has reports whether a symptom has a cause.
func (s Symptom) has(key string) bool {
	for _, c := range s.causes {
		if c.key == key {
			return true
		}
	}
	return false
}

// Symptoms lists all that can be seen.
func Symptoms() []Symptom { return slices.Clone(symptoms) }

// SymptomsAt lists what is seen at a stage, on equipment with a small drum or without.
func SymptomsAt(stage Stage, drum bool) (out []Symptom) {
	for _, s := range symptoms {
		if slices.Contains(s.Stages, stage) && (drum || !s.onlyDrum()) {
			out = append(out, s)
		}
	}
	return out
}

// onlyDrum reports whether it is seen where there is a small drum and nowhere else.
func (s Symptom) onlyDrum() bool {
	return !slices.ContainsFunc(s.causes, func(c cause) bool { return len(c.conds) == 0 || c.conds[0].text != drumOnly })
}
