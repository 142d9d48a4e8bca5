package formats

import (
	"image"
	"image/color"
	"math"

	"golang.org/x/image/draw"
)

// stripe is how many rows are brought to RGB at a time.
const stripe = 64

// scaled gives a picture on white in the size that is kept: each pixel is the mean
// of the light of those that it stands for. It holds no copy of the whole.
func scaled(full image.Image) *image.RGBA {
	from := full.Bounds()
	w, h := from.Dx(), from.Dy()
	if long := max(w, h); long > photoEdge {
		w, h = max(1, w*photoEdge/long), max(1, h*photoEdge/long)
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	rows := image.NewRGBA(image.Rect(0, 0, from.Dx(), min(stripe, from.Dy())))
	s := sums{out: out, light: make([]float64, 3*w), across: spans(from.Dx(), w)}
	for y, down := 0, spans(from.Dy(), h); y < from.Dy(); y++ {
		if y%stripe == 0 {
			draw.Draw(rows, rows.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
			draw.Draw(rows, rows.Bounds(), full, image.Pt(from.Min.X, from.Min.Y+y), draw.Over)
		}
		for _, part := range down[y] {
			s.add(rows.Pix[y%stripe*rows.Stride:], part)
		}
	}
	return out
}

// span is a part of a row or column that goes into one of the smaller picture.
type span struct {
	to     int
	weight float64 // of the pixel that comes out
	last   bool    // nothing more goes into it
}

// spans tells for each of n pixels in a line which of m, at most n, it goes into.
func spans(n, m int) [][]span {
	out := make([][]span, n)
	f := float64(m) / float64(n)
	for i := range out {
		lo, hi := float64(i)*f, float64(i+1)*f
		if i == n-1 {
			hi = float64(m)
		}
		for to := int(lo + 1e-9); to < m && float64(to) < hi-1e-9; to++ {
			part := min(hi, float64(to+1)) - max(lo, float64(to))
			out[i] = append(out[i], span{to, part, hi > float64(to+1)-1e-9})
		}
	}
	return out
}

// sums gathers rows of light until a row of the smaller picture is full.
type sums struct {
	out    *image.RGBA
	light  []float64
	across [][]span
}

func (s *sums) add(row []uint8, down span) {
	for x, parts := range s.across {
		p := row[4*x : 4*x+3]
		for _, a := range parts {
			weight := a.weight * down.weight
			at := s.light[3*a.to : 3*a.to+3]
			for ch, v := range p {
				at[ch] += weight * light[v]
			}
		}
	}
	if !down.last {
		return
	}
	to := s.out.Pix[down.to*s.out.Stride:]
	for x := range len(s.light) / 3 {
		for ch := range 3 {
			to[4*x+ch] = byteOf(s.light[3*x+ch])
			s.light[3*x+ch] = 0
		}
		to[4*x+3] = 255
	}
}

// light decodes bytes of sRGB (IEC 61966-2-1), halves lie between two of them.
var light, halves = func() (t [256]float64, h [255]float64) {
	linear := func(v float64) float64 {
		if v /= 255; v <= 0.04045 {
			return v / 12.92
		}
		return math.Pow((v+0.055)/1.055, 2.4)
	}
	for i := range t {
		t[i] = linear(float64(i))
	}
	for i := range h {
		h[i] = linear(float64(i) + 0.5)
	}
	return t, h
}()

// byteOf encodes light as the nearest byte of sRGB.
func byteOf(v float64) uint8 {
	lo, hi := 0, 255
	for lo < hi {
		mid := (lo + hi) / 2
		if v < halves[mid] {
			hi = mid
		} else {
			lo = mid + 1
		}
	}
	return uint8(lo)
}
