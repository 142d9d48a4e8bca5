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
