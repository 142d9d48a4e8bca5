package show

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestProseInTheMakersUnits(t *testing.T) {
	imperial := Units{Ounces: true, Inches: true}
	for text, want := range map[string]string{
		"run 5 g of scrap wool":                   "run 0.18 oz of scrap wool",
		"to the nearest of 6, 8, 10, 12 or 15 mm": "to the nearest of 0.24, 0.31, 0.39, 0.47 or 0.59 in",
		"rod 5 to 8 mm, 1.5 to 3 g each":          "rod 0.2 to 0.31 in, 0.053 to 0.11 oz each",
		"above 0.06 g/cm3 (tight)":                "above 0.035 oz/cu in (tight)",
		"2 passes of 150 gauge":                   "2 passes of 150 gauge",
	} {
		assert.Equal(t, want, imperial.Prose(text))
		assert.Equal(t, text, Units{}.Prose(text))
	}
}
