package trouble

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
)

// plain is a wool of which nothing is said: neither fine nor long, neither gripping nor slippery.
func plain(change func(*Fibre)) Fibre {
	f := Fibre{Preparation: "carded_sliver", Kind: fibre.Kind{
		Family: "wool", Role: "base", Cohesion: "smooth", Crimp: "medium", LickerIn: "ok", Density: 1.3,
		DiameterUM: fibre.Range{Low: 30, High: 30}, StapleMM: fibre.Range{Low: 140, High: 140},
	}}
	change(&f)
	return f
}

// ofShare has a part of the weight be fibre that is something, by the name of the fact.
var ofShare = map[string]func(*Fibre){
	"short": func(f *Fibre) { f.StapleMM = 44 }, "slippery": func(f *Fibre) { f.Kind.Cohesion = "slippery" },
	"carrier":   func(f *Fibre) { f.Kind.Cohesion, f.StapleMM = "grippy", 130 },
	"superwash": func(f *Fibre) { f.Superwash = true }, "fine": func(f *Fibre) { f.Kind.DiameterUM = fibre.Range{Low: 21, High: 22} },
	"long": func(f *Fibre) { f.StapleMM = 151 }, "fragile": func(f *Fibre) { f.Kind.Fragile = true }, "static": func(f *Fibre) { f.Kind.Static = true },
	"sparkle": func(f *Fibre) { f.Kind.Role, f.Kind.Family = "sparkle", "sparkle" }, "locks": func(f *Fibre) { f.Kind.Key, f.Kind.Role = "locks_wool", "texture" },
	"dots": func(f *Fibre) { f.Kind.Role, f.Kind.Family = "texture", "texture" }, "raw": func(f *Fibre) { f.Preparation = "raw_fleece" },
	"uncarded": func(f *Fibre) { f.Preparation = "washed_locks" }, "top": func(f *Fibre) { f.Preparation = "combed_top" },
	"smallest": func(*Fibre) {},
}

// flags are the facts that are so or not: what makes them so, and a near case that does not.
var flags = map[string][2]func(*Facts){
	"tpi_low":     {kinds(0, func(f *Fibre) { f.Kind.MinTPI = 73 }), kinds(0, func(f *Fibre) { f.Kind.MinTPI = 72 })},
	"damp":        {kinds(0, func(f *Fibre) { f.WashedHours = hours(23.9) }), kinds(0, func(f *Fibre) { f.WashedHours = hours(24) })},
	"dyed":        {kinds(0, func(f *Fibre) { f.DyedByHand = yes(true) }), kinds(0, func(f *Fibre) { f.DyedByHand = yes(false) })},
	"opposed":     {colours(60, 30, 0, 40, -30, 1), colours(60, 30, 0, 40, -15, 1)},
	"pale":        {colours(65, 3, 3, 90, 0, 0), colours(65, 3, 3, 64.9, 0, 0)},
	"near":        {colours(50, 10, 0, 61.9, 10, 0), colours(50, 10, 0, 62, 10, 0)},
	"electric":    {func(f *Facts) { f.Bed.Electric = true }, func(f *Facts) { f.Bed.Electric = false }},
	"base_bad":    {kinds(0, func(f *Fibre) { f.Kind.Cohesion = "slippery" }), kinds(0, func(f *Fibre) { f.Kind.Cohesion = "grippy" })},
	"top_bare":    {kinds(1, ofShare["dots"]), kinds(1, ofShare["locks"])},
	"fed_sparkle": {kinds(0, ofShare["sparkle"]), kinds(1, ofShare["sparkle"])},
	"fed_dots":    {kinds(0, ofShare["dots"]), kinds(1, ofShare["dots"])},
	"fed_locks":   {kinds(0, ofShare["locks"]), kinds(1, ofShare["locks"])},
	"fed_avoid":   {kinds(0, func(f *Fibre) { f.Kind.LickerIn = "avoid" }), kinds(1, func(f *Fibre) { f.Kind.LickerIn = "avoid" })},
}

func hours(v float64) *float64 { return &v }
func yes(v bool) *bool         { return &v }

// kinds changes one of two fibres: the first is fed and lies on the cloth, the second is painted on.
func kinds(which int, change func(*Fibre)) func(*Facts) {
	return func(f *Facts) { change(&f.Fibres[which]) }
}

func colours(l1, a1, b1, l2, a2, b2 float64) func(*Facts) {
	return func(f *Facts) {
		f.Fibres[0].Colour, f.Fibres[1].Colour = &colour.Lab{L: l1, A: a1, B: b1}, &colour.Lab{L: l2, A: a2, B: b2}
	}
}

// base are facts of which everything is told and nothing stands out.
func base() Facts {
	b := beds["drum_standard_hand"]
	one := func(v float64) *float64 { return &v }
	return Facts{
		Bed: &b, Pass: 2, Step: Laying, ClearanceMM: one(0.7), TurnsPerMin: one(22), HumidityPct: one(50), FeedGPerTurn: one(0.27), ResidueG: one(0.6),
		Fibres: []Fibre{plain(func(f *Fibre) { f.Share = 0.5 }), plain(func(f *Fibre) { f.Share = 0.5 })},
		Layers: []layup.Layer{{Lays: []layup.Lay{{To: 1, End: 1, Grams: 20, Method: layup.Feed}}}, {Lays: []layup.Lay{{Component: 1, To: 1, End: 1, Grams: 20,
			Method: layup.Paint}}}},
	}
}

// put has the fact of a term be a value, or a word.
func put(f *Facts, name string, v float64, word string) {
	if change, ok := ofShare[name]; ok {
		if name == "smallest" {
			f.Fibres[0].Share, f.Fibres[1].Share = v/100, 1-v/100
			return
		}
		add := plain(change)
		add.Share = v / 100
		f.Fibres = append(f.Fibres, add)
		return
	}
	lanes := func(by [10]float64) {
		f.Layers = []layup.Layer{{}}
		for i, g := range by {
			f.Layers[0].Lays = append(f.Layers[0].Lays, layup.Lay{From: float64(i) / 10, To: float64(i+1) / 10, End: 1, Grams: g, Method: layup.Feed})
		}
	}
	switch name {
	case "device":
		f.Bed.Type = layup.Type(word)
	case "step":
		f.Step = Stage(word)
	case "pass":
		f.Pass = int(v)
	case "clearance_mm":
		f.ClearanceMM = &v
	case "turns_per_min":
		f.TurnsPerMin = &v
	case "humidity_pct":
		f.HumidityPct = &v
	case "feed_ratio":
		g := v * f.Bed.FeedG
		f.FeedGPerTurn = &g
	case "residue_pct":
		g := v / 100 * 20
		f.ResidueG = &g
	case "load":
		f.Layers = []layup.Layer{{Lays: []layup.Lay{{To: 1, End: 1, Grams: v * 70, Method: layup.Feed}}}}
	case "lane_max":
		rest := (10 - v) / 9
		lanes([10]float64{v, rest, rest, rest, rest, rest, rest, rest, rest, rest})
	case "lane_min":
		rest := (10 - v) / 9
		lanes([10]float64{v, rest, rest, rest, rest, rest, rest, rest, rest, rest})
	case "n_layers":
		f.Layers = make([]layup.Layer, int(v))
		for i := range f.Layers {
			f.Layers[i].Lays = []layup.Lay{{To: 1, End: 1, Grams: 2, Method: layup.Feed}}
		}
	case "painted":
		f.Layers[0].Lays[0].Grams, f.Layers[1].Lays[0].Grams = 100-v, v
	case "staple_ratio":
		f.Fibres[0].StapleMM, f.Fibres[1].StapleMM = 50, 50*v
	case "cover_ratio":
		f.Fibres[0].Kind.Density = 1.3 * v
	default:
		panic(name)
	}
}

// sides are a value that makes a term hold, and a near one that does not.
func (t term) sides() (on, off float64, onWord, offWord string) {
	step := 0.01
	if t.name == "pass" || t.name == "n_layers" {
		step = 1
	}
	switch t.op {
	case ">":
		return t.number + step, t.number, "", ""
	case "<":
		return t.number - step, t.number, "", ""
	case ">=":
		return t.number, t.number - step, "", ""
	case "<=":
		return t.number, t.number + step, "", ""
	case "!=":
		return 0, 0, "board", t.word
	}
	if t.word != "" && (t.name == "device" || t.name == "step") {
		return 0, 0, t.word, map[string]string{"device": "hands", "step": "spin"}[t.name]
	}
	return t.number, t.number + step, "", ""
}

// Every condition has a case that turns it on and, for each of its terms, a near one that does not; and one in which it is not told.
func TestEveryConditionTurnsOnAndOff(t *testing.T) {
	n := 0
	for _, s := range symptoms {
		for _, c := range s.causes {
			for _, v := range c.conds {
				n++
				for off := -1; off < len(v.terms); off++ {
					f := base()
					for i, one := range v.terms {
						if pair, ok := flags[one.name]; ok {
							pair[map[bool]int{true: 1, false: 0}[i == off]](&f)
							continue
						}
						on, not, onWord, offWord := one.sides()
						if i == off {
							on, onWord = not, offWord
						}
						put(&f, one.name, on, onWord)
					}
					holds, missing := v.holds(f)
					assert.Empty(t, missing, v.text)
					assert.Equal(t, off < 0, holds, "%s of %s, term %d off", v.text, s.Key, off)
				}
				holds, missing := v.holds(Facts{})
				assert.False(t, holds, v.text)
				assert.Contains(t, fields, missing, v.text)
			}
		}
	}
	assert.Equal(t, 289, n)
}

// Likelihoods add up to 1, fall, and are the same for the same request; what helped before comes no later than it did.
func TestCausesInTheirOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.SampledFrom(symptoms).Draw(t, "seen")
		f := cases[rapid.IntRange(0, len(cases)-1).Draw(t, "case")].drawn(t)
		a, err := Find(s.Key, f, nil)
		require.NoError(t, err)
		var sum float64
		for i, c := range a.Causes {
			if sum += c.Likely; i > 0 {
				assert.LessOrEqual(t, c.Score, a.Causes[i-1].Score+1e-9)
			}
		}
		if len(a.Causes) == 0 {
			return
		}
		assert.InDelta(t, 1, sum, 0.0006*float64(len(a.Causes)))
		assert.LessOrEqual(t, len(a.Ask), 2)
		key := rapid.SampledFrom(a.Causes).Draw(t, "helped").Key
		b, err := Find(s.Key, f, []string{key})
		require.NoError(t, err)
		at := func(list []Cause) int { return slices.IndexFunc(list, func(c Cause) bool { return c.Key == key }) }
		assert.LessOrEqual(t, at(b.Causes), at(a.Causes))
		again, err := Find(s.Key, f, []string{key})
		require.NoError(t, err)
		assert.Equal(t, b, again)
	})
}

// drawn are the facts of a worked case with some of them not told.
func (w worked) drawn(t *rapid.T) Facts {
	for _, v := range []*float64{&w.clearance, &w.feed, &w.turns, &w.residue, &w.humidity} {
		if rapid.Bool().Draw(t, "told") {
			*v = 0
		}
	}
	if rapid.Bool().Draw(t, "laid") {
		w.laid = nil
	}
	return w.facts(t)
}

// Everything that can be seen is offered somewhere, with words; what only a small drum does is not offered on a board.
func TestSymptomsAreOffered(t *testing.T) {
	assert.Len(t, Symptoms(), 22)
	causes := 0
	for _, s := range Symptoms() {
		causes += len(s.causes)
		assert.NotEmpty(t, s.Seen)
		assert.NotEmpty(t, s.Stages, s.Key)
		for _, step := range s.Stages {
			assert.Contains(t, Stages(), step)
		}
	}
	assert.Equal(t, 110, causes)
	assert.Len(t, wordsOf, 71)
	has := func(list []Symptom, key string) bool {
		return slices.ContainsFunc(list, func(s Symptom) bool { return s.Key == key })
	}
	assert.True(t, has(SymptomsAt(Laying, true), "small_drum"))
	assert.False(t, has(SymptomsAt(Laying, false), "small_drum"))
	assert.True(t, has(SymptomsAt(Rolling, false), "rolag_comes_apart"))
	_, err := Find("smoke", Facts{}, nil)
	assert.Error(t, err)
	for _, bad := range []string{"= x\nSeen.\n@ lay\na|b", "= x\nSeen.\n@ lay\na|1|1|none|moon>1 x2", "= x\nSeen.\n@ lay\na|1|1|none|fine>1", "= x\nSeen.\n@ lay\na|y|1|none|near x2"} {
		before := slices.Clone(symptoms)
		assert.Error(t, read(bad), fmt.Sprintf("%q", bad))
		symptoms = before
	}
}
