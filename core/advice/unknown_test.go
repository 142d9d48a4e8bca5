package advice

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/fibre"
)

// Beside a fibre of an unknown kind, what hangs on kinds is not judged, and the look names whose kind it is; what was measured
// is judged all the same; too little of it to matter holds nothing up.
func TestWhatHangsOnAKindWaitsForIt(t *testing.T) {
	kindOf := func(key string) fibre.Kind {
		k, ok := fibre.FindKind(key)
		require.True(t, ok, key)
		return k
	}
	plan := func(share, staple float64) Plan {
		return Plan{Fibres: []Fibre{
			{Name: "Linen grey", Kind: kindOf("lincoln"), Preparation: "combed_top", Share: 1 - share},
			{Name: "Loft bag", Kind: kindOf("wool_unknown"), Preparation: "combed_top", Share: share, StapleMM: staple},
		}}
	}
	missing := func(a Answer, id string) string {
		for _, u := range a.Unjudged {
			if u.Rule == id {
				return u.Tell
			}
		}
		return ""
	}
	bag := "of what kind Loft bag is"
	a := Judge(plan(0.4, 0), nil)
	for _, id := range []string{"R01", "R02", "R04", "R08", "R10", "R15"} {
		assert.Equal(t, bag, missing(a, id), id)
		assert.NotContains(t, a.Checked, id)
	}
	assert.Contains(t, a.Checked, "R11", "that it glitters would be seen")

	a = Judge(plan(0.4, 50), nil) // 240 against 50 mm
	assert.Contains(t, a.Checked, "R02")
	assert.True(t, slices.ContainsFunc(a.Findings, func(f Finding) bool { return f.Rule == "R02" }))
	assert.Equal(t, bag, missing(a, "R04"), "how thick it is nobody measured")

	a = Judge(plan(0.04, 0), nil)
	assert.Contains(t, a.Checked, "R01")
	assert.Contains(t, a.Checked, "R08")
}
