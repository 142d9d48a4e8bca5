package layup

import "fairtangle/core/losses"

// Holds is what its cloth can hold by its size, grams; hands hold nothing.
func (b Bed) Holds() float64 {
	switch b.Type {
	case Cards:
		return losses.HeldByCards
	case Hands:
		return 0
	}
	return losses.Held(b.WidthMM, b.LengthMM, b.TPI)
}

// TakenUp is what a clean cloth takes up of so many units, one after the other, grams (losses.md, section 1).
func (b Bed) TakenUp(units int) (grams float64) {
	most := b.Holds()
	for range units {
		grams += losses.Fill(most, grams)
	}
	return grams
}
