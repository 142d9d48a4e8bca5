package appearance

import "fairtangle/core/colour"

// Laid is a piece drawn stitch by stitch, each in the colour that falls there: rows from the first, which lies lowest (or, of a yoke that
// is worked from the top, highest), panel beside panel. A stitch is so wide and so high.
type Laid struct {
	Rows    [][]int // index of a colour; below 0: no yarn
	Panels  int
	Colours []colour.Linear
	StitchW float64
	StitchH float64
	Down    bool // the first row lies highest
}

// laidGap is what lies between two panels, in widths of a stitch.
const laidGap = 3

// widest is the widest row, in stitches.
func (l Laid) widest() (n int) {
	for _, r := range l.Rows {
		n = max(n, len(r))
	}
	return n
}

// Draw draws it so many pixels wide at most, and no higher than so many; rows that are narrower lie in the middle.
func (l Laid) Draw(mostW, mostH int) *Picture {
	widest, high := l.widest(), len(l.Rows)/l.Panels
	across := float64(l.Panels*widest + (l.Panels-1)*laidGap)
	per := min(float64(mostW)/(across*l.StitchW), float64(mostH)/(float64(high)*l.StitchH), 12/l.StitchW)
	w, h := max(1, int(across*l.StitchW*per)), max(1, int(float64(high)*l.StitchH*per))
	pic := NewPicture(w, h)
	one := float64(widest + laidGap)
	for y := range h {
		down := (float64(y) + 0.5) / float64(h) * float64(high)
		row := int(down)
		up := down - float64(row) // within the stitch, from above
		if !l.Down {
			row = high - 1 - row
		}
		for x := range w {
			at := (float64(x) + 0.5) / (l.StitchW * per)
			panel := min(int(at/one), l.Panels-1)
			fall := l.Rows[panel*high+row]
			at -= float64(panel)*one + float64(widest-len(fall))/2
			if i := int(at); at >= 0 && i < len(fall) && fall[i] >= 0 {
				l.put(pic, y*w+x, fall[i], at-float64(i), up, per*l.StitchW)
			}
		}
	}
	return pic
}

// put lays a pixel of a stitch: once a stitch is wide enough to be seen, it is two legs that lean to its middle.
func (l Laid) put(pic *Picture, i, colour int, across, down, px float64) {
	c, light := l.Colours[colour], 1.0
	if px >= 7 {
		leg := across - 0.5
		if leg < 0 {
			leg = -leg
		}
		light = 1.06 - 0.5*(leg-0.25)*(leg-0.25)*4
		if edge := down - leg*0.6; edge < 0.12 || edge > 0.88 {
			light *= 0.88
		}
	}
	q := pic.Pix[4*i : 4*i+4]
	for k := range 3 {
		q[k] = float32(min(c[k]*light, 1))
	}
	q[3] = 1
}
