package train

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Of two lots for three: half and half, then the two thirds. Of three for seven, as the book has the lattice of three parts: the middle,
// and six edges.
func TestTasksByHand(t *testing.T) {
	assert.Equal(t, [][]int{{2, 2}, {3, 1}, {1, 3}}, Tasks(2, 3))
	seven := Tasks(3, 7)
	assert.Equal(t, []int{1, 1, 1}, seven[0])
	assert.ElementsMatch(t, [][]int{{1, 1, 1}, {2, 1, 0}, {2, 0, 1}, {0, 2, 1}, {1, 2, 0}, {1, 0, 2}, {0, 1, 2}}, seven)
	assert.Equal(t, [][]int{{1}, {1}}, Tasks(1, 2))
	assert.Nil(t, Tasks(0, 3))
}

// Each is another mixture of two lots at least, and all have as many parts.
func TestTasksDiffer(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n, pupils := rapid.IntRange(2, 6).Draw(t, "lots"), rapid.IntRange(1, 24).Draw(t, "pupils")
		tasks := Tasks(n, pupils)
		require.Len(t, tasks, pupils)
		seen, sum := map[string]bool{}, 0
		for i, p := range tasks {
			of := 0
			require.Len(t, p, n)
			for _, v := range p {
				require.GreaterOrEqual(t, v, 0)
				of += v
			}
			if i == 0 {
				sum = of
			}
			require.Equal(t, sum, of)
			require.True(t, meets(p))
			seen[fmt.Sprint(p)] = true
		}
		require.Len(t, seen, pupils)
	})
}
