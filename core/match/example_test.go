package match_test

import (
	"context"
	"fmt"
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/match"
	"fairtangle/core/mix"
)

// Sixty grams of a grey-green from three lots.
func ExampleFind() {
	var lots []match.Lot
	for _, hex := range []string{"#26324a", "#c9a24a", "#e2d8c3"} {
		c, _ := colour.ParseHex(hex)
		r, _ := c.Reflectance()
		lots = append(lots, match.Lot{Colour: r, Available: math.Inf(1), Most: 1, Cost: math.NaN()})
	}
	target, _ := colour.ParseHex("#7d8076")
	a, err := match.Find(context.Background(), match.Query{Target: target.Lab(), Lots: lots, Model: mix.Default(), Components: 3, Total: 60, Step: 1, Count: 1})
	if err != nil {
		fmt.Println(err)
		return
	}
	best := a.Blends[0]
	fmt.Printf("lots %v, %v g, %.1f off\n", best.Set, best.Steps, best.DeltaE)
	// Output: lots [0 1 2], [13 15 32] g, 0.9 off
}
