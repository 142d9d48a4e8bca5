package advice

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/unit"
)

// 60 g, of which a tenth goes from the silk to the wool, beside 0.02 g of sparkle that nobody would see
// on a scale: 6 g each way, and the sparkle is not named.
func TestWhatAMendDoes(t *testing.T) {
	mix := func(shares []float64) colour.Lab { return colour.Lab{L: 40 + 30*shares[0]} }
	p := Plan{TotalG: 60, Mix: mix, Fibres: []Fibre{{Name: "wool", Share: 0.5}, {Name: "silk", Share: 0.4}, {Name: "sparkle", Share: 0.1}}}
	m := Mend{Verb: "share", After: Plan{Fibres: []Fibre{{Share: 0.6}, {Share: 0.2997}, {Share: 0.1003}}}}
	done := m.Does(p)
	assert.Equal(t, []Moved{{"wool", 6}, {"silk", unit.Grams(-6)}}, done.Moved)
	require.NotNil(t, done.Colour)
	assert.InDelta(t, 55, done.Colour.Before.L, 1e-9)
	assert.InDelta(t, 58, done.Colour.After.L, 1e-9)
	assert.False(t, done.Colour.Same)
	assert.Equal(t, "a little lighter", done.Colour.Words)

	m.Verb = "passes"
	assert.Equal(t, Does{}, m.Does(p), "no share moves")
}
