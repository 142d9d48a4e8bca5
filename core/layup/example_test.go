package layup_test

import (
	"fmt"

	"fairtangle/core/layup"
)

// Two wools laid as the first builder does it, on a hand-turned drum.
func ExampleBuild() {
	drum := layup.Bed{Type: layup.Drum, WidthMM: 200, LengthMM: 540, ToothMM: 12, Smooth: 35, Lofty: 25, FeedG: 0.5, Minutes: 12}
	fibres := []layup.Fibre{{Name: "grey-blue", Grams: 18, StapleMM: 100}, {Name: "undyed", Grams: 12, StapleMM: 120}}
	p, err := layup.Build(drum, fibres, layup.Options{Builder: layup.Builders()[0], Step: 0.1})
	if err != nil {
		fmt.Println(err)
		return
	}
	var laid [2]float64
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			laid[v.Component] += v.Grams
		}
	}
	fmt.Printf("%s: %d layers, %.1f g and %.1f g\n", layup.Builders()[0], len(p.Layers), laid[0], laid[1])
	// Output: sandwich: 3 layers, 18.0 g and 12.0 g
}
