package web

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

func TestLayingUpByForm(t *testing.T) {
	c := sample(t)
	html := c.page("/blends/6/layup")
	for _, want := range []string{"Standard drum carder", "Large blending board", "Hand cards, standard pair", "4 batts", "not in the workshop",
		"second pass only", "straight on"} {
		assert.Contains(t, html, want)
	}
	form := fields(mainOf(html))
	w := c.form("/blends/6/layup", append(form, "builder", "lanes", "repeats", "3", "units", "5")...)
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	_, got := c.json("GET", api.Root+strings.Replace(w.Header().Get("Location"), "/layups", "/layups", 1), "")
	for at, lays := range []int{3, 2, 3, 2, 3} { // two that slide are scattered between the lanes
		assert.Len(t, got["layers"].([]any)[at].(map[string]any)["lays"], lays, "layer %d", at)
	}
	assert.EqualValues(t, 5, got["units"])
	for field, says := range map[string]string{"units": "whole number", "repeats": "whole number"} {
		w := c.form("/blends/6/layup", append(append([]string(nil), form...), field, "many")...)
		assert.Equal(t, 422, w.Code)
		assert.Contains(t, w.Body.String(), says)
		assert.Contains(t, w.Body.String(), `value="many"`, "what was typed is kept")
	}
	w = c.form("/blends/6/layup", append(append([]string(nil), form...), "builder", "")...)
	assert.Equal(t, 303, w.Code, "no builder: a bare cloth")
	assert.Equal(t, 422, c.form("/blends/6/layup", append(append([]string(nil), form...), "equipment_id", "99")...).Code)
	w = c.form("/makings/3/schools", "version", "2", "loading", "thin", "back", "/blends/6/layup")
	assert.Equal(t, "/blends/6/layup?did=saved", w.Header().Get("Location"))
	assert.Contains(t, c.page("/blends/6/layup"), "6 batts", "thinner, in more units")
	// One form: what was chosen for the lay-up outlives the keeping of the schools,
	// and a school that was chosen is kept by laying it up.
	w = c.form(
		"/makings/3/schools",
		"version",
		"3",
		"loading",
		"full",
		"back",
		"/blends/6/layup",
		"builder",
		"depth",
		"units",
		"7",
		"name",
		"typed",
		"order_by",
		"",
	)
	require.Equal(t, 303, w.Code)
	html = c.page(w.Header().Get("Location"))
	for _, want := range []string{`value="typed"`, `value="7"`, `value="depth" checked`} {
		assert.Contains(t, html, want)
	}
	w = c.form("/blends/6/layup", append(fields(mainOf(html)), "loading", "thin")...)
	require.Equal(t, 303, w.Code, w.Body.String())
	_, got = c.json("GET", api.Root+"/makings/3", "")
	assert.Equal(t, "thin", got["schools"].(map[string]any)["loading"])
	assert.Equal(t, 409, c.form("/makings/3/schools", "version", "1", "loading", "full").Code)
	assert.Equal(t, 400, c.form("/makings/3/schools", "version", "5", "loading", "heap").Code)
}

func TestChangesOnTheBed(t *testing.T) {
	p := openPage(sample(t), "/layups/3", "layup-data")
	must := func(change string) {
		code, got := p.do(change, true)
		require.Equal(t, 200, code, "%s: %v", change, got)
	}
	layers := func() int { return len(list(p.view["layers"])) }
	require.Equal(t, 5, layers())
	must(`"change":{"verb":"split","layer":0},"typed":{"times":"3"}`)
	assert.Equal(t, 7, layers())
	must(`"change":{"verb":"repeat","layer":0,"to":1},"typed":{"times":"2"}`)
	assert.Equal(t, 9, layers())
	must(`"change":{"verb":"move","layer":8,"to":7}`)
	must(`"change":{"verb":"mirror"}`)
	must(`"change":{"verb":"take-layer","layer":0}`)
	assert.Equal(t, false, p.view["all_laid"])
	must(
		`"change":{"verb":"lay","layer":-1,"lay":{"component":0,"from":0,"to":1,"start":0,"end":1,"grams":0,"method":""}},"typed":{"from":"2","to":"9,5","grams":"0.5"}`,
	)
	lay := list(list(p.input.(map[string]any)["layers"])[layers()-1].(map[string]any)["lays"])[0].(map[string]any)
	assert.InDelta(t, 0.1, lay["from"], 1e-9, "2 of 20 cm")
	assert.InDelta(t, 0.475, lay["to"], 1e-9)
	assert.InDelta(t, 0.5, lay["grams"], 1e-9)
	top := fmt.Sprintf(`"layer":%d,"at":0,"lay":{"component":0,"from":0.1,"to":0.475,"start":0,"end":1,"grams":0.5,"method":"paint"}`, layers()-1)
	for typed, field := range map[string]string{
		`{"from":"12"}`: "to", `{"to":"25"}`: "to", `{"from":"-1"}`: "from", `{"to":"2"}`: "to", `{"grams":"0"}`: "grams", `{"grams":"500"}`: "grams",
		`{"from":"left"}`: "from", `{"grams":"a pinch"}`: "grams", `{"start":"70"}`: "start",
	} {
		code, got := p.do(`"change":{"verb":"set",`+top+`},"typed":`+typed, true)
		assert.Equal(t, 422, code, typed)
		assert.Equal(t, field, list(got["errors"])[0].(map[string]any)["field"], typed)
	}
	for _, verb := range []string{"split", "repeat", "units", "rolags", "draft", "joins"} {
		key := map[string]string{"draft": "draft"}[verb]
		if key == "" {
			key = "times"
		}
		code, _ := p.do(fmt.Sprintf(`"change":{"verb":%q},"typed":{%q:"x"}`, verb, key), true)
		assert.Equal(t, 422, code, verb)
	}
	must(
		`"change":{"verb":"build","build":{"builder":"flow","repeats":4,"bare":true,"order_by":"path","rolags":0,"draft":1.75,"passes":0,"delicate_now":false,"step_g":0,"base":null}}`,
	)
	assert.Equal(t, true, p.view["all_laid"])
	other := openPage(p.c, "/layups/3", "layup-data")
	must(`"change":{"verb":"name","text":"Border anew"}`)
	code, got := other.do(`"change":{"verb":"mirror"}`, true)
	assert.Equal(t, 409, code)
	assert.Equal(t, "Border anew", got["current"].(map[string]any)["input"].(map[string]any)["name"])
}

func TestTheBenchSaysWhatToDo(t *testing.T) {
	c := sample(t)
	html := c.page("/layups/3/bench")
	for _, want := range []string{"The maker’s manual and local rules come first.", "16 feeds of 1.2", "so thin that the tray shows through", "0 to 2.9",
		"laid on as it is", "Let go of the crank"} {
		assert.Contains(t, html, want)
	}
	assert.Contains(t, c.page("/layups/4/bench"), "Cut at 10, 20\u00a0cm.")
	twice := c.page("/layups/1/bench")
	for _, want := range []string{"Divide it for pass 2", "4 strips of about", "Feed it again, pass 2: strip 1 of 4",
		"Feed it again, pass 2: strip 4 of 4", ", 1 of 3", ", 3 of 3", "Note what came off"} {
		assert.Contains(t, twice, want)
	}
	p := openPage(c, "/layups/1", "layup-data")
	code, _ := p.do(`"change":{"verb":"lay","layer":-1,"lay":{"component":0,"from":0,"to":1,"start":0,"end":1,"grams":1,"method":"feed"}}`, true)
	assert.Equal(t, 422, code, "all is laid")
	p = openPage(c, "/layups/3", "layup-data")
	code, _ = p.do(`"change":{"verb":"mirror-pairs","times":1}`, true)
	require.Equal(t, 200, code)
	first, second := c.page("/layups/3/bench"), c.page("/layups/3/bench?pair=second")
	assert.Contains(t, first, "the first of a pair")
	assert.Contains(t, second, "the second of a pair")
	_, steps, _ := strings.Cut(second, `<ol class="worklist">`)
	assert.Regexp(t, `(?s)</b> mussel navy Corriedale <b>2\.7.{1,3}g</b> <span class="sub">17\.1 to 20`, steps, "left is right")
	electric := append(fields(mainOf(c.page("/equipment/1"))), "drive", "electric")
	require.Equal(t, 303, c.form("/equipment/1", electric...).Code)
	assert.Contains(t, c.page("/layups/3/bench"), "pull the plug")
	require.Equal(t, 303, c.form("/bin/discard", "table", "equipment", "id", "1").Code)
	assert.Contains(t, c.page("/layups/3"), "Border, seven lanes", "a lay-up stays when its equipment goes")
	require.Equal(t, 303, c.form("/bin/discard", "table", "layups", "id", "3", "back", "/makings/3").Code)
	assert.Contains(t, c.page("/bin"), "lay-up")
	assert.Equal(t, 404, c.do("GET", "/layups/3", "", "").Code)
}

func TestLayupAPI(t *testing.T) {
	c := sample(t)
	code, got := c.json(
		"POST",
		api.Root+"/layup/build",
		`{"equipment":{"preset":"board_large"},"unit_g":24,"components":[{"name":"a","parts":2,"kind":"corriedale"},{"name":"b","parts":1,"kind":"corriedale"},
		{"name":"locks","parts":1,"kind":"locks_wool","preparation":"locks","staple_mm":80}],"builder":"stripes-along","repeats":2}`,
	)
	require.Equal(t, 200, code, got)
	assert.Equal(t, []any{12.0, 6.0, 6.0}, got["placed_g"])
	assert.EqualValues(t, 3, got["rolls"].(map[string]any)["count"])
	assert.Empty(t, got["findings"])
	for body, field := range map[string]string{
		`{"equipment":{"preset":"none"},"components":[]}`:                                                                      "equipment.preset",
		`{"equipment":{"preset":"board_large"},"components":[]}`:                                                               "components",
		`{"equipment":{"preset":"board_large"},"components":[{"grams":-1}]}`:                                                   "components[0].grams",
		`{"equipment":{"preset":"board_large"},"components":[{"grams":1,"kind":"string"}]}`:                                    "components[0].kind",
		`{"equipment":{"preset":"board_large"},"components":[{"grams":1}],"layers":[{"lays":[{"grams":1,"method":"feed"}]}]}`:  "layers[0].lays[0].method",
		`{"equipment":{"preset":"board_large"},"components":[{"grams":1}],"layers":[{"lays":[{"grams":2,"method":"paint"}]}]}`: "layers[0].lays[0].grams",
		`{"equipment":{"preset":"board_large","width_mm":0},"components":[{"grams":1}]}`:                                       "equipment.width_mm",
		`{"equipment":{"preset":"board_large"},"components":[{"grams":1}],"passes":-1}`:                                        "passes",
		`{"equipment":{"preset":"board_large"},"components":[{"grams":1}],"rolags":99}`:                                        "rolags",
	} {
		code, got := c.json("POST", api.Root+"/layup/check", body)
		assert.Equal(t, 422, code, body)
		assert.Equal(t, field, list(got["errors"])[0].(map[string]any)["field"], body)
	}
	code, got = c.json("POST", api.Root+"/blends/6/layups/build", `{"equipment_id":1,"builder":"depth","units":0}`)
	require.Equal(t, 201, code, got)
	path := fmt.Sprintf("%s/layups/%v", api.Root, got["id"])
	code, got = c.json("POST", path+"/changes", `{"version":1,"verb":"split","layer":0,"times":2}`)
	require.Equal(t, 200, code, got)
	assert.EqualValues(t, 2, got["version"])
	code, _ = c.json("POST", path+"/changes", `{"version":1,"verb":"mirror"}`)
	assert.Equal(t, 409, code)
	code, got = c.json("POST", api.Root+"/blends/6/weighouts", fmt.Sprintf(`{"units":4,"finished_g":60,"passes":2,"step_g":0.1,"layup_id":%v}`, got["id"]))
	require.Equal(t, 201, code, got)
	assert.NotEmpty(t, got["lays"])
	assert.Equal(t, 204, c.do("DELETE", path, "", "").Code)
	assert.Equal(t, 204, c.do("POST", path+"/restore", "", "").Code)
	code, _ = c.json("POST", api.Root+"/blends/6/layups", `{"name":"bare","equipment_id":1,"units":1,"layers":[]}`)
	assert.Equal(t, 201, code)
	code, got = c.json(
		"PUT",
		api.Root+"/layups/3",
		`{"version":1,"name":"x","equipment_id":1,"units":1,"layers":[{"lays":[{"component":0,"grams":500,"method":"feed"}]}]}`,
	)
	assert.Equal(t, 422, code)
	assert.Equal(t, "layers[0].lays[0].grams", list(got["errors"])[0].(map[string]any)["field"])
	code, got = c.json(
		"PUT",
		api.Root+"/layups/3",
		`{"version":1,"name":"x","equipment_id":1,"units":1,"layers":[{"lays":[{"component":0,"grams":5,"method":"feed"}]}]}`,
	)
	assert.Equal(t, 200, code)
	assert.EqualValues(t, 2, got["version"])
	for _, get := range []string{"/makings/3/layups", "/schools", "/blends/6/equipment", "/blends/6/layups"} {
		assert.Equal(t, 200, c.do("GET", api.Root+get, "", "").Code)
	}
}

// FuzzLayup: whatever is sent about a lay-up is answered or refused.
func FuzzLayup(f *testing.F) {
	c := sample(f)
	f.Add(
		"/layups/3/change",
		`{"version":1,"input":{"name":"x","equipment_id":1,"units":1,"layers":[{"lays":[{"component":0,"from":0,"to":1,"grams":1,"method":"feed"}]}]},"change":{"verb":"split","layer":0,"times":3},"keep":false}`,
	)
	f.Add(
		api.Root+"/layup/check",
		`{"equipment":{"preset":"board_large"},"components":[{"grams":9,"staple_mm":1e-9}],"layers":[{"lays":[{"grams":9,"method":"paint","from":0.1,"to":0.2,"start":0,"end":1}]}],"rolags":3,"draft":4}`,
	)
	f.Add(
		api.Root+"/layup/build",
		`{"equipment":{"preset":"drum_standard_hand"},"unit_g":1e5,"components":[{"parts":1},{"parts":1e-300,"kind":"neps_wool"}],"builder":"overlay","repeats":40,"step_g":0.001,"passes":20}`,
	)
	f.Fuzz(func(t *testing.T, path, body string) {
		c := client{t, c.h, c.s}
		if path != "/layups/3/change" && path != api.Root+"/layup/check" && path != api.Root+"/layup/build" {
			return
		}
		if w := c.do("POST", path, "application/json", body); w.Code >= 500 {
			t.Errorf("%d for %q", w.Code, body)
		}
	})
}

// Thick and thin is told where a blend is laid, in any words for several numbers; what is none stays in the field with a sentence.
func TestStripesAreToldThickAndThin(t *testing.T) {
	c := sample(t)
	form := func(thick string) *httptest.ResponseRecorder {
		return c.form("/blends/6/layup", "equipment_id", "1", "builder", "stripes-along", "repeats", "2", "units", "5", "thick", thick)
	}
	w := form("3 wide")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "Thick and thin are at most 12 numbers")
	assert.Contains(t, w.Body.String(), `value="3 wide"`)
	for _, thick := range []string{"3 1", "3:1", "3, 1"} {
		w = form(thick)
		require.Equal(t, 303, w.Code, thick)
		var id int64
		_, err := fmt.Sscanf(w.Header().Get("Location"), "/layups/%d", &id)
		require.NoError(t, err)
		l, err := c.s.Laying.Layup(t.Context(), id)
		require.NoError(t, err)
		var wide []float64
		for _, y := range l.LaidPlan.Layers {
			for _, v := range y.Lays {
				if v.To-v.From < 1 {
					wide = append(wide, v.To-v.From)
				}
			}
		}
		assert.Greater(t, slices.Max(wide), 2*slices.Min(wide))
	}
}
