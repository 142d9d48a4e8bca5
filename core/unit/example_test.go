package unit_test

import (
	"fmt"

	"fairtangle/core/unit"
)

// A sentence carries its quantities until somebody reads it.
func ExampleSay() {
	s := unit.Say("Take %s off; %s is the most.", unit.Grams(11.5), unit.Grams(40))
	fmt.Println(s.In(unit.Metric{}))
	// Output: Take 11.5 g off; 40 g is the most.
}
