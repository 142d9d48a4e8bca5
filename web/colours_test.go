package web

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// paintedTop is a top of five colours, in runs of 12 cm at 25 g in a metre: 3 g each.
const paintedTop = `"colours":[{"colour":{"hex":"#33586b"},"share":0.2,"run_cm":12},{"colour":{"hex":"#86a79c"},"share":0.2,"run_cm":12},
	{"colour":{"hex":"#d6b36a"},"share":0.2,"run_cm":12},{"colour":{"hex":"#a2473f"},"share":0.2,"run_cm":12},{"colour":{"hex":"#f1ece1"},"share":0.2,"run_cm":12}]`

func battOf(how string) string {
	return `{"equipment":{"preset":"drum_standard_hand"},"components":[{"name":"wool","colour":{"hex":"#888888"},"kind":"corriedale"},
	{"name":"painted","kind":"merino",` + paintedTop + how + `}],
	"layers":[{"lays":[{"component":0,"grams":10,"method":"feed"}]},{"lays":[{"component":1,"grams":30,"method":"feed"}]}],
	"passes":[{"split":4,"refeed":"spread"}],"seed":1}`
}

// A top of many colours: what is predicted is its mean, as if each were a component; in a batt every colour is there with its grams,
// and the component is what they make together, however they lie.
func TestATopOfManyColours(t *testing.T) {
	c := sample(t)
	code, many := c.json(
		"POST",
		api.Root+"/predict",
		`{"components":[{"name":"top","parts":5,`+paintedTop+`},{"name":"wool","colour":{"hex":"#888888"},"parts":5}]}`,
	)
	require.Equal(t, 200, code, many)
	code, each := c.json("POST", api.Root+"/predict", `{"components":[{"colour":{"hex":"#33586b"},"parts":1},{"colour":{"hex":"#86a79c"},"parts":1},
	{"colour":{"hex":"#d6b36a"},"parts":1},{"colour":{"hex":"#a2473f"},"parts":1},{"colour":{"hex":"#f1ece1"},"parts":1},{"colour":{"hex":"#888888"},"parts":5}]}`)
	require.Equal(t, 200, code, each)
	lab := func(a map[string]any) []any { return a["colour"].(map[string]any)["lab"].([]any) }
	for i := range 3 {
		assert.InDelta(t, lab(each)[i], lab(many)[i], 1e-9)
	}
	looks := map[string]float64{}
	for _, how := range []string{`,"lies":"along"`, `,"fed":"abreast","abreast":5`, `,"fed":"torn-up"`, `,"lies":"across"`, `,"lies":"patches","patch_cm":3`,
		`,"lies":"stirred"`, `,"fed":"stirred-first"`} {
		code, got := c.json("POST", api.Root+"/simulate", battOf(how))
		require.Equal(t, 200, code, "%s: %v", how, got)
		for _, st := range got["stages"].([]any) {
			v := st.(map[string]any)
			grams := v["grams"].([]any)
			require.Len(t, grams, 2, how)
			assert.InDelta(t, 30, grams[1], 3e-8, how)
			if v["colour_g"] == nil {
				continue // one colour shows
			}
			own := v["colour_g"].([]any)[1].([]any)
			require.Len(t, own, 5, how)
			for _, g := range own {
				assert.InDelta(t, 6, g, 6e-9, how)
			}
			for x, lane := range v["lane_colour_shares"].([]any) {
				var sum float64
				for _, s := range lane.([]any)[1:] {
					sum += s.(float64)
				}
				assert.InDelta(t, v["lane_shares"].([]any)[x].([]any)[1], sum, 1e-9)
			}
		}
		looks[how] = got["stages"].([]any)[1].(map[string]any)["patch_delta_e"].(float64)
	}
	assert.Greater(t, looks[`,"lies":"across"`], looks[`,"lies":"stirred"`], "what lies side by side is seen longer than what was stirred")
	assert.InDelta(t, looks[`,"lies":"stirred"`], looks[`,"fed":"stirred-first"`], 1e-9)

	code, y := c.json("POST", api.Root+"/yarn/plan", battOf(`,"lies":"across"`)[:len(battOf(`,"lies":"across"`))-1]+
		`,"stage":1,"division":{"way":"strips","parts":5},"ply":"chain"}`)
	require.Equal(t, 200, code, y)
	for _, r := range y["runs"].([]any) {
		assert.Len(t, r.(map[string]any)["shares"], 2, "shares are of components")
	}
	assert.Greater(t, len(y["runs"].([]any)), 3, "a painted top is no yarn of one colour")
}

// Where one colour is asked for, a top of many counts as its mean: in a search, in advice, in a lay-up.
func TestManyColoursCountAsTheirMean(t *testing.T) {
	c := sample(t)
	two := `"colours":[{"colour":{"reflectance":[` + strings.Repeat(
		"0.2,",
		35,
	) + `0.2]},"share":0.5},{"colour":{"reflectance":[` + strings.Repeat(
		"0.2,",
		35,
	) + `0.2]},"share":0.5}]`
	one := `"colour":{"reflectance":[` + strings.Repeat("0.2,", 35) + `0.2]}`
	for path, body := range map[string]string{
		"/match": `{"target":{"hex":"#7f9296"},"components":[{"id":"a",%s},{"id":"b","colour":{"hex":"#26324a"}}],"max_components":2,"total_g":60,"step_g":0.1,"count":3}`,
		"/advice": `{"components":[{"name":"a","kind":"corriedale","share":0.5,%s},{"name":"b","kind":"romney","share":0.5,"colour":{"hex":"#26324a"}}],
			"equipment":{"preset":"drum_standard_hand"},"passes":2,"goal":"gradient"}`,
		"/layup/build": `{"equipment":{"preset":"drum_standard_hand"},"components":[{"name":"a","grams":20,%s},{"name":"b","grams":20,"colour":{"hex":"#26324a"}}],
			"builder":"lanes","smooth":true}`,
	} {
		code, many := c.json("POST", api.Root+path, fmt.Sprintf(body, two))
		require.Equal(t, 200, code, "%s: %v", path, many)
		_, single := c.json("POST", api.Root+path, fmt.Sprintf(body, one))
		if path == "/match" {
			delete(many, "examined")
			delete(single, "examined")
		}
		assert.Equal(t, single, many, path)
	}
}

// Colours that are told wrong are refused at their field, and more than a forecast can follow are followed with their nearest, which
// is said.
func TestManyColoursToldWrong(t *testing.T) {
	c := sample(t)
	for field, how := range map[string]string{
		"components[0].colours":          `"colours":[{"colour":{"hex":"#111111"},"share":0.5},{"colour":{"hex":"#222222"},"share":0.4}]`,
		"components[0].colour":           `"colour":{"hex":"#111111"},` + paintedTop,
		"components[0].lies":             paintedTop + `,"lies":"inside"`,
		"components[0].fed":              paintedTop + `,"fed":"whole"`,
		"components[0].colours[1].share": `"colours":[{"colour":{"hex":"#111111"},"share":1},{"colour":{"hex":"#222222"},"share":0}]`,
	} {
		code, got := c.json("POST", api.Root+"/simulate", `{"equipment":{"preset":"drum_standard_hand"},"components":[{"name":"a",`+how+`}],
		"layers":[{"lays":[{"component":0,"grams":10,"method":"feed"}]}],"passes":[],"seed":1}`)
		assert.Equal(t, 422, code, how)
		assert.Contains(t, fmt.Sprint(got["errors"]), "field:"+field+" ", how)
	}
	var list []map[string]any
	for i := range 20 {
		list = append(list, map[string]any{"colour": map[string]any{"hex": fmt.Sprintf("#%02x60%02x", 10*i, 250-10*i)}, "share": 0.05})
	}
	colours, err := json.Marshal(list)
	require.NoError(t, err)
	code, got := c.json("POST", api.Root+"/simulate", `{"equipment":{"preset":"drum_standard_hand"},"components":[{"name":"a","colours":`+string(colours)+`},
	{"name":"b","lies":"across","colours":`+string(colours)+`},{"name":"c","fed":"torn-up","colours":`+string(colours)+`}],
	"layers":[{"lays":[{"component":0,"grams":60,"method":"feed"},{"component":1,"grams":10,"method":"feed"},{"component":2,"grams":10,"method":"feed"}]}],
	"passes":[],"seed":1}`)
	require.Equal(t, 200, code, got)
	assert.Contains(t, fmt.Sprint(got["notes"]), "followed together with the nearest")
	own := got["stages"].([]any)[0].(map[string]any)["colour_g"].([]any)[0].([]any)
	require.Len(t, own, 20)
	for _, g := range own {
		assert.InDelta(t, 3, g, 1e-6, "of each colour what was told of it: a run of 12 cm")
	}
}

// How the colours of a lot lie is told in its form, through the API and in its file, and shown at the lot; a word that is none is
// refused there.
func TestALotSaysHowItsColoursLie(t *testing.T) {
	c := sample(t)
	lot := `{"name":"blotchy","kind":"merino","preparation":"combed_top","grams":80,"lies":"%s","run_cm":4,"colours":[{"hex":"#33586b","share":0.5},{"hex":"#d6b36a","share":0.5}]}`
	code, got := c.json("POST", api.Root+"/lots", fmt.Sprintf(lot, "patches"))
	require.Equal(t, 201, code, got)
	assert.Equal(t, "patches", got["lies"])
	page := fmt.Sprintf("/lots/%v", got["id"])
	assert.Contains(t, c.page(page), "in blotches, 4\u00a0cm each")
	assert.Contains(t, c.page(page+"/edit"), `<option value="patches" selected>`)
	assert.Contains(t, c.do("GET", "/shelf/export.csv", "", "").Body.String(), ",patches,4\r\n")
	code, got = c.json("POST", api.Root+"/lots", fmt.Sprintf(lot, "somehow"))
	require.Equal(t, 422, code)
	assert.Contains(t, fmt.Sprint(got["errors"]), "field:lies")
	assert.Contains(t, c.page("/lots/29"), "one after the other along it", "a painted top, where nothing was told")
}
