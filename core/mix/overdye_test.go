package mix

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

// A dye over white is the dye; over a fibre it only darkens, and of two fibres the difference in every band gets smaller.
func TestDyeingOver(t *testing.T) {
	flat := func(v float64) (r colour.Reflectance) {
		for i := range r {
			r[i] = v
		}
		return r
	}
	white, half, dye := flat(1), flat(0.5), flat(0.25)
	r := Overdyed(&white, &dye, 1)
	assert.InDelta(t, 0.25, r[0], 1e-9)
	r = Overdyed(&half, &dye, 1) // K/S 0.25 + 1.125 = 1.375: R = 1 + q - sqrt(q² + 2q)
	assert.InDelta(t, 1+1.375-math.Sqrt(1.375*1.375+2*1.375), r[7], 1e-9)
	rapid.Check(t, func(t *rapid.T) {
		band := func(name string) (r colour.Reflectance) {
			for i := range r {
				r[i] = rapid.Float64Range(0.01, 1).Draw(t, name)
			}
			return r
		}
		a, b, d := band("a"), band("b"), band("dye")
		depth := rapid.Float64Range(0, 4).Draw(t, "depth")
		da, db := Overdyed(&a, &d, depth), Overdyed(&b, &d, depth)
		more := Overdyed(&a, &d, depth+1)
		for i := range a {
			require.LessOrEqual(t, da[i], a[i]+1e-9)
			require.LessOrEqual(t, more[i], da[i]+1e-9)
			require.LessOrEqual(t, math.Abs(da[i]-db[i]), math.Abs(a[i]-b[i])+1e-9)
			if depth == 0 {
				require.InDelta(t, a[i], da[i], 1e-9)
			}
		}
	})
}
