package fibre

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a kind loses is parted without rest, and every family has a class of its own.
func TestALossIsPartedWithoutRest(t *testing.T) {
	for _, k := range Kinds() {
		v := Lost(k)
		assert.InDelta(t, 1, v.Droppings+v.Picked+v.Fly, 1e-12, k.Key)
		_, own := classOfKind[k.Key]
		_, known := linesOf[k.Family]
		assert.True(t, own || known || k.Family == "wool", "%s has no class", k.Key)
	}
	for key, class := range classOfKind {
		_, known := linesOf[class]
		assert.True(t, known, "%s: %s", key, class)
	}
}

// The regain of the table near 65 % humidity: wool 16, cotton 8, nylon 4, film nearly none; a kind of one's own does as
// its family.
func TestMoistureGoesByTheKind(t *testing.T) {
	for key, takes := range map[string]float64{"merino": 1, "cotton_upland": 0.5, "nylon": 0.25, "film_metallised": 0.025} {
		k, ok := FindKind(key)
		require.True(t, ok, key)
		assert.InDelta(t, takes, 1-k.Drier(), 1e-12, key)
	}
	assert.Zero(t, Kind{Key: "own", Family: "wool"}.Drier())
	assert.Positive(t, Kind{Key: "own", Family: "sparkle"}.Drier())
}
