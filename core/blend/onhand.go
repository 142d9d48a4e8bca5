package blend

import (
	"math"

	"fairtangle/core/unit"
)

// Stock is what is on hand of a component: grams on the shelf, and the part
// of them that is left after carding. Bought fibre has no limit.
type Stock struct {
	Have    unit.Grams
	Yield   float64 // 0..1, what comes off of what is weighed in
	Endless bool
}

// Limit is the largest blend that the shelf allows.
type Limit struct {
	Finished unit.Grams // the most that can come off; +Inf when nothing limits
	By       int        // the component that limits, -1 when none does
	TenMore  unit.Grams // how much more the blend would be with 10 g more of it
}

// Largest returns the largest finished blend: the least over the components of
// have·yield/share. Components that limit together count by the first.
func Largest(shares []float64, stock []Stock) Limit {
	finished := func(extra int, more unit.Grams) (least unit.Grams, by int) {
		least, by = unit.Grams(math.Inf(1)), -1
		for i, s := range stock {
			if s.Endless || shares[i] <= 0 {
				continue
			}
			have := s.Have
			if i == extra {
				have += more
			}
			if f := have * unit.Grams(s.Yield/shares[i]); f < least {
				least, by = f, i
			}
		}
		return least, by
	}
	f, by := finished(-1, 0)
	l := Limit{Finished: f, By: by}
	if by >= 0 {
		more, _ := finished(by, 10)
		l.TenMore = more - f
	}
	return l
}

// UsingAll returns the finished blend that takes all of a stock at a share: "I
// have 38 g of the blue and want it to be 15 %".
func UsingAll(s Stock, share float64) unit.Grams {
	return s.Have * unit.Grams(s.Yield/share)
}

// SmallestSample is the least total, a multiple of the scale's step, at which
// every component comes to at least k steps.
func SmallestSample(shares []float64, step unit.Milligrams, k int) unit.Milligrams {
	least := 1.0
	for _, s := range shares {
		least = min(least, s)
	}
	steps := math.Ceil(float64(k)/least - 1e-9)
	return unit.Milligrams(steps) * step
}
