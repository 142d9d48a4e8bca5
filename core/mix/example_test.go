package mix_test

import (
	"fmt"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

// Equal weights of a dark and a light fibre are darker than halfway.
func ExampleModel_Even() {
	var lots []colour.Reflectance
	for _, hex := range []string{"#26324a", "#e2d8c3"} {
		c, _ := colour.ParseHex(hex)
		r, _ := c.Reflectance()
		lots = append(lots, r)
	}
	even := mix.Default().Even(lots, []float64{0.5, 0.5})
	fmt.Println(even.Linear().Hex())
	// Output: #515a6c
}
