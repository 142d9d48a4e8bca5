package blend

import "fairtangle/core/unit"

// CapacityOf is how much of one component a piece of equipment holds: the
// smooth figure for little or no crimp, the lofty one for much crimp, for locks
// and for a picked cloud, the mean for medium crimp. Combed top packs a step
// closer.
func CapacityOf(crimp, preparation string, smooth, lofty unit.Grams) unit.Grams {
	mean := (smooth + lofty) / 2
	if preparation == "locks" || preparation == "washed_locks" || preparation == "picked_cloud" {
		return lofty
	}
	top := preparation == "combed_top"
	switch {
	case crimp == "high" && !top:
		return lofty
	case crimp == "high", crimp == "medium" && !top:
		return mean
	default:
		return smooth
	}
}

// Capacity is how much of a mixed load fits: 1/Σ(share/capacity).
func Capacity(shares []float64, caps []unit.Grams) unit.Grams {
	var sum float64
	for i, s := range shares {
		sum += s / float64(caps[i])
	}
	return unit.Grams(1 / sum)
}
