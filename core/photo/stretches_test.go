package photo_test

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/photo"
)

// A painted top as it is photographed: runs of known lengths, dyes that ran into each other, fibre that shades, one end lit less, and a
// camera with noise and its compression.
type painted struct {
	hexes  []string
	mm     []float64
	wick   float64 // mm over which one dye runs into the next
	strand float64 // how much single strands are lighter or darker, part
	uneven float64
	perMM  float64
	level  bool
}

func (v painted) shoot(t require.TestingT, seed uint64) *photo.Picture {
	rng := rand.New(rand.NewPCG(seed, 4))
	var long float64
	for _, mm := range v.mm {
		long += mm
	}
	w, h := int(long*v.perMM), int(40*v.perMM)
	colours := make([]colour.Linear, len(v.hexes))
	for i, hex := range v.hexes {
		c, err := colour.ParseHex(hex)
		require.NoError(t, err)
		colours[i] = c
	}
	strands := make([]float64, h)
	for i := range strands {
		strands[i] = max(0.3, 1+v.strand*rng.NormFloat64())
	}
	lit := sum(strands) / float64(h) // the colour of a run is that of all its strands
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for x := range w {
		mm := float64(x) / v.perMM
		var c colour.Linear
		var from float64
		for i, run := range v.mm {
			up, down := 1.0, 1.0
			if i > 0 {
				up = min(1, max(0, (mm-from)/max(v.wick, 0.01)+0.5))
			}
			if i < len(v.mm)-1 {
				down = min(1, max(0, (from+run-mm)/max(v.wick, 0.01)+0.5))
			}
			for ch := range c {
				c[ch] += (up + down - 1) * colours[i][ch]
			}
			from += run
		}
		for y := range h {
			light := 0.8 * strands[y] / lit * (1 + 0.3*v.strand*rng.NormFloat64()) * (1 - v.uneven*float64(x)/float64(w))
			var l colour.Linear
			for ch := range l {
				l[ch] = c[ch] * light
			}
			px := l.Clipped().SRGB255()
			at := func(ch int) uint8 { return uint8(min(250, max(3, px[ch]+2*rng.NormFloat64()))) }
			img.SetRGBA(x, y, color.RGBA{at(0), at(1), at(2), 255})
		}
	}
	if !v.level {
		turned := image.NewRGBA(image.Rect(0, 0, h, w))
		for x := range w {
			for y := range h {
				turned.Set(y, x, img.At(x, y))
			}
		}
		img = turned
	}
	var buf bytes.Buffer
	require.NoError(t, jpeg.Encode(&buf, img, &jpeg.Options{Quality: 88}))
	back, err := jpeg.Decode(&buf)
	require.NoError(t, err)
	size := back.Bounds()
	p := &photo.Picture{W: size.Dx(), H: size.Dy(), Pix: make([]uint8, 0, 3*size.Dx()*size.Dy())}
	for y := range size.Dy() {
		for x := range size.Dx() {
			r, g, b, _ := back.At(x, y).RGBA()
			p.Pix = append(p.Pix, uint8(r>>8), uint8(g>>8), uint8(b>>8))
		}
	}
	return p
}

// Of tops made with known runs, their number is right, their lengths within 10 % (or the width over which a dye runs into the next is
// not certain: 3 mm), their colours within 2.5 CIEDE2000.
func TestRunsOfATopAreReadFromItsPhoto(t *testing.T) {
	hexes := []string{"#2e4a6b", "#c9713d", "#d9c7a0", "#6d8f5a", "#7a2f45", "#3c8a94", "#b9a24a", "#54406f"}
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 9).Draw(t, "runs")
		v := painted{
			wick: rapid.Float64Range(0, 20).Draw(t, "wick"), strand: rapid.Float64Range(0, 0.2).Draw(t, "strand"),
			uneven: rapid.Float64Range(0, 0.12).Draw(t, "uneven"), perMM: rapid.Float64Range(0.8, 3).Draw(t, "pixels"), level: rapid.Bool().Draw(t, "level"),
		}
		last := -1
		for range n {
			at := rapid.IntRange(0, len(hexes)-1).Filter(func(i int) bool { return i != last }).Draw(t, "colour")
			v.hexes, v.mm, last = append(v.hexes, hexes[at]), append(v.mm, rapid.Float64Range(55, 250).Draw(t, "mm")), at
		}
		p := v.shoot(t, rapid.Uint64().Draw(t, "seed"))
		runs, err := p.Stretches(photo.Area{X0: 0, Y0: 0, X1: 1, Y1: 1}, v.perMM, photo.Unbalanced)
		require.NoError(t, err)
		require.Len(t, runs, n)
		var from float64
		for i, r := range runs {
			assert.InDelta(t, from, r.FromMM, 1e-6, "runs follow each other")
			assert.InDelta(t, v.mm[i], r.ToMM-r.FromMM, max(0.1*v.mm[i], 3), "the length of run %d", i)
			from = r.ToMM
			c, err := colour.ParseHex(v.hexes[i])
			require.NoError(t, err)
			x := 0.8 - 0.8*v.uneven*(r.FromMM+r.ToMM)/2/sum(v.mm)
			for ch := range c {
				c[ch] *= x // as it was lit there
			}
			assert.Less(t, colour.CIEDE2000(c.Lab(), r.Colour.Lab()), 2.5, "the colour of run %d", i)
		}
		all := photo.PaintedOf(runs)
		assert.InDelta(t, 1, sum(all.Shares), 1e-9)
		assert.LessOrEqual(t, len(all.Colours), n)
	})
}

// A top that was painted over and over the same is so many colours, however often they come again.
func TestColoursThatComeAgainAreOne(t *testing.T) {
	v := painted{hexes: []string{"#2e4a6b", "#c9713d", "#d9c7a0"}, mm: []float64{80, 120, 60}, wick: 8, strand: 0.1, perMM: 1.5, level: true}
	for range 2 {
		v.hexes, v.mm = append(v.hexes, v.hexes[:3]...), append(v.mm, v.mm[:3]...)
	}
	runs, err := v.shoot(t, 5).Stretches(photo.Area{X1: 1, Y1: 1}, v.perMM, photo.Unbalanced)
	require.NoError(t, err)
	require.Len(t, runs, 9)
	all := photo.PaintedOf(runs)
	require.Len(t, all.Colours, 3)
	for i, want := range []float64{80. / 260, 120. / 260, 60. / 260} {
		assert.InDelta(t, want, all.Shares[i], 0.02)
	}
	assert.InDelta(t, 260./3, all.RunMM, 5)
}

// What is no top is refused with a sentence, whatever is asked.
func TestRunsOfNothingAreRefused(t *testing.T) {
	v := painted{hexes: []string{"#2e4a6b"}, mm: []float64{200}, perMM: 1, level: true}
	p := v.shoot(t, 1)
	for _, a := range []photo.Area{{}, {X0: 0.5, X1: 0.5, Y1: 1}, {X1: 0.1, Y1: 0.1}, {X1: math.NaN(), Y1: 1}, {X0: 1, X1: 0, Y0: 1, Y1: 0}} {
		_, err := p.Stretches(a, 1, photo.Unbalanced)
		assert.Error(t, err)
	}
	_, err := p.Stretches(photo.Area{X1: 1, Y1: 1}, 0.2, photo.Unbalanced)
	assert.ErrorContains(t, err, "from nearer")
}

func sum(list []float64) (out float64) {
	for _, v := range list {
		out += v
	}
	return out
}
