package layup

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// A bed that was filled to the full by a batt holds just that batt, keeps the proportion of smooth and lofty, and twice as
// much fills it twice.
func TestAFullBattIsWhatABedHolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		fibres := drawFibres(t)
		b := Bed{Type: Drum, Smooth: 90, Lofty: 50}
		grams := rapid.Float64Range(1, 400).Draw(t, "grams")
		full := b.FullOf(fibres, grams)
		assert.InEpsilon(t, grams, full.Capacity(fibres), 1e-9)
		assert.InEpsilon(t, 90.0/50, float64(full.Smooth/full.Lofty), 1e-9)
		assert.InEpsilon(t, 2*grams, b.FullOf(fibres, 2*grams).Capacity(fibres), 1e-9)
	})
}
