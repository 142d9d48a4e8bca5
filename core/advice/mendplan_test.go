package advice

import (
	"testing"

	"fairtangle/core/layup"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A batt is torn into strips of about 40 mm, into two at least: 200 mm into 5, 201 mm into 6, 60 mm into 2.
func TestIntoHowManyStrips(t *testing.T) {
	for width, strips := range map[float64]int{200: 5, 201: 6, 60: 2, 30: 2} {
		bed := drumOf(72)
		bed.WidthMM = width
		p, _, _, ok := mendStrips(Plan{Bed: bed}, Finding{}, nil)
		require.True(t, ok)
		assert.Equal(t, strips, *p.Told.Strips, "%g mm", width)
	}
	p, _, _, _ := mendStrips(Plan{}, Finding{}, nil)
	assert.Equal(t, 4, *p.Told.Strips, "of a batt of which nothing is known")
}

// 120 g in two units of 60 g are three of 40 g, also where the whole was not told.
func TestIntoHowManyUnits(t *testing.T) {
	for _, told := range []float64{0, 120} {
		p := Plan{TotalG: told, Units: 2, Layers: []layup.Layer{{Lays: []layup.Lay{{Grams: 45}, {Grams: 15}}}}}
		p.units(3)
		assert.Equal(t, 3, p.Units)
		assert.InDelta(t, 120, p.TotalG, 1e-9)
		assert.InDelta(t, 40, p.UnitG(), 1e-9)
	}
}
