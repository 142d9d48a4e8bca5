package appearance

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"fairtangle/core/colour"
)

// A piece drawn by hand: two panels of two rows; the first row lies lowest, no yarn is nothing, and every stitch has its colour.
func TestAPieceIsDrawnStitchByStitch(t *testing.T) {
	red, blue := colour.Linear{1, 0, 0}, colour.Linear{0, 0, 1}
	l := Laid{Rows: [][]int{{0, 0}, {1, 1}, {1, 1}, {1, -1}}, Panels: 2, Colours: []colour.Linear{red, blue}, StitchW: 1, StitchH: 1}
	pic := l.Draw(7*2, 2*2) // 2 pixels a stitch: too small for its legs
	assert.Equal(t, 14, pic.W)
	assert.Equal(t, 4, pic.H)
	at := func(p *Picture, x, y int) [4]float32 { i := 4 * (y*p.W + x); return [4]float32(p.Pix[i : i+4]) }
	assert.Equal(t, [4]float32{1, 0, 0, 1}, at(pic, 1, 3))
	assert.Equal(t, [4]float32{0, 0, 1, 1}, at(pic, 1, 0))
	assert.Zero(t, at(pic, 6, 3), "between the panels")
	assert.Equal(t, [4]float32{0, 0, 1, 1}, at(pic, 11, 3))
	assert.Zero(t, at(pic, 13, 0), "the yarn is at its end")
	l.Down = true
	down := l.Draw(7*2, 2*2)
	assert.Equal(t, at(pic, 1, 0), at(down, 1, 3))
	yoke := Laid{Rows: [][]int{{0, 0}, {0, 0, 0, 0}}, Panels: 1, Colours: []colour.Linear{red}, StitchW: 1, StitchH: 1}.Draw(400, 400)
	assert.Equal(t, 48, yoke.W, "never larger than it says anything")
	assert.Zero(t, at(yoke, 2, yoke.H-3), "a narrow row lies in the middle")
	var lit, shade float32 = 0, 1
	for x := 13; x < 35; x++ {
		v := at(yoke, x, yoke.H-6)
		lit, shade = max(lit, v[0]), min(shade, v[0])
	}
	assert.Greater(t, lit, shade, "stitches show their legs")
}
