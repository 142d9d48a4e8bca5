package web

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// Each colour is carded alone first: the blend weighs in what that loses, what is laid is what comes off of it, the weigh-out and the
// order of the work say so, the day has it before the batts, and taken back all is as it was.
func TestEachAloneFirstReachesEveryStop(t *testing.T) {
	c := sample(t)
	blend := func() map[string]any { _, b := c.json("GET", api.Root+"/blends/6", ""); return b }
	in := func(b map[string]any) float64 {
		return b["components"].([]any)[0].(map[string]any)["weigh_in_g"].(float64)
	}
	_, l := c.json("GET", api.Root+"/layups/1", "")
	was, laid := blend(), l["loads"].(map[string]any)["total_g"].(float64)
	code, l := c.json(http.MethodPost, api.Root+"/layups/1/changes", fmt.Sprintf(`{"version":%v,"verb":"alone","at":-1,"times":1}`, l["version"]))
	require.Equal(t, 200, code, l)
	assert.Equal(t, []any{1.0, 1.0, 0.0, 0.0, 1.0}, l["alone_first"], "what slides is not carded alone")
	for _, f := range l["findings"].([]any) {
		assert.NotEqual(t, "stop", f.(map[string]any)["severity"], f)
	}
	assert.InDelta(t, laid, l["loads"].(map[string]any)["total_g"], 1, "of a unit as much is laid, but for what it loses less later")
	fibre := l["fibres"].([]any)[0].(map[string]any)
	assert.InDelta(t, fibre["weigh_in_g"].(float64)*0.98, fibre["grams"], 0.051, "2 % of it are lost alone")
	assert.InDelta(t, in(was)/(1-0.02*0.6*0.6), in(blend()), 1e-6, "of three passes the third loses 0.72 %")
	var alone []string
	for _, s := range l["steps"].([]any) {
		if s := s.(map[string]any); s["action"] == "alone" {
			alone = append(alone, fmt.Sprint(s["lays"].([]any)[0].(map[string]any)["component"]))
		}
	}
	assert.Equal(t, []string{"1", "0", "4"}, alone, "from pale to dark")
	page := c.page("/layups/1/bench")
	assert.Contains(t, page, "Card undyed Romney alone, once")
	assert.Contains(t, page, "That is for all 4 units.")

	w := c.form("/blends/6/weigh", fields(mainOf(c.page("/blends/6/weigh")))...)
	require.Equal(t, 303, w.Code, w.Body.String())
	made, _, _ := strings.Cut(w.Header().Get("Location"), "?")
	page = c.page(made)
	assert.Contains(t, page, "carded alone first, once")
	assert.Contains(t, c.page(made+"/scale"), "it is carded alone first, then divided")
	assert.Contains(t, c.page("/day?on=1&chosen=yes&job="+made[len("/weighouts/"):]), "each alone")

	code, l = c.json(http.MethodPost, api.Root+"/layups/1/changes", fmt.Sprintf(`{"version":%v,"verb":"alone","at":-1,"times":0}`, l["version"]))
	require.Equal(t, 200, code, l)
	assert.InDelta(t, in(was), in(blend()), 1e-9)
	for _, wrong := range []string{`"at":0,"times":6`, `"at":0,"times":-1`, `"at":99,"times":1`} {
		code, _ = c.json(http.MethodPost, api.Root+"/layups/1/changes", fmt.Sprintf(`{"version":%v,"verb":"alone",%s}`, l["version"], wrong))
		assert.Equal(t, 422, code, wrong)
	}
}
