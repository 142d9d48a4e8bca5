package web

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestLossesByTheAPI is the balance and the learning of one batt and of a blend, in percent.
func TestLossesByTheAPI(t *testing.T) {
	c := sample(t)
	const root = "/api/v1/carding/"
	code, got := c.json("POST", root+"balance", `{"in_g":40,"batt_g":37.9,"residue_g":0.5,"residue":"returned","cloth_g":0.2,"droppings_g":0.9,"picked_g":0.1}`)
	require.Equal(t, 200, code)
	assert.InDelta(t, 0.4, got["unaccounted_g"], 1e-9)
	assert.InDelta(t, 1.4, got["loss_g"], 1e-9)
	assert.InDelta(t, 3.56, got["loss_pct"], 5e-3)
	assert.Equal(t, true, got["learn"])
	assert.Equal(t, []any{}, got["ask"])
	code, got = c.json("POST", root+"balance", `{"in_g":40,"batt_g":20}`)
	require.Equal(t, 200, code)
	assert.Equal(t, false, got["learn"])
	assert.Contains(t, got["ask"], "forgotten batt")

	code, got = c.json("POST", root+"learn", `{"components":[{"mean_pct":2,"sd_pct":0.5,"grams":40}],"observations":[{"in_g":40,"loss_pct":3.56}]}`)
	require.Equal(t, 200, code)
	one := got["components"].([]any)[0].(map[string]any)
	assert.InDelta(t, 2.38, one["mean_pct"], 0.01)
	assert.InDelta(t, 0.43, one["sd_pct"], 0.005)
	assert.InDelta(t, 1.7, one["low_pct"], 0.05)
	assert.InDelta(t, 3.1, one["high_pct"], 0.05)
	code, got = c.json("POST", root+"learn", `{"components":[{"mean_pct":3.18,"sd_pct":0.8,"grams":20.66},{"mean_pct":2,"sd_pct":0.5,"grams":8.5},
		{"mean_pct":5.5,"sd_pct":1.25,"grams":4.23},{"mean_pct":6.5,"sd_pct":1.75,"grams":1.07}],"observed_loss_g":1.45,"observed_sd_g":0.35}`)
	require.Equal(t, 200, code)
	assert.InDelta(t, 3.45, got["components"].([]any)[0].(map[string]any)["mean_pct"], 0.01)

	for _, bad := range []string{`{}`, `{"components":[{"mean_pct":2,"sd_pct":0}],"observations":[{"in_g":1,"loss_pct":1}]}`, `{"components":[{"mean_pct":2,"sd_pct":1}]}`,
		`{"components":[{"mean_pct":2,"sd_pct":1}],"observations":[{"in_g":0,"loss_pct":1}]}`, `{"components":[{"mean_pct":2,"sd_pct":1},{"mean_pct":2,"sd_pct":1}]}`,
		`{"components":[{"mean_pct":2,"sd_pct":1}],"observed_loss_g":1}`, `{"components":[{"mean_pct":2,"sd_pct":1}],"observations":[{"in_g":1,"loss_pct":1}],"observed_sd_g":1}`} {
		code, got = c.json("POST", root+"learn", bad)
		assert.Equal(t, 422, code, bad)
		assert.NotEmpty(t, got["errors"], bad)
	}
	for _, bad := range []string{`{}`, `{"in_g":-1}`, `{"in_g":1,"residue":"eaten"}`, `{"in_g":1,"residue_g":2}`, `{"in_g":1,"humidity_in_pct":300}`} {
		code, _ = c.json("POST", root+"balance", bad)
		assert.Equal(t, 422, code, bad)
	}
}

// TestOrderByTheAPI: five batts, one of them pale after dark, put so that one cleaning is left
// where there is film.
func TestOrderByTheAPI(t *testing.T) {
	c := sample(t)
	code, got := c.json("POST", "/api/v1/order", `{"jobs":[{"name":"navy","colour":{"hex":"#26324a"},"minutes":20},{"name":"foam","colour":{"hex":"#f1ece1"},"minutes":20},
		{"name":"slate","colour":{"hex":"#4c5257"},"minutes":20},{"name":"sand","colour":{"hex":"#b39b7a"},"minutes":20},{"name":"grey film","colour":{"hex":"#1c1f22"},"sheds":true,"minutes":20}],
		"cleaning_min":12,"quick_min":4,"free_min":75,"break_every_min":60,"break_min":10}`)
	require.Equal(t, 200, code, got)
	assert.Equal(t, []any{1.0, 3.0, 2.0, 0.0, 4.0}, got["order"], "light to dark, the film last")
	assert.Equal(t, 110.0, got["total_min"], "five times twenty, and a break after the third: the film is dark, and swallows the navy")
	assert.Equal(t, 12.0, got["changeover_min"].([]any)[0].([]any)[1])
	assert.Greater(t, got["given_total_min"], 130.0)
	assert.Equal(t, 3.0, got["fits"])
	assert.Equal(t, true, got["exact"])
	for _, bad := range []string{`{"jobs":[]}`, `{"jobs":[{"minutes":5}]}`, `{"jobs":[{"colour":{"hex":"#000000"},"minutes":-1}]}`,
		`{"jobs":[{"colour":{"hex":"#000000"},"minutes":1}],"fixed_first":3}`, `{"jobs":[{"colour":{"hex":"#000000"},"minutes":1}],"fixed_first":-1}`} {
		code, got := c.json("POST", "/api/v1/order", bad)
		assert.Equal(t, 422, code, bad)
		assert.NotEmpty(t, got["errors"], bad)
	}
}
