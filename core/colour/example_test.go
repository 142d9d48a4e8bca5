package colour_test

import (
	"fmt"

	"fairtangle/core/colour"
)

// How far apart two colours look, and how a maker would say it.
func ExampleCIEDE2000() {
	navy, _ := colour.ParseHex("#26324a")
	slate, _ := colour.ParseHex("#4c5257")
	fmt.Printf("%.1f\n", colour.CIEDE2000(navy.Lab(), slate.Lab()))
	fmt.Println(colour.Words(navy.Lab(), slate.Lab()))
	// Output:
	// 14.2
	// much lighter and warmer
}
