package photo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
)

// stash is a photo of tufts on a ground, as a camera takes it: a cast, light that falls off to a side, a soft shadow beside each tuft,
// fibre that is lighter and darker, noise; and a grey card at the lower right. truth are the colours in the order of reading.
type stash struct {
	p     *Picture
	truth []colour.Linear
	at    [][2]float64
}

const stashW, stashH = 1400, 1050

func stashOf(rng *rand.Rand, across, down int, ground colour.Linear) stash {
	light := make([]colour.Linear, stashW*stashH)
	for i := range light {
		light[i] = ground
	}
	var s stash
	type blob struct{ x, y, rx, ry, turn float64 }
	for n := range across * down {
		cx := stashW * (float64(n%across) + 0.5 + rng.Float64()*0.1 - 0.05) / float64(across)
		cy := (stashH - 120) * (float64(n/across) + 0.5 + rng.Float64()*0.06 - 0.03) / float64(down)
		var c colour.Linear
		for { // of a colour that the ground is not
			chroma, hue := 55*rng.Float64(), 2*math.Pi*rng.Float64()
			c = colour.Lab{L: 22 + 65*rng.Float64(), A: chroma * math.Cos(hue), B: chroma * math.Sin(hue)}.Linear().Clipped()
			if l, g := c.Lab(), ground.Lab(); math.Hypot(l.A-g.A, l.B-g.B) > 14 || l.L-g.L > 16 || l.L-g.L < -28 {
				break
			}
		}
		s.truth, s.at = append(s.truth, c), append(s.at, [2]float64{cx / stashW, cy / stashH})
		size := 0.30 * math.Min(stashW/float64(across), stashH/float64(down))
		var blobs []blob
		for range 3 + rng.IntN(3) {
			blobs = append(blobs, blob{cx + size*0.5*rng.NormFloat64()*0.6, cy + size*0.5*rng.NormFloat64()*0.6, size * (0.5 + 0.4*rng.Float64()),
				size * (0.35 + 0.3*rng.Float64()), math.Pi * rng.Float64()})
		}
		blobs = append(blobs, blob{cx, cy, size * 0.7, size * 0.6, 0}) // it holds together
		lies := func(x, y float64) bool {
			for _, b := range blobs {
				dx, dy := x-b.x, y-b.y
				u, v := dx*math.Cos(b.turn)+dy*math.Sin(b.turn), dy*math.Cos(b.turn)-dx*math.Sin(b.turn)
				if u*u/(b.rx*b.rx)+v*v/(b.ry*b.ry) < 1 {
					return true
				}
			}
			return false
		}
		for y := max(0, int(cy-2.2*size)); y < min(stashH, int(cy+2.2*size)); y++ {
			for x := max(0, int(cx-2.2*size)); x < min(stashW, int(cx+2.2*size)); x++ {
				i := y*stashW + x
				if lies(float64(x), float64(y)) {
					fibre := 1 + 0.18*math.Sin(float64(x)*0.9+float64(y)*0.35+rng.Float64())
					for k := range c {
						light[i][k] = c[k] * fibre
					}
				} else if lies(float64(x)-size*0.12, float64(y)-size*0.12) && light[i] == ground {
					for k := range c {
						light[i][k] = ground[k] * 0.72
					}
				}
			}
		}
	}
	for y := stashH - 90; y < stashH-30; y++ {
		for x := stashW - 140; x < stashW-40; x++ {
			light[y*stashW+x] = colour.Linear{0.18, 0.18, 0.18}
		}
	}
	s.p = &Picture{W: stashW, H: stashH, Pix: make([]uint8, 3*stashW*stashH)}
	cast := [3]float64{1.0, 0.9, 0.74}
	for i, c := range light {
		fall := 1 - 0.06*float64(i%stashW)/stashW
		for k := range c {
			c[k] = math.Min(math.Max(c[k]*cast[k]*fall*(1+0.03*rng.NormFloat64()), 0), 1)
		}
		v := c.SRGB255()
		for k := range v {
			s.p.Pix[3*i+k] = uint8(math.Round(v[k]))
		}
	}
	return s
}

// Of 24 tufts of odd shapes all are found, none twice, in the order of reading, and their colours are right to 2.5 CIEDE2000 in the mean.
func TestAStashIsReadFromOnePhoto(t *testing.T) {
	for seed, ground := range []colour.Linear{{0.75, 0.74, 0.72}, {0.30, 0.30, 0.31}, {0.05, 0.05, 0.055}, {0.55, 0.50, 0.42}} {
		t.Run(fmt.Sprint(seed), func(t *testing.T) {
			s := stashOf(rand.New(rand.NewPCG(uint64(seed), 9)), 6, 4, ground)
			card := Area{float64(stashW-130) / stashW, float64(stashH-85) / stashH, float64(stashW-50) / stashW, float64(stashH-35) / stashH}
			b, _, err := s.p.Card(card, 0.18)
			require.NoError(t, err)
			found, err := s.p.Tufts(t.Context(), b, &card)
			require.NoError(t, err)
			require.Len(t, found, len(s.truth))
			sum := 0.0
			for i, v := range found {
				assert.InDelta(t, s.at[i][0], v.X, 0.04, "in their order")
				assert.InDelta(t, s.at[i][1], v.Y, 0.04)
				sum += colour.CIEDE2000(v.Colour.Lab(), s.truth[i].Lab())
			}
			t.Logf("mean %.2f CIEDE2000", sum/float64(len(found)))
			assert.Less(t, sum/float64(len(found)), 2.5)
		})
	}
}

// Nothing on a ground, or a ground that is all pattern, is said in words.
func TestAPhotoWithoutTufts(t *testing.T) {
	plain := &Picture{W: 400, H: 300, Pix: make([]uint8, 3*400*300)}
	for i := range plain.Pix {
		plain.Pix[i] = 180
	}
	_, err := plain.Tufts(t.Context(), Unbalanced, nil)
	assert.ErrorContains(t, err, "Nothing lies apart")
	for i := range plain.Pix {
		if x, y := i/3%400, i/3/400; x/18%2 == 0 && y/18%2 == 0 {
			plain.Pix[i] = 20
		}
	}
	_, err = plain.Tufts(t.Context(), Unbalanced, nil)
	assert.ErrorContains(t, err, "More than 60")
	tiny := &Picture{W: 2, H: 2, Pix: make([]uint8, 12)}
	_, err = tiny.Tufts(t.Context(), Unbalanced, nil)
	assert.Error(t, err)
}

// One reads from above, and each row from the left; light changes across by its second number and down by its third.
func TestTuftsAreReadInRows(t *testing.T) {
	at := func(x, y float64) Tuft { return Tuft{X: x, Y: y, Area: Area{Y0: y - 5}} }
	assert.Equal(t, []Tuft{at(90, 10), at(10, 40), at(50, 42), at(20, 80)}, reading([]Tuft{at(20, 80), at(50, 42), at(90, 10), at(10, 40)}))
	assert.Equal(t, 321.0, plane{1, 2, 3}.at(10, 100))
}
