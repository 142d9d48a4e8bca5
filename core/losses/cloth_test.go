package losses

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// A cloth of 3 g takes 1.50, 0.75, 0.38, 0.19 g from clean.
func TestAClothFillsByHand(t *testing.T) {
	held, want := 0.0, []float64{1.5, 0.75, 0.375, 0.1875}
	for _, w := range want {
		assert.InDelta(t, w, Fill(3, held), 1e-12)
		held += Fill(3, held)
	}
}

// A cloth believed to hold 3 g that was full and brought up 4 g holds 0.7 × 3 + 0.3 × 4 = 3.3 g;
// what was just cleaned teaches nothing.
func TestWhatACleaningTeaches(t *testing.T) {
	assert.InDelta(t, 3.3, LearnMost(3, []Cleaned{{3, 4}}), 1e-12)
	assert.InDelta(t, 3.0, LearnMost(3, []Cleaned{{0.7, 4}, {0, 1}}), 1e-12)
}

// A cloth that holds another amount is found, whatever it is, within twenty cleanings.
func TestTheMostOfAClothComesToTheTruth(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		truth := rapid.Float64Range(0.5, 12).Draw(t, "truth")
		believed := rapid.Float64Range(0.5, 12).Draw(t, "believed")
		full := rapid.Float64Range(0.5, 1).Draw(t, "how full")
		most := believed
		for range 20 {
			most = LearnMost(most, []Cleaned{{full * most, full * truth}})
		}
		assert.InDelta(t, truth, most, 0.01*math.Max(truth, believed))
	})
}
