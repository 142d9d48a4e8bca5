package yarn

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Equal grams of wool (1.31) and silk (1.34) have a density of 2/(1/1.31 + 1/1.34) = 1.3248; crimp counts by weight.
func TestABodyOfTwoFibres(t *testing.T) {
	b := BodyOf([]float64{10, 10}, []float64{1.31, 1.34}, []string{"high", "none"})
	assert.InDelta(t, 1.32483, b.Density, 1e-5)
	assert.InDelta(t, (0.93+1.10)/2, b.Crimp, 1e-12)
	assert.Equal(t, Body{WoolDensity, 1}, BodyOf(nil, nil, nil))
}
