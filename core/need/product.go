package need

import "fairtangle/core/fault"

// Product are three quantities of which the first two make the third: weight × grist = length,
// batts × grams = all of them, area × thickness = grams. Fixed ones are locked by the maker.
type Product struct {
	Value [3]float64
	Fixed [3]bool
}

// Set sets one of them. What is changed last holds, locked or not; of the two others one
// follows: the first of the order that is not locked. ok is false where both are.
func (p Product) Set(i int, v float64, order [2]int) (out Product, ok bool) {
	p.Value[i] = v
	for _, k := range order {
		if k != i && !p.Fixed[k] {
			p.follow(k)
			return p, true
		}
	}
	return p, false
}

// follow works out one of them from the two others.
func (p *Product) follow(k int) {
	v := &p.Value
	switch k {
	case 2:
		v[2] = v[0] * v[1]
	case 1:
		v[1] = over(v[2], v[0])
	case 0:
		v[0] = over(v[2], v[1])
	}
}

func over(a, b float64) float64 {
	if b == 0 {
		return 0
	}
	return a / b
}

// Locked is the fault where a change finds both others locked.
func Locked(field string) error {
	return fault.New(field, "The two others are locked. Unlock one of them, so that it can follow.")
}
