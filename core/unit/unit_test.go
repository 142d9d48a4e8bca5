package unit

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// The avoirdupois ounce is 28.349523125 g by definition (1959).
func TestOunce(t *testing.T) {
	assert.Equal(t, Grams(28.349523125), FromOunces(1))
	assert.InDelta(t, 3.527396195, Grams(100).Ounces(), 1e-9)
}

// Whole milligrams come back unchanged, up to a tonne.
func TestMilligramsAreExact(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := Milligrams(rapid.Int64Range(-1e9, 1e9).Draw(t, "mg"))
		assert.Equal(t, m, m.Grams().Milligrams())
		assert.InDelta(t, float64(m.Grams()), float64(FromOunces(m.Grams().Ounces())), 1e-9)
	})
}
