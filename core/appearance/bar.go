package appearance

import "math"

// DrawBar draws all of a yarn as one length of fibre from end to end, its plies side by side again
// and again. It shows the order of the colours, not how thick the yarn is.
func DrawBar(pic *Picture, s *Strand) {
	long := 1000 * s.yarn.PliedM
	t := s.stretchOf(0, long, long/float64(pic.W), 12)
	var here [3]local
	const rows = 7.0 // pixels to a ply
	for x := range pic.W {
		at := long * (float64(x) + 0.5) / float64(pic.W)
		for i := range s.plies {
			s.local(t, at, i, &here[i])
			here[i].u = 0.35*float32(x) + s.seed + 173*float32(i) // drawn out over the picture
		}
		for y := range pic.H {
			wave := float64(s.noise.warp.both(0.8*float32(x)+s.seed, 0.4*float32(y)+60))
			band := (float64(y) + 1.6*wave) / rows
			ply := (int(math.Floor(band))%s.plies + s.plies) % s.plies
			q := 2*(band-math.Floor(band)) - 1
			lit := 0.88 + 0.14*math.Sqrt(1-q*q)
			edge := 2*(float64(y)+0.5)/float64(pic.H) - 1
			lit *= 0.72 + 0.30*math.Sqrt(1-edge*edge)
			c := s.light(&here[ply], fine{perMM: 9, shows: 1}, seen{ply: ply, round: 0.11 * float32(y), shade: float32(lit)})
			o := pic.Pix[4*(y*pic.W+x):][:4]
			o[0], o[1], o[2], o[3] = c[0], c[1], c[2], 1
		}
	}
}

// Seen is what is seen of the yarn at a place, m: its plies side by side, in light.
func (s *Strand) Seen(m float64) (out [3]float64) {
	one, shares := make([]float64, len(s.colours)), make([]float32, len(s.colours))
	for p := range s.plies {
		s.yarn.Near(p, m, one)
		for k, v := range one {
			shares[k] = float32(v)
		}
		for ch, v := range s.palette.Even(shares) {
			out[ch] += v / float64(s.plies)
		}
	}
	return out
}
