package show

import (
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/unit"
)

func TestUnits(t *testing.T) {
	g := Units{Step: 100}
	assert.Equal(t, "22.8\u00a0g", g.Grams(22.8))
	assert.Equal(t, "23\u00a0g", Units{Step: 1000}.Grams(22.8))
	assert.Equal(t, "22.80\u00a0g", Units{Step: 50}.Grams(22.8))
	// 28.349523125 g is one ounce exactly.
	assert.Equal(t, "1.00\u00a0oz", Units{Step: 283, Ounces: true}.Grams(28.349523125), "two decimals")
	assert.Equal(t, "1.000\u00a0oz", Units{Step: 142, Ounces: true}.Grams(28.349523125), "the step of 0.005 oz has three")
	assert.Equal(t, "0.399\u00a0oz", Units{Step: 100, Ounces: true}.Grams(11.3), "two would hide a step of 0.1 g")
	assert.Equal(t, "8.47", Units{Step: 283, Ounces: true}.Amount(240))
	assert.Equal(t, "−0.5\u00a0g", g.Signed(-0.5))
	assert.Equal(t, "11.5\u00a0cm", g.Length(115))
	assert.Equal(t, "4.5\u00a0in", Units{Inches: true}.Length(115))
	assert.Equal(t, "5\u00a0mm", g.Length(5))
	assert.Equal(t, "6.7\u00a0%", Percent(1./15))
}

// What is typed comes back as it was, in either unit, to the milligram.
func TestReadGramsReversesExact(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		u := Units{Ounces: rapid.Bool().Draw(t, "oz"), Step: 100}
		want := float64(rapid.IntRange(0, 1_000_000).Draw(t, "mg")) / 1000
		got, err := u.ReadGrams("grams", u.Exact(want))
		require.NoError(t, err)
		assert.InDelta(t, want, got, 0.0005)
	})
	_, err := Units{}.ReadGrams("grams", "abc")
	assert.ErrorContains(t, err, "not a number")
}

// Sums of what is shown add up as shown, in both directions of a table.
func TestWhatIsShownAddsUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		u := Units{Ounces: true, Step: unit.Milligrams(rapid.SampledFrom([]int{100, 142, 283, 1417, 2835}).Draw(t, "step"))}
		var byRow, byColumn float64
		var columns [3]float64
		for range 4 {
			var row float64
			for j := range columns {
				shown := u.Shown(rapid.Float64Range(0, 80).Draw(t, "grams"))
				row += shown
				columns[j] += shown
			}
			v, err := strconv.ParseFloat(u.PlainShown(row), 64)
			require.NoError(t, err)
			byRow += v
		}
		for _, c := range columns {
			v, err := strconv.ParseFloat(u.PlainShown(c), 64)
			require.NoError(t, err)
			byColumn += v
		}
		assert.Equal(t, u.PlainShown(byRow), u.PlainShown(byColumn))
	})
}

// A place on the cloth comes back as it was shown: to a tenth of a millimetre,
// or a hundredth of an inch, which is half that off at most.
func TestReadLengthReversesPlainLength(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		u := Units{Inches: rapid.Bool().Draw(t, "in")}
		want := float64(rapid.IntRange(0, 20_000).Draw(t, "tenths")) / 10
		got, err := u.ReadLength("to", u.PlainLength(want))
		require.NoError(t, err)
		off := 1e-9
		if u.Inches {
			off = 0.127 + 1e-9
		}
		assert.InDelta(t, want, got, off)
	})
	_, err := Units{}.ReadLength("to", "half way")
	assert.ErrorContains(t, err, "a length in cm")
	assert.Equal(t, "58\u00a0cm", Units{}.Size(580))
	assert.Equal(t, "7.87\u00a0in", Units{Inches: true}.Size(200))
	assert.Equal(t, "8.2\u00a0mm", Units{}.Millimetres(8.2))
	assert.Equal(t, "0.39\u00a0in", Units{Inches: true}.Millimetres(10))
}

// What is written as nothing is nothing to speak of.
func TestNobodyIsShortOfNothing(t *testing.T) {
	for _, ounces := range []bool{false, true} {
		u := Units{Ounces: ounces, Step: 100}
		assert.True(t, u.Shows(5))
		assert.False(t, u.Shows(0))
		assert.False(t, u.Shows(0.0001))
		assert.False(t, u.Shows(-3))
	}
}
