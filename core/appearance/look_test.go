package appearance

import (
	"image"
	"image/png"
	"os"
	"testing"

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

func save(t testing.TB, p *Picture, name string, ground uint8) {
	raw := p.RGBA(nil)
	img := image.NewRGBA(image.Rect(0, 0, p.W, p.H))
	for i := 0; i < len(raw); i += 4 {
		a := int(raw[i+3])
		for ch := range 3 {
			img.Pix[i+ch] = uint8((int(raw[i+ch])*a + int(ground)*(255-a)) / 255)
		}
		img.Pix[i+3] = 255
	}
	f, err := os.Create("/tmp/look/" + name + ".png")
	require.NoError(t, err)
	defer f.Close()
	require.NoError(t, png.Encode(f, img))
}

func TestLook(t *testing.T) {
	p := palette(t, "#26324a", "#efe8d8")
	bed := carding.Bed{WidthMM: 200, LengthMM: 600, FullG: 60}
	b, err := carding.New(bed, carding.FineGrid(200, 600), carding.DefaultParams(), 1, 2)
	require.NoError(t, err)
	for i := range 8 {
		require.NoError(t, b.Feed(i%2, 6, 0, 200, 1))
	}
	all := NewPicture(1280, 4*240)
	for stage := range 4 {
		if stage > 0 {
			require.NoError(t, b.Card(carding.Pass{Strips: 4, Refeed: carding.OwnPlace}))
		}
		s := NewSheet(b, &p, carding.Face, uint64(stage+3), 2.6, 0.28)
		pic := NewPicture(640, 240)
		Draw(pic, s, s.Whole(640, 240))
		loupe := NewPicture(640, 240)
		Draw(loupe, s, Window{U: 250, V: 90, PerMM: 6})
		for y := range 240 {
			copy(all.Pix[4*((stage*240+y)*1280):], pic.Pix[4*y*640:4*(y+1)*640])
			copy(all.Pix[4*((stage*240+y)*1280+640):], loupe.Pix[4*y*640:4*(y+1)*640])
		}
	}
	save(t, all, "stages", 235)
}

func TestLanesLook(t *testing.T) {
	p := palette(t, "#c8423f", "#e08a3c", "#e3c14a", "#7da650", "#3f8f8a", "#4a6fa8", "#6b4a8c")
	bed := carding.Bed{WidthMM: 200, LengthMM: 600, FullG: 60}
	b, err := carding.New(bed, carding.FineGrid(200, 600), carding.DefaultParams(), 1, 7)
	require.NoError(t, err)
	for range 8 {
		for k := range 7 {
			require.NoError(t, b.Feed(k, 48.0/56, 200*float64(k)/7, 200*float64(k+1)/7, 1))
		}
	}
	require.NoError(t, b.Card(carding.Pass{Strips: 4, Refeed: carding.OwnPlace}))
	s := NewSheet(b, &p, carding.Face, 5, 2.6, 0.28)
	pic := NewPicture(960, 400)
	Draw(pic, s, s.Whole(960, 400))
	save(t, pic, "lanes", 150)
	loupe := NewPicture(960, 400)
	Draw(loupe, s, Window{U: 250, V: 20, PerMM: 10})
	save(t, loupe, "lanes-loupe", 150)
}
