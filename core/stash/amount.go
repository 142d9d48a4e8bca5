package stash

import (
	"regexp"
	"strconv"
	"strings"

	"fairtangle/core/unit"
)

const pound = 16 * unit.GramsPerOunce

var (
	fractions = strings.NewReplacer("½", ".5", "¼", ".25", "¾", ".75", "⅓", ".333", "⅔", ".667", "⅛", ".125")
	units     = map[string]float64{
		"g": 1, "gr": 1, "gm": 1, "gms": 1, "grs": 1, "gram": 1, "grams": 1, "gramme": 1, "grammes": 1, "kg": 1000, "kgs": 1000, "kilo": 1000,
		"kilos": 1000, "oz": unit.GramsPerOunce, "ozs": unit.GramsPerOunce, "ounce": unit.GramsPerOunce, "ounces": unit.GramsPerOunce, "lb": pound, "lbs": pound,
		"pound": pound, "pounds": pound,
	}
	number  = regexp.MustCompile(`^(\d+(?:[.,]\d+)?|[.,]\d+)(?:/(\d+))?$`)
	glued   = regexp.MustCompile(`^(\d+(?:[.,]\d+)?|[.,]\d+)([a-z]+)$`)
	times   = regexp.MustCompile(`^(\d+)(?:x|×)$`)
	timesOf = regexp.MustCompile(`^(\d+)(?:x|×)(\d.*)$`)
	// other are units of what is no weight.
	other = map[string]bool{
		"micron": true, "microns": true, "mic": true, "µm": true, "um": true, "cm": true, "mm": true, "inch": true, "inches": true, "in": true, "m": true,
		"yd": true, "%": true,
	}
)

// amounts gathers what numbers of a line say: weights with their unit, and bare ones.
type amounts struct {
	sure, bare []float64
	factor     float64 // how often what comes next is there
	usual      float64 // grams of one of the maker's unit
	guessed    bool
}

// amount finds how much there is: a number with a unit of weight, else a bare number. Of two it is unsure.
func (l *Lot) amount(words []*word, weightUnit string) {
	a := amounts{factor: 1, usual: units[strings.ToLower(weightUnit)]}
	if a.usual == 0 {
		a.usual = 1
	}
	for i := range words {
		if !words[i].used {
			a.take(words, i)
		}
	}
	list := a.sure
	if len(list) == 0 {
		list, a.guessed = a.bare, a.guessed || len(a.bare) > 0
	}
	if a.guessed || len(list) > 1 {
		l.unsure(OfGrams)
	}
	if len(list) > 0 && list[0] <= float64(unit.MaxGrams) {
		l.Grams = &list[0]
	}
}

// take makes of a word what it says of the amount.
func (a *amounts) take(words []*word, i int) {
	w := words[i]
	if m := timesOf.FindStringSubmatch(w.low); m != nil { // 3x100g
		a.factor, w.low, a.guessed = read(m[1]), m[2], true
	}
	if m := times.FindStringSubmatch(w.low); m != nil { // 3x
		a.factor, a.guessed = read(m[1]), true
		spent(w)
		return
	}
	if m := glued.FindStringSubmatch(w.low); m != nil { // 100g, 23micron
		if u, ok := units[m[2]]; ok {
			a.sure, a.factor = append(a.sure, a.factor*read(m[1])*u), 1
			spent(w)
		}
		w.used = w.used || other[m[2]]
		return
	}
	if m := number.FindStringSubmatch(w.low); m != nil {
		v, next := a.parts(words, i, over(m))
		a.with(words, w, v, next)
	}
}

// over is a number, or a fraction.
func over(m []string) float64 {
	v := read(m[1])
	if d := read(m[2]); d > 0 {
		v /= d
	}
	return v
}

// parts adds a fraction that stands behind a whole number: 1 1/2, 1 .5; next is the word after them.
func (a *amounts) parts(words []*word, i int, v float64) (sum float64, next int) {
	next = i + 1
	if next >= len(words) || strings.ContainsAny(words[i].low, ".,/") {
		return v, next
	}
	f := number.FindStringSubmatch(words[next].low)
	if f == nil || f[2] == "" && !strings.HasPrefix(f[1], ".") {
		return v, next
	}
	spent(words[next])
	return v + over(f), next + 1
}

// with takes a number with what stands behind it: a unit of weight, times, or something that is no weight.
func (a *amounts) with(words []*word, w *word, v float64, next int) {
	var after string
	if next < len(words) {
		after = words[next].low
	}
	switch u, weight := units[after]; {
	case weight:
		a.sure, a.factor = append(a.sure, a.factor*v*u), 1
		spent(w, words[next])
	case after == "x" || after == "×":
		a.factor, a.guessed = v, true
		spent(w, words[next])
	case other[after]:
		w.used, words[next].used = true, true
	default:
		a.bare, a.factor = append(a.bare, a.factor*v*a.usual), 1
		spent(w)
	}
}

// spent marks words that the amount is made of.
func spent(words ...*word) {
	for _, w := range words {
		w.used, w.amount = true, true
	}
}

// read reads a number that was written with a point or a comma.
func read(s string) float64 {
	v, _ := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
	return v
}
