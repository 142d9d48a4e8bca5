package appearance

import (
	"bytes"
	"flag"
	"image"
	"image/color"
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"fairtangle/core/carding"
	"fairtangle/core/yarn"
)

var update = flag.Bool("update", false, "keep the pictures as they are drawn now; look at them first")

// TestPicturesAreThoseThatWereLookedAt compares pictures with those in testdata, which
// somebody looked at and called fibre. No channel may be off by more than two levels: how
// an architecture rounds is not seen, any strength of the drawing that moves is.
func TestPicturesAreThoseThatWereLookedAt(t *testing.T) {
	streaky, p := navyAndCream(t, 1)
	heathered, _ := navyAndCream(t, 3)
	things := []Thing{
		{Sort: Lock, Component: 1, Along: 300, Across: 90, Angle: 0.3, LongMM: 70, WideMM: 11, Grams: 1, Seed: 5, Shows: 1, CrimpMM: 9, HighMM: 1.2},
		{Sort: Lock, Component: 0, Along: 316, Across: 112, Angle: -0.4, LongMM: 50, WideMM: 11, Grams: 1, Seed: 6, Shows: 0.6, CrimpMM: 4, HighMM: 0.6},
		{Sort: Glint, Component: 1, Along: 330, Across: 96, Angle: 0.1, LongMM: 30, Grams: 0.002, Seed: 7, Shows: 1},
		{Sort: Nep, Component: 1, Along: 322, Across: 104, LongMM: 5, Grams: 0.01, Seed: 8, Shows: 1},
	}
	stripes := func(t *testing.T) *Sheet {
		b, err := carding.New(carding.Bed{WidthMM: 300, LengthMM: 300, FullG: 30, Open: true}, carding.FineGrid(300, 300).Coarse(), carding.DefaultParams(), 3, 2)
		require.NoError(t, err)
		require.NoError(t, b.Draw(0, 8, 0, 150, 0, 1))
		require.NoError(t, b.Draw(1, 9, 130, 300, 0, 0.9))
		return NewSheet(b, &p, carding.Face, 3, 2.6, 0.28)
	}
	sheet := func(b *carding.Batt, side carding.Side, things ...Thing) *Sheet {
		return NewSheet(b, &p, side, 3, 2.6, 0.28, things...)
	}
	spun := func(ply string) *Strand { return spunOf(t, &p, ply, Spun{Tex: 150, Woollen: ply == yarn.Single}) }
	for name, draw := range map[string]func(*Picture){
		"strand": func(pic *Picture) { DrawStrand(pic, spun(yarn.Single), 26_000, 18) },
		"plied":  func(pic *Picture) { DrawStrand(pic, spun(yarn.Two), 9000, 18) },
		"chain":  func(pic *Picture) { DrawStrand(pic, spun(yarn.Chain), 8180, 18) },
		"knit": func(pic *Picture) {
			require.NoError(t, DrawSwatch(t.Context(), pic, spun(yarn.Three), Swatch{9, 5, 12, 3}, 15))
		},
		"bar":     func(pic *Picture) { DrawBar(pic, spun(yarn.Two)) },
		"woven":   func(pic *Picture) { DrawWoven(pic, spun(yarn.Two), Woven{WidthMM: 40, Ends: 10, Picks: 6}, 14) },
		"face":    func(pic *Picture) { s := sheet(streaky, carding.Face); Draw(pic, s, s.Whole(pic.W, pic.H)) },
		"back":    func(pic *Picture) { s := sheet(heathered, carding.Back); Draw(pic, s, s.Whole(pic.W, pic.H)) },
		"edge":    func(pic *Picture) { Draw(pic, sheet(streaky, carding.Face), Window{-8, -6, 3}) },
		"loupe":   func(pic *Picture) { Draw(pic, sheet(heathered, carding.Face), Window{200, 80, 10}) },
		"things":  func(pic *Picture) { Draw(pic, sheet(heathered, carding.Face, things...), Window{290, 84, 3}) },
		"near":    func(pic *Picture) { Draw(pic, sheet(heathered, carding.Face, things...), Window{314, 90, 9}) },
		"strip":   func(pic *Picture) { s := stripes(t).Strip(120, 190); Draw(pic, s, s.Whole(pic.W, pic.H)) },
		"rolag":   func(pic *Picture) { Roll(pic, stripes(t), Tube{Core: 100, Skin: 200, Draft: 1.75, Grams: 7}) },
		"section": func(pic *Picture) { DrawSection(pic, NewSection(streaky, &p, 1)) },
	} {
		pic := NewPicture(180, 100)
		draw(pic)
		got := &image.NRGBA{Pix: pic.RGBA(nil), Stride: 4 * pic.W, Rect: image.Rect(0, 0, pic.W, pic.H)}
		file := filepath.Join("testdata", name+".png")
		if *update {
			var b bytes.Buffer
			require.NoError(t, png.Encode(&b, got))
			require.NoError(t, os.WriteFile(file, b.Bytes(), 0o644))
		}
		f, err := os.Open(file)
		require.NoError(t, err)
		want, err := png.Decode(f)
		require.NoError(t, err)
		require.NoError(t, f.Close())
		worst := 0
		for y := range pic.H {
			for x := range pic.W {
				a, b := color.NRGBAModel.Convert(want.At(x, y)).(color.NRGBA), got.NRGBAAt(x, y)
				for _, d := range []int{int(a.A) - int(b.A), part(a.R, a.A) - part(b.R, b.A), part(a.G, a.A) - part(b.G, b.A), part(a.B, a.A) - part(b.B, b.A)} {
					worst = max(worst, d, -d)
				}
			}
		}
		require.LessOrEqual(t, worst, 2, name)
	}
}

// part is a channel as much as it covers.
func part(v, alpha uint8) int { return int(v) * int(alpha) / 255 }
