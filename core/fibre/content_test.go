package fibre

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestContentsOfKinds(t *testing.T) {
	named := map[string]string{
		"corriedale": "wool", "neps_wool": "wool", "knops_tweed": "wool", "locks_wool": "wool", "locks_mohair": "mohair", "silk_tussah": "silk",
		"bamboo_viscose": "viscose", "neps_viscose": "viscose", "nylon_trilobal": "polyamide", "film_iridescent": "metallised polyester",
		"flax_tow": "linen", "cashmere": "cashmere", "alpaca_suri": "alpaca",
	}
	for key, want := range named {
		k, ok := FindKind(key)
		assert.True(t, ok, key)
		assert.Equal(t, want, k.Content(), key)
	}
	assert.Equal(t, "nettle", Kind{Key: "own-3", Name: "Nettle", Family: "bast"}.Content())
	for _, k := range Kinds() {
		assert.NotEmpty(t, k.Content(), k.Key)
	}
}

func TestCareGoesByTheTenderest(t *testing.T) {
	wool, cotton, film := Kind{Family: "wool"}, Kind{Family: "cotton"}, Kind{Family: "sparkle"}
	assert.Equal(t, []string{"Machine wash at 40 °C"}, Care([]Kind{cotton}, []bool{false}))
	assert.Equal(t, []string{"Gentle machine wash at 30 °C", "Dry flat"}, Care([]Kind{cotton, wool}, []bool{false, true}))
	assert.Equal(t, []string{"Hand wash cool, do not wring", "Dry flat", "Do not iron"}, Care([]Kind{film, wool, wool}, []bool{false, true, false}))
}
