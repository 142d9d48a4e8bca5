package web

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// How it comes off the tool is kept with the lay-up, and known to the order of the work, the second look and the yarn.
func TestHowItComesOffIsKnownFurtherOn(t *testing.T) {
	c := sample(t)
	change := func(layup int, said string) (int, map[string]any) {
		_, l := c.json("GET", fmt.Sprintf("%s/layups/%d", api.Root, layup), "")
		return c.json(http.MethodPost, fmt.Sprintf("%s/layups/%d/changes", api.Root, layup), fmt.Sprintf(`{"version":%v,%s}`, l["version"], said))
	}
	assert.Contains(t, c.page("/layups/1/bench"), "Lift the batt off, pass 2")
	code, l := change(1, `"verb":"off","text":"hole"`)
	require.Equal(t, 200, code, l)
	code, l = change(1, `"verb":"hole","value":4`)
	require.Equal(t, 200, code, l)
	assert.Equal(t, map[string]any{"way": "hole", "hole_mm": 4.0}, l["off"])
	page := c.page("/layups/1/bench")
	for _, want := range []string{"Draw it off, pass 2", "a hole of 4", "Thread a tuft", "Lift the batt off, pass 1"} {
		assert.Contains(t, page, want)
	}
	spun := func(layup int) []any {
		_, y := c.json("GET", fmt.Sprintf("%s/layups/%d/yarn", api.Root, layup), "")
		return []any{y["way"], y["parts"], y["order"]}
	}
	assert.Equal(t, []any{"strips", 8.0, "back-and-forth"}, spun(1), "drawn off round by round")
	code, l = change(1, `"verb":"off","text":"rolags"`)
	require.Equal(t, 200, code, l)
	assert.Contains(t, c.page("/layups/1/bench"), "Rolags straight off the drum, on one rod with a starter, loose.")
	assert.Equal(t, "rolags", spun(1)[0], "and the yarn follows")
	for _, said := range []string{`"verb":"rods","text":"two"`, `"verb":"tight","times":1`} {
		code, l = change(1, said)
		require.Equal(t, 200, code, l)
	}
	page = c.page("/layups/1/bench")
	assert.Contains(t, page, "on two rods, tight.")
	assert.Contains(t, page, "oval roll")

	code, l = change(4, `"verb":"off","text":"sheet"`)
	require.Equal(t, 200, code, l)
	assert.Nil(t, l["rolls"], "one sheet has no cuts")
	assert.Contains(t, c.page("/layups/4/bench"), "The whole board in one sheet")
	for said, field := range map[string]string{`"verb":"off","text":"wound"`: "off.way", `"verb":"rods","text":"three"`: "off.rods", `"verb":"hole","value":99`: "off.hole_mm"} {
		code, l = change(1, said)
		assert.Equal(t, 422, code, said)
		assert.Equal(t, field, list(l["errors"])[0].(map[string]any)["field"])
	}
	code, l = change(1, `"verb":"build","build":{"builder":"lanes"}`)
	require.Equal(t, 200, code, l)
	assert.Equal(t, "rolags", l["off"].(map[string]any)["way"], "laid anew, it still comes off so")
}
