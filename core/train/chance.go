package train

// chance draws numbers from a seed: SplitMix64 (Steele, Lea and Flood, "Fast splittable pseudorandom number generators", 2014). The same
// seed draws the same on every machine, for ever.
type chance uint64

func (c *chance) next() uint64 {
	*c += 0x9e3779b97f4a7c15
	z := uint64(*c)
	z = (z ^ z>>30) * 0xbf58476d1ce4e5b9
	z = (z ^ z>>27) * 0x94d049bb133111eb
	return z ^ z>>31
}

// part is from 0 up to 1.
func (c *chance) part() float64 { return float64(c.next()>>11) / (1 << 53) }

// one is a whole number from 0 to n-1.
func (c *chance) one(n int) int { return int(c.part() * float64(n)) }

// between is a number from low to high.
func (c *chance) between(low, high float64) float64 { return low + (high-low)*c.part() }

// order is 0 to n-1 in an order by chance (Fisher and Yates).
func (c *chance) order(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	for i := n - 1; i > 0; i-- {
		j := c.one(i + 1)
		out[i], out[j] = out[j], out[i]
	}
	return out
}
