package web

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image/png"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// spinning is twoHalves with how it is spun.
func spinning(more string) string { return strings.TrimSuffix(twoHalves, "}") + "," + more + "}" }

type plannedYarn struct {
	SinglesM float64 `json:"singles_m"`
	PliedM   float64 `json:"plied_m"`
	GristM   float64 `json:"grist_m_per_100g"`
	LeftM    float64 `json:"left_m"`
	Pattern  string  `json:"pattern"`
	Parts    []struct {
		Grams float64 `json:"grams"`
	} `json:"parts"`
	Runs []struct {
		From   float64   `json:"from_m"`
		To     float64   `json:"to_m"`
		Shares []float64 `json:"shares"`
		Colour struct {
			Hex string `json:"hex"`
		} `json:"colour"`
	} `json:"runs"`
}

func planned(t *testing.T, c client, body string) (y plannedYarn) {
	w := c.do("POST", api.Root+"/yarn/plan", "application/json", body)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &y))
	return y
}

// 40 g of navy and cream side by side, as first laid: 20 g and 19.4 g come off. At 100 tex with 3 %
// lost that is 39.4·0.97·10 = 382.18 m of single; 191.09 m less a twentieth plied of two halves,
// a barber's pole; chain-plied of two strips 121.33 m, of which the navy is 20/39.4.
func TestTheYarnOfABatt(t *testing.T) {
	c := sample(t)
	y := planned(t, c, spinning(`"stage":1,"division":{"way":"halves"},"ply":"two","singles_tex":100`))
	assert.InDelta(t, 382.18, y.SinglesM, 1e-6)
	assert.InDelta(t, 382.18/2/1.05, y.PliedM, 1e-6)
	assert.Equal(t, "barber pole", y.Pattern)
	y = planned(t, c, spinning(`"stage":1,"division":{"way":"strips","parts":2},"ply":"chain"`))
	assert.InDelta(t, 382.18/2.1/3/1.05, y.PliedM, 1e-6, "a single has 210 tex where nothing else is told")
	require.Len(t, y.Runs, 2)
	assert.InDelta(t, y.PliedM*20/39.4, y.Runs[0].To, 0.02*y.PliedM, "the lanes at the border are of both")
	assert.Greater(t, y.Runs[0].Shares[0], 0.95)
	assert.Less(t, y.Runs[1].Shares[0], 0.05)
	back := planned(t, c, spinning(`"stage":1,"division":{"way":"strips","parts":2},"spin":{"order":"right-to-left"},"ply":"chain"`))
	assert.Equal(t, y.Runs[1].Colour.Hex[:2], back.Runs[0].Colour.Hex[:2])
	at := 0.0
	for _, r := range planned(t, c, spinning(`"division":{"way":"strips","parts":7},"ply":"three","singles_tex":300,"take_up_pct":0,"waste_pct":0`)).Runs {
		require.InDelta(t, at, r.From, 1e-9)
		at = r.To
	}
	assert.Equal(t, "barber pole", planned(t, c, spinning(`"stage":1,"pair":"mirrored","ply":"two","division":{"way":"strips","parts":2}`)).Pattern,
		"a batt and its mirror put one colour beside the other")
	assert.NotEqual(t, "barber pole", planned(t, c, spinning(`"stage":1,"pair":"second","ply":"two","division":{"way":"strips","parts":2}`)).Pattern)
}

func TestYarnIsDrawnAtItsScale(t *testing.T) {
	c := sample(t)
	body := spinning(`"stage":2,"ply":"two"`)
	w := c.do("POST", api.Root+"/yarn/strand.png?from_m=20&length_cm=4&width=400", "application/json", body)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	img, err := png.Decode(bytes.NewReader(w.Body.Bytes()))
	require.NoError(t, err)
	assert.Equal(t, 400, img.Bounds().Dx())
	// Two singles of 100 tex side by side are 4·0.0357·√(100/0.55)/2 = 0.96 mm: 9.6 pixels at most.
	thick := 0
	for y := range img.Bounds().Dy() {
		if _, _, _, a := img.At(200, y).RGBA(); a > 0xf000 {
			thick++
		}
	}
	assert.GreaterOrEqual(t, thick, 4)
	assert.LessOrEqual(t, thick, 13)
	assert.Equal(t, w.Body.Bytes(), c.do("POST", api.Root+"/yarn/strand.png?from_m=20&length_cm=4&width=400", "application/json", body).Body.Bytes())
	w = c.do("POST", api.Root+"/yarn/swatch.png?stitches=20&rows=10&stitch_mm=12&from_m=3", "application/json", body)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	_, err = png.Decode(bytes.NewReader(w.Body.Bytes()))
	require.NoError(t, err)
	for query, field := range map[string]string{
		"strand.png?from_m=900": "from_m", "strand.png?length_cm=0": "length_cm", "strand.png?width=3": "width", "strand.png?from_m=x": "from_m",
		"swatch.png?stitches=0": "stitches", "swatch.png?rows=9000": "rows", "swatch.png?stitch_mm=NaN": "stitch_mm", "swatch.png?from_m=175": "from_m",
		"swatch.png?stitches=x": "stitches",
	} {
		w := c.do("POST", api.Root+"/yarn/"+query, "application/json", body)
		assert.GreaterOrEqual(t, w.Code, 400, query)
		assert.Less(t, w.Code, 500, query)
		assert.Contains(t, w.Body.String(), `"field":"`+field+`"`, query)
	}
}

func TestWhatCanNotBeSpunNamesItsField(t *testing.T) {
	c := sample(t)
	for more, field := range map[string]string{
		`"stage":9`: "stage", `"division":{"way":"quarters"}`: "division.way", `"division":{"way":"strips","parts":-1}`: "division.parts", `"ply":"four"`: "ply",
		`"spin":{"order":"up"}`: "spin.order", `"spin":{"from":"top"}`: "spin.from", `"spin":{"twist":"x"}`: "spin.twist", `"singles_tex":0`: "singles_tex",
		`"take_up_pct":-1`: "take_up_pct", `"waste_pct":100`: "waste_pct", `"pair":"third"`: "pair", `"pair":"second","ply":"single"`: "ply",
	} {
		w := c.do("POST", api.Root+"/yarn/plan", "application/json", spinning(more))
		assert.Equal(t, http.StatusUnprocessableEntity, w.Code, more)
		assert.Contains(t, w.Body.String(), `"field":"`+field+`"`, more)
	}
}

// How it is drawn says how thick it will be: long drawn, the same grist is thicker and airier than short forward; drawn as is usual it
// follows how it is taken hold of, told otherwise it stays.
func TestHowAYarnIsDrawn(t *testing.T) {
	c := sample(t)
	at := func() map[string]any { _, y := c.json("GET", api.Root+"/layups/1/yarn", ""); return y }
	put := func(want int, change func(map[string]any)) map[string]any {
		y := at()
		plan := map[string]any{}
		for _, k := range []string{"stage", "way", "parts", "even", "order", "from", "ply", "pair", "singles_grist_m_per_100g", "s", "cloth", "stitches", "rows",
			"stitch_mm", "off", "draw"} {
			plan[k] = y[k]
		}
		change(plan)
		plan["version"] = y["version"]
		body, err := json.Marshal(plan)
		require.NoError(t, err)
		code, out := c.json("PUT", fmt.Sprintf("%s/yarns/%v", api.Root, y["id"]), string(body))
		require.Equal(t, want, code, out)
		return out
	}
	assert.Equal(t, "short-backward", at()["draw"])
	short := put(200, func(p map[string]any) { p["draw"] = "short-forward" })
	long := put(200, func(p map[string]any) { p["draw"] = "long" })
	assert.Greater(t, long["diameter_mm"], short["diameter_mm"])
	assert.Less(t, long["packing"], short["packing"])
	assert.InDelta(t, long["plied_m"], short["plied_m"], 1e-9)
	assert.InDelta(t, 25.4/(1.35*long["diameter_mm"].(float64)), long["wraps_per_inch"], 1e-9)
	put(422, func(p map[string]any) { p["draw"] = "backwards" })
	page := c.page("/layups/1/yarn")
	assert.Contains(t, page, "thick,")
}

// A piece of each kind is a picture, and what can not be made of the yarn is refused at its field.
func TestPiecesOfTheYarn(t *testing.T) {
	c := sample(t)
	body := spinning(`"stage":1,"division":{"way":"strips","parts":20},"ply":"two","singles_tex":200`)
	tall := 0
	for _, kind := range []string{"knitted", "woven", "felted", "crochet-single", "crochet-half", "crochet-double"} {
		w := c.do("POST", api.Root+"/yarn/cloth.png?across=14&rows=8&kind="+kind, "application/json", body)
		require.Equal(t, http.StatusOK, w.Code, "%s: %s", kind, w.Body.String())
		pic, err := png.Decode(bytes.NewReader(w.Body.Bytes()))
		require.NoError(t, err, kind)
		if strings.HasPrefix(kind, "crochet") {
			assert.Greater(t, pic.Bounds().Dy(), tall, "%s is taller than the one before", kind)
			tall = pic.Bounds().Dy()
		}
	}
	for query, field := range map[string]string{
		"kind=lace": "kind", "kind=crochet-double&mm=5000": "stitch_mm", "kind=crochet-single&from_m=9000": "from_m", "kind=woven&across=1": "across",
		"kind=woven&rows=9000": "rows", "kind=woven&from_m=9000": "from_m", "kind=knitted&across=0": "stitches", "kind=crochet-half&rows=0": "rows",
	} {
		w := c.do("POST", api.Root+"/yarn/cloth.png?"+query, "application/json", body)
		assert.Contains(t, []int{http.StatusBadRequest, http.StatusUnprocessableEntity}, w.Code, query)
		assert.Contains(t, w.Body.String(), `"field":"`+field+`"`, query)
	}
}
