package web

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/trouble"
	"fairtangle/web/api"
)

// Why it does not go as it should, by the API: worked cases, the same request twice, everything that can be seen, and what is
// told wrongly.
func TestTroubleByTheAPI(t *testing.T) {
	c := sample(t)
	ask := func(body string) (int, map[string]any) { return c.json("POST", api.Root+"/trouble", body) }
	code, v := ask(`{"seen":"small_drum","equipment":{"preset":"drum_standard_hand"},"components":[{"kind":"angora_rabbit","share":0.5},{"kind":"merino","share":0.5}],"clearance_mm":1.4}`)
	require.Equal(t, 200, code, v)
	first := v["causes"].([]any)[0].(map[string]any)
	assert.Equal(t, []any{"clearance_wide", 0.407, nil}, []any{first["key"], first["likely"], first["plan"]})
	assert.Equal(t, []any{"layers", "humidity_pct"}, v["ask"])
	body := `{"seen":"batt_too_small","step":"lift","pass":1,"equipment":{"preset":"drum_standard_hand"},"components":[{"kind":"romney","preparation":"washed_locks","share":1}],"residue_g":3,"layers":[{"lays":[{"component":0,"grams":50,"method":"feed"}]}]}`
	code, v = ask(body)
	require.Equal(t, 200, code, v)
	first = v["causes"].([]any)[0].(map[string]any)
	assert.Equal(t, []any{"stays_on_small", 0.4}, []any{first["key"], first["likely"]})
	_, again := ask(body)
	assert.Equal(t, v, again)
	for _, s := range trouble.Symptoms() {
		code, v = ask(fmt.Sprintf(`{"seen":%q}`, s.Key))
		require.Equal(t, 200, code, s.Key)
		assert.NotEmpty(t, v["causes"], s.Key)
	}
	code, v = ask(`{"seen":"thick_and_thin","layers":[{"lays":[{"component":3,"to":0.5,"grams":20,"method":"feed"}]}]}`)
	require.Equal(t, 200, code, "layers without a word of their fibre: %v", v)
	for field, bad := range map[string]string{
		"seen": `{"seen":"smoke"}`, "step": `{"seen":"specks","step":"spin"}`, "humidity_pct": `{"seen":"static","humidity_pct":120}`, "pass": `{"seen":"specks","pass":-1}`,
		"components[0].kind": `{"seen":"specks","components":[{"kind":"moon","share":1}]}`, "components": `{"seen":"specks","components":[{"kind":"merino","share":0.4}]}`,
	} {
		code, v = ask(bad)
		assert.Equal(t, 422, code, bad)
		assert.Contains(t, fmt.Sprint(v), "field:"+field)
	}
}

// What does not go as it should at a step of a run: what is known of it comes along, figures are asked for and kept when typed
// wrongly, and what helped is noted once, tried first the next time, and taken back like any entry.
func TestTroubleAtTheCarder(t *testing.T) {
	c := sample(t)
	code, run := c.json("POST", api.Root+"/weighouts/1/runs", `{}`)
	require.Equal(t, 201, code)
	at := fmt.Sprintf("/trouble?run=%v&unit=0&pass=1&step=lay&seen=small_drum", run["id"])
	page := c.page(at)
	for _, want := range []string{"What do you see?", "A hand or the rope’s weight held the fibre back.", "Clearance of the drums, mm", "That was it", "Slack"} {
		assert.Contains(t, page, want)
	}
	assert.NotContains(t, page, "it helped before")
	assert.Contains(t, c.page(at+"&clearance_mm=wide"), "is not a number")
	assert.Contains(t, c.page(at+"&clearance_mm=wide"), `value="wide"`)
	assert.Contains(t, c.page(at+"&clearance_mm=99"), "It lies between")
	assert.Contains(t, c.page(at+"&clearance_mm=1.6"), "<b>The drums stand too far apart to hand over.</b>")
	helped := fmt.Sprintf("/runs/%v/helped", run["id"])
	for range 2 {
		require.Equal(t, 303, c.form(helped, "key", "helped-once-1", "unit", "0", "pass", "1", "text", "small_drum crank_fast").Code)
	}
	page = c.page(at)
	assert.Contains(t, page, "it helped before")
	assert.Contains(t, c.page(fmt.Sprintf("/runs/%v/record", run["id"])), "it helped: Fibre goes round with the small drum instead of passing to the big one. Fast turning snatches and snaps.")
	assert.NotEqual(t, 303, c.form(helped, "key", "helped-once-2", "unit", "0", "pass", "1", "text", "small_drum moonlight").Code)
	_, v := c.json("GET", fmt.Sprintf("%s/runs/%v", api.Root, run["id"]), "")
	n := 0
	for _, e := range v["entries"].([]any) {
		if e := e.(map[string]any); e["what"] == "helped" {
			n++
			code, back := c.json("POST", fmt.Sprintf("%s/runs/%v/entries/%v/reverse", api.Root, run["id"], e["id"]), `{"key":"taken-back-1"}`)
			require.Equal(t, 201, code, back)
		}
	}
	assert.Equal(t, 1, n, "pressed twice, noted once")
	assert.NotContains(t, c.page(at), "it helped before")
	for _, path := range []string{"/trouble", "/trouble?layup=4&step=roll&seen=rolag_comes_apart", "/trouble?seen=smoke&step=moon&unit=-3&pass=900", "/trouble?layup=4&seen=small_drum"} {
		assert.Contains(t, c.page(path), "It does not go as it should", path)
	}
	assert.Contains(t, c.page("/trouble?layup=4&seen=small_drum"), "By what is known, that cannot happen here.", "a board has no small drum")
	assert.Equal(t, 404, c.do("GET", "/trouble?run=999", "", "").Code)
}
