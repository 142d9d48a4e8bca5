package run

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// What three runs and more on the same equipment had, and none of which went wrong, goes quiet; one
// that went wrong speaks again, and what nobody looked at shows nothing.
func TestWhatNoRunShowedToBeTroubleGoesQuiet(t *testing.T) {
	flag := func(b bool) *bool { return &b }
	specks := func(n int) *int { return &n }
	well := Shown{Rules: []string{"R08", "R33"}, Light: flag(false), Specks: specks(4)}
	ill := Shown{Rules: []string{"R08"}, Light: flag(false), Specks: specks(11)}
	unseen := Shown{Rules: []string{"R08", "R33"}}
	assert.Empty(t, Calm([]Shown{well, well}, 10))
	assert.Equal(t, map[string]int{"R08": 3, "R33": 3}, Calm([]Shown{well, well, well}, 10))
	assert.Empty(t, Calm([]Shown{well, well, unseen, unseen}, 10))
	assert.Equal(t, map[string]int{"R33": 3}, Calm([]Shown{well, well, well, ill}, 10))
	assert.Equal(t, map[string]int{"R08": 4, "R33": 3}, Calm([]Shown{well, well, well, ill}, 20))
	assert.Empty(t, Calm([]Shown{well, well, {Rules: []string{"R08", "R33"}, Behind: flag(true)}}, 10))
	rapid.Check(t, func(t *rapid.T) {
		runs := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) Shown {
			return Shown{Rules: []string{"R08"}, Light: flag(rapid.Bool().Draw(t, "light"))}
		}), 0, 8).Draw(t, "runs")
		n := Calm(runs, 10)["R08"]
		wrong := slices.ContainsFunc(runs, func(s Shown) bool { return *s.Light })
		if (n == 0) != (wrong || len(runs) < 3) {
			t.Fatalf("%d of %d runs, wrong: %v", n, len(runs), wrong)
		}
	})
}
