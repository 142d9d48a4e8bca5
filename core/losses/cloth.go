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
