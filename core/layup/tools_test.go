package layup

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// TestToolsComeInTheirOrder: however they are chosen, each is there once, in the order in which one would use them, and taken away it
// is gone.
func TestToolsComeInTheirOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var p Plan
		want := map[bool]map[Tool]bool{false: {}, true: {}}
		for range rapid.IntRange(0, 20).Draw(t, "changes") {
			after, use := rapid.Bool().Draw(t, "after"), rapid.Bool().Draw(t, "use")
			all := ToolsBefore
			if after {
				all = ToolsAfter
			}
			v := rapid.SampledFrom(all).Draw(t, "tool")
			var err error
			p, err = p.UseTool(v, after, use)
			require.NoError(t, err)
			want[after][v] = use
		}
		for after, all := range map[bool][]Tool{false: ToolsBefore, true: ToolsAfter} {
			have := p.Before
			if after {
				have = p.After
			}
			var expected []Tool
			for _, v := range all {
				if want[after][v] {
					expected = append(expected, v)
				}
			}
			require.True(t, slices.Equal(expected, have), "%v %v", expected, have)
		}
		p.Draft = DefaultDraft
		require.NoError(t, p.Check(standardDrum, []Fibre{{Name: "wool", Grams: 20, StapleMM: 80}}, true))
	})
	_, err := Plan{}.UseTool(ToolPicker, true, true)
	assert.Error(t, err, "what is a batt is not picked")
	for field, p := range map[string]Plan{"before": {Before: []Tool{ToolOil, ToolOil}}, "after": {After: []Tool{ToolOil}}} {
		p.Draft = DefaultDraft
		assert.ErrorContains(t, p.Check(standardDrum, []Fibre{{Name: "wool", Grams: 20, StapleMM: 80}}, true), field)
	}
}
