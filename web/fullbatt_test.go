package web

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A batt that was as full as it goes measures its equipment: told as grams, or taken from a run, the fills and the number
// of batts of every blend follow. A stale press and one of a run elsewhere change nothing.
func TestAFullBattMeasuresItsEquipment(t *testing.T) {
	c := sample(t)
	drum := func() (v float64) {
		fills, err := c.s.Laying.ChooseEquipment(t.Context(), 1)
		require.NoError(t, err)
		for _, f := range fills {
			if f.EquipmentID == 1 {
				return f.CapacityG
			}
		}
		return 0
	}
	before := drum()
	assert.Contains(t, c.page("/blends/1/layup"), "What Standard drum carder", "the drum is as its preset says")
	e, err := c.s.Workshop.OneEquipment(t.Context(), 1)
	require.NoError(t, err)
	told := func(grams, of string) int {
		return c.form("/equipment/1", "version", "1", "name", e.Name, "type", "drum", "drive", "hand", "width_mm", "20", "length_mm", "58", "tpi", "72",
			"tooth_mm", "10", "smooth_g", "90", "lofty_g", "50", "minutes", "22", "feed_g", "0.3", "preset", e.Preset, "full_g", grams, "full_of", of).Code
	}
	assert.Equal(t, 422, told("a lot", "wool"))
	assert.Equal(t, 422, told("-4", "wool"))
	assert.Equal(t, 422, told("35", "straw"))
	require.Equal(t, 303, told("35", "wool"), "half of the 70 g of carded wool")
	assert.InDelta(t, before/2, drum(), 1e-9)
	assert.NotContains(t, c.page("/blends/1/layup"), "What Standard drum carder")

	book, err := c.s.Carder.CarderBook(t.Context(), 2)
	require.NoError(t, err)
	require.NotEmpty(t, book.Fullest)
	most := book.Fullest[0]
	assert.NotEqual(t, 1.0, most.Load)
	press := func(version, unit string) int {
		return c.form("/equipment/2/full", "version", version, "run", "1", "unit", unit).Code
	}
	assert.Equal(t, 404, press("1", "9"))
	assert.Equal(t, 404, c.form("/equipment/1/full", "version", "2", "run", "1", "unit", "0").Code, "it was on the board")
	require.Equal(t, 303, press("1", "0"))
	assert.Equal(t, 409, press("1", "0"), "pressed again on an old page")
	book, err = c.s.Carder.CarderBook(t.Context(), 2)
	require.NoError(t, err)
	assert.InDelta(t, 1, book.Fullest[0].Load, 1e-9)
	assert.InDelta(t, 40*most.Load, book.Equipment.SmoothG, 1e-6)
	assert.InDelta(t, 26*most.Load, book.Equipment.LoftyG, 1e-6)
	assert.Contains(t, c.page("/equipment/2/book"), "as it is kept")
}
