package web

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/studio/laying"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/web/api"
)

// Every piece of work goes back and on through the API; a step of an old version,
// a way that there is not, and a step of another piece are told.
func TestStepsThroughTheAPI(t *testing.T) {
	c := sample(t)
	for path, in := range map[string]any{
		"blends": &recipe.BlendInput{}, "gradients": &reach.GradientInput{}, "scraps": &reach.BagInput{}, "layups": &laying.LayupInput{},
	} {
		at := api.Root + "/" + path + "/1"
		code, was := c.json("GET", at, "")
		require.Equal(t, 200, code, path)
		doc, err := json.Marshal(was)
		require.NoError(t, err)
		require.NoError(t, json.Unmarshal(doc, in)) // what may be said of it
		doc, err = json.Marshal(in)
		require.NoError(t, err)
		var put map[string]any
		require.NoError(t, json.Unmarshal(doc, &put))
		put["name"], put["version"] = "another name", was["version"]
		body, err := json.Marshal(put)
		require.NoError(t, err)
		code, now := c.json("PUT", at, string(body))
		require.Equal(t, 200, code, "%s: %v", path, now)
		_, steps := c.json("GET", at+"/steps", "")
		back := list(steps["back"])
		require.NotEmpty(t, back, path)
		step := func(version any, rest string) (int, map[string]any) {
			return c.json("POST", at+"/steps", fmt.Sprintf(`{"version":%v,%s}`, version, rest))
		}
		code, _ = step(was["version"], `"way":"undo"`)
		assert.Equal(t, 409, code, "%s: an old window", path)
		code, _ = step(now["version"], `"way":"sideways"`)
		assert.Equal(t, 422, code, path)
		code, _ = step(now["version"], `"to":999999`)
		assert.Equal(t, 404, code, path)
		code, undone := step(now["version"], `"way":"undo"`)
		require.Equal(t, 200, code, "%s: %v", path, undone)
		assert.Equal(t, was["name"], undone["name"], path)
		code, again := step(undone["version"], `"way":"redo"`)
		require.Equal(t, 200, code, "%s: %v", path, again)
		assert.Equal(t, "another name", again["name"], path)
		code, first := step(again["version"], fmt.Sprintf(`"to":%v`, back[0].(map[string]any)["id"]))
		require.Equal(t, 404, code, "%s: a step that was gone back to is gone: %v", path, first)
		code, _ = c.json("GET", api.Root+"/"+path+"/999999/steps", "")
		assert.Equal(t, 404, code, path)
	}
}

// Two changes on their way at once, both made from the page as it was before
// either was answered: the second finds its fibre by its key though the first
// took a row away.
func TestAChangeFindsItsRowByKey(t *testing.T) {
	p := openPage(sample(t), "/blends/6", "blend-data")
	rows := list(p.view["rows"])
	key := func(i int) string { return rows[i].(map[string]any)["key"].(string) }
	third := key(2)
	code, got := p.do(fmt.Sprintf(`"change":{"verb":"remove","key":%q}`, key(0)), true)
	require.Equal(t, 200, code, "%v", got)
	code, got = p.do(fmt.Sprintf(`"change":{"verb":"share","key":%q},"typed":{"percent":"44"}`, third), true)
	require.Equal(t, 200, code, "%v", got)
	row := list(p.view["rows"])[1].(map[string]any)
	assert.Equal(t, third, row["key"])
	assert.Equal(t, "44", row["percent"])
	code, got = p.do(fmt.Sprintf(`"change":{"verb":"share","key":%q},"typed":{"percent":"44"}`, key(0)), true)
	require.Equal(t, 422, code)
	assert.Contains(t, fmt.Sprint(got["errors"]), "no longer in the blend")
}
