package web

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/advice"
	"fairtangle/studio/advising"
	"fairtangle/web/api"
)

// TestNeedByTheAPI is a hat by a grist and by wraps, ten batts and a felt; the arithmetic stands
// in core/need.
func TestNeedByTheAPI(t *testing.T) {
	c := sample(t)
	code, got := c.json("POST", api.Root+"/need", `{"yarn":{"length_m":240,"grist_m_per_100g":360},"plies":2,"passes":2,"sample_g":8,"unit_capacity_g":60,
		"components":[{"name":"Corriedale","share":0.6,"loss_pct":2,"decay":0.6},{"name":"silk","share":0.4,"loss_pct":2,"joins_at_pass":2}]}`)
	require.Equal(t, 200, code, got)
	for what, want := range map[string]float64{"yarn_g": 66.667, "fibre_g": 77.144, "singles_m": 504, "singles_grist_m_per_100g": 756, "units": 2,
		"set_aside_g": 87.292} {
		assert.InDelta(t, want, got[what], 1e-3, what)
	}
	assert.Equal(t, []any{38.6, 38.5}, got["per_ply_g"])
	assert.Equal(t, false, got["estimated"])
	code, got = c.json("POST", api.Root+"/need", `{"yarn":{"length_m":240,"wpi":14},"plies":2}`)
	require.Equal(t, 200, code)
	assert.Equal(t, true, got["estimated"])
	assert.InDelta(t, 294, got["grist_m_per_100g"], 1e-9)
	assert.InDelta(t, 72.664, got["fibre_range_g"].([]any)[0], 1e-3)
	_, got = c.json("POST", api.Root+"/need", `{"batts":{"count":10,"grams":60}}`)
	assert.InDelta(t, 600, got["fibre_g"], 1e-9)
	_, got = c.json("POST", api.Root+"/need", `{"felt":{"area_cm2":900,"g_per_m2":350,"margin_pct":10}}`)
	assert.InDelta(t, 34.65, got["fibre_g"], 1e-9)
	for body, field := range map[string]string{`{}`: "yarn", `{"yarn":{"length_m":240}}`: "yarn", `{"batts":{"count":0,"grams":5}}`: "batts.count",
		`{"fibre_g":5,"waste_pct":95}`: "waste_pct", `{"fibre_g":5,"components":[{"share":0.5}]}`: "components", `{"yarn":{"weight_g":5},"plies":0}`: "plies"} {
		code, got := c.json("POST", api.Root+"/need", body)
		assert.Equal(t, 422, code, body)
		assert.Contains(t, fmt.Sprint(got["errors"]), field, body)
	}
}

// A need of a making: what is changed last holds, the locked stays, undo brings it back, and the
// blends get weights that add up to it to the step of the scale.
func TestANeedGivesWeights(t *testing.T) {
	c := sample(t)
	code, n := c.json("POST", api.Root+"/makings/1/need", `{"way":"yarn","length_m":240,"grist_m_per_100g":360}`)
	require.Equal(t, 201, code, n)
	id := n["id"]
	change := func(body string) (int, map[string]any) {
		return c.json("POST", fmt.Sprintf("%s/needs/%v/changes", api.Root, id), fmt.Sprintf(`{"version":%v,%s}`, n["version"], body))
	}
	must := func(body string) {
		code, next := change(body)
		require.Equal(t, 200, code, next)
		n = next
	}
	assert.Equal(t, 79.6, n["fibre_g"], "a fleece that was washed at home loses 5 % more when the yarn is washed")
	must(`"verb":"lock","field":"weight"`)
	must(`"verb":"set","field":"grist","value":300`)
	assert.InDelta(t, 200, n["length_m"], 1e-6, "the weight is locked, so the length follows")
	must(`"verb":"set","field":"length","value":240`)
	assert.InDelta(t, 360, n["grist_m_per_100g"], 1e-6)
	must(`"verb":"set","field":"wpi","value":14`)
	assert.Equal(t, true, n["estimated"])
	must(`"verb":"set","field":"length","value":200`)
	assert.Equal(t, 200.0, n["length_m"], "a length that is told stands; the wraps only estimated the grist")
	assert.Equal(t, 0.0, n["wpi"])
	must(`"verb":"set","field":"margin_pct","value":20`)
	must(`"verb":"usual","field":"margin_pct"`)
	assert.Nil(t, n["margin_pct"])
	must(`"verb":"use","text":"socks"`)
	must(`"verb":"set","field":"way","text":"batts"`)
	must(`"verb":"set","field":"count","value":24`)
	must(`"verb":"set","field":"each","value":60`)
	assert.Equal(t, 1440.0, n["fibre_g"])
	code, back := c.json("POST", fmt.Sprintf("%s/needs/%v/steps", api.Root, id), fmt.Sprintf(`{"version":%v,"way":"undo"}`, n["version"]))
	require.Equal(t, 200, code, back)
	assert.Equal(t, false, back["enough"])
	n = back
	must(`"verb":"set","field":"each","value":60`)

	var want float64
	for _, b := range n["blends"].([]any) {
		want += b.(map[string]any)["want_g"].(float64)
	}
	assert.InDelta(t, 1440, want, 1e-6)
	code, n = c.json("POST", fmt.Sprintf("%s/needs/%v/give", api.Root, id), "")
	require.Equal(t, 200, code, n)
	var now float64
	for _, b := range n["blends"].([]any) {
		v := b.(map[string]any)
		assert.Equal(t, false, v["apart"], v["name"])
		_, blend := c.json("GET", fmt.Sprintf("%s/blends/%v", api.Root, v["id"]), "")
		now += blend["total_g"].(float64)
	}
	assert.InDelta(t, 1440, now, 1e-6)
	var flow float64
	for _, f := range n["flow"].([]any) {
		flow += f.(map[string]any)["grams"].(float64)
	}
	assert.InDelta(t, n["set_aside_g"], flow, 1e-6)
	assert.Greater(t, n["cloth_g"], 1.0, "the cloth of "+fmt.Sprint(n["made_on"]))
	code, _ = change(`"verb":"set","field":"count","value":1.5`)
	assert.Equal(t, 422, code)
	code, old := c.json("PUT", fmt.Sprintf("%s/needs/%v", api.Root, id), `{"version":1,"what":"x","way":"batts","plies":2}`)
	assert.Equal(t, 409, code, old)
	for _, path := range []string{"/makings/1/need", "/makings/3/need", fmt.Sprintf("/needs/%v", id)} {
		w := c.do("GET", path, "", "")
		assert.Contains(t, []int{200, 303}, w.Code, path)
	}
}

// Two makings that want one lot: who was first is served first, the other is told what it lacks,
// Find keeps its hands off, and what is weighed or put away is wanted no more.
func TestTwoMakingsWantOneLot(t *testing.T) {
	c := sample(t)
	claims := func() []map[string]any {
		code, list := c.list("GET", api.Root+"/lots/1/claims")
		require.Equal(t, 200, code)
		return list
	}
	before := claims()
	require.Len(t, before, 1, "the throw's own weigh-out")
	wants := before[0]["grams"].(float64)
	_, m := c.json("POST", api.Root+"/makings", `{"name":"Hat"}`)
	_, b := c.json("POST", fmt.Sprintf("%s/makings/%v/blends", api.Root, m["id"]), `{"name":"Hat","total_g":250,"passes":1,"components":[{"lot_id":1,"parts":1}]}`)
	require.NotNil(t, b["id"], b)
	list := claims()
	require.Len(t, list, 2, "a blend of a making without a need wants its own weight")
	assert.InDelta(t, 250/0.98, list[1]["grams"], 0.01)
	code, n := c.json("POST", fmt.Sprintf("%s/makings/%v/need", api.Root, m["id"]), `{"way":"batts","count":5,"each_g":50}`)
	require.Equal(t, 201, code, n)
	list = claims()
	require.Len(t, list, 2)
	assert.Equal(t, "Tide Table throw", list[0]["making"])
	assert.InDelta(t, 250/0.98, list[1]["grams"], 0.01)
	_, lot := c.json("GET", api.Root+"/lots/1", "")
	assert.InDelta(t, wants+250/0.98-lot["grams"].(float64), list[1]["lacks_g"], 0.01)
	assert.Contains(t, c.page("/lots/1"), "too little is left for it")
	assert.Contains(t, c.page("/shelf"), "spoken for")
	assert.Contains(t, c.page(fmt.Sprintf("/makings/%v", m["id"])), "Wanted by more than one making")

	code, w := c.json("POST", fmt.Sprintf("%s/blends/%v/weighouts", api.Root, b["id"]), `{"name":"Hat","units":5,"finished_g":50,"passes":1,"step_g":0.1}`)
	require.Equal(t, 201, code, w)
	list = claims()
	assert.InDelta(t, 250/0.98, list[1]["grams"], 0.3, "the weigh-out is of what the need wants, not on top of it")
	find := func(unclaimed bool) (uses float64) {
		body := fmt.Sprintf(`{"target":"#6b8799","max_components":1,"count":1,"wish":{"unclaimed":%v}}`, unclaimed)
		_, a := c.json("POST", api.Root+"/blends/6/find", body)
		for _, r := range a["found"].([]any) {
			for _, v := range r.(map[string]any)["components"].([]any) {
				if id, ok := v.(map[string]any)["lot_id"].(float64); ok && id == 1 {
					uses++
				}
			}
		}
		return uses
	}
	assert.Equal(t, 1.0, find(false))
	assert.Zero(t, find(true), "what is left of it is too little for 240 g")
	c.form(fmt.Sprintf("/makings/%v/archive", m["id"]))
	assert.Len(t, claims(), 1)
}

// list reads an answer that is a list.
func (c client) list(method, path string) (int, []map[string]any) {
	w := c.do(method, path, "", "")
	var out []map[string]any
	require.NoError(c.t, json.Unmarshal(w.Body.Bytes(), &out))
	return w.Code, out
}

// A colour can be given to a lot of which nothing is left; a need is of what there is.
func TestEmptyLotsTakeAColour(t *testing.T) {
	c := sample(t)
	_, lot := c.json("GET", api.Root+"/lots/1", "")
	name := fmt.Sprint(lot["name"])
	code, _ := c.json("POST", api.Root+"/lots/1/movements", `{"reason":"recount","grams":0,"key":"nothing-of-it-left"}`)
	require.Less(t, code, 300)
	photo, need := c.page("/photos/1"), c.page("/needs/1")
	assert.Contains(t, photo, `"name":"`+name+`"`)
	assert.NotContains(t, need, `"id":1,"name":"`+name+`"`)
}

// A blend may look otherwise than the whole: the second look goes by it, and undo brings the whole's back.
func TestABlendMayLookOtherwiseThanTheWhole(t *testing.T) {
	c := sample(t)
	code, n := c.json("GET", api.Root+"/makings/3/need", "")
	require.Equal(t, 200, code, n)
	var border int64
	for _, b := range n["blends"].([]any) {
		if b := b.(map[string]any); b["name"] == "Border" {
			border = int64(b["id"].(float64))
		}
	}
	goal := func() bool {
		looks, err := c.s.Advising.LookFrom(t.Context(), advising.LookWhere{Place: advice.AtBlend, Blend: border})
		require.NoError(t, err)
		return slices.ContainsFunc(looks[0].Findings, func(f advice.Finding) bool { return strings.Contains(f.What.String(), "It is to be heathered") })
	}
	require.False(t, goal(), "it is to be striped")
	change := func(key int64, look string) (int, map[string]any) {
		return c.json("POST", fmt.Sprintf("%s/needs/%v/changes", api.Root, n["id"]), fmt.Sprintf(`{"version":%v,"verb":"look","key":%d,"text":%q}`, n["version"], key, look))
	}
	code, got := change(border, "plaid")
	require.Equal(t, 422, code, got)
	code, got = change(1, "striped")
	require.Equal(t, 422, code, "of another making: %v", got)
	code, n = change(border, "")
	require.Equal(t, 200, code, n)
	assert.True(t, goal())
	code, got = c.json("POST", fmt.Sprintf("%s/needs/%v/steps", api.Root, n["id"]), fmt.Sprintf(`{"version":%v,"way":"undo"}`, n["version"]))
	require.Equal(t, 200, code, got)
	assert.False(t, goal())
}
