package yarn

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// 132 turns of 150 cm are 198 m; 60 g of fibre become 58.2 g of yarn (3 % lost) and 57.0 g washed
// (2.06 %); 420 m of singles plied to 200 m of two-ply are 5 % taken up; 198 of 200 m are left.
func TestASkeinByHand(t *testing.T) {
	assert.InDelta(t, 198, Wound(132, 150), 1e-12)
	assert.InDelta(t, 347.368, GristOf(198, 57), 1e-3)
	assert.Zero(t, GristOf(198, 0))
	s := Measured{Plies: 2, FibreG: 60, SinglesM: 420, RawM: 200, RawG: 58.2, LengthM: 198, WeightG: 57}.Showed()
	assert.InDelta(t, 0.03, s.Waste, 1e-12)
	assert.InDelta(t, 1-57/58.2, s.Finishing, 1e-12)
	assert.InDelta(t, 0.05, s.TakeUp, 1e-12)
	assert.InDelta(t, 0.01, s.Shrinkage, 1e-12)
	s = Measured{Plies: 2, WeightG: 57, LengthM: 198}.Showed()
	assert.False(t, s.KnowsWaste || s.KnowsFinishing || s.KnowsTakeUp || s.KnowsShrinkage, "the skein alone shows none of it")
	s = Measured{Plies: 2, RawG: 50, WeightG: 57}.Showed()
	assert.False(t, s.KnowsFinishing, "damp when it was weighed: nothing to learn")
}

// What a yarn loses by its plan is what a skein of that plan shows.
func TestASkeinShowsItsPlan(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		fibre, waste := rapid.Float64Range(5, 500).Draw(t, "fibre"), rapid.Float64Range(0, 0.3).Draw(t, "waste")
		wash, take := rapid.Float64Range(0, 0.2).Draw(t, "washing"), rapid.Float64Range(0, 0.3).Draw(t, "taken up")
		plies := rapid.IntRange(2, 4).Draw(t, "plies")
		tex := rapid.Float64Range(20, 900).Draw(t, "tex")
		raw := fibre * (1 - waste)
		singles := 1000 * raw / tex
		m := Measured{plies, fibre, singles, singles / float64(plies) / (1 + take), raw, 0, raw * (1 - wash)}
		s := m.Showed()
		assert.InDelta(t, waste, s.Waste, 1e-9)
		assert.InDelta(t, wash, s.Finishing, 1e-9)
		assert.InDelta(t, take, s.TakeUp, 1e-9)
		assert.InDelta(t, 100*singles/raw, GristOf(1, tex/1000), 1e-6*GristOf(1, tex/1000))
		assert.InDelta(t, tex, TexOf(GristOf(1000, tex)), 1e-9*tex)
	})
}
