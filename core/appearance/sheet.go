package appearance

import (
	"math"

	"fairtangle/core/carding"
	"fairtangle/core/colour"
)

// Sheet is a batt seen from one side, ready to be drawn at any scale.
type Sheet struct {
	WidthMM, LengthMM float64 // across and along the fibre
	Open              bool    // its ends do not meet
	Things            []Thing // on its face, deepest first
	seed              float32 // offsets the noise, so that no two batts have the same waves
	view              carding.View
	even              []float32 // light of the even mix in each cell
	colours           [][3]float32
	streaks           []float32 // how wide the streaks of each component are, mm
	crimp             crimp
	seeds             uint64
	noise             *noise
}

// crimp is a wave of the fibre.
type crimp struct{ long, high float32 } // mm

// NewSheet looks at a side of a batt. longMM and highMM are the crimp of its fibres. What
// was placed on it as it is is drawn as things, where there are any, and not as streaks.
func NewSheet(b *carding.Batt, p *carding.Palette, side carding.Side, seed uint64, longMM, highMM float64, things ...Thing) *Sheet {
	n := len(p.Linear)
	bed := b.Bed()
	s := &Sheet{
		WidthMM: bed.WidthMM, LengthMM: bed.LengthMM, Open: bed.Open, seed: float32(seed%509) * 2, seeds: seed,
		crimp: crimp{float32(longMM) / 2, float32(highMM) / 2}, noise: tiles(),
	}
	if len(things) > 0 {
		b.ShowBare(&s.view, side, n)
	} else {
		b.Show(&s.view, side, n)
	}
	if side == carding.Face {
		s.Things = things
	}
	for _, c := range p.Linear {
		s.colours = append(s.colours, [3]float32{float32(c[0]), float32(c[1]), float32(c[2])})
	}
	for _, w := range b.StreakWidths(n) {
		s.streaks = append(s.streaks, float32(min(max(w, 0.4), 1.2)))
	}
	s.even = make([]float32, 3*len(s.view.Cover))
	for i, cover := range s.view.Cover {
		if cover > 0 {
			put(s.even[3*i:], p.Even(s.view.Shares[i*n:i*n+n]))
		}
	}
	return s
}

func put(to []float32, c colour.Linear) {
	to[0], to[1], to[2] = float32(c[0]), float32(c[1]), float32(c[2])
}

// drop is the share below which a component is not seen.
const drop = 0.003

// point is the room for one pixel's components.
type point struct {
	share, patch [carding.MaxSlots]float32
	which        [carding.MaxSlots]int
	n            int
	even         [3]float32
	cover        float32
}

// at fills in what lies at a place, in cells along and lanes across.
func (s *Sheet) at(p *point, along, across float32) {
	v := &s.view
	x0, c0 := int(math.Floor(float64(across))), int(math.Floor(float64(along)))
	fx, fc := across-float32(x0), along-float32(c0)
	weights := [4]float32{(1 - fx) * (1 - fc), (1 - fx) * fc, fx * (1 - fc), fx * fc}
	var cells [4]int
	for i := range cells {
		x := min(max(x0+i/2, 0), v.Lanes-1)
		c := c0 + i%2
		if s.Open {
			c = min(max(c, 0), v.Cells-1)
		} else {
			c = ((c % v.Cells) + v.Cells) % v.Cells
		}
		cells[i] = x*v.Cells + c
	}
	p.cover, p.even = 0, [3]float32{}
	var there float32
	for i, c := range cells {
		p.cover += weights[i] * v.Cover[c]
		if v.Cover[c] <= 0 {
			weights[i] = 0
		}
		there += weights[i]
	}
	p.n = 0
	if there <= 0 {
		return
	}
	for i := range weights {
		weights[i] /= there
	}
	for i, c := range cells {
		w := weights[i]
		e := s.even[3*c : 3*c+3]
		p.even[0] += w * e[0]
		p.even[1] += w * e[1]
		p.even[2] += w * e[2]
	}
	n := v.Components
	for k := range n {
		share := weights[0]*v.Shares[cells[0]*n+k] + weights[1]*v.Shares[cells[1]*n+k] + weights[2]*v.Shares[cells[2]*n+k] + weights[3]*v.Shares[cells[3]*n+k]
		if share < drop {
			continue
		}
		p.which[p.n], p.share[p.n] = k, share
		p.patch[p.n] = weights[0]*v.Patch[cells[0]*n+k] + weights[1]*v.Patch[cells[1]*n+k] + weights[2]*v.Patch[cells[2]*n+k] + weights[3]*v.Patch[cells[3]*n+k]
		p.n++
	}
}

// scale is how a sheet lies in a picture.
type scale struct {
	perMM      float32   // pixels
	rows       float32   // of fine noise to a millimetre, so that none is finer than two pixels
	streaks    []float32 // rows of patches to a millimetre, by component
	distinct   []float32 // 0..1, how much of a streak shows where it is narrower than a pixel
	contrast   float32   // of single fibres: the more a pixel holds, the less each shows
	crimped    float32   // 0..1, how much of the crimp shows
	alongCells float32   // cells to a millimetre
	lanes      float32
}

func (s *Sheet) scaled(perMM float64) scale {
	k := scale{
		perMM: float32(perMM), rows: float32(min(4, perMM/2)), contrast: float32(1 / math.Sqrt(1+1.5/perMM/0.025)),
		crimped: float32(min(max((perMM-2)/2, 0), 1)), alongCells: float32(float64(s.view.Cells) / s.LengthMM), lanes: float32(float64(s.view.Lanes) / s.WidthMM),
	}
	for _, w := range s.streaks {
		k.streaks = append(k.streaks, min(4/w, 1.6*k.perMM))
		k.distinct = append(k.distinct, float32(math.Sqrt(min(1, float64(w*k.perMM)/1.6))))
	}
	return k
}

// at reads a field: near by, interpolated along the fibre too.
func (k *scale) at(t tile, u, v float32) float32 {
	if k.crimped > 0 {
		return t.both(u, v)
	}
	return t.across(u, v)
}

// waves are the slow and the quick warp at a place.
func (s *Sheet) waves(u, v float32) (slow, quick float32) {
	t := s.noise.warp
	return t.both(1.1*u+s.seed, 2.2*v), t.both(4.1*u+s.seed+511, 9*v+131)
}

// light is what a place looks like, and how much of the ground it covers.
func (s *Sheet) light(p *point, k *scale, u, v, slow, quick float32) (rgb [3]float32, cover float32) {
	t := s.noise
	bent := v + 1.5*slow + 0.35*quick
	s.at(p, u*k.alongCells-0.5+0.6*quick, bent*k.lanes-0.5)
	if p.n == 0 {
		return rgb, 0
	}
	u += s.seed
	line, wave := v, float32(0)
	if k.crimped > 0 && s.crimp.high > 0 {
		phase := 0.7 * t.warp.both(3*u+300, 13*v+77)
		wave = k.crimped * 0.45 * s.crimp.high * sine(u/(1.7*s.crimp.long)+phase)
		line += wave
	}
	var apart, all, patches, single, clear float32
	var patch, fibre, area, flat [3]float32
	for i := range p.n {
		n := p.which[i]
		c := &s.colours[n]
		if p.patch[i] > 0.001 {
			e := p.patch[i] * k.at(t.patch, 1.7*u+float32(211*n), bent*k.streaks[n]+float32(97*n))
			e *= e * e
			patches += e
			patch[0] += e * c[0]
			patch[1] += e * c[1]
			patch[2] += e * c[2]
			apart += p.patch[i]
			clear += p.patch[i] * k.distinct[n]
			flat[0] += p.patch[i] * c[0]
			flat[1] += p.patch[i] * c[1]
			flat[2] += p.patch[i] * c[2]
		}
		f := p.share[i] * k.at(t.fibre, 3.2*u+float32(307*n), (line+0.8*slow+0.25*quick)*0.8*k.rows+float32(131*n))
		f *= f
		single += f
		fibre[0] += f * c[0]
		fibre[1] += f * c[1]
		fibre[2] += f * c[2]
		all += p.share[i]
		area[0] += p.share[i] * c[0]
		area[1] += p.share[i] * c[1]
		area[2] += p.share[i] * c[2]
	}
	l := k.at(t.line, 2.6*u+25*slow, (line+0.9*slow+0.3*quick+0.035*u)*1.3*k.rows) +
		k.at(t.line, 3.1*u+25*slow+400, (line+1.1*slow+0.4*quick-0.045*u)*1.1*k.rows+60)
	fold := t.line.across(1.3*u+700, (v+1.3*slow+0.5*quick+0.012*u)*1.4+30)
	shade := max(0.55, 1+(0.052+0.03*k.crimped)*l+0.045*fold+0.05*slow)
	for ch := range rgb {
		mixed := p.even[ch]
		if area[ch] > 1e-5 && single > 0 {
			mixed *= 1 + (min(fibre[ch]/single/(area[ch]/all), 3)-1)*k.contrast
		}
		x := mixed
		if patches > 0 {
			x = clear*patch[ch]/patches + (apart-clear)*flat[ch]/apart + (1-apart)*mixed
		}
		rgb[ch] = max(0, x*shade+0.005*l)
	}
	cover = 1
	if p.cover <= 0.98 {
		cover = min(max((p.cover-0.35)*2.2+0.35*l, 0), 1)
	}
	return rgb, cover
}

// sine is sin(2πx), good to a few thousandths, for waves.
func sine(x float32) float32 {
	x -= float32(math.Floor(float64(x)))
	y := 2*x - 1
	a := y
	if a < 0 {
		a = -a
	}
	return -4 * y * (1 - a)
}
