package yarn

// Wound is the length of a skein of so many turns on a reel of a girth in cm, m.
func Wound(turns int, girthCM float64) float64 { return float64(turns) * girthCM / 100 }

// GristOf is the length of a yarn by its weight, m in 100 g; 0 where one of them is not known.
func GristOf(lengthM, weightG float64) float64 {
	if lengthM <= 0 || weightG <= 0 {
		return 0
	}
	return 100 * lengthM / weightG
}

// TexOf is the weight of 1000 m of a yarn of so many metres in 100 g, and the other way round.
func TexOf(gristM float64) float64 { return 100_000 / gristM }

// Measured is what was measured of a skein or a sample of so many plies; 0 is not known.
type Measured struct {
	Plies    int
	FibreG   float64 // that went in
	SinglesM float64 // all of them together
	RawM     float64 // before washing
	RawG     float64
	LengthM  float64 // after it
	WeightG  float64
}

// Showed is what a skein showed of itself, as parts of 1; Knows says which.
type Showed struct {
	Waste, Finishing, TakeUp, Shrinkage                     float64
	KnowsWaste, KnowsFinishing, KnowsTakeUp, KnowsShrinkage bool
}

// Showed works out the losses as core/need counts them: of the fibre that went in, so much is lost
// in spinning; of what was spun, so much in washing; singles are longer by take-up than the plies'
// length of yarn before it was washed.
func (m Measured) Showed() (s Showed) {
	raw := m.RawG
	if raw <= 0 && m.FibreG > 0 && m.WeightG > 0 { // all that is known is from end to end: it counts as spinning
		raw = m.WeightG
	}
	if m.FibreG > 0 && raw > 0 && raw <= m.FibreG {
		s.Waste, s.KnowsWaste = 1-raw/m.FibreG, true
	}
	if m.RawG > 0 && m.WeightG > 0 && m.WeightG <= m.RawG {
		s.Finishing, s.KnowsFinishing = 1-m.WeightG/m.RawG, true
	}
	if long := m.RawM; m.Plies > 1 && m.SinglesM > 0 && long > 0 && m.SinglesM >= float64(m.Plies)*long {
		s.TakeUp, s.KnowsTakeUp = m.SinglesM/(float64(m.Plies)*long)-1, true
	}
	if m.RawM > 0 && m.LengthM > 0 {
		s.Shrinkage, s.KnowsShrinkage = 1-m.LengthM/m.RawM, true
	}
	return s
}
