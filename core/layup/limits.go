package layup

import "fairtangle/core/unit"

// Can is what the figures of equipment can be. Points per square inch are of what has pins.
var Can = struct{ WidthMM, LengthMM, TPI, ToothMM, SmoothG, LoftyG, Minutes, FeedG unit.Limits }{
	WidthMM:  unit.Limits{Least: 10, Most: 2000},
	LengthMM: unit.Limits{Least: 10, Most: 5000},
	TPI:      unit.Limits{Least: 5, Most: 500},
	ToothMM:  unit.Limits{Least: 1, Most: 60},
	SmoothG:  unit.Limits{Least: 0.5, Most: 5000},
	LoftyG:   unit.Limits{Least: 0.5, Most: 5000},
	Minutes:  unit.Limits{Least: 0, Most: 600}, // for one filling
	FeedG:    unit.Limits{Least: 0, Most: 100}, // in a turn
}
