package web

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// All blends of a making are laid up in one deed, each in the units that it takes; where one can not be, none is.
func TestAllBlendsOfAMakingAreLaidUp(t *testing.T) {
	c := sample(t)
	laid := func(blend string) int {
		_, l := c.list("GET", api.Root+"/blends/"+blend+"/layups")
		return len(l)
	}
	w := c.do("POST", api.Root+"/makings/3/layups", "application/json",
		`{"equipment_id":1,"builder":"sandwich","off":{"way":"rolags","rods":"one"},"alone_first":1}`)
	require.Equal(t, 201, w.Code, w.Body.String())
	var items []map[string]any
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), &items))
	require.Len(t, items, 4, "those that do not lie on it yet")
	for _, l := range items {
		assert.Equal(t, map[string]any{"way": "rolags", "rods": "one"}, l["off"])
		assert.Contains(t, l["alone_first"], 1.0)
		assert.EqualValues(t, 1, l["equipment_id"])
		assert.LessOrEqual(t, l["loads"].(map[string]any)["fill"], 1.0001)
	}
	code, got := c.json("POST", api.Root+"/makings/3/layups", `{"equipment_id":1,"builder":"sandwich"}`)
	assert.Equal(t, 422, code, "none is left")
	assert.Equal(t, "blends", list(got["errors"])[0].(map[string]any)["field"])
	before := laid("6")
	for body, field := range map[string]string{
		`{"equipment_id":1,"blends":[6,1],"builder":"sandwich"}`:                         "blends", // of another making
		`{"equipment_id":99,"blends":[6],"builder":"sandwich"}`:                          "equipment_id",
		`{"equipment_id":1,"blends":[6],"builder":""}`:                                   "builder",
		`{"equipment_id":1,"blends":[6],"builder":"heap"}`:                               "builder",
		`{"equipment_id":1,"blends":[6,5],"builder":"sandwich","off":{"way":"unheard"}}`: "off.way",
	} {
		code, got = c.json("POST", api.Root+"/makings/3/layups", body)
		assert.Equal(t, 422, code, body)
		assert.Equal(t, field, list(got["errors"])[0].(map[string]any)["field"], body)
	}
	assert.Equal(t, before, laid("6"), "none was laid where one could not be")
	w = c.form("/makings/3/layup", "equipment_id", "1", "builder", "depth", "blend", "6", "off", "hole", "key", "laid-all-once")
	require.Equal(t, 303, w.Code, w.Body.String())
	c.form("/makings/3/layup", "equipment_id", "1", "builder", "depth", "blend", "6", "off", "hole", "key", "laid-all-once")
	assert.Equal(t, before+1, laid("6"), "pressed twice it is laid once")
	w = c.form("/makings/3/layup", "equipment_id", "1", "builder", "depth", "passes", "many", "blend", "6")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), `value="many"`)
	assert.Contains(t, c.page("/makings/3/layup"), "Loadings, in order")
}
