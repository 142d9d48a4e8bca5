package fibre

import "fairtangle/core/unit"

// Can is what the figures of a kind can be: its ranges end within them.
var Can = struct{ DiameterUM, StapleMM, LossPct, Decay, Density unit.Limits }{
	DiameterUM: unit.Limits{Least: 1, Most: 1000},
	StapleMM:   unit.Limits{Least: 1, Most: 600},
	LossPct:    unit.Limits{Least: 0, Most: 50},
	Decay:      unit.Limits{Least: 0, Most: 1},
	Density:    unit.Limits{Least: 0.5, Most: 10}, // g/cm³; wool has 1.31
}
