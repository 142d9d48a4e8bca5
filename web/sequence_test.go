package web

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// The yarn of fourteen rungs by the API, as it is worked by hand: in metres, with its joins; a ply softens what a chain keeps, a
// batt is a rung of several runs, and the draw tells how thick it is.
func TestASequenceByTheAPI(t *testing.T) {
	c := sample(t)
	var rungs []string
	for i, g := range []float64{9, 8, 8, 7, 7, 6, 6, 6, 7, 7, 8, 8, 9, 10} {
		rungs = append(rungs, fmt.Sprintf(`{"name":"rung %d","grams":%g,"colour":{"lab":[%d,10,-20]}}`, i+1, g, 30+4*i))
	}
	ask := func(more string) (int, map[string]any) {
		return c.json("POST", api.Root+"/yarn/sequence", `{"rungs":[`+strings.Join(rungs, ",")+`]`+more+`}`)
	}
	code, v := ask(`,"ply":"two","split":"first-and-second-half","draw":"long","prepared":"rolag"`)
	require.Equal(t, 200, code, v)
	assert.InDelta(t, 471.1, v["plied_m"], 0.05)
	assert.InDelta(t, 38.8, v["left_m"].([]any)[1], 0.05)
	assert.InDelta(t, 1.115, v["diameter_mm"], 0.001)
	assert.InDelta(t, 16.9, v["wraps_per_inch"], 0.06)
	at := 0.0
	for _, r := range v["runs"].([]any) {
		r := r.(map[string]any)
		assert.InDelta(t, at, r["from_m"], 1e-9)
		at = r["to_m"].(float64)
	}
	assert.InDelta(t, v["plied_m"], at, 1e-9)
	code, v = ask(`,"ply":"chain","jump":2`)
	require.Equal(t, 200, code, v)
	assert.Len(t, v["joins"], 13)
	first := v["joins"].([]any)[0].(map[string]any)
	assert.InDelta(t, 27.7, first["at_m"], 0.05)
	assert.Equal(t, true, first["abrupt"])
	assert.InDelta(t, 2*8.0/3, first["bridge"].(map[string]any)["grams"], 1e-9)
	assert.NotContains(t, v, "diameter_mm", "nobody said how it is drawn")
	batt := `{"equipment":{"preset":"drum_standard_hand"},"components":[{"name":"navy","colour":{"hex":"#26324a"},"kind":"merino"},{"name":"cream","colour":{"hex":"#efe8d8"},"kind":"merino"}],
		"layers":[{"lays":[{"component":0,"from":0,"to":0.5,"grams":20,"method":"feed"},{"component":1,"from":0.5,"to":1,"grams":20,"method":"feed"}]}],"passes":[],"seed":1}`
	code, v = c.json("POST", api.Root+"/yarn/sequence", `{"rungs":[{"name":"batt","grams":40,"batt":`+batt+`},{"name":"plain","grams":20,"components":[{"colour":{"hex":"#888888"},"parts":1,"kind":"romney"}]}],"ply":"single"}`)
	require.Equal(t, 200, code, v)
	assert.Greater(t, len(v["runs"].([]any)), 2)
	assert.Len(t, v["joins"], 1, "what lies within a batt is no join")
	assert.InDelta(t, 60*0.97*10, v["plied_m"], 1e-6)
	code, v = c.json("POST", api.Root+"/yarn/plan", strings.TrimSuffix(batt, "}")+`,"draw":"short-forward","prepared":"top"}`)
	require.Equal(t, 200, code, v)
	assert.Positive(t, v["packing"])
	for field, more := range map[string]string{
		"strands": `,"ply":"chain","strands":2`, "ply": `,"ply":"four"`, "draw": `,"draw":"up"`, "plain[0].colour": `,"plain":[{}]`, "singles_tex": `,"singles_tex":0`,
	} {
		code, v = ask(more)
		assert.Equal(t, 422, code, more)
		assert.Contains(t, fmt.Sprint(v), "field:"+field)
	}
	for field, body := range map[string]string{
		"rungs": `{"rungs":[]}`, "rungs[0].colour": `{"rungs":[{"grams":2}]}`, "rungs[0].grams": `{"rungs":[{"grams":0,"colour":{"hex":"#808080"}}]}`,
		"rungs[0].batt": `{"rungs":[{"grams":2,"batt":{"equipment":{"preset":"moon"}}}]}`,
	} {
		code, v = c.json("POST", api.Root+"/yarn/sequence", body)
		assert.Equal(t, 422, code, body)
		assert.Contains(t, fmt.Sprint(v), "field:"+field)
	}
}
