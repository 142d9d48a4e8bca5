package gradient_test

import (
	"context"
	"fmt"

	"fairtangle/core/colour"
	"fairtangle/core/gradient"
	"fairtangle/core/mix"
)

// Two bundles of 30 g with two bridges between them: every gram is used.
func ExampleMake() {
	var stops []gradient.Stop
	for _, hex := range []string{"#26324a", "#e2d8c3"} {
		c, _ := colour.ParseHex(hex)
		r, _ := c.Reflectance()
		stops = append(stops, gradient.Stop{Colour: r, Grams: 30})
	}
	p, err := gradient.Make(context.Background(), gradient.Request{Stops: stops, Model: mix.Default(), School: gradient.Thirds, Bridges: 2, MaxJump: 8})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, s := range p.Rungs {
		for _, p := range s.Parts {
			fmt.Printf("%.1f g of %d, ", p.Grams, p.Stop)
		}
		fmt.Printf("together %.1f g\n", s.Grams)
	}
	// Output:
	// 20.0 g of 0, together 20.0 g
	// 6.7 g of 0, 3.3 g of 1, together 10.0 g
	// 3.3 g of 0, 6.7 g of 1, together 10.0 g
	// 20.0 g of 1, together 20.0 g
}
