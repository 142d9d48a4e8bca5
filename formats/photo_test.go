package formats

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/photo"
)

// chart is a made picture of 23 patches and a grey card, as a camera with a
// colour cast and noise would take it.
func chart(t *testing.T, cast [3]float64, noise float64) (data []byte, hexes []string) {
	rng := rand.New(rand.NewPCG(3, 4))
	img := image.NewRGBA(image.Rect(0, 0, 600, 400))
	for n := range 24 {
		var c colour.Linear
		for ch := range c {
			c[ch] = 0.03 + 0.62*rng.Float64()
		}
		if n == 0 {
			c = colour.Linear{0.18, 0.18, 0.18}
		}
		hexes = append(hexes, c.Hex())
		for y := range 100 {
			for x := range 100 {
				var seen colour.Linear
				for ch := range c {
					seen[ch] = c[ch] * cast[ch] * (1 + noise*rng.NormFloat64())
				}
				v := seen.Clipped().SRGB255()
				img.SetRGBA(n%6*100+x, n/6*100+y, color.RGBA{uint8(v[0] + 0.5), uint8(v[1] + 0.5), uint8(v[2] + 0.5), 255})
			}
		}
	}
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, &jpeg.Options{Quality: 85}))
	return b.Bytes(), hexes
}

func patch(n int) photo.Area {
	x, y := float64(n%6)/6, float64(n/6)/4
	return photo.Area{X0: x + 0.04, Y0: y + 0.06, X1: x + 0.12, Y1: y + 0.19}
}

func TestAChartIsRecovered(t *testing.T) {
	for _, cast := range [][3]float64{{1, 1, 1}, {1.25, 1, 0.65}, {0.7, 0.95, 1.3}, {0.6, 0.6, 0.55}} {
		data, hexes := chart(t, cast, 0.08)
		p, err := ReadPhoto(t.Context(), bytes.NewReader(data))
		require.NoError(t, err)
		b, _, err := p.Card(patch(0), 0.18)
		require.NoError(t, err)
		var sum, raw float64
		for n := 1; n < 24; n++ {
			want, err := colour.ParseHex(hexes[n])
			require.NoError(t, err)
			got, err := p.Read(patch(n), b)
			require.NoError(t, err)
			sum += colour.CIEDE2000(want.Lab(), got.Colour.Lab()) / 23
			before, err := p.Read(patch(n), photo.Unbalanced)
			require.NoError(t, err)
			raw += colour.CIEDE2000(want.Lab(), before.Colour.Lab()) / 23
		}
		t.Logf("cast %v: mean CIEDE2000 %.2f, unbalanced %.2f", cast, sum, raw)
		assert.Less(t, sum, 2.0, "cast %v", cast)
	}
}

func TestSpotsThatCanNotBeRead(t *testing.T) {
	data, _ := chart(t, [3]float64{1.9, 1.9, 1.9}, 0)
	p, err := ReadPhoto(t.Context(), bytes.NewReader(data))
	require.NoError(t, err)
	refused := 0
	for n := range 24 {
		if _, err := p.Read(patch(n), photo.Unbalanced); err != nil {
			assert.ErrorContains(t, err, "brighter or darker than the picture can show")
			refused++
		}
	}
	assert.Positive(t, refused)
	assert.Less(t, refused, 24)
	_, err = p.Read(photo.Area{X0: 0.5, Y0: 0.5, X1: 0.5, Y1: 0.5}, photo.Unbalanced)
	assert.ErrorContains(t, err, "too small")
	_, err = p.Read(photo.Area{X0: math.NaN(), Y0: -1e300, X1: 1e300, Y1: math.Inf(1)}, photo.Unbalanced)
	if err != nil {
		assert.ErrorContains(t, err, "spot")
	}
	_, _, err = p.Card(patch(0), 2)
	assert.ErrorContains(t, err, "reflects")
}

func TestPaletteFindsWhatThePictureIsMadeOf(t *testing.T) {
	img := image.NewRGBA(image.Rect(0, 0, 300, 200))
	want := []color.RGBA{{40, 60, 90, 255}, {200, 190, 160, 255}, {150, 70, 50, 255}, {90, 120, 80, 255}}
	for y := range 200 {
		for x := range 300 {
			n := 0 // half of it blue, the rest a sixth each
			if x >= 150 {
				n = 1 + y*3/200
			}
			img.Set(x, y, want[n])
		}
	}
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, img))
	p, err := ReadPhoto(t.Context(), bytes.NewReader(b.Bytes()))
	require.NoError(t, err)
	out, err := p.Palette(t.Context(), 4, photo.Unbalanced)
	require.NoError(t, err)
	require.Len(t, out, 4)
	assert.InDelta(t, 0.5, out[0].Part, 0.01)
	for _, w := range want {
		c := colour.Linear{linear(w.R), linear(w.G), linear(w.B)}.Lab()
		near := math.Inf(1)
		for _, s := range out {
			near = min(near, colour.CIEDE2000(c, s.Colour))
		}
		assert.Less(t, near, 0.5)
	}
	_, err = p.Palette(t.Context(), 9, photo.Unbalanced)
	assert.Error(t, err)
	back, err := WritePhoto(p)
	require.NoError(t, err)
	again, err := ReadPhoto(t.Context(), bytes.NewReader(back))
	require.NoError(t, err)
	assert.Equal(t, p, again, "nothing is lost by keeping it")
}

func linear(v uint8) float64 {
	c := float64(v) / 255
	if c <= 0.04045 {
		return c / 12.92
	}
	return math.Pow((c+0.055)/1.055, 2.4)
}

// tagged puts an EXIF block with an orientation into a JPEG.
func tagged(data []byte, orientation uint16) []byte {
	tiff := []byte("MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01")
	tiff = binary.BigEndian.AppendUint16(tiff, orientation)
	tiff = append(tiff, 0, 0, 0, 0, 0, 0)
	body := append([]byte("Exif\x00\x00"), tiff...)
	out := append([]byte{0xff, 0xd8, 0xff, 0xe1}, binary.BigEndian.AppendUint16(nil, uint16(len(body)+2))...)
	return append(append(out, body...), data[2:]...)
}

func TestPicturesAreTurned(t *testing.T) {
	img := image.NewRGBA(image.Rect(0, 0, 64, 32)) // red at the left end
	for y := range 32 {
		for x := range 64 {
			c := color.RGBA{200, 200, 200, 255}
			if x < 16 {
				c = color.RGBA{200, 20, 20, 255}
			}
			if x >= 16 && y < 8 {
				c = color.RGBA{20, 20, 200, 255} // blue along the top
			}
			img.Set(x, y, c)
		}
	}
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, &jpeg.Options{Quality: 95}))
	type spot struct{ x, y float64 }
	// Where the red end and the blue top come to lie.
	for o, want := range map[uint16][2]spot{
		1: {{0.1, 0.5}, {0.6, 0.1}}, 2: {{0.9, 0.5}, {0.4, 0.1}}, 3: {{0.9, 0.5}, {0.4, 0.9}}, 4: {{0.1, 0.5}, {0.6, 0.9}},
		5: {{0.5, 0.1}, {0.1, 0.6}}, 6: {{0.5, 0.1}, {0.9, 0.6}}, 7: {{0.5, 0.9}, {0.9, 0.4}}, 8: {{0.5, 0.9}, {0.1, 0.4}},
	} {
		p, err := ReadPhoto(t.Context(), bytes.NewReader(tagged(b.Bytes(), o)))
		require.NoError(t, err)
		assert.Equal(t, o >= 5, p.H > p.W, "orientation %d", o)
		at := func(s spot) []uint8 {
			i := 3 * (int(s.y*float64(p.H))*p.W + int(s.x*float64(p.W)))
			return p.Pix[i : i+3]
		}
		red, blue := at(want[0]), at(want[1])
		assert.Greater(t, red[0], red[2]+100, "red end, orientation %d", o)
		assert.Greater(t, blue[2], blue[0]+100, "blue top, orientation %d", o)
	}
}

// bomb is a PNG that says it is far larger than it is.
func bomb(w, h uint32) []byte { return header(w, h, 8) }

// header is that of a PNG with so many bits a channel, and nothing after it.
func header(w, h uint32, bits byte) []byte {
	head := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32([]byte("IHDR"), w), h)
	head = append(head, bits, 6, 0, 0, 0)
	out := append([]byte("\x89PNG\r\n\x1a\n"), 0, 0, 0, 13)
	out = append(out, head...)
	return binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(head))
}

func TestHostilePictures(t *testing.T) {
	good, _ := chart(t, [3]float64{1, 1, 1}, 0)
	for name, c := range map[string]struct {
		data []byte
		want string
	}{
		"text":      {[]byte("not a picture"), "not a JPEG"},
		"empty":     {nil, "not a JPEG"},
		"cut short": {good[:len(good)/2], "damaged"},
		"a bomb":    {bomb(60000, 60000), "40 million"},
		"overflow":  {bomb(1<<31-1, 1<<31-1), ""},
		"a sliver":  {bomb(4, 4000), "only 4"},
		"too large": {make([]byte, MaxPhotoBytes+1), "20 MB"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := ReadPhoto(t.Context(), bytes.NewReader(c.data))
			require.Error(t, err)
			assert.ErrorContains(t, err, c.want)
		})
	}
}

func FuzzReadPhoto(f *testing.F) {
	var b bytes.Buffer
	if err := jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, 20, 20)), nil); err != nil {
		f.Fatal(err)
	}
	f.Add(tagged(b.Bytes(), 6))
	f.Add(bomb(100, 100))
	f.Add([]byte("RIFF\x24\x00\x00\x00WEBPVP8 "))
	f.Fuzz(func(t *testing.T, data []byte) {
		if head, _, err := image.DecodeConfig(bytes.NewReader(data)); err == nil && head.Width*head.Height > 1<<20 {
			return // slow, not wrong
		}
		p, err := ReadPhoto(t.Context(), bytes.NewReader(data))
		if err == nil && len(p.Pix) != 3*p.W*p.H {
			t.Fatal("a picture has three bytes a pixel")
		}
	})
}
