package losses

// What a cloth holds, and how fast it fills (a cloth from clean takes half of what it can
// still hold with each batt).
const (
	heldGsm   = 25.0 // grams in a square metre of cloth
	coarseTPI = 60.0 // pins in a square inch, below which teeth are coarse and tall
	tall      = 1.5  // times as much between those
	fills     = 0.5
	// HeldByCards is what a pair of hand cards holds, grams.
	HeldByCards = 0.3
)

// Held is how much fibre a cloth of this size can hold, grams; 0 tpi: not known.
func Held(widthMM, lengthMM, tpi float64) float64 {
	v := heldGsm * widthMM * lengthMM * 1e-6
	if tpi > 0 && tpi < coarseTPI {
		v *= tall
	}
	return v
}

// Fill is by how much a cloth that can hold so much, and holds some already, grows with
// one more batt, grams.
func Fill(most, before float64) float64 { return fills * max(0, most-before) }

// Cleaned is a cleaning of the cloth: what was believed to lie in it, and what it brought up,
// grams.
type Cleaned struct{ Held, Brought float64 }

// How a cloth's most is learned: the new one is so much of the old, the rest of what was seen;
// a cloth less than a quarter full says nothing about it.
const (
	oldMost   = 0.7
	tellsFrom = 0.25
)

// LearnMost is how much a cloth can hold by the cleanings of it, one after the other, where
// most is believed before (losses.md, section 6): a full cleaning that brought up twice what
// was believed to lie there saw a cloth that holds twice as much.
func LearnMost(most float64, cleanings []Cleaned) float64 {
	for _, c := range cleanings {
		if c.Held >= tellsFrom*most && c.Held > 0 {
			most = oldMost*most + (1-oldMost)*most*c.Brought/c.Held
		}
	}
	return most
}
