package label

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Whole percent add up to 100, with the least error of all that do: against brute force. What comes to nothing is not lost.
func TestWholePercentHaveTheLeastError(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 3).Draw(t, "n")
		var parts []Part
		var sum float64
		for i := range n {
			p := Part{fmt.Sprint("fibre ", i), float64(rapid.IntRange(1, 4000).Draw(t, "tenths")) / 10}
			parts, sum = append(parts, p), sum+p.Grams
		}
		list, err := Contents(parts)
		require.NoError(t, err)
		got := map[string]int64{}
		var all int64
		for i, c := range list {
			got[c.Content], all = c.Percent, all+c.Percent
			if i > 0 {
				assert.LessOrEqual(t, c.Percent, list[i-1].Percent, "most first")
			}
		}
		assert.EqualValues(t, 100, all)
		err2 := func(of func(int) int64) (e float64) {
			for i, p := range parts {
				e += math.Abs(float64(of(i)) - 100*p.Grams/sum)
			}
			return e
		}
		mine := err2(func(i int) int64 { return got[parts[i].Content] })
		for a := int64(0); a <= 100; a++ {
			for b := int64(0); a+b <= 100; b++ {
				by := []int64{a, b, 100 - a - b}
				if n < 3 && by[2] != 0 && n == 2 || n == 1 && (a != 100) {
					continue
				}
				assert.LessOrEqual(t, mine, err2(func(i int) int64 { return by[i] })+1e-9)
			}
		}
		for _, p := range parts {
			if got[p.Content] == 0 {
				assert.Contains(t, got, Others, "%s is not lost silently", p.Content)
			}
		}
	})
}

func TestLabelsInWords(t *testing.T) {
	list, err := Contents([]Part{{"silk", 38.6}, {" wool", 30}, {"wool", 31.2}, {"film", 0.2}})
	require.NoError(t, err)
	assert.Equal(t, []Content{{"wool", 61}, {"silk", 39}, {Others, 0}}, list)
	assert.Equal(t, "61\u00a0% wool, 39\u00a0% silk, under 1\u00a0% other fibres. Hand wash. Dry flat.", Text(list, []string{"Hand wash", " ", "Dry flat."}))
	for field, bad := range map[string][]Part{"components:": nil, "components[0].content": {{"", 1}}, "components[0].finished_g": {{"wool", -1}}} {
		_, err := Contents(bad)
		assert.ErrorContains(t, err, field)
	}
}
