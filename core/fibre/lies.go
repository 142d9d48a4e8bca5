package fibre

// Lie is a way in which the colours of a lot of several lie.
type Lie struct{ Key, Name string }

// Lies are the ways, in the order in which they are offered.
var Lies = []Lie{
	{"along", "one after the other along it, as in a painted top"}, {"across", "side by side over its width"}, {"patches", "in blotches"},
	{"tips", "the second at the tips of the staple"}, {"stirred", "stirred together, as in a heather"},
}

// LieOf is how the colours of a lot lie: as it was told, else those of a top one after the other, and of anything else stirred.
func LieOf(told, preparation string) string {
	switch {
	case told != "":
		return told
	case preparation == "combed_top":
		return "along"
	}
	return "stirred"
}
