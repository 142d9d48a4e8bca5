package web

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// What a component is there for is asked and told by the API: left out, wool is a lane, silk is scattered, locks are spots; over
// named lanes it fades out; what joins late is fed turn about; the order is by hue, by lightness, or with the least jumps.
func TestWhatAComponentIsThereFor(t *testing.T) {
	c := sample(t)
	body := func(more, silk string) string {
		return fmt.Sprintf(`{"equipment":{"preset":"drum_standard_hand"},"builder":"lanes","step_g":0.1%s,"components":[
			{"name":"blue","grams":12,"kind":"corriedale","colour":{"hex":"#24466e"}},{"name":"gold","grams":12,"kind":"corriedale","colour":{"hex":"#c8902c"}},
			{"name":"cream","grams":12,"kind":"corriedale","colour":{"hex":"#efe6d0"}},{"name":"silk","grams":4,"kind":"silk_tussah","preparation":"combed_top"%s},
			{"name":"curls","grams":4,"kind":"locks_wool","preparation":"locks"}]}`, more, silk)
	}
	code, v := c.json(http.MethodPost, api.Root+"/layup/build", body("", ""))
	require.Equal(t, 200, code, v)
	lay := v["layup"].(map[string]any)
	assert.Equal(t, []any{"lane", "lane", "lane", "scatter", "spot"}, lay["as"])
	for _, v := range lay["layers"].([]any) {
		for _, l := range v.(map[string]any)["lays"].([]any) {
			if l := l.(map[string]any); l["component"] == 3.0 {
				assert.Equal(t, []any{0.0, 1.0}, []any{l["from"], l["to"]}, "over the whole width")
				assert.LessOrEqual(t, l["grams"], 1.3, "in no heap")
			}
		}
	}
	code, v = c.json(http.MethodPost, api.Root+"/layup/build", body("", `,"as":"over","near":[1],"fade_mm":20`))
	require.Equal(t, 200, code, v)
	lay = v["layup"].(map[string]any)
	assert.Equal(t, "over", lay["as"].([]any)[3])
	assert.Equal(t, []any{3.0}, lay["told"])
	n := 0
	for _, v := range lay["layers"].([]any) {
		for _, l := range v.(map[string]any)["lays"].([]any) {
			if l := l.(map[string]any); l["component"] == 3.0 {
				n++
				assert.InDelta(t, 0.5, (l["from"].(float64)+l["to"].(float64))/2, 1e-5, "over the gold")
			}
		}
	}
	assert.Equal(t, 3, n)
	code, v = c.json(http.MethodPost, api.Root+"/layup/build", body(`,"passes":2,"turns_about":2`, ""))
	require.Equal(t, 200, code, v)
	assert.Equal(t, 2.0, v["layup"].(map[string]any)["turns_about"])
	laid := 0
	for _, s := range v["steps"].([]any) {
		if s := s.(map[string]any); s["pass"] == 2.0 && s["action"] == "lay" {
			assert.Equal(t, 2.0, s["portions"])
			laid++
		}
	}
	assert.Equal(t, 4, laid, "silk and curls, twice each")
	for by, want := range map[string][]any{"lightness": {2.0, 1.0, 0.0}, "given": {0.0, 1.0, 2.0}} {
		code, v = c.json(http.MethodPost, api.Root+"/layup/build", body(`,"order_by":"`+by+`"`, ""))
		require.Equal(t, 200, code, v)
		var got []any
		for _, l := range v["layup"].(map[string]any)["layers"].([]any)[0].(map[string]any)["lays"].([]any) {
			got = append(got, l.(map[string]any)["component"])
		}
		assert.Equal(t, want, got, by)
	}
	for field, bad := range map[string]string{
		"components[3].as": `,"as":"heap"`, "components[3].near[0]": `,"as":"over","near":[9]`, "components[3].fade_mm": `,"fade_mm":-1`,
	} {
		code, v = c.json(http.MethodPost, api.Root+"/layup/build", body("", bad))
		assert.Equal(t, 422, code)
		assert.Contains(t, fmt.Sprint(v), field)
	}
	code, v = c.json(http.MethodPost, api.Root+"/layup/build", body(`,"order_by":"size"`, ""))
	assert.Equal(t, 422, code, v)
}
