package losses

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// 40 g of silk noil of which only in and off were weighed: 4.8 % are usual, 1.25 % more or less. A loss of a
// tenth is believed and learned, one of a fifth is asked about; without what is usual both were asked about.
func TestAnHonestLossIsLearned(t *testing.T) {
	noil := Belief{Mean: 0.048, SD: 0.0125}
	went := []Went{{Kind: "noil", Grams: 40, First: 1, Last: 1}}
	lines := Lines{Droppings: 0.75, Picked: 0.125, Fly: 0.125}
	usual := Unweighed(went, func(string) Belief { return noil }, func(string) float64 { return lines.Without(false, false) })
	assert.InDelta(t, 1.92, usual.Mean, 1e-9)
	assert.InDelta(t, 0.5, usual.SD, 1e-9)
	for batt, learn := range map[float64]bool{39.5: true, 40.3: false, 40 - 1.92: true, 36: true, 35.5: true, 35.4: false, 32: false, 41.0: false} {
		b, err := Balance(Carded{In: 40, Batt: batt, Expect: usual})
		require.NoError(t, err)
		assert.Equal(t, learn, b.Learn, "%g g", batt)
	}
	assert.InDelta(t, 0.125, lines.Without(true, true), 1e-12)
	assert.InDelta(t, 0.25, lines.Without(true, false), 1e-12)
}

// Whatever is usual: who loses just that is never asked, and the window is as wide as it is without, and twice
// how unsure that is to each side.
func TestTheWindowLiesAroundWhatIsUsual(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := rapid.Float64Range(1, 500).Draw(t, "in")
		e := Belief{in * rapid.Float64Range(0, 0.3).Draw(t, "mean"), in * rapid.Float64Range(0, 0.05).Draw(t, "sd")}
		off := rapid.Float64Range(-0.1, 0.2).Draw(t, "off") * in
		b, err := Balance(Carded{In: in, Batt: in - e.Mean - off, Expect: e})
		if err != nil {
			t.Fatal(err)
		}
		want := off > -0.015*in-2*e.SD && off < 0.04*in+2*e.SD
		near := min(abs(off+0.015*in+2*e.SD), abs(off-0.04*in-2*e.SD)) < 1e-6
		if b.Learn != want && !near {
			t.Fatalf("%g g off what is usual of %g g: %v", off, in, b.Learn)
		}
	})
}

func abs(v float64) float64 { return max(v, -v) }
