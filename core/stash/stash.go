// Package stash understands lines as people write them about a bag of fibre: how much, of what kind, prepared how, of which
// colour. What was not understood is said, and never an amount that is not in the line.
package stash

import (
	"maps"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
)

// What may be unsure of a lot.
const (
	OfKind        = "kind"
	OfPreparation = "preparation"
	OfColour      = "colour"
	OfGrams       = "grams"
)

// Lot is a line as it was understood.
type Lot struct {
	Name        string
	Kind        string // empty: none was understood
	Preparation string
	Hex         string   // empty: no colour was named
	Grams       *float64 // nil: no amount is in the line
	Unsure      []string // of what it was guessed
	Kinds       []string // that it may be instead
	Left        string   // what was not understood
}

// Limits of what is read.
const (
	LongestLine = 300
	MostLines   = 500
	mostWords   = 30 // of a line that are looked up
)

var hexed = regexp.MustCompile(`^#[0-9a-f]{6}$`)

// word is a word of a line, with what was made of it.
type word struct {
	text, low string
	used      bool
	amount    bool
}

// Names are what kinds are called, each by words in small letters, with the keys of the kinds that it may be: the first is meant most often.
type Names map[string][]string

// Named are the usual names with more of them, which go first: keys of kinds by what a maker calls them.
func Named(more map[string]string) Names {
	out := maps.Clone(kindTable)
	for name, key := range more {
		if name = strings.Join(strings.Fields(strings.ToLower(name)), " "); name != "" {
			out[name] = []string{key}
		}
	}
	return out
}

// Read understands a line; of bare numbers grams are so many of a unit: "g" or "oz". Kinds are called by names; nil: by the usual ones.
func Read(line, weightUnit string, names Names) Lot {
	if names == nil {
		names = kindTable
	}
	if r := []rune(line); len(r) > LongestLine {
		line = string(r[:LongestLine])
	}
	words := split(line)
	out := Lot{Unsure: []string{}}
	out.amount(words, weightUnit)
	out.kind(words, names)
	out.preparation(words)
	out.colour(words)
	var name, left []string
	for _, w := range words {
		if !w.amount {
			name = append(name, w.text)
		}
		if !w.used && !passedOver[w.low] {
			left = append(left, w.text)
		}
	}
	out.Name, out.Left = strings.Trim(strings.Join(name, " "), " ,;:.-–"), strings.Join(left, " ")
	if out.Name == "" {
		out.Name = strings.TrimSpace(line)
	}
	return out
}

// ReadLine is Read of a line that says something.
func ReadLine(line, weightUnit string, names Names) (Lot, bool) {
	if strings.TrimSpace(line) == "" {
		return Lot{}, false
	}
	return Read(line, weightUnit, names), true
}

// split parts a line into words.
func split(line string) (out []*word) {
	for _, t := range strings.FieldsFunc(fractions.Replace(line), func(r rune) bool { return unicode.IsSpace(r) || r == ';' || r == '(' || r == ')' }) {
		t = strings.Trim(t, ",:!?\"'“”")
		if t == "" {
			continue
		}
		if len(out) == mostWords {
			out = append(out, &word{text: "…", low: "…"})
			break
		}
		out = append(out, &word{text: t, low: strings.TrimRight(strings.ToLower(t), ".")})
	}
	return out
}

func (l *Lot) unsure(of string) {
	if !slices.Contains(l.Unsure, of) {
		l.Unsure = append(l.Unsure, of)
	}
}

// longest words that make one: long staple cotton.
const longest = 3

// found looks for the longest run of words that a table knows; exactly, else with a slip of typing in a long one.
func found[T any](words []*word, table map[string]T, each func(key string, value T, sure bool, at []*word)) {
	taken := map[*word]bool{}
	for _, exact := range []bool{true, false} {
		for n := longest; n > 0; n-- {
			for i := 0; i+n <= len(words); i++ {
				run := words[i : i+n]
				if slices.ContainsFunc(run, func(w *word) bool { return taken[w] || w.amount }) {
					continue
				}
				var low []string
				for _, w := range run {
					low = append(low, w.low)
				}
				key := strings.Join(low, " ")
				if exact {
					v, ok := table[key]
					if !ok {
						continue
					}
					each(key, v, true, run)
				} else {
					if n > 1 || run[0].used || passedOver[key] {
						continue
					}
					near := nearest(key, table)
					if near == "" {
						continue
					}
					each(near, table[near], false, run)
				}
				for _, w := range run {
					taken[w] = true
				}
			}
		}
	}
}

// nearest is the word of a table that differs from one by a slip of typing: one letter in five, two in eight; empty where none does or
// two do alike.
func nearest[T any](s string, table map[string]T) string {
	most := 0
	switch n := len([]rune(s)); {
	case n >= 8:
		most = 2
	case n >= 5:
		most = 1
	default:
		return ""
	}
	best, by, twice := "", most+1, false
	for key := range table {
		if d := slips(s, key, most); d < by {
			best, by, twice = key, d, false
		} else if d == by && d <= most {
			twice = true
		}
	}
	if twice {
		return ""
	}
	return best
}

// slips is how many letters have to be put in, left out, changed or swapped with their neighbour; more than most is most + 1.
func slips(a, b string, most int) int {
	x, y := []rune(a), []rune(b)
	if len(x)-len(y) > most || len(y)-len(x) > most {
		return most + 1
	}
	rows := make([][]int, len(x)+1)
	for i := range rows {
		rows[i] = make([]int, len(y)+1)
		rows[i][0] = i
	}
	for j := range rows[0] {
		rows[0][j] = j
	}
	for i := 1; i <= len(x); i++ {
		for j := 1; j <= len(y); j++ {
			change := 1
			if x[i-1] == y[j-1] {
				change = 0
			}
			rows[i][j] = min(rows[i-1][j]+1, rows[i][j-1]+1, rows[i-1][j-1]+change)
			if i > 1 && j > 1 && x[i-1] == y[j-2] && x[i-2] == y[j-1] {
				rows[i][j] = min(rows[i][j], rows[i-2][j-2]+1)
			}
		}
	}
	return min(rows[len(x)][len(y)], most+1)
}

// kindTable is what kinds are called: their names and keys, and the words of makers.
var kindTable = func() Names {
	out := Names{}
	for _, k := range fibre.Kinds() {
		if k.Unknown() {
			continue
		}
		name, _, _ := strings.Cut(strings.ToLower(k.Name), ",")
		if _, known := out[name]; !known {
			out[name] = []string{k.Key}
		}
		out[strings.ReplaceAll(k.Key, "_", " ")] = []string{k.Key}
	}
	maps.Copy(out, kindWords)
	return out
}()

// vague are words that name a material and not a kind: another kind named beside them is meant.
var vague = map[string]bool{"wool": true, "sheep": true, "locks": true, "curls": true, "silk": true}

// kind finds what it is; of several, those that are no vague words win, and then the first.
func (l *Lot) kind(words []*word, names Names) {
	type hit struct {
		key  string
		list []string
		sure bool
	}
	var hits []hit
	found(words, names, func(key string, list []string, sure bool, at []*word) {
		if _, colour := colourWords[key]; colour && !sure {
			return
		}
		hits = append(hits, hit{key, list, sure})
		for _, w := range at {
			w.used = true
		}
	})
	if i := slices.IndexFunc(hits, func(h hit) bool { return !vague[h.key] }); i >= 0 {
		hits = slices.DeleteFunc(hits, func(h hit) bool { return vague[h.key] })
	}
	if len(hits) == 0 {
		l.unsure(OfKind)
		return
	}
	l.Kind, l.Kinds = hits[0].list[0], append([]string{}, hits[0].list[1:]...)
	for _, h := range hits[1:] {
		if h.list[0] != l.Kind {
			l.Kinds = append(l.Kinds, h.list[0])
		}
	}
	if len(l.Kinds) > 0 || !hits[0].sure {
		l.unsure(OfKind)
	}
}

// usualPreparation is what a kind is bought as, where nothing is said.
const usualPreparation = "combed_top"

func (l *Lot) preparation(words []*word) {
	found(words, preparationWords, func(_ string, key string, sure bool, at []*word) {
		if !sure && at[0].used {
			return
		}
		for _, w := range at {
			w.used = true
		}
		switch {
		case l.Preparation == "raw_fleece": // raw fleece, raw locks: raw it is
		case key == "raw_fleece", l.Preparation == "", l.Preparation == "washed_locks" && key == "locks":
			l.Preparation = key
		}
	})
	if l.Preparation == "" {
		l.Preparation = usualPreparation
		if prepared, ok := map[string]string{"neps_wool": "neps", "neps_viscose": "neps", "knops_tweed": "neps", "locks_wool": "locks", "locks_mohair": "locks",
			"silk_noil": "noil_waste", "film_metallised": "threads", "film_iridescent": "threads", "film_flat_strip": "threads"}[l.Kind]; ok {
			l.Preparation = prepared
		}
		l.unsure(OfPreparation)
	}
}

// ColourOf is a colour that was named in words, and nothing else: rust, pale grey-blue. It is empty where it was not.
func ColourOf(text string) string {
	words := split(text)
	l := Lot{}
	l.colour(words)
	for _, w := range words {
		if !w.used && !passedOver[w.low] {
			return ""
		}
	}
	return l.Hex
}

// colour finds a colour that was written, or named in words; words beside each other mean their middle.
func (l *Lot) colour(words []*word) {
	var seen []colour.Linear
	var lighter float64
	for _, w := range words {
		if hexed.MatchString(w.low) {
			l.Hex, w.used = w.low, true
			return
		}
		if v, ok := shadeWords[w.low]; ok {
			lighter, w.used = lighter+v, true
			continue
		}
		parts := strings.FieldsFunc(w.low, func(r rune) bool { return r == '-' || r == '/' })
		for _, p := range parts {
			hex, ok := colourWords[p]
			if !ok && !w.used {
				if near := nearest(p, colourWords); near != "" {
					hex, ok = colourWords[near], true
				}
			}
			if v, shade := shadeWords[p]; shade {
				lighter, w.used = lighter+v, true
			}
			if !ok || w.used && len(parts) == 1 && p == "camel" {
				continue
			}
			c, _ := colour.ParseHex(hex)
			seen, w.used = append(seen, c), true
		}
	}
	if len(seen) == 0 {
		return
	}
	var mean colour.Linear
	for _, c := range seen {
		for i := range mean {
			mean[i] += c[i] / float64(len(seen))
		}
	}
	lab := mean.Lab()
	lab.L = min(max(lab.L+lighter, 5), 97)
	l.Hex = lab.Linear().Hex()
	l.unsure(OfColour)
}
