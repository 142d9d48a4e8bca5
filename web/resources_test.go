package web

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// From nothing to a weighed unit through the API alone.
func TestJourneyThroughTheAPI(t *testing.T) {
	c := sample(t)
	code, lot := c.json(
		"POST",
		api.Root+"/lots",
		`{"name":"new top","kind":"polwarth","preparation":"combed_top","colours":[{"hex":"#AABBCC"}],"grams":50,"cost_per_100g":8}`,
	)
	require.Equal(t, 201, code, lot)
	assert.Equal(t, "#aabbcc", lot["mean_hex"])
	assert.Equal(t, 105.0, lot["working_staple_mm"], "80 to 130 mm, the middle")
	lotPath := fmt.Sprintf("%s/lots/%v", api.Root, lot["id"])
	code, m := c.json("POST", lotPath+"/movements", `{"reason":"take-out","grams":60,"note":""}`)
	require.Equal(t, 422, code)
	assert.Contains(t, m["detail"], "Only 50 g")
	code, m = c.json("POST", lotPath+"/movements", `{"reason":"recount","grams":48.5,"note":"moths"}`)
	require.Equal(t, 201, code)
	assert.Equal(t, -1.5, m["grams"])
	code, _ = c.json("POST", fmt.Sprintf("%s/movements/%v/undo", lotPath, m["id"]), "")
	require.Equal(t, 201, code)
	code, _ = c.json("POST", fmt.Sprintf("%s/movements/%v/undo", lotPath, m["id"]), "")
	assert.Equal(t, 422, code, "undone once")

	code, making := c.json("POST", api.Root+"/makings", `{"name":"Mitts"}`)
	require.Equal(t, 201, code)
	code, b := c.json(
		"POST",
		fmt.Sprintf("%s/makings/%v/blends", api.Root, making["id"]),
		fmt.Sprintf(
			`{"name":"one","total_g":30,"passes":0,"components":[{"lot_id":%v,"parts":3},{"name":"white","kind":"romney","preparation":"combed_top","hex":"#ffffff","parts":1}]}`,
			lot["id"],
		),
	)
	require.Equal(t, 201, code, b)
	assert.InDelta(t, 50/0.75, b["largest_g"], 1e-9)
	assert.InDelta(t, 22.5*8/100, b["cost"], 1e-9)
	blend := fmt.Sprintf("%s/blends/%v", api.Root, b["id"])
	code, b = c.json("POST", blend+"/changes", `{"version":1,"verb":"share","at":0,"value":0.5}`)
	require.Equal(t, 200, code, b)
	code, _ = c.json("POST", blend+"/changes", `{"version":1,"verb":"share","at":0,"value":0.6}`)
	assert.Equal(t, 409, code)
	code, got := c.json("POST", blend+"/changes", `{"version":2,"verb":"share","at":0,"value":1}`)
	require.Equal(t, 422, code)
	assert.Equal(t, "components[0].share", got["errors"].([]any)[0].(map[string]any)["field"])

	code, w := c.json("POST", blend+"/weighouts", `{"units":1,"finished_g":30,"passes":0,"step_g":0.1}`)
	require.Equal(t, 201, code, w)
	path := fmt.Sprintf("%s/weighouts/%v", api.Root, w["id"])
	for i, grams := range []float64{15, 15} {
		code, w = c.json(
			"POST",
			path+"/weighings",
			fmt.Sprintf(`{"key":"through-the-api.Root-%d","version":%v,"unit":0,"component":%d,"grams":%v}`, i, w["version"], i, grams),
		)
		require.Equal(t, 201, code, w)
	}
	assert.Nil(t, w["next"])
	_, lot = c.json("GET", lotPath, "")
	assert.Equal(t, 35.0, lot["grams"])
	assert.Contains(t, c.do("GET", lotPath+"/movements", "", "").Body.String(), `"reason":"weighing"`)
}

// What is deleted is gone, can be restored once, and never twice.
func TestBinThroughTheAPI(t *testing.T) {
	c := sample(t)
	for _, path := range []string{"/lots/2", "/makings/2", "/blends/3", "/weighouts/1"} {
		require.Equal(t, 204, c.do("DELETE", api.Root+path, "", "").Code, path)
		assert.Equal(t, 404, c.do("GET", api.Root+path, "", "").Code, path)
		assert.Equal(t, 404, c.do("DELETE", api.Root+path, "", "").Code, path)
		require.Equal(t, 204, c.do("POST", api.Root+path+"/restore", "", "").Code, path)
		assert.Equal(t, 200, c.do("GET", api.Root+path, "", "").Code, path)
		assert.Equal(t, 404, c.do("POST", api.Root+path+"/restore", "", "").Code, path)
	}
	assert.Equal(t, 405, c.do("PATCH", api.Root+"/lots/2", "", "").Code)
}

func TestKindsThroughTheAPI(t *testing.T) {
	c := sample(t)
	kind := `{"name":"Estuary cross","family":"wool","role":"base","diameter_um_low":25,"diameter_um_high":30,"staple_mm_low":80,"staple_mm_high":120,
		"density_g_cm3":1.31,"crimp":"medium","cohesion":"grippy","lustre":"semi","carding_loss_pct_low":1,"carding_loss_pct_high":3,"note":""%s}`
	code, k := c.json("POST", api.Root+"/kinds", fmt.Sprintf(kind, ""))
	require.Equal(t, 201, code, k)
	assert.Equal(t, "own-2", k["key"])
	code, _ = c.json("PUT", api.Root+"/kinds/2", fmt.Sprintf(kind, `,"version":1`))
	assert.Equal(t, 200, code)
	code, got := c.json("PUT", api.Root+"/kinds/2", fmt.Sprintf(kind, `,"version":1`))
	require.Equal(t, 409, code)
	assert.Equal(t, 2.0, got["current"].(map[string]any)["version"])
	code, got = c.json("POST", api.Root+"/kinds", `{"name":"x","family":"stone","role":"base"}`)
	require.Equal(t, 422, code)
	assert.Equal(t, "family", got["errors"].([]any)[0].(map[string]any)["field"])
	assert.Contains(t, c.do("GET", api.Root+"/kinds", "", "").Body.String(), "Estuary cross")
	assert.Contains(t, c.do("GET", api.Root+"/preparations", "", "").Body.String(), "picked_cloud")
	assert.Contains(t, c.do("GET", api.Root+"/blends/6/weighouts", "", "").Body.String(), "Slack, four batts")
	assert.Contains(t, c.do("GET", api.Root+"/makings/3/blends", "", "").Body.String(), "Saltmarsh")
	assert.Equal(t, 400, c.do("GET", api.Root+"/lots?limit=-1", "", "").Code)
}
