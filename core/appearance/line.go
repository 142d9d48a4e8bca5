package appearance

import "math"

// line draws a straight line between two places of a picture, in pixels: as wide as it is, its
// sides soft.
func (p *Picture) line(x0, y0, x1, y1, width float64, c [3]float32, a float32) {
	half := width/2 + 0.5
	dx, dy := x1-x0, y1-y0
	long := math.Hypot(dx, dy)
	if long < 1e-9 {
		return
	}
	dx, dy = dx/long, dy/long
	for y := max(0, int(min(y0, y1)-half)); y <= min(p.H-1, int(max(y0, y1)+half)); y++ {
		for x := max(0, int(min(x0, x1)-half)); x <= min(p.W-1, int(max(x0, x1)+half)); x++ {
			u, v := float64(x)+0.5-x0, float64(y)+0.5-y0
			along := u*dx + v*dy
			if along < 0 || along >= long { // the next bit of a curve begins where this one ends
				continue
			}
			if cover := half - math.Abs(v*dx-u*dy); cover > 0 {
				p.over(y*p.W+x, c[0], c[1], c[2], a*float32(min(cover, 1)))
			}
		}
	}
}

// shrink fills the picture with one that is samples as big each way.
func (p *Picture) shrink(big *Picture) {
	for y := range p.H {
		for x := range p.W {
			var c [4]float32
			for i := range samples * samples {
				q := big.Pix[4*((y*samples+i/samples)*big.W+x*samples+i%samples):][:4]
				c[0], c[1], c[2], c[3] = c[0]+q[0]*q[3], c[1]+q[1]*q[3], c[2]+q[2]*q[3], c[3]+q[3]
			}
			if c[3] > 0 {
				q := p.Pix[4*(y*p.W+x):][:4]
				q[0], q[1], q[2], q[3] = c[0]/c[3], c[1]/c[3], c[2]/c[3], c[3]/(samples*samples)
			}
		}
	}
}
