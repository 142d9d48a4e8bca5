package stash

import (
	"fmt"
	"math"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"fairtangle/core/fibre"
)

const oz = 28.349523125

// Lines as people write them.
var lines = []struct {
	line   string
	kind   string
	grams  float64 // 0: none
	prep   string
	unsure string
	left   string
}{
	{"262 g grey-blue corriedale top", "corriedale", 262, "combed_top", "colour", ""},
	{"1.5 oz red silk noil", "silk_noil", 1.5 * oz, "noil_waste", "colour", ""},
	{"undyed romney roving 400", "romney", 400, "carded_sliver", "grams colour", ""},
	{"BFL top, 100g", "bluefaced_leicester", 100, "combed_top", "", ""},
	{"½ lb raw Shetland fleece", "shetland", 8 * oz, "raw_fleece", "", ""},
	{"1 1/2 oz tussah silk", "silk_tussah", 1.5 * oz, "combed_top", "preparation", ""},
	{"2,5 oz kid mohair locks", "mohair_kid", 2.5 * oz, "locks", "", ""},
	{"merino 23 micron navy tops 250 grams", "merino", 250, "combed_top", "kind colour", ""},
	{"3 x 100g finn top", "finnsheep", 300, "combed_top", "grams", ""},
	{"corridale carded sliver 1kg", "corriedale", 1000, "carded_sliver", "kind", ""},
	{"Superwash merino dark teal 80g combed", "merino_superwash", 80, "combed_top", "colour", ""},
	{"bag of black alpaca, 200", "alpaca_huacaya", 200, "combed_top", "grams kind preparation colour", ""},
	{"#7a8c99 polwarth top 60 g", "polwarth", 60, "combed_top", "", ""},
	{"mixed wool scraps 90g", "wool_unknown", 90, "combed_top", "preparation", "scraps"},
	{"mystery batt 40g", "unknown", 40, "batt", "", ""},
	{"unknown wool roving, brown, 3 oz", "wool_unknown", 3 * oz, "carded_sliver", "colour", ""},
	{"red wool top 50g", "wool_unknown", 50, "combed_top", "kind colour", ""},
	{"rust tweed neps 18g", "neps_wool", 18, "neps", "kind colour", "tweed"},
	{"pale pink bamboo", "bamboo_viscose", 0, "combed_top", "preparation colour", ""},
	{"lumpy stuff from the loft", "", 0, "combed_top", "kind preparation", "lumpy stuff from loft"},
	{"washed gotland locks grey 120 gr", "gotland", 120, "locks", "colour", ""},
	{"hemp 50g", "hemp_top", 50, "combed_top", "preparation", ""},
	{"soy fibre tops 1 oz", "soy_protein", oz, "combed_top", "", ""},
	{"angora rabbit 12g", "angora_rabbit", 12, "combed_top", "preparation", ""},
	{"jacob, both colours, 300 g carded", "jacob", 300, "carded_sliver", "", "both colours"},
	{"cheviot batts 60g olive", "cheviot", 60, "batt", "colour", ""},
	{"flax tow 100", "flax_tow", 100, "combed_top", "grams preparation", ""},
	{"wensleydale 100g natural top", "wensleydale", 100, "combed_top", "colour", ""},
}

func TestLinesAsPeopleWriteThem(t *testing.T) {
	for _, c := range lines {
		t.Run(c.line, func(t *testing.T) {
			l := Read(c.line, "g", nil)
			assert.Equal(t, c.kind, l.Kind)
			assert.Equal(t, c.prep, l.Preparation)
			if c.grams == 0 {
				assert.Nil(t, l.Grams)
			} else if assert.NotNil(t, l.Grams) {
				assert.InDelta(t, c.grams, *l.Grams, 1e-6)
			}
			assert.Equal(t, strings.Fields(c.unsure), append([]string{}, l.Unsure...))
			assert.Equal(t, c.left, l.Left)
			assert.NotEmpty(t, l.Name)
			assert.NotContains(t, l.Kinds, l.Kind)
		})
	}
	bare := Read("romney 4", "oz", nil)
	assert.InDelta(t, 4*oz, *bare.Grams, 1e-9, "bare numbers are of the maker's unit")
	assert.Equal(t, "grey-blue corriedale top", Read("262 g grey-blue corriedale top", "g", nil).Name)
	grey := Read("grey-blue romney", "g", nil)
	assert.Equal(t, byte('#'), grey.Hex[0])
}

// Whatever is written is read without harm, and an amount is never made up: there is a number in the line for it.
func TestNoAmountIsMadeUp(t *testing.T) {
	digits := regexp.MustCompile(`\d|[½¼¾⅓⅔⅛]`)
	words := []string{"merino",
		"12", "1/2", "g", "oz", "x", "3x", "½", "red", "tops", "0", "1e9", "-5", "7,5", "kg", "locks", ",", "999999999", "corriedal", "µm", "🧶", "of"}
	rapid.Check(t, func(t *rapid.T) {
		line := strings.Join(rapid.SliceOfN(rapid.SampledFrom(words), 0, 9).Draw(t, "words"), " ")
		if rapid.Bool().Draw(t, "any") {
			line = rapid.String().Draw(t, "line")
		}
		l := Read(line, rapid.SampledFrom([]string{"g", "oz", "", "stone"}).Draw(t, "unit"), nil)
		if l.Grams != nil {
			assert.Regexp(t, digits, line)
			assert.False(t, math.IsNaN(*l.Grams) || *l.Grams < 0)
		}
		if l.Kind != "" {
			_, ok := fibre.FindKind(l.Kind)
			assert.True(t, ok)
		}
		_, ok := fibre.FindPreparation(l.Preparation)
		assert.True(t, ok)
	})
}

// A colour alone is taken by its words; with anything else in it, it is none.
func TestAColourInWords(t *testing.T) {
	assert.Equal(t, colourWords["rust"], ColourOf("Rust"))
	assert.Equal(t, colourWords["teal"], ColourOf(" teal "))
	assert.NotEmpty(t, ColourOf("pale grey-blue"))
	assert.NotEqual(t, ColourOf("dark green"), ColourOf("green"))
	for _, none := range []string{"", "rust wool", "7d8f92", "dark", "#12", "xyzzy"} {
		assert.Empty(t, ColourOf(none), none)
	}
}

// Every word leads to a kind, a preparation or a colour that there is.
func TestEveryWordLeadsSomewhere(t *testing.T) {
	for w, list := range kindWords {
		for _, key := range list {
			_, ok := fibre.FindKind(key)
			assert.True(t, ok, "%s: %s", w, key)
		}
	}
	for w, key := range preparationWords {
		_, ok := fibre.FindPreparation(key)
		assert.True(t, ok, "%s: %s", w, key)
	}
	for _, k := range fibre.Kinds() {
		if k.Unknown() {
			continue
		}
		name, _, _ := strings.Cut(k.Name, ",")
		l := Read(fmt.Sprintf("100 g %s", name), "g", nil)
		assert.NotEmpty(t, l.Kind, name)
	}
	assert.Equal(t, 1, slips("corridale", "corriedale", 2))
	assert.Equal(t, 1, slips("meirno", "merino", 2), "two letters swapped")
	assert.Equal(t, 3, slips("silk", "wool", 2))
}

// Times counts for what follows it alone.
func TestTimesCountsOnce(t *testing.T) {
	a := amounts{factor: 1, usual: 1}
	words := split("2 x 50 g and 30 g")
	for i := range words {
		if !words[i].used {
			a.take(words, i)
		}
	}
	assert.Equal(t, []float64{100, 30}, a.sure)
}

// A maker's own names of kinds are understood, of her own kinds as of the others, before those that are usual; a slip of typing too.
func TestOwnNames(t *testing.T) {
	names := Named(map[string]string{"Herd": "own-3", "cori": "corriedale", "bfl": "own-4", "  Old  Ewe ": "own-5", "": "own-6"})
	for line, kind := range map[string]string{"120 g herd roving": "own-3", "cori 50 g blue": "corriedale", "bfl 10 g": "own-4", "old ewe, 30 g": "own-5",
		"romney 20": "romney", "20 g": ""} {
		assert.Equal(t, kind, Read(line, "g", names).Kind, line)
	}
	assert.Equal(t, "bluefaced_leicester", Read("bfl 10 g", "g", nil).Kind, "the usual names stay as they are")
}
