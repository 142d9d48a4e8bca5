package formats

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/jpeg"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/draw"
	"pgregory.net/rapid"
)

// progressive is a grey picture in so many scans, each of a few bytes: one code
// ends the bands of up to 32,767 blocks (ITU T.81, G.1.2.2).
func progressive(w, h, scans int) []byte {
	b := []byte{0xff, 0xd8, 0xff, 0xdb, 0, 67, 0}
	b = append(b, bytes.Repeat([]byte{1}, 64)...)
	b = append(b, 0xff, 0xc2, 0, 11, 8, byte(h>>8), byte(h), byte(w>>8), byte(w), 1, 1, 0x11, 0)
	table := func(class, value byte) { // one code, of one bit
		b = append(b, 0xff, 0xc4, 0, 20, class<<4, 1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, value)
	}
	table(0, 0)
	table(1, 0xe0)
	blocks := ((w + 7) / 8) * ((h + 7) / 8)
	b = append(b, 0xff, 0xda, 0, 8, 1, 1, 0, 0, 0, 0)
	b = append(b, make([]byte, blocks/8+1)...)
	for range scans - 1 {
		b = append(b, 0xff, 0xda, 0, 8, 1, 1, 0, 1, 63, 0)
		var bits []byte // 0 and then 14 bits of how many above 16,384
		for left := blocks; left > 0; left -= 16_384 {
			bits = append(bits, make([]byte, 15)...)
		}
		b = append(b, make([]byte, len(bits)/8+1)...)
	}
	return append(b, 0xff, 0xd9)
}

func TestPicturesThatTakeTooMuchAreRefusedBeforeDecoding(t *testing.T) {
	for name, c := range map[string]struct {
		data []byte
		want string
	}{
		"a thousand scans":       {progressive(1000, 1000, 1000), "stored in 1000 passes"},
		"some scans, all large":  {progressive(6000, 6000, 30), "stored in 30 passes"},
		"deep colour, all large": {header(6500, 6000, 16), "MB of memory"},
	} {
		_, err := ReadPhoto(t.Context(), bytes.NewReader(c.data))
		require.ErrorContains(t, err, c.want, name)
		require.ErrorContains(t, err, "ordinary JPEG", "the way on")
	}
	p, err := ReadPhoto(t.Context(), bytes.NewReader(progressive(1000, 500, 12)))
	require.NoError(t, err, "an ordinary progressive one is read")
	assert.Equal(t, []int{1000, 500}, []int{p.W, p.H})
}

func TestAPictureThatNobodyWaitsForIsLeft(t *testing.T) {
	data := progressive(6000, 6000, 10)
	ctx, cancel := context.WithTimeout(t.Context(), 5*time.Millisecond)
	defer cancel()
	began := time.Now()
	_, err := ReadPhoto(ctx, bytes.NewReader(data))
	require.ErrorIs(t, err, context.DeadlineExceeded)
	t.Logf("left %v after nobody waited", time.Since(began)-5*time.Millisecond)
}

func TestFactsOfAJPEG(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, image.NewRGBA(image.Rect(0, 0, 64, 48)), nil))
	f, err := readJPEGFacts(bytes.NewReader(b.Bytes()))
	require.NoError(t, err)
	assert.Equal(t, jpegFacts{scans: 1, samples: 1.5}, f, "4:2:0")
	f, err = readJPEGFacts(bytes.NewReader(progressive(64, 48, 5)))
	require.NoError(t, err)
	assert.Equal(t, jpegFacts{progressive: true, scans: 5, samples: 1}, f)
}

// TestScalingKeepsTheLight compares the mean light of pictures before and after,
// and a picture of one colour with itself.
func TestScalingKeepsTheLight(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w, h := rapid.IntRange(1601, 2000).Draw(t, "w"), rapid.IntRange(16, 60).Draw(t, "h")
		rng := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		img := image.NewRGBA(image.Rect(0, 0, w, h))
		for i := range img.Pix {
			img.Pix[i] = byte(rng.IntN(256))
			if i%4 == 3 {
				img.Pix[i] = 255
			}
		}
		mean := func(m *image.RGBA) (sum [3]float64) {
			for i, v := range m.Pix {
				if i%4 < 3 {
					sum[i%4] += light[v] / float64(len(m.Pix)/4)
				}
			}
			return sum
		}
		out := scaled(img)
		require.Equal(t, photoEdge, out.Bounds().Dx())
		before, after := mean(img), mean(out)
		for ch := range 3 {
			require.InDelta(t, before[ch], after[ch], 0.002)
		}
	})
	flat := image.NewRGBA(image.Rect(0, 0, 3001, 777))
	draw.Draw(flat, flat.Bounds(), image.NewUniform(color.RGBA{13, 140, 250, 255}), image.Point{}, draw.Src)
	out := scaled(flat)
	for i := 0; i < len(out.Pix); i += 4 {
		require.Equal(t, []byte{13, 140, 250, 255}, out.Pix[i:i+4])
	}
}

func TestLightBecomesTheNearestByte(t *testing.T) {
	for i := range 256 {
		require.EqualValues(t, i, byteOf(light[i]))
	}
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.Float64Range(-0.1, 1.1).Draw(t, "light")
		near := byteOf(v)
		for i := range 256 { // nothing else is nearer, in steps of bytes
			if i < 255 && v >= halves[i] {
				require.Greater(t, int(near), i)
			}
		}
	})
}

func TestEveryPixelIsSharedOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 5000).Draw(t, "n")
		m := rapid.IntRange(1, n).Draw(t, "m")
		got := make([]float64, m+1)
		for _, v := range shared(n, m) {
			require.InDelta(t, float64(m)/float64(n), v.here+v.next, 1e-9)
			require.GreaterOrEqual(t, v.here, -1e-9)
			got[v.to] += v.here
			got[v.to+1] += v.next
		}
		for to := range m {
			require.InDelta(t, 1, got[to], 1e-6)
		}
		require.Zero(t, got[m])
	})
}

func FuzzReadJPEGFacts(f *testing.F) {
	f.Add(progressive(64, 48, 5))
	f.Fuzz(func(t *testing.T, data []byte) {
		facts, err := readJPEGFacts(bytes.NewReader(data))
		if err == nil && !(facts.samples > 0) {
			t.Fatal("a JPEG has samples")
		}
	})
}
