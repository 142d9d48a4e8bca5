package blend_test

import (
	"fmt"

	"fairtangle/core/blend"
)

// A share is set; the locked one stays, the others give way in proportion.
func ExampleBlend_SetShare() {
	b := blend.Blend{{Parts: 50, Locked: true}, {Parts: 30}, {Parts: 20}}
	b, err := b.SetShare(1, 0.4)
	for _, p := range b {
		fmt.Printf("%.0f ", p.Parts)
	}
	fmt.Println(err)
	// Output: 50 40 10 <nil>
}

// What the shelf allows: 90 g of the second, with a twentieth of it lost.
func ExampleLargest() {
	l := blend.Largest([]float64{0.7, 0.3}, []blend.Stock{{Have: 400, Yield: 0.96}, {Have: 90, Yield: 0.95}})
	fmt.Printf("%.1f g, limited by the %d. fibre\n", float64(l.Finished), l.By+1)
	// Output: 285.0 g, limited by the 2. fibre
}
