package layup

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestATenthIsAMainFibre counts rolags by the longest fibre of which there is a tenth.
func TestATenthIsAMainFibre(t *testing.T) {
	board := Bed{Type: Board, WidthMM: 300, LengthMM: 300, Smooth: 40, Lofty: 26}
	short, long := wool("short", 90), wool("long", 10)
	short.StapleMM, long.StapleMM = 50, 150
	assert.Equal(t, 2, SuggestRolags(board, 1.75, []Fibre{short, long}), "300 · 1.75 / (1.75 · 150)")
	long.Grams = 9.7 // as the steps of a scale and its loss leave a tenth of it
	assert.Equal(t, 2, SuggestRolags(board, 1.75, []Fibre{short, long}))
	long.Grams = 8
	assert.Equal(t, 6, SuggestRolags(board, 1.75, []Fibre{short, long}), "300 · 1.75 / (1.75 · 50)")
}
