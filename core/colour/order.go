package colour

import "math"

// ShelfOrder is a number by which colours sort as a maker lays bags in a row:
// the near-greys first from light to dark, then round the hue circle from red
// over yellow, green and blue to purple, within each twelfth from light to
// dark. It has no unit.
func ShelfOrder(c Linear) float64 {
	ok := c.OKLab()
	dark := 1 - min(max(ok.L, 0), 1)
	if math.Hypot(ok.A, ok.B) < 0.025 {
		return dark
	}
	h := math.Atan2(ok.B, ok.A) / rad
	// Red wool lies at about 20 degrees; start the circle a little before it.
	turn := math.Mod(h+360-5, 360) / 30
	return 1 + math.Floor(turn) + dark
}
