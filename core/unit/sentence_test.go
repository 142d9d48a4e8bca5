package unit

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

type imperial struct{}

func (imperial) WriteWeight(g Grams) string { return figures(g.Ounces()) + " oz" }
func (imperial) WriteLength(mm Millimetres) string {
	return figures(float64(mm)/25.4) + " in"
}

// One sentence is read in either unit; an ounce is 28.349523125 g, an inch 25.4 mm.
func TestOneSentenceInTwoUnits(t *testing.T) {
	s := Say("%s of %s, %s long, %d %%", Grams(28.349523125), "navy", Millimetres(190.5), 40)
	assert.Equal(t, "28.35 g of navy, 190.5 mm long, 40 %", s.String())
	assert.Equal(t, "1 oz of navy, 7.5 in long, 40 %", s.In(imperial{}))
	text, err := json.Marshal(map[string]Sentence{"do": s})
	require.NoError(t, err)
	assert.JSONEq(t, `{"do":"28.35 g of navy, 190.5 mm long, 40 %"}`, string(text))
	assert.Equal(t, "at most 1000000 g", Say("at most %s", MaxGrams).String(), "not 1e+06")
	assert.Empty(t, Sentence{}.String())
}

func TestASentenceCarriesItsQuantities(t *testing.T) {
	s := Say("lane %d takes %s of %s, %s long, %.1f times its share", 3, Grams(11.5), "tussah", Millimetres(190), 1.25)
	got := s.Quantities()
	require.Len(t, got, 5)
	assert.Equal(t, 3.0, *got[0].Number)
	assert.Equal(t, Grams(11.5), *got[1].Grams)
	assert.Equal(t, "tussah", *got[2].Name)
	assert.Equal(t, Millimetres(190), *got[3].Millimetres)
	assert.Equal(t, 1.25, *got[4].Number)
}
