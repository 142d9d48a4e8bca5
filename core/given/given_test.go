package given

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
)

func drawRecipe(t *rapid.T) Recipe {
	kinds, preps := fibre.Kinds(), fibre.Preparations()
	hexes := rapid.StringMatching(`#[0-9a-f]{6}`)
	n := rapid.IntRange(1, MostComponents).Draw(t, "fibres")
	r := Recipe{Format: Format, Version: 1, Name: rapid.StringMatching(`[^\s].{0,40}`).Draw(t, "name"),
		Note: rapid.SampledFrom([]string{"", "</script><b>", "ไหม 🧶"}).Draw(t, "note"), TotalG: rapid.Float64Range(1, 5000).Draw(t, "grams"), Passes: rapid.IntRange(0, 12).Draw(t, "passes"), Colour: hexes.Draw(t, "colour")}
	parts, sum := make([]float64, n), 0.0
	for i := range parts {
		parts[i] = rapid.Float64Range(0.1, 10).Draw(t, "part")
		sum += parts[i]
	}
	for i := range n {
		k := kinds[rapid.IntRange(0, len(kinds)-1).Draw(t, "kind")]
		r.Components = append(r.Components, Component{Name: fmt.Sprint("fibre ", i), Kind: k.Key, Content: k.Content(),
			Preparation: preps[rapid.IntRange(0, len(preps)-1).Draw(t, "prep")].Key, Colour: hexes.Draw(t, "hex"), Share: parts[i] / sum})
	}
	r.Layers = []Layer{{Lays: []Lay{{Component: 0, From: 0, To: 1, Grams: 1}}}}
	return r
}

// What is given is read the same, alone or in its page, and keeps to the schema that is published.
func TestARecipeIsReadAsItWasGiven(t *testing.T) {
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(Schema))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	require.NoError(t, compiler.AddResource("recipe.schema.json", doc))
	schema, err := compiler.Compile("recipe.schema.json")
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		r := drawRecipe(t)
		text, err := json.Marshal(r)
		require.NoError(t, err)
		value, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
		require.NoError(t, err)
		require.NoError(t, schema.Validate(value))
		for _, data := range [][]byte{text, fmt.Appendf(nil, "<!doctype html>\n<script type=\"application/json\" id=\"fair-tangle-recipe\">%s</script> more", text)} {
			got, err := Read(data)
			require.NoError(t, err)
			require.Equal(t, r, got)
		}
		grams := r.Grams(r.TotalG, 0.1)
		sum := 0.0
		for i, g := range grams {
			sum += g
			assert.InDelta(t, r.Components[i].Share*r.TotalG, g, 0.1+1e-6)
		}
		assert.InDelta(t, math.Round(r.TotalG*10)/10, sum, 1e-6)
	})
}

// Whatever comes: a recipe within bounds, or a message.
func FuzzRecipe(f *testing.F) {
	f.Add([]byte(`{"format":"fair-tangle-recipe","version":1,"name":"x","total_g":10,"passes":1,"colour":"#102030",` +
		`"components":[{"name":"a","kind":"merino","content":"wool","preparation":"combed_top","colour":"#102030","share":1}]}`))
	f.Add([]byte(`<script type="application/json" id="fair-tangle-recipe">{}</script>`))
	f.Fuzz(func(t *testing.T, data []byte) {
		r, err := Read(data)
		if err == nil {
			assert.NoError(t, r.Check())
			assert.NotEmpty(t, r.Grams(r.TotalG, 0.1))
		}
	})
}

func TestWhatIsNoRecipeIsRefused(t *testing.T) {
	for _, none := range []string{"", "{}", "[1]", "<html>", `{"format":"fair-tangle-recipe","version":2}`,
		`{"format":"fair-tangle-recipe","version":1,"name":"x","total_g":1e999}`} {
		_, err := Read([]byte(none))
		assert.Error(t, err, none)
	}
}

// The same kind in the same colour is the nearest; one that comes nearer in colour is never farther; what all others need is left for
// none twice.
func TestTheNearestLotStandsIn(t *testing.T) {
	kind := func(key string) fibre.Kind {
		k, ok := fibre.FindKind(key)
		require.True(t, ok)
		return k
	}
	lab := func(hex string) colour.Lab {
		c, err := colour.ParseHex(hex)
		require.NoError(t, err)
		return c.Lab()
	}
	lots := []Lot{
		{ID: 1, Kind: kind("silk_mulberry"), Preparation: "combed_top", StapleMM: 115, Lab: lab("#6b8799"), Grams: 500},
		{ID: 2, Kind: kind("romney"), Preparation: "combed_top", StapleMM: 140, Lab: lab("#6b8799"), Grams: 500},
		{ID: 3, Kind: kind("corriedale"), Preparation: "combed_top", StapleMM: 115, Lab: lab("#6f8a9c"), Grams: 60},
	}
	c := Component{Name: "blue", Kind: "corriedale", Preparation: "combed_top", Colour: "#6b8799", Share: 1}
	got := Nearest(c, 50, lots, 5)
	require.Len(t, got, 3)
	assert.Equal(t, []int{2, 1, 0}, []int{got[0].Lot, got[1].Lot, got[2].Lot})
	assert.Equal(t, 10.0, Nearest(c, 70, lots, 1)[0].LacksG)
	assert.Equal(t, 1, Nearest(c, 600, lots, 1)[0].Lot, "there is too little of the nearest")
	r := Recipe{Components: []Component{c, c, {Name: "glitter", Kind: "film_metallised", Preparation: "threads", Colour: "#d0d0d0"}}}
	assert.Equal(t, []int{2, 1, -1}, Stand(r, []float64{50, 40, 3}, lots), "used once, and nothing stands in for glitter")
	rapid.Check(t, func(t *rapid.T) {
		at := rapid.SampledFrom(lots).Draw(t, "lot")
		near, off := at, at
		near.Lab.L, off.Lab.L = lab(c.Colour).L+rapid.Float64Range(0, 5).Draw(t, "near"), lab(c.Colour).L+rapid.Float64Range(6, 40).Draw(t, "off")
		assert.Less(t, Nearest(c, 10, []Lot{near}, 1)[0].Far(), Nearest(c, 10, []Lot{off}, 1)[0].Far())
	})
}
