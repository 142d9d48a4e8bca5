package web

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

const shelfOfFour = `[{"id":"navy","colour":{"hex":"#26324a"},"available_g":40,"cost_per_100g":4},{"id":"white","colour":{"hex":"#f2eee3"},"cost_per_100g":3,"kind":"romney"},
	{"id":"rust","colour":{"lab":[42,38,36]},"max_share":0.5,"cost_per_100g":5},{"id":"film","colour":{"hex":"#d8d8e0"},"kind":"film_metallised"}]`

func TestMatchThroughTheAPI(t *testing.T) {
	c := sample(t)
	ask := func(more string) map[string]any {
		code, got := c.json(
			"POST",
			api.Root+"/match",
			`{"target":{"hex":"#7d8a99"},"components":`+shelfOfFour+`,"max_components":3,"total_g":60,"step_g":0.1,"count":4`+more+`}`,
		)
		require.Equal(t, 200, code, got)
		return got
	}
	got := ask("")
	assert.Equal(t, true, got["complete"])
	matches := got["matches"].([]any)
	require.NotEmpty(t, matches)
	last := ""
	for _, m := range matches {
		var total float64
		var set []string
		for _, p := range m.(map[string]any)["components"].([]any) {
			v := p.(map[string]any)
			g := v["grams"].(float64)
			total += g
			set = append(set, v["id"].(string))
			assert.InDelta(t, math.Round(g*10)/10, g, 1e-9, "a whole number of steps")
			assert.InDelta(t, g/60, v["share"], 1e-9)
			if v["id"] == "navy" {
				assert.LessOrEqual(t, g, 40.0)
			}
		}
		assert.InDelta(t, 60, total, 1e-9)
		assert.NotEqual(t, last, strings.Join(set, " "))
		last = strings.Join(set, " ")
	}
	assert.Equal(t, got, ask(""), "the same question has the same answer")
	assert.NotContains(t, fmt.Sprint(ask(`,"wish":{"no_sparkle":true}`)), "film")
	for _, m := range ask(`,"wish":{"least_wool_share":0.5}`)["matches"].([]any) {
		assert.Contains(t, fmt.Sprint(m), "white", "the only one that is known to be wool")
	}

	code, fixed := c.json(
		"POST",
		api.Root+"/correct",
		`{"made":{"grams":58,"components":[{"colour":{"hex":"#f2eee3"},"grams":40},{"colour":{"hex":"#26324a"},"grams":18}]},
		"target":{"hex":"#3f4a60"},"components":`+shelfOfFour+`,"max_components":2,"max_added_g":30,"step_g":0.1,"count":3}`,
	)
	require.Equal(t, 200, code, fixed)
	require.NotEmpty(t, fixed["corrections"])
	for _, v := range fixed["corrections"].([]any) {
		assert.Less(t, v.(map[string]any)["delta_e"], fixed["before_delta_e"])
		assert.LessOrEqual(t, v.(map[string]any)["added_g"], 30.0)
	}
	code, none := c.json(
		"POST",
		api.Root+"/correct",
		`{"made":{"grams":58,"colour":{"hex":"#f2eee3"}},"target":{"hex":"#f2eee3"},"components":`+shelfOfFour+`,"max_components":2,"max_added_g":30,"step_g":0.1,"count":3}`,
	)
	require.Equal(t, 200, code)
	assert.Equal(t, []any{}, none["corrections"], "nothing to mend is an empty list")

	code, g := c.json(
		"POST",
		api.Root+"/gradient",
		`{"stops":[{"name":"a","colour":{"hex":"#26324a"},"grams":30},{"name":"c","colour":{"hex":"#f2eee3"},"grams":30},{"name":"b","colour":{"hex":"#7d8a99"},"grams":20}],"school":"even","bridges":1,"reorder":true}`,
	)
	require.Equal(t, 200, code, g)
	assert.Equal(t, []any{0.0, 2.0, 1.0}, g["order"])
	assert.Len(t, g["steps"], 5)
	assert.Nil(t, g["steps"].([]any)[4].(map[string]any)["jump_to_next"])
}

func TestWrongIntentRequests(t *testing.T) {
	c := sample(t)
	match := `{"target":{"hex":"#7d8a99"},"components":[{"id":"a","colour":{"hex":"#26324a"}%s}],"max_components":%s,"total_g":%s,"step_g":0.1,"count":%s}`
	gradient := `{"stops":[{"name":"a","colour":{"hex":"#26324a"},"grams":%s}],"school":"%s","bridges":%s}`
	correct := `{"made":{%s},"target":{"hex":"#7d8a99"},"components":[{"id":"a","colour":{"hex":"#26324a"}}],"max_components":1,"max_added_g":%s,"step_g":0.1,"count":1}`
	for _, q := range []struct{ path, body, field string }{
		{"/match", fmt.Sprintf(match, "", "2", "60", "0"), "count"},
		{"/match", fmt.Sprintf(match, "", "0", "60", "1"), "max_components"},
		{"/match", fmt.Sprintf(match, "", "2", "60.05", "1"), "total_g"},
		{"/match", fmt.Sprintf(match, "", "2", "-60", "1"), "total_g"},
		{"/match", fmt.Sprintf(match, `,"available_g":-1`, "2", "60", "1"), "components[0].available_g"},
		{"/match", fmt.Sprintf(match, `,"available_g":12`, "2", "60", "1"), "total_g"},
		{"/match", fmt.Sprintf(match, `,"min_share":0.7,"max_share":0.2`, "2", "60", "1"), "components[0].max_share"},
		{"/match", fmt.Sprintf(match, `,"kind":"unicorn"`, "2", "60", "1"), "components[0].kind"},
		{"/match", fmt.Sprintf(match, `,"grams":3`, "2", "60", "1"), "grams"},
		{"/match", `{"target":{"hex":"7d8a99"},"components":[],"max_components":1,"total_g":1,"step_g":0.1,"count":1}`, "target.hex"},
		{"/match", `{"target":{"hex":"#7d8a99"},"components":[],"max_components":1,"total_g":1,"step_g":0.1,"count":1}`, "components"},
		{"/match", `{"target":{"hex":"#7d8a99"},"components":[` + strings.Repeat(`{"colour":{"hex":"#26324a"}},`, 200) + `{"colour":{"hex":"#26324a"}}],"max_components":1,"total_g":1,"step_g":0.1,"count":1}`, "components"},
		{"/correct", fmt.Sprintf(correct, `"grams":58`, "10"), "made"},
		{"/correct", fmt.Sprintf(correct, `"grams":-58,"colour":{"hex":"#aaaaaa"}`, "10"), "made.grams"},
		{"/correct", fmt.Sprintf(correct, `"grams":58,"colour":{"hex":"#aaaaaa"}`, "0"), "max_added_g"},
		{"/correct", fmt.Sprintf(correct, `"grams":58,"colour":{"hex":"#aaaaaa"},"said":[{"what":"odd","how":"little"}]`, "10"), "made.said.what"},
		{"/gradient", fmt.Sprintf(gradient, "0", "thirds", "2"), "stops[0].grams"},
		{"/gradient", fmt.Sprintf(gradient, "10", "halves", "2"), "school"},
		{"/gradient", fmt.Sprintf(gradient, "10", "even", "99"), "bridges"},
		{"/gradient", `{"stops":[],"school":"thirds"}`, "stops"},
		{"/blends/6/find", `{"max_components":3,"count":2,"target":"blue"}`, "target"},
		{"/blends/2/find", `{"max_components":3,"count":2}`, "target"},
		{"/blends/6/mend", `{"made_g":0,"max_components":2,"max_added_g":10,"count":1}`, "made.grams"},
		{"/blends/6/dull", `{"drop":2}`, "drop"},
		{"/scraps", `{"name":"x","scraps":[{"name":"y","kind":"merino","hex":"#123456","grams":1,"pile":9}]}`, "scraps[0].pile"},
		{"/scraps/1/sort", `{"version":1,"piles":9}`, "piles"},
		{"/scraps/1/blends", `{"making_id":1,"name":"x"}`, "name"},
		{"/samples", `{"name":"","blend_id":6,"measured":{"hex":"#123456"}}`, "name"},
		{"/samples", `{"name":"x","measured":{"hex":"#123456"}}`, "blend_id"},
		{"/photos/1/read", `{"x":2,"y":0.5,"radius":0.1}`, "area"},
		{"/photos/1/card", `{"version":1,"spot":{"x":0.5,"y":0.5,"radius":0.1},"reflects_pct":400}`, "reflects"},
		{"/photos/1/palette", `{"colours":40,"total_g":60}`, "colours"},
		{"/lots/1/spectrum", `{"version":1,"csv":"nonsense"}`, "spectra"},
		{"/lots/1/measure", `{"version":1,"colour":7}`, "colour"},
		{"/lots/1/measure", `{"version":1}`, "reader"},
		{"/lots/1/colours/back", `{"version":1}`, "colours"},
	} {
		code, got := c.json("POST", api.Root+q.path, q.body)
		require.Contains(t, []int{400, 422}, code, "%s %s: %v", q.path, q.body, got)
		errs, _ := got["errors"].([]any)
		require.NotEmpty(t, errs, q.body)
		assert.Equal(t, q.field, errs[0].(map[string]any)["field"], "%s %s", q.path, q.body)
	}
	for _, path := range []string{"/gradients/99", "/scraps/99", "/photos/99", "/photos/99/picture.png", "/lots/99/stops"} {
		assert.Equal(t, 404, c.do("GET", api.Root+path, "", "").Code, path)
	}
}

func picture(t *testing.T) string {
	img := image.NewRGBA(image.Rect(0, 0, 120, 80))
	for y := range 80 {
		for x := range 120 {
			v := color.RGBA{uint8(40 + 60*(x/40)), uint8(150 - 40*(x/40)), uint8(90 + y), 255}
			if x < 20 && y < 20 {
				v = color.RGBA{130, 118, 104, 255} // a grey card in warm light
			}
			img.SetRGBA(x, y, v)
		}
	}
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, img))
	return b.String()
}

// What starts from a colour, kept and found again through the API alone.
func TestIntentJourneyThroughTheAPI(t *testing.T) {
	c := sample(t)
	code, photo := c.json("POST", api.Root+"/photos?name=tide", picture(t))
	require.Equal(t, 201, code, photo)
	path := fmt.Sprintf("%s/photos/%v", api.Root, photo["id"])
	code, photo = c.json("POST", path+"/card", fmt.Sprintf(`{"version":%v,"spot":{"x":0.08,"y":0.12,"radius":0.05},"reflects_pct":18}`, photo["version"]))
	require.Equal(t, 200, code, photo)
	_, read := c.json("POST", path+"/read", `{"x":0.08,"y":0.12,"radius":0.05}`)
	assert.Equal(t, "#767676", read["hex"], "the card is grey once it was balanced by")
	assert.Equal(t, "image/png", c.do("GET", path+"/picture.png", "", "").Header().Get("Content-Type"))
	code, got := c.json("POST", path+"/card", `{"version":1}`)
	assert.Equal(t, 409, code)
	assert.Equal(t, photo["version"], got["current"].(map[string]any)["version"])
	var palette []map[string]any
	w := c.do("POST", path+"/palette", "application/json", `{"colours":3,"total_g":60}`)
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &palette), w.Body.String())
	require.Len(t, palette, 3)
	for _, p := range palette {
		assert.NotNil(t, p["blend"])
	}
	assert.Equal(t, 422, c.do("POST", api.Root+"/photos", "image/png", "no picture").Code)

	code, g := c.json(
		"POST",
		api.Root+"/makings/2/gradients",
		`{"name":"row","stops":[{"lot_id":1,"name":"a","hex":"#6b8799","grams":20},{"name":"b","kind":"merino","preparation":"combed_top","hex":"#c9a24a","grams":10}],"school":"thirds","bridges":2,"max_jump":8}`,
	)
	require.Equal(t, 201, code, g)
	row := fmt.Sprintf("%s/gradients/%v", api.Root, g["id"])
	body := `{"version":%v,"name":"row","stops":[{"lot_id":1,"name":"a","hex":"#6b8799","grams":20}],"school":"even","bridges":2,"max_jump":8}`
	code, _ = c.json("PUT", row, fmt.Sprintf(body, g["version"]))
	require.Equal(t, 200, code)
	code, _ = c.json("PUT", row, fmt.Sprintf(body, g["version"]))
	assert.Equal(t, 409, code, "an old version is refused")
	assert.Equal(t, 200, c.do("POST", row+"/blends", "", "").Code)
	require.Equal(t, 204, c.do("DELETE", row, "", "").Code)
	assert.Equal(t, 404, c.do("GET", row, "", "").Code)
	require.Equal(t, 204, c.do("POST", row+"/restore", "", "").Code)

	code, bag := c.json("POST", api.Root+"/scraps/1/sort", `{"version":1,"piles":3}`)
	require.Equal(t, 200, code, bag)
	assert.Len(t, bag["piles"], 3)
	assert.Equal(t, 200, c.do("POST", api.Root+"/scraps/1/blends", "application/json", `{"making_id":2}`).Code)
	assert.Equal(t, 404, c.do("POST", api.Root+"/scraps/1/blends", "application/json", `{"making_id":99}`).Code)

	nm := make([]string, 36)
	v := make([]string, 36)
	for i := range nm {
		nm[i], v[i] = fmt.Sprint(380+10*i), "0.25"
	}
	csv, err := json.Marshal(strings.Join(nm, ",") + "\n" + strings.Join(v, ","))
	require.NoError(t, err)
	code, m := c.json("POST", api.Root+"/lots/5/spectrum", fmt.Sprintf(`{"version":1,"colour":0,"csv":%s}`, csv))
	require.Equal(t, 200, code, m)
	assert.Equal(t, "#898989", m["lot"].(map[string]any)["mean_hex"], "a flat quarter is neutral")
	code, lot := c.json("POST", api.Root+"/lots/5/colours/back", `{"version":2}`)
	require.Equal(t, 200, code, lot)
	assert.Equal(t, "#1d4c55", lot["mean_hex"])

	code, cal := c.json("PUT", api.Root+"/calibration", `{"on":true}`)
	require.Equal(t, 200, code)
	assert.Equal(t, true, cal["on"])
	assert.Less(t, cal["left_out_delta_e"], cal["left_out_before_delta_e"])
}

// Every form of a picture's address that a page can be asked for.
func TestPhotoFormsKeepWhatWasSaid(t *testing.T) {
	c := sample(t)
	w := c.do(
		"POST",
		"/photos",
		"multipart/form-data; boundary=x",
		"--x\r\nContent-Disposition: form-data; name=\"name\"\r\n\r\nmy tide\r\n--x\r\nContent-Disposition: form-data; name=\"photo\"; filename=\"a.png\"\r\n\r\nbroken\r\n--x--\r\n",
	)
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "This is not a JPEG, PNG or WebP picture")
	assert.Contains(t, w.Body.String(), "my tide")
	w = c.do(
		"POST",
		"/photos",
		"multipart/form-data; boundary=x",
		"--x\r\nContent-Disposition: form-data; name=\"photo\"; filename=\"a.png\"\r\n\r\n"+strings.Repeat("z", 25<<20)+"\r\n--x--\r\n",
	)
	assert.Equal(t, 413, w.Code)
	w = c.form("/lots/1/measure", "how", "file")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "Choose the CSV file of a colour reader")
	w = c.form("/makings/1/gradients", "gradient_name", "")
	assert.Equal(t, 422, w.Code)
}
