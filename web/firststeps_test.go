package web

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a mend told is done first: it stands in the step before the work begins, in the lay-up at the carder and in a run,
// in the maker's units.
func TestWhatWasToldIsDoneFirst(t *testing.T) {
	c := sample(t)
	assert.NotContains(t, c.page("/layups/1/bench"), "Clean the cloth first")
	for _, told := range []string{
		`{"of":"plan","about":6,"name":"","key":"cleaned","answer":1}`, `{"of":"plan","about":6,"name":"","key":"wisps","answer":1}`,
		`{"of":"plan","about":6,"name":"","key":"per_minute","typed":"18"}`, `{"of":"plan","about":6,"name":"","key":"turns","typed":"200"}`,
		`{"of":"plan","about":6,"name":"","key":"dust_cared","answer":0}`, `{"of":"part","about":6,"name":"flax, bleached","key":"prepared_mm","typed":"100"}`,
	} {
		code, got := c.json("POST", "/second/tell", told)
		require.Equal(t, 200, code, "%s: %v", told, got)
	}
	page := c.page("/layups/1/bench")
	for _, want := range []string{
		"Clean the cloth first, and run some grams of scrap wool through.", "Pull the top into wisps of one staple.", "Turn 18 times a minute.",
		"200 turns of the drum for a unit.", "Cut or pull flax, bleached to 10",
	} {
		assert.Contains(t, page, want)
	}
	assert.NotContains(t, page, "Moving air", "that was denied")
	w := c.form("/weighouts/1/runs")
	require.Equal(t, 303, w.Code, w.Body.String())
	assert.Contains(t, c.page(w.Header().Get("Location")), "Turn 18 times a minute.")
	c.weighsInOunces()
	assert.Contains(t, c.page("/layups/1/bench"), "Cut or pull flax, bleached to 4")
	// A fibre that is cut is so long in the lay-up, and the look speaks of it no more.
	assert.NotContains(t, c.page("/layups/1"), "7.5 in")
	for _, f := range lookAt(t, c, "at=lay-up&blend=6").Open {
		assert.NotEqual(t, "R03", f.Rule)
	}
}
