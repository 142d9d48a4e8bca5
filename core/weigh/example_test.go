package weigh_test

import (
	"fmt"

	"fairtangle/core/weigh"
)

// Three batts of 30 g, two passes, at a scale that shows tenths: every batt weighs
// the same, and what is lost on the way is weighed in.
func ExampleMake() {
	p, err := weigh.Make(weigh.Order{
		Components: []weigh.Component{{Share: 0.6, LossPass: 0.02}, {Share: 0.4, LossPass: 0.05}},
		Units:      3, Finished: 30, Passes: 2, Step: 0.1,
	})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, batt := range p.Counts {
		fmt.Printf("%.1f g and %.1f g\n", float64(batt[0])*0.1, float64(batt[1])*0.1)
	}
	// Output:
	// 18.8 g and 13.3 g
	// 18.7 g and 13.3 g
	// 18.7 g and 13.3 g
}

// One gram too much of the first of three, which the total is to outlast.
func ExampleReweigh() {
	c, err := weigh.Reweigh([]weigh.Line{
		{Planned: 10, Weighed: 11, Done: true}, {Planned: 6}, {Planned: 4},
	}, 0.1, weigh.KeepTotal)
	fmt.Println(c.ToWeigh, c.Total, err)
	// Output: [11 5.4 3.6] 20 <nil>
}

// Seven steps over three thirds: the sum is kept.
func ExampleApportion() {
	fmt.Println(weigh.Apportion([]float64{2.333, 2.333, 2.334}, 7))
	// Output: [2 2 3]
}
