package appearance

import (
	"math"

	"fairtangle/core/carding"
)

// Heights of a section: what a batt at rest packs to, and how much higher it is drawn.
const (
	packedKgM3  = 60.0
	Exaggerated = 3.0
	levelMM     = 10.0 // over which a batt gives and levels itself, standard deviation
)

// Section is a batt cut across, ready to be drawn.
type Section struct {
	WidthMM, HighMM float64 // as it is, without the exaggeration
	slice           carding.Slice
	tops            []float64 // mm, of every layer of every lane, from the cloth
	palette         *carding.Palette
	seed            float32
}

// NewSection cuts a batt across in its middle.
func NewSection(b *carding.Batt, p *carding.Palette, seed uint64) *Section {
	bed := b.Bed()
	s := &Section{WidthMM: bed.WidthMM, slice: b.Slice(bed.LengthMM/2, len(p.Linear)), palette: p, seed: float32(seed%509) * 2}
	c := &s.slice
	total := make([]float64, c.Lanes)
	for x := range total {
		for _, g := range c.Grams[x*c.Layers*c.Components:][:c.Layers*c.Components] {
			total[x] += g
		}
	}
	s.tops = make([]float64, c.Lanes*c.Layers)
	lane := bed.WidthMM / float64(c.Lanes)
	reach := int(3 * levelMM / lane)
	for x := range total {
		var level, weight float64
		for i := -reach; i <= reach; i++ {
			if at := x + i; at >= 0 && at < c.Lanes {
				w := math.Exp(-math.Pow(float64(i)*lane/levelMM, 2) / 2)
				level, weight = level+w*total[at], weight+w
			}
		}
		scale := 0.0
		if total[x] > 0 {
			scale = level / weight / total[x]
		}
		high := 0.0
		for z := range c.Layers {
			for _, g := range c.Grams[(x*c.Layers+z)*c.Components:][:c.Components] {
				high += g * scale / (packedKgM3 * 1000) * 1000
			}
			s.tops[x*c.Layers+z] = high
		}
		s.HighMM = max(s.HighMM, high)
	}
	return s
}

// DrawSection draws a section over the whole width of a picture, standing on its lower
// edge.
func DrawSection(pic *Picture, s *Section) {
	const room = 10.0 // mm at either side
	per := float64(pic.W) / (s.WidthMM + 2*room)
	up := min(per*Exaggerated, float64(pic.H-12)/max(s.HighMM, 1))
	floor := float64(pic.H - 8)
	t := tiles()
	n := s.slice.Components
	shares, patches := make([]float32, n), make([]float64, n)
	for x := range pic.W {
		v := (float64(x)+0.5)/per - room
		at := v/s.WidthMM*float64(s.slice.Lanes) - 0.5
		if v < 0 || v > s.WidthMM {
			continue
		}
		lane := min(max(int(at), 0), s.slice.Lanes-1)
		next, f := min(lane+1, s.slice.Lanes-1), min(max(at-float64(lane), 0), 1)
		top := s.top(lane, next, f, s.slice.Layers-1)
		round := 1 - min(v, s.WidthMM-v, 9)/9
		edge := math.Sqrt(1-round*round) * top
		for y := range pic.H {
			high := (floor - float64(y) - 0.5) / up
			fuzz := 0.12 * float64(t.line.across(float32(9*v)+s.seed, float32(3*high)))
			if high < 0 || high > edge+fuzz {
				continue
			}
			wave := float64(t.warp.both(float32(1.6*v)+s.seed, float32(6*high)))
			from := high*top/max(edge, 1e-6) + 0.18*top/float64(s.slice.Layers)*wave
			z := 0
			for z < s.slice.Layers-1 && s.top(lane, next, f, z) < from {
				z++
			}
			rgb, ok := s.cut(lane, z, v, high, shares, patches, t)
			if !ok {
				continue
			}
			grain := 1 + 0.10*t.line.across(float32(170*v)+s.seed, float32(11*high*Exaggerated))
			q := pic.Pix[4*(y*pic.W+x):][:4]
			q[0], q[1], q[2] = rgb[0]*grain, rgb[1]*grain, rgb[2]*grain
			q[3] = float32(min(1, (edge+fuzz-high)*up/1.5))
		}
	}
}

// top is the height of a layer between two lanes.
func (s *Section) top(lane, next int, f float64, z int) float64 {
	a, b := s.tops[lane*s.slice.Layers+z], s.tops[next*s.slice.Layers+z]
	return a + (b-a)*f
}

// cut is what a place of a section looks like: clumps are patches, the rest is mixed.
func (s *Section) cut(lane, z int, v, high float64, shares []float32, patches []float64, t *noise) (rgb [3]float32, ok bool) {
	n := s.slice.Components
	at := (lane*s.slice.Layers + z) * n
	var all float64
	for _, g := range s.slice.Grams[at : at+n] {
		all += g
	}
	if all <= 0 {
		return rgb, false
	}
	var sum, apart float64
	var patch [3]float64
	for k := range n {
		shares[k] = float32(s.slice.Grams[at+k] / all)
		patches[k] = s.slice.Patch[at+k] / all
		if patches[k] <= 0 {
			continue
		}
		apart += patches[k]
		e := patches[k] * float64(t.patch.both(float32(150*v)+s.seed+float32(211*k), float32(7*high)+float32(97*k)))
		e *= e * e
		sum += e
		for ch := range patch {
			patch[ch] += e * s.palette.Linear[k][ch]
		}
	}
	even := s.palette.Even(shares)
	for ch := range rgb {
		x := (1 - apart) * even[ch]
		if sum > 0 {
			x += apart * patch[ch] / sum
		}
		rgb[ch] = float32(x)
	}
	return rgb, true
}
