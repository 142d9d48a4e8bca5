package web

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// What is built adds up to the unit in whole steps of the scale, though each
// component alone would be rounded away from it.
func TestBuiltLayersAddUpToTheUnit(t *testing.T) {
	c := sample(t)
	for _, q := range []struct{ unit, step, each, n float64 }{
		{57, 1, 4.75, 12}, {4, 0.5, 4.0 / 6, 6}, {10, 0.1, 10.0 / 7, 7}, {30, 5, 30.0 / 4, 4},
	} {
		parts := strings.TrimSuffix(strings.Repeat(`{"parts":1,"kind":"corriedale"},`, int(q.n)), ",")
		for _, builder := range []string{"depth", "lanes", "sandwich", "flow"} {
			body := fmt.Sprintf(`{"equipment":{"preset":"drum_standard_hand"},"unit_g":%v,"step_g":%v,"components":[%s],"builder":%q}`, q.unit, q.step, parts, builder)
			code, got := c.json("POST", api.Root+"/layup/build", body)
			require.Equal(t, 200, code, "%s: %v", body, got)
			var sum float64
			for _, v := range list(got["placed_g"]) {
				g := v.(float64)
				sum += g
				assert.LessOrEqual(t, max(g-q.each, q.each-g), q.step, "no component is more than a step off")
				steps := g / q.step
				assert.InDelta(t, float64(int(steps+0.5)), steps, 1e-6, "whole steps")
			}
			assert.InDelta(t, q.unit, sum, 1e-9, "%s of %v g in %v parts", builder, q.unit, q.n)
		}
	}
}

// What is too full on a board says nothing of a drive; on a drum it does.
func TestOnlyADrumHasADrive(t *testing.T) {
	c := sample(t)
	for preset, drive := range map[string]bool{"board_large": false, "hand_cards_standard": false, "drum_standard_hand": true} {
		method := map[bool]string{true: "feed", false: "paint"}[drive]
		code, got := c.json("POST", api.Root+"/layup/check", fmt.Sprintf(
			`{"equipment":{"preset":%q},"components":[{"grams":400,"kind":"corriedale"}],"layers":[{"lays":[{"grams":400,"method":%q}]}]}`, preset, method))
		require.Equal(t, 200, code, got)
		said := fmt.Sprint(got["findings"])
		assert.Contains(t, said, "bend pins", preset)
		assert.Equal(t, drive, strings.Contains(said, "drive"), "%s: %s", preset, said)
	}
}

// Requests that were once answered with nonsense are refused at their field, and a
// colour that no surface has is said to have been moved.
func TestRequestsThatMeanNothingAreRefused(t *testing.T) {
	c := sample(t)
	for _, q := range []struct{ path, body, field string }{
		{"/layup/check", `{"equipment":{"preset":"board_large"},"components":[{"grams":1}],"rolags":-1}`, "rolags"},
		{"/layup/build", `{"equipment":{"preset":"board_large"},"unit_g":10,"components":[{"parts":1}],"builder":"depth","rolags":-1}`, "rolags"},
	} {
		code, got := c.json("POST", api.Root+q.path, q.body)
		require.Equal(t, 422, code, q.body)
		assert.Equal(t, q.field, list(got["errors"])[0].(map[string]any)["field"], q.body)
	}
	_, got := c.json("POST", api.Root+"/predict", `{"components":[{"colour":{"lab":[96,83,-79]},"parts":1}]}`)
	assert.NotEmpty(t, got["notes"], "a Lab outside what reflectances can be was moved")
	_, got = c.json("POST", api.Root+"/predict", `{"components":[{"colour":{"lab":[60,5,-5]},"parts":1}]}`)
	assert.Empty(t, got["notes"])
	two := `{"id":"a","colour":{"hex":"#26324a"}},{"id":"a","colour":{"hex":"#ece6d8"}}`
	code, got := c.json("POST", api.Root+"/match", `{"target":{"hex":"#889099"},"total_g":50,"step_g":0.1,"count":2,"max_components":2,"components":[`+two+`]}`)
	require.Equal(t, 422, code, "%v", got)
	assert.Equal(t, "components[1].id", list(got["errors"])[0].(map[string]any)["field"], "two of one id")
}
