package recipe

import "math"

// PiecesFrom is how many pieces of so many grams each of some blends there is fibre for on the shelf. A lot that several of them want is
// shared out evenly among them, so that all of it can be made; what is still to buy makes none.
func PiecesFrom(blends []Blend, eachG float64) []int {
	wanted := map[int64]int{}
	for _, b := range blends {
		for _, c := range b.Components {
			if c.LotID != nil {
				wanted[*c.LotID]++
			}
		}
	}
	out := make([]int, len(blends))
	for i, b := range blends {
		most := math.Inf(1)
		for _, c := range b.Components {
			switch {
			case c.Share <= 0:
			case c.LotID == nil || c.HaveG == nil || c.WeighG <= 0:
				most = 0
			default: // finished, of its part of the lot
				most = min(most, *c.HaveG/float64(wanted[*c.LotID])*c.Grams/c.WeighG/c.Share)
			}
		}
		if len(b.Components) > 0 && !math.IsInf(most, 1) && eachG > 0 {
			out[i] = int(most/eachG + 1e-9)
		}
	}
	return out
}
