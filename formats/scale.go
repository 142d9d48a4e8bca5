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
	s := sums{out: out, light: make([]float64, 3*w), across: shared(from.Dx(), w)}
	down := shared(from.Dy(), h)
	for y, part := range down {
		if y%stripe == 0 {
			draw.Draw(rows, rows.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
			draw.Draw(rows, rows.Bounds(), full, image.Pt(from.Min.X, from.Min.Y+y), draw.Over)
		}
		row := rows.Pix[y%stripe*rows.Stride:]
		s.add(row, part.here)
		if y == len(down)-1 || down[y+1].to > part.to {
			s.put(part.to)
		}
		if part.next > 0 {
			s.add(row, part.next)
		}
	}
	return out
}

// share is what a pixel of a line gives to one of a shorter line and to the one
// after it, in parts of those.
type share struct {
	to         int
	here, next float64
}

// shared shares n pixels of a line out to m, at most n.
func shared(n, m int) []share {
	out := make([]share, n)
	f := float64(m) / float64(n)
	for i := range out {
		to := i * m / n
		end := min(f*float64(i+1), float64(m))
		v := share{to: to, here: f, next: end - float64(to+1)}
		if v.next > 1e-9 {
			v.here -= v.next
		} else {
			v.next = 0
		}
		out[i] = v
	}
	return out
}

// sums gathers rows of light until a row of the smaller picture is full.
type sums struct {
	out    *image.RGBA
	light  []float64
	across []share
}

func (s *sums) add(row []uint8, weight float64) {
	for x, a := range s.across {
		p, at := row[4*x:4*x+3], s.light[3*a.to:]
		r, g, b := light[p[0]], light[p[1]], light[p[2]]
		w := weight * a.here
		at[0], at[1], at[2] = at[0]+w*r, at[1]+w*g, at[2]+w*b
		if a.next > 0 {
			w = weight * a.next
			at[3], at[4], at[5] = at[3]+w*r, at[4]+w*g, at[5]+w*b
		}
	}
}

// put writes the row that is full and begins the next.
func (s *sums) put(row int) {
	to := s.out.Pix[row*s.out.Stride:]
	for x := range len(s.light) / 3 {
		for ch := range 3 {
			to[4*x+ch] = byteOf(s.light[3*x+ch])
		}
		to[4*x+3] = 255
	}
	clear(s.light)
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

// nearly are the bytes of light in 4,096 steps, from below.
var nearly = func() (t [4096]uint8) {
	at := 0
	for i := range t {
		for at < len(halves) && halves[at] <= float64(i)/float64(len(t)) {
			at++
		}
		t[i] = uint8(at)
	}
	return t
}()

// byteOf encodes light as the nearest byte of sRGB.
func byteOf(v float64) uint8 {
	at := nearly[min(int(max(v, 0)*float64(len(nearly))), len(nearly)-1)]
	for at < 255 && v >= halves[at] {
		at++
	}
	return at
}
