package carding

// draws gives the random numbers of one item. Each depends on nothing but the
// seed, the operation, the slot and the item, so that results do not depend on
// the order in which anything is worked out.
type draws uint64

// key begins the draws of an item.
func key(seed, operation uint64, slot, item int) draws {
	return draws(stir(stir(stir(stir(seed)+operation)+uint64(slot)) + uint64(item)))
}

// orderKey and pieceKey are the places of chance that are of no slot: those of the pieces of a batt.
const orderKey, pieceKey = 12, 13

const step = 0x9E3779B97F4A7C15

func stir(a uint64) uint64 { return finish(a + step) }

// finish is the output function of SplitMix64 (Steele, Lea and Flood, "Fast
// splittable pseudorandom number generators", 2014).
func finish(a uint64) uint64 {
	a = (a ^ a>>30) * 0xBF58476D1CE4E5B9
	a = (a ^ a>>27) * 0x94D049BB133111EB
	return a ^ a>>31
}

// next is the next draw, from 0 up to 1.
func (d *draws) next() float64 {
	*d += step
	return float64(finish(uint64(*d))>>11) / (1 << 53)
}
