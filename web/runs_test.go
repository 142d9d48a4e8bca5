package web

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"mime/multipart"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// weighTheRest weighs what is open of a weigh-out, as it is asked.
func (c client) weighTheRest(id int) {
	path := fmt.Sprintf("%s/weighouts/%d", api.Root, id)
	_, w := c.json("GET", path, "")
	for i := 0; w["next"] != nil; i++ {
		at := w["next"].(map[string]any)
		cell := w["units"].([]any)[int(at["unit"].(float64))].(map[string]any)["cells"].([]any)[int(at["component"].(float64))].(map[string]any)
		code, next := c.json("POST", path+"/weighings", fmt.Sprintf(`{"key":"the-rest-of-%d-%d","version":%v,"unit":%v,"component":%v,"grams":%v}`,
			id, i, w["version"], at["unit"], at["component"], cell["target_g"].(float64)-cell["weighed_g"].(float64)))
		require.Equal(c.t, 201, code, next)
		w = next
	}
}

// A run by the API: begun, told, corrected, carded a third time, put onto the shelf, and the
// lot used in a blend like any fibre.
func TestARunThroughTheAPI(t *testing.T) {
	c := sample(t)
	c.weighTheRest(1)
	code, run := c.json("POST", api.Root+"/weighouts/1/runs", `{}`)
	require.Equal(t, 201, code, run)
	require.Len(t, run["units"], 4)
	require.NotEmpty(t, run["foreseen"], "what was foreseen is kept as it was said")
	path := fmt.Sprintf("%s/runs/%v", api.Root, run["id"])
	n := 0
	tell := func(body string) map[string]any {
		n++
		code, out := c.json("POST", path+"/entries", fmt.Sprintf(`{"key":"told-by-api-%d",%s}`, n, body))
		require.Equal(t, 201, code, out)
		return out
	}
	tell(`"unit":0,"pass":1,"what":"off","grams":39.8`)
	tell(`"unit":0,"pass":2,"what":"off","grams":95.1`)
	code, out := c.json("POST", path+"/entries", `{"key":"told-from-elsewhere","unit":0,"pass":2,"what":"off","grams":1,"after":0}`)
	assert.Equal(t, 409, code)
	assert.NotNil(t, out["current"])
	run = tell(`"unit":0,"pass":2,"what":"off","grams":59.1`)
	unit := func(i int) map[string]any { return run["units"].([]any)[i].(map[string]any) }
	pass := func(i, p int) map[string]any { return unit(i)["passes"].([]any)[p-1].(map[string]any) }
	assert.Equal(t, 59.1, pass(0, 2)["off_g"])
	code, run = c.json("POST", fmt.Sprintf("%s/entries/%v/reverse", path, pass(0, 2)["after"].(map[string]any)["off"]), `{"key":"take-that-back"}`)
	require.Equal(t, 201, code)
	assert.Equal(t, 95.1, pass(0, 2)["off_g"], "what stood before stands again")
	tell(`"unit":0,"pass":2,"what":"off","grams":59.1`)
	run = tell(`"unit":0,"pass":2,"what":"more"`)
	assert.Len(t, unit(0)["passes"], 3)
	run = tell(`"unit":0,"pass":3,"what":"off","grams":58.2`)
	line := unit(0)["line"].(map[string]any)
	sum := 0.0
	for _, k := range []string{"off_g", "kept_g", "thrown_g", "droppings_g", "picked_g", "cloth_g", "between_passes_g", "unaccounted_g", "open_g"} {
		sum += line[k].(float64)
	}
	assert.InDelta(t, line["in_g"], sum, 1e-9)

	code, out = c.json("POST", path+"/shelf", `{"key":"onto-the-shelf","unit":0,"form":"batt","name":"slack batt"}`)
	require.Equal(t, 201, code, out)
	run = out
	lot := unit(0)["shelved"].([]any)[0].(map[string]any)["lot_id"]
	code, l := c.json("GET", fmt.Sprintf("%s/lots/%v", api.Root, lot), "")
	require.Equal(t, 200, code)
	assert.Equal(t, 58.2, l["grams"])
	assert.Equal(t, "foreseen", l["colours"].([]any)[0].(map[string]any)["source"])
	cost := 0.0
	for _, v := range l["made"].(map[string]any)["from"].([]any) {
		_, from := c.json("GET", fmt.Sprintf("%s/lots/%v", api.Root, v.(map[string]any)["lot_id"]), "")
		cost += v.(map[string]any)["grams"].(float64) / 100 * from["cost_per_100g"].(float64)
	}
	assert.InDelta(t, cost/58.2*100, l["cost_per_100g"], 0.011, "what was weighed for it cost so much, and so much came of it")
	shares := 0.0
	for _, v := range l["made"].(map[string]any)["of"].([]any) {
		shares += v.(map[string]any)["share"].(float64)
	}
	assert.InDelta(t, 1, shares, 1e-9)
	both := fmt.Sprintf(`{"name":"two tides","total_g":40,"passes":1,"components":[{"lot_id":%v,"parts":1},{"lot_id":1,"parts":1}]}`, lot)
	code, b := c.json("POST", api.Root+"/makings/3/blends", both)
	require.Equal(t, 201, code, b)
	assert.NotEmpty(t, b["hex"])
	code, _ = c.json("DELETE", path, "")
	assert.Equal(t, 204, code)
	code, _ = c.json("GET", path, "")
	assert.Equal(t, 404, code)
	code, _ = c.json("POST", path+"/restore", "")
	assert.Equal(t, 204, code)
	for _, list := range []string{"/makings/3/runs", "/weighouts/1/runs"} {
		w := c.do("GET", api.Root+list, "", "")
		assert.Equal(t, 200, w.Code)
		assert.Contains(t, w.Body.String(), "Slack, four batts")
	}
}

// A raw fleece by the API: taken off the shelf, parted, and its parts put there; taken back,
// the fleece lies there again.
func TestAFleeceThroughTheAPI(t *testing.T) {
	c := sample(t)
	code, raw := c.json("POST", api.Root+"/lots",
		`{"name":"ewe","kind":"romney","preparation":"raw_fleece","colours":[{"hex":"#8d8172"}],"grams":1000,"cost_per_100g":0.5}`)
	require.Equal(t, 201, code)
	code, run := c.json("POST", fmt.Sprintf("%s/lots/%v/runs", api.Root, raw["id"]), `{"making_id":1}`)
	require.Equal(t, 201, code, run)
	path := fmt.Sprintf("%s/runs/%v", api.Root, run["id"])
	n := 0
	tell := func(want int, body string) map[string]any {
		n++
		code, out := c.json("POST", path+"/entries", fmt.Sprintf(`{"key":"fleece-by-api-%d",%s}`, n, body))
		require.Equal(t, want, code, out)
		return out
	}
	tell(422, `"what":"raw","grams":1200`)
	first := tell(201, `"what":"raw","grams":1000`)
	tell(422, `"what":"raw","grams":10`)
	tell(422, `"unit":0,"pass":1,"what":"off","grams":1001`)
	tell(201, `"unit":0,"pass":1,"what":"off","grams":860`)
	for i, name := range []string{"fine", "coarse", "lamb tips"} {
		tell(201, fmt.Sprintf(`"unit":%d,"what":"part","text":%q`, i+1, name))
		tell(201, fmt.Sprintf(`"unit":%d,"pass":2,"what":"off","grams":%d`, i+1, 400-100*i))
	}
	tell(201, `"unit":1,"pass":4,"what":"off","grams":280`)
	tell(422, `"unit":1,"pass":7,"what":"off","grams":281`)
	tell(422, `"unit":1,"pass":8,"what":"off","grams":200`)
	run = tell(201, `"unit":1,"pass":7,"what":"look","text":"done"`)
	assert.Equal(t, "longwool", run["fleece"].(map[string]any)["animal"])
	f := run["fleece"].(map[string]any)
	assert.InDelta(t, 860-900, f["fell_out_g"], 1e-9, "more than before: it is told, not hidden")
	assert.InDelta(t, 0.28+0.3+0.2, f["so_far"], 1e-9)
	for unit := 1; unit <= 3; unit++ {
		code, out := c.json("POST", path+"/shelf", fmt.Sprintf(`{"key":"shelf-of-part-%d","unit":%d}`, unit, unit))
		require.Equal(t, 201, code, out)
		run = out
	}
	part := run["fleece"].(map[string]any)["parts"].([]any)[0].(map[string]any)
	_, lot := c.json("GET", fmt.Sprintf("%s/lots/%v", api.Root, part["shelved"].([]any)[0].(map[string]any)["lot_id"]), "")
	assert.Equal(t, "washed_locks", lot["preparation"])
	assert.Equal(t, 280.0, lot["grams"])
	assert.Regexp(t, `(?s)name="tender".*?<option value="0" selected>no`, c.page(fmt.Sprintf("/lots/%v", lot["id"])), "it was flicked")
	// 400 of 900 g of the parts is 444.44 g of 1,000 g raw at 0.50: 2.22 for 280 g.
	assert.InDelta(t, 0.79, lot["cost_per_100g"], 0.006)
	_, now := c.json("GET", fmt.Sprintf("%s/lots/%v", api.Root, raw["id"]), "")
	assert.Equal(t, 0.0, now["grams"])
	entry := first["entries"].([]any)[0].(map[string]any)["id"]
	code, _ = c.json("POST", fmt.Sprintf("%s/entries/%v/reverse", path, entry), `{"key":"back-to-the-shelf"}`)
	assert.Equal(t, 201, code)
	_, now = c.json("GET", fmt.Sprintf("%s/lots/%v", api.Root, raw["id"]), "")
	assert.Equal(t, 1000.0, now["grams"])
}

// withCamera is a small JPEG that says where and with what it was taken.
func withCamera(t *testing.T) []byte {
	img := image.NewRGBA(image.Rect(0, 0, 60, 40))
	for i := range 60 * 40 {
		img.Set(i%60, i/60, color.RGBA{120, 130, uint8(i), 255})
	}
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, nil))
	exif := append([]byte("Exif\x00\x00MM\x00\x2a\x00\x00\x00\x08\x00\x00"), []byte("secret place")...)
	head := append([]byte{0xff, 0xd8, 0xff, 0xe1, byte((len(exif) + 2) >> 8), byte(len(exif) + 2)}, exif...)
	return append(head, b.Bytes()[2:]...)
}

// A photo of a pass is encoded anew: what the camera wrote into it is gone. The same key
// twice brings it in once.
func TestAPhotoOfAPassIsEncodedAnew(t *testing.T) {
	c := sample(t)
	send := func() map[string]any {
		var body bytes.Buffer
		m := multipart.NewWriter(&body)
		require.NoError(t, m.WriteField("entry", `{"key":"photo-of-a-pass","unit":0,"pass":1,"what":"photo"}`))
		f, err := m.CreateFormFile("file", "batt.jpg")
		require.NoError(t, err)
		_, err = f.Write(withCamera(t))
		require.NoError(t, err)
		require.NoError(t, m.Close())
		r := httptest.NewRequest("POST", "/runs/1/photo", &body)
		r.Header.Set("Content-Type", m.FormDataContentType())
		r.Header.Set("Accept", "application/json")
		w := httptest.NewRecorder()
		c.h.ServeHTTP(w, r)
		require.Equal(t, 200, w.Code, w.Body.String())
		var out map[string]any
		require.NoError(t, json.Unmarshal(w.Body.Bytes(), &out))
		return out
	}
	send()
	out := send()
	photos := out["units"].([]any)[0].(map[string]any)["passes"].([]any)[0].(map[string]any)["photos"].([]any)
	require.Len(t, photos, 1)
	w := c.do("GET", fmt.Sprintf("/photos/%v/picture.png", photos[0]), "", "")
	require.Equal(t, 200, w.Code)
	assert.True(t, strings.HasPrefix(w.Body.String(), "\x89PNG"))
	assert.NotContains(t, w.Body.String(), "secret place")
}

// What was told of a run stands in the maker's units, and what she types is read in them.
func TestARunInOunces(t *testing.T) {
	c := sample(t)
	c.weighsInOunces()
	code, out := c.json("POST", "/runs/1/tell", `{"key":"typed-in-ounces","unit":0,"pass":1,"what":"off","text":"1.94","back":"","mg":0}`)
	require.Equal(t, 200, code, out)
	pass := out["units"].([]any)[0].(map[string]any)["passes"].([]any)[0].(map[string]any)
	assert.Equal(t, "1.94", pass["off"])
	code, out = c.json("POST", "/runs/1/tell", `{"key":"a-thousandth-inch","unit":0,"pass":1,"what":"clearance","text":"0.012","back":"","mg":0}`)
	require.Equal(t, 200, code, out)
	pass = out["units"].([]any)[0].(map[string]any)["passes"].([]any)[0].(map[string]any)
	assert.Equal(t, "0.012", pass["clearance"])
	code, out = c.json("POST", "/runs/1/tell", `{"key":"not-a-number-at-all","unit":0,"pass":1,"what":"droppings","text":"some","back":"","mg":0}`)
	assert.Equal(t, 422, code)
	assert.Contains(t, out["detail"], "not a number")
}

// What a run lost is learned: the next weigh-out asks for more of that kind, says so, and goes
// back to what is usual when the weighing is left out, or learning switched off.
func TestLossesAreLearned(t *testing.T) {
	c := sample(t)
	loss := func() float64 {
		_, b := c.json("GET", api.Root+"/blends/8", "")
		for _, v := range b["components"].([]any) {
			if v.(map[string]any)["name"] == "undyed Southdown" {
				return v.(map[string]any)["loss_pct"].(float64)
			}
		}
		return -1
	}
	now := loss()
	_, rec := c.json("GET", api.Root+"/notebook/record", "")
	require.Equal(t, true, rec["on"])
	var usual, taught float64
	for _, k := range rec["kinds"].([]any) {
		if v := k.(map[string]any); v["kind"] == "southdown" {
			usual, taught = v["usual_pct"].(float64), v["mean_pct"].(float64)
		}
	}
	require.NotZero(t, usual)
	assert.InDelta(t, taught, now, 1e-9)
	assert.NotEqual(t, usual, taught)
	assert.Contains(t, c.page("/blends/8/weigh"), "Learned from your own runs: undyed Southdown")

	code, out := c.json("POST", api.Root+"/runs/1/entries", `{"key":"left-out-of-it","unit":0,"pass":1,"what":"apart","number":1}`)
	require.Equal(t, 201, code, out)
	assert.InDelta(t, usual, loss(), 1e-9)
	code, _ = c.json("POST", api.Root+"/runs/1/entries", `{"key":"taken-in-again","unit":0,"pass":1,"what":"apart","number":0}`)
	require.Equal(t, 201, code)
	assert.InDelta(t, taught, loss(), 1e-9)
	code, rec = c.json("PUT", api.Root+"/notebook/learning", `{"on":false}`)
	require.Equal(t, 200, code)
	assert.Equal(t, false, rec["on"])
	assert.InDelta(t, usual, loss(), 1e-9)

	for query, n := range map[string]float64{"": 9, "?sort=carding": 1, "?sort=yarn": 1, "?q=cuffs": 1, "?q=ebb": 1, "?making=1": 1, "?offset=6": 9} {
		code, list := c.json("GET", api.Root+"/notebook"+query, "")
		require.Equal(t, 200, code)
		assert.Equal(t, n, list["total"], query)
	}
	code, _ = c.json("GET", api.Root+"/notebook?q="+strings.Repeat("x", 401), "")
	assert.Equal(t, 422, code)
	for _, path := range []string{"/notebook", "/notebook?q=nothing+like+it", "/notebook/beside", "/notebook/beside?with=carding-1&with=carding-1",
		"/runs/1/card", "/runs/1/card?size=A4", "/notebook/swatches", "/day"} {
		assert.NotEmpty(t, c.page(path), path)
	}
	assert.Equal(t, 404, c.do("GET", "/notebook/beside?with=sample-1&with=carding-x", "", "").Code)
	assert.Equal(t, 404, c.do("GET", "/runs/2/card", "", "").Code, "a fleece has none")
}

// A run is made again as it was weighed; with a lot gone the proportions are found anew, and
// the difference to the first batch is told.
func TestARunIsMadeAgain(t *testing.T) {
	c := sample(t)
	code, as := c.json("POST", api.Root+"/runs/1/again", "")
	require.Equal(t, 201, code)
	assert.Equal(t, false, as["found"])
	assert.Empty(t, as["lacking"])
	assert.Less(t, as["delta_e"], 0.5, "the same blend, but for what is learned since")
	assert.Len(t, as["blend"].(map[string]any)["components"], 4)
	assert.NotZero(t, as["layup_id"], "laid as the first was")
	_, laid := c.json("GET", fmt.Sprintf("%s/layups/%v", api.Root, as["layup_id"]), "")
	for _, f := range laid["fibres"].([]any) {
		assert.InDelta(t, 0, f.(map[string]any)["unplaced_g"], 0.051, "all of it")
	}
	code, _ = c.json("DELETE", api.Root+"/lots/13", "")
	require.Equal(t, 204, code)
	code, anew := c.json("POST", api.Root+"/runs/1/again", "")
	require.Equal(t, 201, code)
	assert.Equal(t, []any{"samphire red tips"}, anew["lacking"])
	assert.NotEmpty(t, anew["instead"])
	kept := map[any]float64{}
	for _, v := range as["blend"].(map[string]any)["components"].([]any) {
		kept[v.(map[string]any)["lot_id"]] = v.(map[string]any)["share"].(float64)
	}
	for _, v := range anew["blend"].(map[string]any)["components"].([]any) {
		lot := v.(map[string]any)["lot_id"]
		assert.NotEqual(t, 13.0, lot)
		if share, ok := kept[lot]; ok {
			assert.InDelta(t, share, v.(map[string]any)["share"], 0.005, "what is there is kept in its share")
		}
	}
	assert.NotZero(t, anew["layup_id"])
	assert.Less(t, anew["delta_e"], 6.0)
	code, _ = c.json("POST", api.Root+"/runs/2/again", "")
	assert.Equal(t, 422, code)
	w := c.form("/runs/1/again")
	require.Equal(t, 303, w.Code)
	assert.Contains(t, c.page(w.Header().Get("Location")), "the rest found anew")
	assert.Contains(t, c.page(fmt.Sprintf("/blends/%v", anew["blend"].(map[string]any)["id"])), "without samphire red tips; new in it:")
	for _, page := range []string{"/runs/1", "/runs/1/record", "/notebook"} {
		assert.Contains(t, c.page(page), "Make it again", page)
	}
}
