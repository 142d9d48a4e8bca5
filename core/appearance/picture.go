// Package appearance draws what fibre looks like once it is laid and carded: the face
// and the back of a batt as one sees it in the hand, fibre by fibre along its
// direction. All is computed in linear light and encoded once; all of it follows from
// the batt, a seed and the view. Lengths are millimetres of fibre, so that a loupe
// shows more, not other, fibre.
package appearance

import (
	"math"
)

// Picture is linear light with opacity, not multiplied by it: four numbers a pixel.
type Picture struct {
	W, H int
	Pix  []float32
}

// NewPicture is an empty one.
func NewPicture(w, h int) *Picture { return &Picture{w, h, make([]float32, 4*w*h)} }

// over lays light of an opacity over a pixel.
func (p *Picture) over(i int, r, g, b, a float32) {
	q := p.Pix[4*i : 4*i+4]
	under := q[3] * (1 - a)
	all := a + under
	if all <= 0 {
		return
	}
	q[0] = (r*a + q[0]*under) / all
	q[1] = (g*a + q[1]*under) / all
	q[2] = (b*a + q[2]*under) / all
	q[3] = all
}

const codes = 4096

// encoded are the bytes of sRGB (IEC 61966-2-1) of light in 4,096 steps.
var encoded = func() (t [codes + 1]uint8) {
	for i := range t {
		v := float64(i) / codes
		if v <= 0.0031308 {
			v *= 12.92
		} else {
			v = 1.055*math.Pow(v, 1/2.4) - 0.055
		}
		t[i] = uint8(v*255 + 0.5)
	}
	return t
}()

func byteOf(v float32) uint8 { return encoded[int(min(max(v, 0), 1)*codes+0.5)] }

// RGBA writes the picture as sRGB bytes with opacity that is not multiplied in.
func (p *Picture) RGBA(out []uint8) []uint8 {
	if len(out) != len(p.Pix) {
		out = make([]uint8, len(p.Pix))
	}
	for i := 0; i < len(p.Pix); i += 4 {
		q, o := p.Pix[i:i+4], out[i:i+4]
		o[0], o[1], o[2], o[3] = byteOf(q[0]), byteOf(q[1]), byteOf(q[2]), uint8(min(max(q[3], 0), 1)*255+0.5)
	}
	return out
}
