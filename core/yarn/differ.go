package yarn

import "fairtangle/core/colour"

// Apart says how two yarns differ.
type Apart struct {
	Yarn  float64 // place by place, side by side from end to end (CIEDE2000, mean)
	Cloth float64 // as cloth seen from afar: all of one against all of the other (CIEDE2000)
}

// places is at how many places two yarns are compared.
const places = 200

// Differ compares two yarns by what is seen of each at a part of its length, 0..1, in light. They
// may have other lengths and be made of other components.
func Differ(a, b func(part float64) colour.Linear) (d Apart) {
	var sumA, sumB colour.Linear
	for i := range places {
		part := (float64(i) + 0.5) / places
		x, y := a(part), b(part)
		d.Yarn += colour.CIEDE2000(x.Lab(), y.Lab()) / places
		for ch := range x {
			sumA[ch] += x[ch] / places
			sumB[ch] += y[ch] / places
		}
	}
	d.Cloth = colour.CIEDE2000(sumA.Lab(), sumB.Lab())
	return d
}
