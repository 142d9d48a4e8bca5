package web

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// Four batts leave 1.4, 0.7, 0.4 and 0.2 g in the cloth of the drum; a cleaning empties it, and
// what it brought up teaches what the cloth holds. Back in the bin, all is as it was.
func TestAClothFillsIsCleanedAndTeaches(t *testing.T) {
	c := sample(t)
	book := func() map[string]any {
		code, b := c.json("GET", api.Root+"/equipment/1/book", "")
		require.Equal(t, 200, code, b)
		return b
	}
	empty := book()
	holds := empty["cloth_holds_g"].(float64)
	assert.Zero(t, empty["cloth_g"])
	code, run := c.json("POST", api.Root+"/weighouts/1/runs", `{}`)
	require.Equal(t, 201, code, run)
	id := run["id"]
	for u := range 4 {
		body := fmt.Sprintf(`{"key":"came-off-%d-x","unit":%d,"pass":1,"what":"off","grams":60}`, u, u)
		code, out := c.json("POST", fmt.Sprintf("%s/runs/%v/entries", api.Root, id), body)
		require.Equal(t, 201, code, out)
	}
	full := book()
	assert.InDelta(t, holds*(1-1.0/16), full["cloth_g"], 0.005, "a half of what is missing, four times")
	code, cleaned := c.json("POST", api.Root+"/equipment/1/cleanings", `{"full":true,"brought_g":4,"minutes":12}`)
	require.Equal(t, 201, code, cleaned)
	after := book()
	assert.Zero(t, after["cloth_g"])
	held := cleaned["held_g"].(float64)
	assert.InDelta(t, 0.7*holds+0.3*holds*4/held, after["cloth_holds_g"], 1e-6)
	assert.Len(t, after["cleanings"], 1)
	c.json("DELETE", fmt.Sprintf("%s/cleanings/%v", api.Root, cleaned["id"]), "")
	assert.InDelta(t, full["cloth_g"], book()["cloth_g"], 1e-9)

	for body, status := range map[string]int{`{"brought_g":-1}`: 422, `{"minutes":601}`: 422, `{"brought_g":"much"}`: 400} {
		code, got := c.json("POST", api.Root+"/equipment/1/cleanings", body)
		assert.Equal(t, status, code, body)
		assert.NotEmpty(t, got["errors"], body)
	}
	code, _ = c.json("GET", api.Root+"/equipment/99/cleanings", "")
	assert.Equal(t, 404, code)
}

// A sample is a run of a few grams with a decision; it is no part of what its blend still needs.
func TestASampleIsDecidedOn(t *testing.T) {
	c := sample(t)
	_, before := c.json("GET", api.Root+"/blends/6", "")
	code, w := c.json("POST", api.Root+"/blends/6/weighouts", `{"name":"a sample","units":1,"finished_g":8,"passes":1,"step_g":0.1,"sample":true}`)
	require.Equal(t, 201, code, w)
	code, got := c.json("POST", fmt.Sprintf("%s/weighouts/%v/weighings", api.Root, w["id"]), `{"key":"sample-weighed","version":1,"unit":0,"component":0,"grams":3.1,"policy":"as-is"}`)
	require.Equal(t, 201, code, got)
	_, now := c.json("GET", api.Root+"/blends/6", "")
	at := func(b map[string]any, what string) any { return b["components"].([]any)[0].(map[string]any)[what] }
	assert.Equal(t, at(before, "weighed_g"), at(now, "weighed_g"), "a sample is no part of the blend")
	assert.InDelta(t, at(before, "have_g").(float64)-3.1, at(now, "have_g"), 1e-9)

	code, run := c.json("POST", fmt.Sprintf("%s/weighouts/%v/runs", api.Root, w["id"]), `{"equipment_id":1}`)
	require.Equal(t, 201, code, run)
	assert.Equal(t, true, run["sample"])
	entries := fmt.Sprintf("%s/runs/%v/entries", api.Root, run["id"])
	code, run = c.json("POST", entries, `{"key":"decided-once","what":"decided","number":2,"text":"more flax"}`)
	require.Equal(t, 201, code, run)
	assert.Equal(t, map[string]any{"choice": 2.0, "text": "more flax"}, run["decision"])
	code, _ = c.json("POST", entries, `{"key":"decided-wrong","what":"decided","number":4}`)
	assert.Equal(t, 422, code)
	code, _ = c.json("POST", api.Root+"/runs/1/entries", `{"key":"no-sample-this","what":"decided","number":1}`)
	assert.Equal(t, 422, code)
	code, list := c.json("GET", api.Root+"/notebook?sort=trial", "")
	require.Equal(t, 200, code)
	assert.Equal(t, 1.0, list["total"])
}

// What was foreseen of a run's minutes, and of the colour of what came of it, stays as it was
// said, beside what came.
func TestMinutesAndColoursAreCompared(t *testing.T) {
	c := sample(t)
	code, run := c.json("POST", api.Root+"/weighouts/1/runs", `{}`)
	require.Equal(t, 201, code)
	entries := fmt.Sprintf("%s/runs/%v/entries", api.Root, run["id"])
	for i, minutes := range []float64{30, 12, 34} { // foreseen are 22, between 13.2 and 35.2
		code, out := c.json("POST", entries, fmt.Sprintf(`{"key":"minutes-%d-x","unit":%d,"pass":1,"what":"minutes","number":%v}`, i, i, minutes))
		require.Equal(t, 201, code, out)
	}
	_, rec := c.json("GET", api.Root+"/notebook/record", "")
	var held []bool
	for _, v := range rec["minutes"].([]any) {
		if m := v.(map[string]any); m["run_id"] == run["id"] {
			assert.InDelta(t, 22, m["foreseen"], 1e-9)
			held = append(held, m["held"].(bool))
		}
	}
	assert.Equal(t, []bool{true, false, true}, held)
	assert.Empty(t, rec["colours"])
	code, lot := c.json("GET", api.Root+"/lots/34", "")
	require.Equal(t, 200, code)
	body := fmt.Sprintf(`{"version":%v,"name":"Cuff rolags","kind":%q,"preparation":%q,"colours":[{"hex":"#10140a","share":1,"source":"picker"}]}`, lot["version"], lot["kind"], lot["preparation"])
	code, got := c.json("PUT", api.Root+"/lots/34", body)
	require.Equal(t, 200, code, got)
	_, rec = c.json("GET", api.Root+"/notebook/record", "")
	require.Len(t, rec["colours"], 1)
	off := rec["colours"].([]any)[0].(map[string]any)
	assert.Equal(t, false, off["held"], "near black, where an olive was foreseen: %v", off)
	assert.Greater(t, off["came"], 20.0)
}
