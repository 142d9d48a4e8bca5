package web

import (
	"bytes"
	"fmt"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// How a batt is spun is kept: replaced by version, undone, and drawn as it stands.
func TestAYarnIsKept(t *testing.T) {
	c := sample(t)
	code, y := c.json("GET", api.Root+"/layups/2/yarn", "")
	require.Equal(t, 200, code, y)
	assert.Equal(t, "two", y["ply"])
	put := func(version any, more string) (int, map[string]any) {
		return c.json("PUT", fmt.Sprintf("%s/yarns/%v", api.Root, y["id"]), fmt.Sprintf(`{"version":%v,"way":"strips","parts":7,"ply":"chain",%s}`, version, more))
	}
	code, chain := put(y["version"], `"even":true`)
	require.Equal(t, 200, code, chain)
	assert.InDelta(t, y["singles_m"], chain["singles_m"], 1e-6, "the same fibre")
	assert.InDelta(t, chain["singles_m"].(float64)/3/1.05, chain["plied_m"], 1e-6)
	grams := 0.0
	for _, p := range chain["divided"].([]any) {
		g := p.(map[string]any)["grams"].(float64)
		assert.InDelta(t, chain["divided"].([]any)[0].(map[string]any)["grams"], g, 1e-6, "parts by weight")
		grams += g
	}
	assert.InDelta(t, chain["singles_m"], 10*grams*0.97*chain["grist_m_per_100g"].(float64)*3*1.05/1000, 1e-6)
	code, _ = put(y["version"], `"even":false`)
	assert.Equal(t, 409, code, "another window was first")
	for more, field := range map[string]string{`"parts":99`: "division.parts", `"cloth":"lace"`: "cloth", `"stitches":5000`: "stitches", `"singles_grist_m_per_100g":3`: "singles"} {
		code, got := c.json("PUT", fmt.Sprintf("%s/yarns/%v", api.Root, y["id"]), fmt.Sprintf(`{"version":%v,"way":"strips",%s}`, chain["version"], more))
		assert.Equal(t, 422, code, more)
		assert.Contains(t, fmt.Sprint(got["errors"]), field, more)
	}
	code, back := c.json("POST", fmt.Sprintf("%s/yarns/%v/steps", api.Root, y["id"]), fmt.Sprintf(`{"version":%v,"way":"undo"}`, chain["version"]))
	require.Equal(t, 200, code, back)
	assert.Equal(t, "two", back["ply"])
	page := c.page("/layups/2/yarn")
	at := strings.Index(page, "/layups/2/yarn.png?")
	require.Positive(t, at)
	address := page[at : at+strings.IndexAny(page[at:], `"`)]
	address = strings.NewReplacer(`\u0026`, "&").Replace(address)
	for _, what := range []string{"bar", "strand", "cloth"} {
		w := c.do("GET", address+"&from=3&what="+what, "", "")
		require.Equal(t, 200, w.Code, what)
		_, err := png.Decode(bytes.NewReader(w.Body.Bytes()))
		require.NoError(t, err, what)
		assert.Contains(t, w.Header().Get("Cache-Control"), "immutable", "its address names what it rests on")
	}
	assert.Equal(t, 404, c.do("GET", address+"&what=lace", "", "").Code)
	assert.Equal(t, 422, c.do("GET", "/layups/2/yarn.png?what=bar&plan=%25", "", "").Code)
}

// Four ways make four yarns of one batt, each of all its fibre.
func TestOneBattFourWays(t *testing.T) {
	c := sample(t)
	code, ways := c.list("GET", "/layups/3/yarn/ways")
	require.Equal(t, 200, code)
	require.Len(t, ways, 4)
	seen := map[string]bool{}
	for _, w := range ways {
		seen[fmt.Sprint(w["title"], w["said"])] = true
	}
	assert.Len(t, seen, 4)
	code, beside := c.json("GET", "/layups/3/yarn/beside?other=1", "")
	require.Equal(t, 200, code, beside)
	assert.Contains(t, beside["said"], "Place by place")
	code, beside = c.json("GET", "/layups/3/yarn/beside?other=3", "")
	require.Equal(t, 200, code)
	assert.Contains(t, beside["said"], "One yarn to the eye", "a batt beside itself")
	code, _ = c.json("GET", "/layups/3/yarn/beside?other=x", "")
	assert.Equal(t, 422, code)
}

// 240 m at 14 wraps to the inch are estimated; a sample of 20 m that weighs 5.5 g measures 363.6 m
// in 100 g, and the need takes it. The skein of 176 turns of 150 cm, 264 m, has 24 m to
// spare. What it showed counts in the next need.
func TestFromSampleToSkein(t *testing.T) {
	c := sample(t)
	code, n := c.json("POST", api.Root+"/makings/1/need", `{"way":"yarn","length_m":240,"wpi":14}`)
	require.Equal(t, 201, code, n)
	assert.Equal(t, true, n["estimated"])
	code, v := c.json("POST", api.Root+"/makings/1/yarnsamples", `{"name":"first","ply":"two","length_m":20,"weight_g":5.5,"wpi":14}`)
	require.Equal(t, 201, code, v)
	assert.InDelta(t, 363.636, v["grist_m_per_100g"], 1e-3)
	code, n = c.json("GET", api.Root+"/makings/1/need", "")
	require.Equal(t, 200, code)
	assert.Equal(t, false, n["estimated"])
	assert.Equal(t, "first", n["measured"])
	assert.InDelta(t, 66, n["yarn_g"], 1e-6, "240 m at 363.6 m in 100 g")
	code, liked := c.json("POST", api.Root+"/makings/1/yarnsamples", `{"name":"thicker","length_m":10,"weight_g":4,"liked":true}`)
	require.Equal(t, 201, code, liked)
	_, n = c.json("GET", api.Root+"/makings/1/need", "")
	assert.Equal(t, "thicker", n["measured"], "the one that was liked")
	require.Equal(t, 204, c.do("DELETE", fmt.Sprintf("%s/yarnsamples/%v", api.Root, liked["id"]), "", "").Code)
	_, n = c.json("GET", api.Root+"/makings/1/need", "")
	assert.Equal(t, "first", n["measured"])

	code, k := c.json("POST", api.Root+"/makings/1/skeins", `{"name":"skein","ply":"two","turns":176,"girth_cm":150,"weight_g":73,"raw_g":74.5,"fibre_g":78,"raw_m":265,"singles_m":556.5}`)
	require.Equal(t, 201, code, k)
	assert.InDelta(t, 264, k["length_m"], 1e-9)
	assert.InDelta(t, 5, k["take_up_pct"], 1e-9)
	code, a := c.json("GET", api.Root+"/makings/1/skeins/against", "")
	require.Equal(t, 200, code)
	assert.Equal(t, true, a["enough"])
	assert.InDelta(t, 24, a["spare_m"], 1e-9)
	page := c.page("/makings/1/yarn")
	assert.Contains(t, page, "Enough: 264\u00a0m of 240\u00a0m needed, with 24.0\u00a0m to spare.")
	assert.Contains(t, page, "lost in spinning 4.5")
	_, next := c.json("POST", api.Root+"/makings/2/need", `{"way":"yarn","length_m":100,"grist_m_per_100g":300}`)
	waste := 1 - 74.5/78.0
	washed := 1 - 73/74.5
	assert.InDelta(t, 100.0/3*1.1/((1-waste)*(1-washed)), next["fibre_g"], 0.06, "as the skein showed")
	assert.Contains(t, c.page("/notebook"), "/skeins/")
	_, note := c.json("GET", api.Root+"/notebook?sort=skein", "")
	assert.Equal(t, 1.0, note["total"])

	for body, field := range map[string]string{
		`{"name":"x"}`: "length_m", `{"name":"","length_m":5}`: "name", `{"name":"x","length_m":-5}`: "length_m", `{"name":"x","length_m":5,"ply":"nine"}`: "ply",
		`{"name":"x","length_m":5,"lots":[9999]}`: "lots[0]", `{"name":"x","turns":-1,"length_m":5}`: "turns", `{"name":"x","length_m":5,"gone":"lost"}`: "gone",
	} {
		code, got := c.json("POST", api.Root+"/makings/1/skeins", body)
		assert.Equal(t, 422, code, body)
		assert.Contains(t, fmt.Sprint(got["errors"]), field, body)
	}
	code, got := c.json("PUT", fmt.Sprintf("%s/skeins/%v", api.Root, k["id"]), `{"version":9,"name":"x","length_m":5}`)
	assert.Equal(t, 409, code, got)
	require.Equal(t, 204, c.do("DELETE", fmt.Sprintf("%s/skeins/%v", api.Root, k["id"]), "", "").Code)
	assert.Contains(t, c.page("/makings/1/yarn"), "Nothing is spun yet of 240")
	require.Equal(t, 204, c.do("POST", fmt.Sprintf("%s/skeins/%v/restore", api.Root, k["id"]), "", "").Code)
}

// A batt that is spun up leaves the shelf.
func TestWhatIsSpunLeavesTheShelf(t *testing.T) {
	c := sample(t)
	code, lot := c.json("POST", api.Root+"/lots", `{"name":"a batt","kind":"corriedale","preparation":"carded_sliver","grams":58,"colours":[{"share":1,"hex":"#336699"}]}`)
	require.Equal(t, 201, code, lot)
	code, k := c.json("POST", api.Root+"/makings/2/skeins", fmt.Sprintf(`{"name":"skein","weight_g":55,"lots":[%v]}`, lot["id"]))
	require.Equal(t, 201, code, k)
	_, lot = c.json("GET", fmt.Sprintf("%s/lots/%v", api.Root, lot["id"]), "")
	assert.Zero(t, lot["grams"])
	assert.Contains(t, c.page(fmt.Sprintf("/lots/%v", lot["id"])), "spun")
}

// What is typed wrongly stays in the forms of skeins and samples, with what is wrong at the field.
func TestFormsOfYarnKeepWhatWasTyped(t *testing.T) {
	c := sample(t)
	w := c.form("/makings/2/skeins/new", "name", "my skein", "turns", "many", "girth_cm", "150", "weight_g", "57", "note", "spun in the evening")
	assert.Equal(t, 422, w.Code)
	for _, kept := range []string{`value="many"`, `value="my skein"`, `value="150"`, "spun in the evening", "the turns on the reel as a whole number"} {
		assert.Contains(t, w.Body.String(), kept)
	}
	w = c.form("/makings/2/yarnsamples/new", "name", "a", "swatches[1].tool", "hook 5 mm", "swatches[1].stitches", "x", "hand", "springy")
	assert.Equal(t, 422, w.Code)
	for _, kept := range []string{"hook 5 mm", `value="x"`, "springy"} {
		assert.Contains(t, w.Body.String(), kept)
	}
	w = c.form("/makings/2/yarnsamples/new", "name", "a", "length_m", "20", "weight_g", "6", "swatches[0].tool", "hook 5 mm", "swatches[0].stitches",
		"16", "sheds", "no",
		"liked", "yes")
	require.Equal(t, 303, w.Code, w.Body.String())
	page := c.page("/makings/2/yarn")
	for _, shown := range []string{"hook 5 mm", "333\u00a0m in 100", "liked"} {
		assert.Contains(t, page, shown)
	}
	assert.Contains(t, c.page("/yarnsamples/1/card?size=A4"), "tie the yarn")
	w = c.form("/yarnsamples/1", "version", "0", "name", "other")
	assert.Equal(t, 409, w.Code)
	assert.Contains(t, w.Body.String(), "Another window saved this")
}
