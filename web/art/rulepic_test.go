package art

import (
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var figures = regexp.MustCompile(`-?\d+(\.\d+)?`)

// Every drawing has two halves with words, differs between them, and stays on its sheet of 180 by 100.
func TestDrawingsStayOnTheirSheet(t *testing.T) {
	assert.Nil(t, RulePicture("R46"), "there is nothing to see")
	for rule := range rulePictures {
		panels := RulePicture(rule)
		require.Len(t, panels, 2, rule)
		assert.NotEqual(t, panels[0].Strokes, panels[1].Strokes, rule)
		for _, p := range panels {
			assert.True(t, strings.HasSuffix(p.Words, "."), "%s: %s", rule, p.Words)
			assert.Less(t, len(p.Words), 90, rule)
			require.NotEmpty(t, p.Strokes, rule)
			for _, s := range p.Strokes {
				require.NotContains(t, s.D, "NaN", rule)
				if strings.ContainsAny(s.D, "AahlmqtvHV") { // not all places are told from the edge of the sheet
					continue
				}
				for i, n := range figures.FindAllString(s.D, -1) {
					v, err := strconv.ParseFloat(n, 64)
					require.NoError(t, err)
					assert.GreaterOrEqual(t, v, -2.0, "%s: %s", rule, s.D)
					assert.LessOrEqual(t, v, []float64{182, 102}[i%2], "%s: %s", rule, s.D)
				}
			}
		}
	}
}
