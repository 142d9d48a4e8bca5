package appearance

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/yarn"
)

// spunOf is a batt of so many lanes of one colour each, 8 g of it, spun.
func spunOf(t testing.TB, p *carding.Palette, ply string, spun Spun) *Strand {
	n := len(p.Linear)
	f := yarn.Field{WidthMM: 200, LengthMM: 500, Lanes: 24 * n, Cells: 64, N: n, Grams: make([]float64, 24*n*64*n)}
	for x := range f.Lanes {
		for c := range f.Cells {
			f.Grams[(x*f.Cells+c)*n+x/24] = 8 / float64(24*f.Cells)
		}
	}
	y, err := yarn.Plan(yarn.Request{
		Field: f, Way: yarn.Strips, Parts: n, Order: yarn.LeftToRight, From: yarn.End, Ply: ply, Tex: spun.Tex, TakeUp: 0.05, Waste: 0.03, Seed: 1,
		Mix: func(shares []float64) colour.Lab {
			v := make([]float32, len(shares))
			for k, s := range shares {
				v[k] = float32(s)
			}
			return p.Even(v).Lab()
		},
	})
	require.NoError(t, err)
	return NewStrand(y, p, make([]float64, n), spun, 3)
}

// lean is how far the pattern above the axis lies to the right of that below it, in pixels: the
// shift at which two rows are most alike.
func lean(pic *Picture, above, below int) int {
	best, at := -1.0, 0
	for shift := -12; shift <= 12; shift++ {
		var same float64
		for x := 20; x < pic.W-20; x++ {
			a, b := pic.Pix[4*(above*pic.W+x+shift)], pic.Pix[4*(below*pic.W+x)]
			same -= float64((a - b) * (a - b))
		}
		if best == -1 || same > best {
			best, at = same, shift
		}
	}
	return at
}

// Held upright, the plies of a yarn that is plied S lean as the middle of the letter S. Lying, as
// it is drawn, with the letter turned by a quarter, they rise to the right; plied Z they fall.
func TestTheTwistIsTheRightWayRound(t *testing.T) {
	p := palette(t, "#202020", "#f0f0f0")
	for _, s := range []bool{false, true} {
		pic := NewPicture(600, 60)
		DrawStrand(pic, spunOf(t, &p, yarn.Two, Spun{Tex: 400, S: s}), 50_000, 24)
		got := lean(pic, 30-6, 30+6)
		if s {
			assert.Negative(t, got, "singles S, plied Z")
		} else {
			assert.Positive(t, got, "singles Z, plied S")
		}
	}
}

// Two plies of two colours each show half of what is seen; a piece knitted of it likewise, and one
// of a single colour is that colour, whatever its shades.
func TestWhatIsSeenIsWhatIsSpun(t *testing.T) {
	p := palette(t, "#7a1020", "#10307a")
	pic := NewPicture(2000, 60)
	DrawStrand(pic, spunOf(t, &p, yarn.Two, Spun{Tex: 200}), 10_000, 20)
	red, blue := 0.0, 0.0
	for i := 0; i < len(pic.Pix); i += 4 {
		if q := pic.Pix[i:]; q[3] > 0.95 && q[0] > q[2] {
			red++
		} else if q[3] > 0.95 {
			blue++
		}
	}
	assert.InDelta(t, 0.5, red/(red+blue), 0.02)
	for _, perStitch := range []float64{6, 16, 30} {
		w := Swatch{Stitches: 12, Rows: 10, StitchMM: 12, FromM: 5}
		wide, high := w.Size(perStitch)
		pic = NewPicture(wide, high)
		require.NoError(t, DrawSwatch(t.Context(), pic, spunOf(t, &p, yarn.Single, Spun{Tex: 200}), w, perStitch))
		mean := inside(pic, wide/4, 3*wide/4, high/4, 3*high/4)
		assert.Greater(t, mean[0]/mean[2], 0.85*p.Linear[0][0]/p.Linear[0][2], "the hue of the first colour at %g", perStitch)
		assert.InDelta(t, 0.74, mean[0]/p.Linear[0][0], 0.1, "its light, less the shade between the stitches, at %g", perStitch)
	}
}

// A swatch takes its stitches times the yarn in one (appearance.md, section 7: 15.5 m), and one
// whose yarn changes in the middle of it changes colour there.
func TestASwatchIsKnittedOfItsYarn(t *testing.T) {
	assert.InDelta(t, 15.504, Swatch{Stitches: 34, Rows: 38, StitchMM: 12}.UsesM(), 1e-9)
	p := palette(t, "#7a1020", "#10307a")
	s := spunOf(t, &p, yarn.Single, Spun{Tex: 800})
	half := s.yarn.PliedM / 2
	w := Swatch{Stitches: 10, Rows: 8, StitchMM: 12, FromM: half - 10*4*0.012}
	wide, high := w.Size(12)
	pic := NewPicture(wide, high)
	require.NoError(t, DrawSwatch(t.Context(), pic, s, w, 12))
	below, above := inside(pic, wide/4, 3*wide/4, high*2/3, high*5/6), inside(pic, wide/4, 3*wide/4, high/6, high/3)
	assert.Greater(t, below[0], 2*below[2], "the first four rows, at the foot, are of the first colour")
	assert.Greater(t, above[2], 2*above[0])
}

// A yarn drawn from end to end covers all of its picture.
func TestABarIsWhole(t *testing.T) {
	p := palette(t, "#7a1020", "#10307a")
	pic := NewPicture(300, 40)
	DrawBar(pic, spunOf(t, &p, yarn.Two, Spun{Tex: 400}))
	for i := 3; i < len(pic.Pix); i += 4 {
		require.EqualValues(t, 1, pic.Pix[i])
	}
}

// Crochet takes its stitches times the yarn in one, and changes colour where its yarn does; a taller stitch makes a taller piece.
func TestCrochetIsMadeOfItsYarn(t *testing.T) {
	p := palette(t, "#7a1020", "#10307a")
	s := spunOf(t, &p, yarn.Single, Spun{Tex: 800})
	half := s.yarn.PliedM / 2
	was := 0
	for _, as := range []Crochet{Single, HalfDouble, Double} {
		w := Crocheted{Swatch{Stitches: 10, Rows: 8, StitchMM: 48, FromM: half - 10*4*0.048}, as}
		wide, high := w.Size(12)
		assert.Greater(t, high, was, as)
		was = high
		pic := NewPicture(wide, high)
		require.NoError(t, DrawCrochet(t.Context(), pic, s, w, 12))
		below, above := inside(pic, wide/4, 3*wide/4, high*2/3, high*5/6), inside(pic, wide/4, 3*wide/4, high/6, high/3)
		assert.Greater(t, below[0], 2*below[2], "%s: the first rows, at the foot", as)
		assert.Greater(t, above[2], 2*above[0], as)
		for y := high / 4; y < 3*high/4; y++ {
			require.Positive(t, pic.Pix[4*(y*wide+wide/2)+3], "%s: nothing is seen through it", as)
		}
	}
}

// A single is as thick as a full rod of its weight: 100 tex are 0.1 mg in a millimetre, which at
// 0.45 g/cm³ fill 0.2222 mm², 0.532 mm across. A two-ply reaches twice as far.
func TestAYarnIsAsThickAsItsWeight(t *testing.T) {
	p := palette(t, "#808080")
	across := 2 * math.Sqrt(100e-6/(0.45e-3*math.Pi))
	assert.InDelta(t, 0.532, across, 0.001)
	assert.InDelta(t, across, 2*spunOf(t, &p, yarn.Single, Spun{Tex: 100, Woollen: true}).Radius(), 0.001)
	assert.InDelta(t, 2*across, 2*spunOf(t, &p, yarn.Two, Spun{Tex: 100, Woollen: true}).Radius(), 0.002)
	three := spunOf(t, &p, yarn.Three, Spun{Tex: 100, Woollen: true}).Radius()
	assert.InDelta(t, across/2*(1+2/math.Sqrt(3)), three, 0.001, "three circles that touch")
}
