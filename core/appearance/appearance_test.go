package appearance

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

func palette(t testing.TB, list ...string) carding.Palette {
	var out []colour.Reflectance
	for _, h := range list {
		c, err := colour.ParseHex(h)
		require.NoError(t, err)
		r, _ := c.Reflectance()
		out = append(out, r)
	}
	return carding.NewPalette(mix.Default(), out, nil)
}

// navyAndCream is a batt of eight thin layers, carded so often.
func navyAndCream(t testing.TB, cardings int) (*carding.Batt, carding.Palette) {
	b, err := carding.New(carding.Bed{WidthMM: 200, LengthMM: 600, FullG: 60}, carding.FineGrid(200, 600), carding.DefaultParams(), 1, 2)
	require.NoError(t, err)
	for i := range 8 {
		require.NoError(t, b.Feed(i%2, 6, 0, 200, carding.Teased))
	}
	for range cardings - 1 {
		require.NoError(t, b.Card(carding.Pass{Strips: 4, Refeed: carding.OwnPlace}))
	}
	return b, palette(t, "#26324a", "#efe8d8")
}

// inside is the mean light of a picture where nothing of the ground shows.
func inside(p *Picture, from, to, top, bottom int) (mean colour.Linear) {
	var n float64
	for y := top; y < bottom; y++ {
		for x := from; x < to; x++ {
			q := p.Pix[4*(y*p.W+x):]
			for ch := range mean {
				mean[ch] += float64(q[ch])
			}
			n++
		}
	}
	for ch := range mean {
		mean[ch] /= n
	}
	return mean
}

// TestThePictureIsAsLightAsTheBatt compares the mean colour of pictures with that of
// the cells that they show, at all looks and several scales.
func TestThePictureIsAsLightAsTheBatt(t *testing.T) {
	for cardings := 1; cardings <= 4; cardings++ {
		b, p := navyAndCream(t, cardings)
		for _, side := range []carding.Side{carding.Face, carding.Back} {
			s := NewSheet(b, &p, side, uint64(cardings), 2.6, 0.28)
			const edge = 60.0 // mm that are left out at each end, half of it at each side
			want := cellsWithin(b, &p, side, edge).Lab()
			for _, perMM := range []float64{0.9, 1.8, 3.5} {
				pic := NewPicture(int((600-2*edge)*perMM), int((200-edge)*perMM))
				Draw(pic, s, Window{edge, edge / 2, perMM})
				got := inside(pic, 0, pic.W, 0, pic.H).Lab()
				d := colour.CIEDE2000(want, got)
				assert.Less(t, d, 1.0, "%s, carded %d times, %g px/mm: %v, not %v", side, cardings, perMM, got, want)
			}
		}
	}
}

// cellsWithin is the mean colour of the cells that lie so far within a batt.
func cellsWithin(b *carding.Batt, p *carding.Palette, side carding.Side, edge float64) (mean colour.Linear) {
	var v carding.View
	b.Show(&v, side, 2)
	n := 0.0
	for i, c := range v.Colours(p, nil) {
		across, along := (float64(i/v.Cells)+0.5)*200/float64(v.Lanes), (float64(i%v.Cells)+0.5)*600/float64(v.Cells)
		if across > edge/2 && across < 200-edge/2 && along > edge && along < 600-edge && v.Cover[i] > 0 {
			for ch := range mean {
				mean[ch] += c[ch]
			}
			n++
		}
	}
	for ch := range mean {
		mean[ch] /= n
	}
	return mean
}

func TestTheSamePictureEachTime(t *testing.T) {
	b, p := navyAndCream(t, 2)
	draw := func(seed uint64) []uint8 {
		pic := NewPicture(300, 120)
		s := NewSheet(b, &p, carding.Face, seed, 2.6, 0.28)
		Draw(pic, s, s.Whole(300, 120))
		return pic.RGBA(nil)
	}
	assert.Equal(t, draw(1), draw(1))
	assert.NotEqual(t, draw(1), draw(2), "no two batts have the same waves")
}

// TestPanningShowsTheSameFibre draws a window and the same moved by whole pixels.
func TestPanningShowsTheSameFibre(t *testing.T) {
	b, p := navyAndCream(t, 2)
	s := NewSheet(b, &p, carding.Face, 1, 2.6, 0.28)
	here, there := NewPicture(200, 120), NewPicture(200, 120)
	Draw(here, s, Window{200, 80, 4})
	Draw(there, s, Window{200 + 10, 80 + 5, 4})
	var worst float64
	for y := 20; y < 80; y++ {
		for x := 50; x < 150; x++ {
			for ch := range 3 {
				d := float64(here.Pix[4*((y+20)*200+x+40)+ch] - there.Pix[4*(y*200+x)+ch])
				worst = max(worst, math.Abs(d))
			}
		}
	}
	assert.Less(t, worst, 0.02)
}

// TestNothingIsDrawnBesideTheBatt looks at the corners, and that the middle hides the
// ground.
func TestNothingIsDrawnBesideTheBatt(t *testing.T) {
	b, p := navyAndCream(t, 1)
	s := NewSheet(b, &p, carding.Face, 1, 2.6, 0.28)
	pic := NewPicture(640, 400)
	Draw(pic, s, s.Whole(640, 400))
	assert.Zero(t, pic.Pix[3])
	assert.Zero(t, pic.Pix[len(pic.Pix)-1])
	assert.InDelta(t, 1, pic.Pix[4*(200*640+320)+3], 1e-3)
	for _, v := range pic.Pix {
		require.False(t, math.IsNaN(float64(v)))
	}
}

// TestASectionIsAsThickAsItsFibre adds up the heights: grams over the packed density.
func TestASectionIsAsThickAsItsFibre(t *testing.T) {
	b, p := navyAndCream(t, 3)
	s := NewSection(b, &p, 1)
	var mean float64
	for x := range s.slice.Lanes {
		mean += s.tops[x*s.slice.Layers+s.slice.Layers-1] / float64(s.slice.Lanes)
	}
	assert.InEpsilon(t, 48/(0.2*0.6)/packedKgM3, mean, 0.03, "mm")
	pic := NewPicture(640, 120)
	DrawSection(pic, s)
	assert.Zero(t, pic.Pix[3])
	assert.InDelta(t, 1, pic.Pix[4*(105*640+320)+3], 1e-3)
}

func TestNoiseIsUniform(t *testing.T) {
	for name, v := range map[string]tile{"warp": tiles().warp, "line": tiles().line} {
		var sum, squares float64
		for _, z := range v {
			sum += float64(z)
			squares += float64(z) * float64(z)
		}
		n := float64(len(v))
		assert.InDelta(t, 0, sum/n, 1e-3, name)
		assert.InDelta(t, 1, squares/n, 1e-3, name)
	}
}

// TestAHeavierRolagIsThicker: 0.035 g in a cubic centimetre of it, and nothing of an
// empty one.
func TestAHeavierRolagIsThicker(t *testing.T) {
	r := Tube{Grams: 8}.Radius(300) / 10 // cm
	assert.InDelta(t, 8/0.035, math.Pi*r*r*30, 1e-9)
	b, p := navyAndCream(t, 1)
	s := NewSheet(b, &p, carding.Face, 1, 0, 0)
	high := func(grams float64) (n int) {
		pic := NewPicture(240, 120)
		Roll(pic, s, Tube{Core: 0, Skin: 100, Draft: 1.75, Grams: grams})
		for y := range 120 {
			if pic.Pix[4*(y*240+120)+3] > 0.9 {
				n++
			}
		}
		return n
	}
	assert.Zero(t, high(0))
	per := 240.0 / (200 + 20)
	assert.InDelta(t, 2*Tube{Grams: 6}.Radius(200)*per, float64(high(6)), 5)
	assert.Greater(t, high(12), high(6))
}

// TestAStripIsAPartOfTheSheet: the middle of a strip shows what the sheet shows there.
func TestAStripIsAPartOfTheSheet(t *testing.T) {
	b, p := navyAndCream(t, 1)
	s := NewSheet(b, &p, carding.Face, 1, 0, 0, Thing{Sort: Lock, Along: 100, Across: 120, Seed: 4}, Thing{Sort: Lock, Along: 100, Across: 20, Seed: 5})
	strip := s.Strip(100, 150)
	assert.InDelta(t, 50, strip.WidthMM, 200.0/float64(s.view.Lanes))
	require.Len(t, strip.Things, 1)
	assert.InDelta(t, 20, strip.Things[0].Across, 200.0/float64(s.view.Lanes))
	lane := func(v *Sheet, at float64) (out float32) {
		x := int(at / v.WidthMM * float64(v.view.Lanes))
		for c := range v.view.Cells {
			out += v.view.Shares[(x*v.view.Cells+c)*v.view.Components]
		}
		return out
	}
	for _, at := range []float64{2, 25, 48} {
		assert.InDelta(t, lane(s, 100+at), lane(strip, at), 1e-6)
	}
	assert.Equal(t, 1, s.Strip(199.99, 200).view.Lanes)
}

// TestAWholeBattFitsAnyPicture: with room around it, in the middle, as large as it can be.
func TestAWholeBattFitsAnyPicture(t *testing.T) {
	s := &Sheet{WidthMM: 200, LengthMM: 600}
	for _, size := range [][2]int{{300, 300}, {900, 200}, {200, 900}, {64, 48}} {
		w := s.Whole(size[0], size[1])
		left, top := -w.U*w.PerMM, -w.V*w.PerMM
		assert.InDelta(t, float64(size[0]), 2*left+600*w.PerMM, 1e-9)
		assert.InDelta(t, float64(size[1]), 2*top+200*w.PerMM, 1e-9)
		assert.InDelta(t, 14, min(left, top)/w.PerMM, 1e-9)
	}
}
