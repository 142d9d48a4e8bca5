package fibre

// Wave is the crimp of a fibre by its word (none, low, medium, high): how long its waves
// are and how far they swing to a side, in mm. Whatever draws a fibre, large or small,
// takes its waves from here. The lengths are those of fine wool, medium wool and long
// wool or mohair; the swings are a choice by eye.
func Wave(crimp string) (long, high float64) {
	switch crimp {
	case "high":
		return 2.6, 0.28
	case "medium":
		return 5, 0.6
	case "low":
		return 9, 1.5
	}
	return 0, 0
}
