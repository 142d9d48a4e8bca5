package appearance

import (
	"testing"

	"github.com/stretchr/testify/require"

	"fairtangle/core/carding"
	"fairtangle/core/yarn"
)

// sevenLanes are seven colours side by side, carded again so that they are mixed or
// keep their lanes.
func sevenLanes(t testing.TB, how carding.Refeed) (*carding.Batt, carding.Palette) {
	p := palette(t, "#c8423f", "#e08a3c", "#e3c14a", "#7da650", "#3f8f8a", "#4a6fa8", "#6b4a8c")
	b, err := carding.New(carding.Bed{WidthMM: 200, LengthMM: 600, FullG: 60}, carding.FineGrid(200, 600), carding.DefaultParams(), 1, 7)
	require.NoError(t, err)
	for range 8 {
		for k := range 7 {
			require.NoError(t, b.Feed(k, 48.0/56, 200*float64(k)/7, 200*float64(k+1)/7, carding.Teased))
		}
	}
	require.NoError(t, b.Card(carding.Pass{Strips: 4, Refeed: how}))
	return b, p
}

// BenchmarkDraw is a pixel of a batt of seven mixed colours at 960 × 540, with its
// loose fibres and its shadow; its floor is one even mix of eight components.
func BenchmarkDraw(b *testing.B) {
	batt, p := sevenLanes(b, carding.Spread)
	s := NewSheet(batt, &p, carding.Face, 1, 2.6, 0.28)
	pic := NewPicture(960, 540)
	b.ResetTimer()
	n := 0
	for b.Loop() {
		clear(pic.Pix)
		Draw(pic, s, s.Whole(960, 540))
		n++
	}
	b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(n)/(960*540), "ns/pixel")
}

// BenchmarkDrawStrand and BenchmarkDrawSwatch are a pixel of a two-ply of seven colours.
func BenchmarkDrawStrand(b *testing.B) {
	_, p := sevenLanes(b, carding.Spread)
	s := spunOf(b, &p, yarn.Two, Spun{Tex: 100, Woollen: true})
	pic := NewPicture(960, 110)
	n := 0
	for b.Loop() {
		clear(pic.Pix)
		DrawStrand(pic, s, 40_000, 16)
		n++
	}
	b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(n)/(960*110), "ns/pixel")
}

func BenchmarkDrawSwatch(b *testing.B) {
	_, p := sevenLanes(b, carding.Spread)
	s := spunOf(b, &p, yarn.Two, Spun{Tex: 100, Woollen: true})
	w := Swatch{Stitches: 34, Rows: 38, StitchMM: 12, FromM: 20}
	wide, high := w.Size(16)
	pic := NewPicture(wide, high)
	n := 0
	for b.Loop() {
		clear(pic.Pix)
		_ = DrawSwatch(b.Context(), pic, s, w, 16)
		n++
	}
	b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(n)/float64(wide*high), "ns/pixel")
}

func BenchmarkDrawCrochet(b *testing.B) {
	_, p := sevenLanes(b, carding.Spread)
	s := spunOf(b, &p, yarn.Two, Spun{Tex: 100, Woollen: true})
	w := Crocheted{Swatch{Stitches: 17, Rows: 20, StitchMM: 48, FromM: 20}, Single}
	wide, high := w.Size(24)
	pic := NewPicture(wide, high)
	n := 0
	for b.Loop() {
		clear(pic.Pix)
		_ = DrawCrochet(b.Context(), pic, s, w, 24)
		n++
	}
	b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(n)/float64(wide*high), "ns/pixel")
}

func BenchmarkDrawMix(b *testing.B) {
	p := palette(b, "#c8423f", "#e08a3c", "#e3c14a", "#7da650", "#3f8f8a", "#4a6fa8", "#6b4a8c", "#1f2a44")
	shares := []float32{0.125, 0.125, 0.125, 0.125, 0.125, 0.125, 0.125, 0.125}
	for b.Loop() {
		p.Even(shares)
	}
}
