package mix

import "fairtangle/core/colour"

// Overdyed is a fibre dyed over: what a dye absorbs adds to what the fibre absorbs, so their K/S add up in every band (Kubelka and Munk,
// for dye in a substrate that scatters as before). dye is what the dye makes of white; depth is how much of it there is, of that: 0 leaves
// the fibre as it is.
func Overdyed(fibre, dye *colour.Reflectance, depth float64) (r colour.Reflectance) {
	for i := range r {
		r[i] = fromKOverS(kOverS(fibre[i]) + depth*kOverS(dye[i]))
	}
	return r
}
