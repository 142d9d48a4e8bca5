package fibre

import (
	"testing"

	"github.com/stretchr/testify/assert"
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
