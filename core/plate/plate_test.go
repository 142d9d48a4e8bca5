package plate

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/unit"
)

// pan is a scale that settles at once; moments go by a tenth of a second.
type pan struct {
	p  *Plate
	at int64
}

func (s *pan) says(gross unit.Milligrams) Shown {
	s.at += 100
	return s.p.Hear(Heard{Gross: gross, Stable: true, At: s.at})
}

// rests says the same until it is ready, or two seconds long.
func (s *pan) rests(gross unit.Milligrams) (v Shown) {
	for range 20 {
		if v = s.says(gross); v.Phase == Ready {
			break
		}
	}
	return v
}

// TestABowlByHand: a bowl of 50 g, 12.0 g of A, then 8.0 g of B on top of it.
func TestABowlByHand(t *testing.T) {
	s := &pan{p: &Plate{Mode: Bowl}}
	s.p.Want(12_000, 100)
	s.says(50_000)
	s.p.Tare()
	assert.Equal(t, Nothing, s.says(50_000).Phase)
	assert.Equal(t, Nothing, s.says(50_100).Phase, "a step is nothing yet")
	assert.Equal(t, Short, s.says(50_101).Phase)
	v := s.says(57_000)
	assert.Equal(t, Short, v.Phase)
	assert.Equal(t, unit.Milligrams(7000), v.Net)
	assert.Equal(t, unit.Milligrams(5000), v.Left)
	assert.InDelta(t, 7.0/12, v.Part, 1e-12)
	assert.Equal(t, Over, s.says(62_101).Phase)
	assert.Equal(t, Inside, s.says(62_100).Phase, "just within")
	assert.Equal(t, Inside, s.says(61_900).Phase)
	v = s.rests(62_000)
	require.Equal(t, Ready, v.Phase)
	assert.Equal(t, unit.Milligrams(12_000), v.Net)
	s.p.Taken(12_000)
	s.p.Want(8000, 100)
	assert.Equal(t, Nothing, s.says(62_000).Phase, "what was weighed counts as nothing")
	v = s.rests(70_000)
	assert.Equal(t, Ready, v.Phase)
	assert.Equal(t, unit.Milligrams(8000), v.Net)
	s.p.Taken(8000)
	s.p.Back(8000)
	v = s.rests(70_000)
	assert.Equal(t, Undone, v.Phase, "what was taken back lies there still, and is not taken again by itself")
	assert.Equal(t, unit.Milligrams(8000), v.Net)
	s.says(69_000)
	assert.Equal(t, Ready, s.rests(70_000).Phase, "once a hand has been at it, it is")
	s.says(73_000) // a fast hand puts the next fibre on before the answer comes
	s.p.Taken(8000)
	s.p.Want(5000, 100)
	assert.Equal(t, unit.Milligrams(3000), s.says(73_000).Net, "and none of it is lost")
}

// TestDishesByHand: each in its dish of 20 g; what was weighed is not taken twice.
func TestDishesByHand(t *testing.T) {
	s := &pan{p: &Plate{Mode: Dishes}}
	s.p.Want(3000, 10)
	s.says(20_000)
	s.p.Tare()
	require.Equal(t, Ready, s.rests(23_005).Phase)
	s.p.Taken(3005)
	s.p.Want(3000, 10)
	assert.Equal(t, Clear, s.rests(23_005).Phase, "the same is wanted again, and still it is not taken")
	assert.Equal(t, Clear, s.says(22_000).Phase)
	v := s.says(0)
	assert.Equal(t, Nothing, v.Phase)
	assert.Equal(t, unit.Milligrams(-20_000), v.Net)
	assert.Equal(t, Nothing, s.says(20_000).Phase)
	assert.Equal(t, Ready, s.rests(22_995).Phase)
	s.p.Put(0)
	assert.Equal(t, Over, s.says(22_995).Phase, "straight on the pan")
}

// TestWhatMovesIsNotTaken: unstable, overloaded, not wanted, only for a moment.
func TestWhatMovesIsNotTaken(t *testing.T) {
	p := &Plate{}
	p.Want(1000, 10)
	for at := range int64(50) {
		require.Equal(t, Unsteady, p.Hear(Heard{Gross: 1000, At: 100 * at}).Phase)
	}
	for at := range int64(50) { // it never rests long enough
		h := Heard{Gross: 1000, Stable: at%8 != 0, At: 5000 + 100*at}
		require.NotEqual(t, Ready, p.Hear(h).Phase)
	}
	assert.Equal(t, Overload, p.Hear(Heard{Gross: 1000, Stable: true, Over: true, At: 11_000}).Phase)
	p.Want(0, 10)
	for at := range int64(20) {
		require.Equal(t, Nothing, p.Hear(Heard{Gross: 0, Stable: true, At: 12_000 + 100*at}).Phase)
	}
}

// TestNothingIsTakenThatIsNotThere: whatever is put on, tared and taken, a weighing is
// only ready within the tolerance and after it has rested; the taken ones of a bowl add
// up to what was put into it.
func TestNothingIsTakenThatIsNotThere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := &pan{p: &Plate{Mode: Bowl}}
		var gross, first, sum unit.Milligrams
		first = unit.Milligrams(rapid.IntRange(0, 500_000).Draw(t, "bowl"))
		gross = first
		s.says(gross)
		s.p.Tare()
		for range rapid.IntRange(1, 12).Draw(t, "times") {
			wanted := unit.Milligrams(rapid.IntRange(1, 50_000).Draw(t, "wanted"))
			s.p.Want(wanted, 100)
			gross += unit.Milligrams(rapid.IntRange(0, 60_000).Draw(t, "put"))
			v := s.rests(gross)
			near := v.Left >= -100 && v.Left <= 100
			require.Equal(t, near && (v.Net > 0 || wanted <= 100), v.Phase == Ready, "%v", v)
			sum += v.Net
			s.p.Taken(v.Net)
		}
		require.Equal(t, gross-first, sum)
	})
}

// Taken back while the pan still moved, it is not taken again when it comes to rest: nobody has been
// at it. A hand that comes after lets it be taken.
func TestTakenBackWhileItMovesIsNotTakenAgain(t *testing.T) {
	p := &Plate{Mode: Bowl, Step: 100}
	p.Want(10_000, 100)
	at := int64(0)
	hear := func(gross unit.Milligrams, stable bool) Phase {
		at += 400
		return p.Hear(Heard{Gross: gross, Stable: stable, At: at}).Phase
	}
	for range 4 {
		hear(10_000, true)
	}
	p.Taken(10_000)
	hear(10_000, true)
	hear(9_000, false) // the pan swings
	p.Back(10_000)
	hear(9_700, false)
	for range 5 {
		assert.Equal(t, Undone, hear(10_000, true))
	}
	hear(8_000, true)
	for range 5 {
		hear(10_000, true)
	}
	assert.Equal(t, Ready, hear(10_000, true))
}

// A dish with its fibre still on the plate is held there, by what it weighs above the plate's zero.
func TestWhatLiesThereIsHeld(t *testing.T) {
	s := &pan{p: &Plate{Mode: Bowl, Step: 100}}
	s.says(50_000)
	s.p.Tare()
	s.says(62_000)
	for net, held := range map[unit.Milligrams]bool{12_000: true, 12_100: true, 11_900: true, 12_101: false, 11_899: false, 112_000: false} {
		assert.Equal(t, held, s.p.Holds(net), net)
	}
}
