package colour

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestWords(t *testing.T) {
	base := Lab{55, -12, -10}
	tests := []struct {
		to   Lab
		want string
	}{
		{base, "the same to the eye"},
		{Lab{58, -12, -10}, "a little lighter"},
		{Lab{48, -12, -10}, "clearly darker"},
		{Lab{58, -12, -6}, "clearly lighter and warmer"},
		{Lab{55, -14, -12}, "a little brighter"},
		{Lab{55, -5, -4}, "clearly duller"},
		{Lab{20, -12, -10}, "much darker"},
	}
	for _, c := range tests {
		assert.Equal(t, c.want, Words(base, c.to), "%v", c.to)
	}
	grey := Lab{60, 0, 0}
	assert.Equal(t, "a little warmer", Words(grey, Lab{60, 1, 3}))
	assert.Equal(t, "a little cooler", Words(grey, Lab{60, -1, -3}))
	assert.Equal(t, "a little redder", Words(grey, Lab{60, 2.5, -1}))
}

// What is said one way round is said in opposites the other way round.
func TestWordsAreOpposites(t *testing.T) {
	p, q := Lab{50, 10, 20}, Lab{56, 10, 21}
	assert.Equal(t, "clearly lighter", Words(p, q))
	assert.Equal(t, "clearly darker", Words(q, p))
}

func TestShelfOrder(t *testing.T) {
	var last float64
	for _, hex := range []string{"#f4f2ee", "#8a8a8a", "#222222", "#e0a0a0", "#a02020", "#c8a030", "#208040", "#204080", "#703080"} {
		c, err := ParseHex(hex)
		require.NoError(t, err)
		got := ShelfOrder(c)
		assert.Greater(t, got, last-1e-12, hex)
		last = got
	}
}

func TestParseHexRefuses(t *testing.T) {
	for _, s := range []string{"", "#12345", "#1234567", "123456", "#12345g", "#+12345", "🧶"} {
		_, err := ParseHex(s)
		assert.Error(t, err, s)
	}
}
