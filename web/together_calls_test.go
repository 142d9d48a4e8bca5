package web

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// Tints and shades, what lies around a colour, and what stands on a label, by the API.
func TestColoursTogetherByTheAPI(t *testing.T) {
	c := sample(t)
	code, v := c.json("POST", api.Root+"/range", `{"base":[{"name":"teal","colour":{"hex":"#1d6f78"},"parts":3},{"name":"slate","colour":{"hex":"#4c5257"},"parts":1}],
		"lighter":{"name":"white","colour":{"hex":"#f1ece1"}},"darker":{"name":"black","colour":{"hex":"#1c1b1a"}},"lighter_steps":3,"darker_steps":2,"each_g":60}`)
	require.Equal(t, 200, code, v)
	blends := v["blends"].([]any)
	require.Len(t, blends, 6)
	totals, jumps := map[string]float64{}, []float64{}
	last := 101.0
	for i, b := range blends {
		b := b.(map[string]any)
		assert.EqualValues(t, i-3, b["place"])
		light := b["colour"].(map[string]any)["lab"].([]any)[0].(float64)
		assert.Less(t, light, last, "lightest first")
		last = light
		var grams float64
		for _, p := range b["components"].([]any) {
			p := p.(map[string]any)
			grams += p["grams"].(float64)
			totals[p["name"].(string)] += p["grams"].(float64)
		}
		assert.InDelta(t, 60, grams, 1e-9)
		if j, ok := b["jump_to_next"].(float64); ok {
			jumps = append(jumps, j)
		}
	}
	require.Len(t, jumps, 5)
	assert.InDelta(t, jumps[0], jumps[2], 0.05*jumps[0])
	assert.InDelta(t, jumps[3], jumps[4], 0.05*jumps[3])
	for name, g := range totals {
		assert.InDelta(t, g, v["component_totals_g"].(map[string]any)[name], 1e-9)
	}
	code, v = c.json("POST", api.Root+"/wheel", `{"lots":[{"id":"rust","colour":{"hex":"#c06a3c"}},{"id":"grey","colour":{"hex":"#808080"}},{"id":"teal","colour":{"hex":"#1d6f78"}}],"around":{"hex":"#1d6f78"},"scheme":"opposite","width_deg":60}`)
	require.Equal(t, 200, code, v)
	fits := v["places"].([]any)[0].(map[string]any)["fits"].([]any)
	require.Len(t, fits, 1)
	assert.Equal(t, "rust", fits[0].(map[string]any)["id"])
	assert.Equal(t, []any{"grey"}, v["without_hue"])
	code, v = c.json("POST", api.Root+"/wheel", `{"lots":[],"around":{"hex":"#808080"},"scheme":"triad"}`)
	require.Equal(t, 200, code, v)
	assert.Nil(t, v["hue_deg"])
	assert.Empty(t, v["places"])
	code, v = c.json("POST", api.Root+"/label", `{"components":[{"content":"wool","finished_g":61.2},{"content":"silk","finished_g":38.8}],"care":["Hand wash"],"style":"home"}`)
	require.Equal(t, 200, code, v)
	assert.Equal(t, "61\u00a0% wool, 39\u00a0% silk. Hand wash.", v["text"])
	for path, list := range map[string]map[string]string{
		"range": {"base": `{"base":[]}`, "lighter": `{"base":[{"colour":{"hex":"#808080"}}],"lighter_steps":2}`, "base[0].colour": `{"base":[{"parts":1}]}`,
			"darker_steps": `{"base":[{"colour":{"hex":"#808080"}}],"darker":{"colour":{"hex":"#111111"}},"darker_steps":40}`,
			"spacing":      `{"base":[{"colour":{"hex":"#808080"}}],"spacing":"odd"}`, "each_g": `{"base":[{"colour":{"hex":"#808080"}}],"each_g":-1}`},
		"wheel": {"scheme": `{"around":{"hex":"#808080"},"scheme":"pentad"}`, "around": `{"scheme":"triad"}`, "width_deg": `{"around":{"hex":"#108080"},"scheme":"triad","width_deg":900}`},
		"label": {"components": `{"components":[]}`, "style": `{"components":[{"content":"wool","finished_g":1}],"style":"loud"}`},
	} {
		for field, body := range list {
			code, v = c.json("POST", api.Root+"/"+path, body)
			assert.Equal(t, 422, code, "%s %s", path, body)
			assert.Contains(t, fmt.Sprint(v), "field:"+field, body)
		}
	}
}

// Lines as people write them become lots as they were understood, by the API; what is unsure is marked, and empty lines are none.
func TestLinesAreReadByTheAPI(t *testing.T) {
	c := sample(t)
	code, v := c.json("POST", api.Root+"/lots/read", `{"lines":["262 g grey-blue corriedale top","","merino 4"],"weight_unit":"oz"}`)
	require.Equal(t, 200, code, v)
	lots := v["lots"].([]any)
	require.Len(t, lots, 2)
	first, second := lots[0].(map[string]any), lots[1].(map[string]any)
	assert.Equal(t, []any{"corriedale", "combed_top", 262.0, "grey-blue corriedale top", []any{"colour"}, ""},
		[]any{first["kind"], first["preparation"], first["grams"], first["name"], first["unsure"], first["left"]})
	assert.NotNil(t, first["colour"])
	assert.EqualValues(t, 2, second["line"])
	assert.InDelta(t, 4*28.349523125, second["grams"], 1e-9)
	assert.Nil(t, second["colour"])
	assert.Contains(t, second["instead"].(map[string]any)["kind"], "merino_superfine")
	code, _ = c.json("POST", api.Root+"/lots/read", `{"lines":["x"],"weight_unit":"stone"}`)
	assert.Equal(t, 422, code)
}
