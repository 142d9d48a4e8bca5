package appearance

import (
	"math"

	"fairtangle/core/carding"
	"fairtangle/core/yarn"
)

// Strand is a yarn ready to be drawn. Lengths along it are millimetres of yarn. Held upright, its
// singles lean as the middle of the letter Z and its plies as that of S, or both the other way.
type Strand struct {
	yarn    *yarn.Yarn
	palette *carding.Palette
	colours [][3]float32
	apart   []float32 // the part of each component that shows by itself
	radius  float64   // of a single, mm
	plies   int
	off     float64 // of the middles of the plies from the axis, mm
	pitch   float64 // mm of yarn to a turn of the plies
	sense   float64 // 1: singles Z, plies S
	hairs   float64 // to a millimetre
	seed    float32
	seeds   uint64
	noise   *noise
}

// Spun says how a yarn is spun, as far as it is seen.
type Spun struct {
	Tex     float64 // of a single
	Woollen bool    // fibre lies every way: a fuller, hairier yarn
	S       bool    // singles are spun S and plied Z
}

// What a strand is drawn by: grams in a cubic centimetre of spun fibre, hairs to a millimetre, the
// turn of the plies in radii of one, and the part by which spinning groups fibres again
// (appearance.md, section 7; choices).
const (
	woollenDensity, worstedDensity = 0.45, 0.55
	woollenHairs, worstedHairs     = 6.0, 3.0
	pitchRadii                     = 9.0
	grouped                        = 0.25
	strandContrast                 = 0.35
	singleAngle                    = 22 * math.Pi / 180
)

// NewStrand readies a yarn of components in these colours; unopened is the part of each that
// carding has left in clumps.
func NewStrand(y *yarn.Yarn, p *carding.Palette, unopened []float64, spun Spun, seed uint64) *Strand {
	s := &Strand{
		yarn: y, palette: p, plies: yarn.PliesOf(y.Ply), sense: 1, hairs: worstedHairs, seed: float32(seed%509) * 2, seeds: seed,
		noise: tiles(),
	}
	density := worstedDensity
	if spun.Woollen {
		density, s.hairs = woollenDensity, woollenHairs
	}
	if spun.S {
		s.sense = -1
	}
	s.radius = 0.0357 * math.Sqrt(spun.Tex/density) / 2
	s.off = [4]float64{0, 0, 1, 2 / math.Sqrt(3)}[s.plies] * s.radius // circles that touch
	s.pitch = pitchRadii * s.radius * (0.8 + 0.1*float64(s.plies))
	for k, c := range p.Linear {
		s.colours = append(s.colours, [3]float32{float32(c[0]), float32(c[1]), float32(c[2])})
		s.apart = append(s.apart, float32(grouped+(1-grouped)*unopened[k]))
	}
	return s
}

// Radius is how far the yarn reaches from its axis, mm.
func (s *Strand) Radius() float64 { return s.off + s.radius }

// stretch is what a part of the yarn is made of, column by column.
type stretch struct {
	from, step float64 // mm
	n          int
	shares     []float32 // component, ply, column from fastest to slowest
	even       []float32 // light of the even mix, ply, column
}

// stretch looks at a part of the yarn, mm from its beginning, in columns of a step.
func (s *Strand) stretch(from, long, step float64) *stretch { return s.stretchOf(from, long, step, 1) }

// stretchOf is stretch, where each column is the mean of so many places in it.
func (s *Strand) stretchOf(from, long, step float64, places int) *stretch {
	k := len(s.colours)
	t := &stretch{from: from, step: step, n: int(long/step) + 2}
	t.shares, t.even = make([]float32, t.n*s.plies*k), make([]float32, t.n*s.plies*3)
	one := make([]float64, k)
	for i := range t.n {
		for p := range s.plies {
			to := t.shares[(i*s.plies+p)*k:][:k]
			for n := range places {
				at := from + (float64(i)+(float64(n)+0.5)/float64(places)-0.5)*step
				s.yarn.Near(p, min(max(at/1000, 0), s.yarn.PliedM), one)
				for c, v := range one {
					to[c] += float32(v / float64(places))
				}
			}
			put(t.even[(i*s.plies+p)*3:], s.palette.Even(to))
		}
	}
	return t
}

// seen is what shows of a yarn at a place: which ply, how far aside of its middle (-1..1, down),
// where round it, and how lit it is.
type seen struct {
	ply   int
	round float32 // mm round the ply, with its twist
	shade float32
}

// turn is where the plies lie at a place along the yarn.
type turn struct {
	radius, axis float64 // mm
	y, z         [3]float64
}

// at works out where the plies lie, mm along; rough is 0 for a yarn without wobble.
func (s *Strand) at(x, rough float64) (t turn) {
	warp := s.noise.warp
	t.radius = s.radius * (1 + 0.10*rough*float64(warp.both(float32(2.5*x)+s.seed, 40)))
	t.axis = 0.35 * s.radius * rough * float64(warp.both(float32(1.3*x)+s.seed+400, 99))
	for i := range s.plies {
		a := 2*math.Pi*x/s.pitch + 2*math.Pi*float64(i)/float64(s.plies)
		t.y[i], t.z[i] = s.sense*s.off*math.Cos(a), s.off*math.Sin(a)
	}
	return t
}

// see finds what shows at a place, mm aside of the axis (down).
func (s *Strand) see(t *turn, x, aside float64) (v seen, ok bool) {
	aside -= t.axis
	best, side := math.Inf(-1), 0.0
	for i := range s.plies {
		q := (aside - t.y[i]) / t.radius
		if q <= -1 || q >= 1 {
			continue
		}
		if z := t.z[i] + t.radius*math.Sqrt(1-q*q); z > best {
			best, side, v.ply, ok = z, q, i, true
		}
	}
	if !ok {
		return v, false
	}
	shade := 0.42 + 0.62*math.Sqrt(1-side*side) - 0.10*side
	round := t.radius * math.Asin(side)
	if s.plies == 1 {
		round -= s.sense * x * math.Tan(singleAngle)
	} else { // plied, fibres lie nearly along the yarn: what the ply turns, its own twist turns back
		round += 0.85*t.y[v.ply] - 0.05*s.sense*x
		shade *= 0.9 + 0.1*t.z[v.ply]/s.off
		for i := range s.plies { // a line of shade where another ply passes over this one
			if gap := math.Abs(aside-t.y[i]) - t.radius; i != v.ply && t.z[i] > t.z[v.ply] && gap < 0.35*t.radius {
				shade *= 0.55 + 0.45*max(gap, 0)/(0.35*t.radius)
			}
		}
	}
	v.round, v.shade = float32(round-1024*math.Floor(round/1024)), float32(shade) // the noise is periodic
	return v, true
}

// twisted is what shows of a turn of a yarn without wobble, place by place.
type twisted struct {
	s     *Strand
	pitch float64
	of    []seen // across, along
}

// How finely a turn is looked at: across the yarn and along it.
const twistedAcross, twistedAlong = 64, 96

// twisted looks at a turn of the yarn.
func (s *Strand) twisted() *twisted {
	t := &twisted{s, s.pitch, make([]seen, twistedAcross*twistedAlong)}
	for i := range twistedAlong {
		x := s.pitch * float64(i) / twistedAlong
		turn := s.at(x, 0)
		for j := range twistedAcross {
			v, ok := s.see(&turn, x, s.Radius()*(2*(float64(j)+0.5)/twistedAcross-1))
			if !ok { // beside the plies, where they leave a gap
				v.shade = 0.5
			}
			t.of[i*twistedAcross+j] = v
		}
	}
	return t
}

// twistedAt is a place along the yarn.
type twistedAt struct {
	of    []seen
	round float32
}

// at looks at a place along the yarn, mm. Whole turns farther on, the fibre lies elsewhere round
// the yarn.
func (t *twisted) at(x float64) twistedAt {
	turns := math.Floor(x / t.pitch)
	i := min(int((x/t.pitch-turns)*twistedAlong), twistedAlong-1)
	slope := 0.05
	if t.s.plies == 1 {
		slope = math.Tan(singleAngle)
	}
	round := -t.s.sense * turns * t.pitch * slope
	return twistedAt{t.of[i*twistedAcross : (i+1)*twistedAcross], float32(round - 1024*math.Floor(round/1024))}
}

// see is what shows at a part of the yarn's radius aside, -1..1.
func (a twistedAt) see(aside float32) seen {
	v := a.of[min(int((aside+1)*(twistedAcross/2)), twistedAcross-1)]
	v.round += a.round
	return v
}

// fine is how finely the fibre of a strand is drawn.
type fine struct {
	perMM float32 // samples to a millimetre, so that no fibre is narrower than one
	shows float32 // 0..1, how much of it shows
}

// local is what a ply is made of at a place along the yarn.
type local struct {
	n          int
	which      [carding.MaxSlots]int
	share      [carding.MaxSlots]float32
	even, area [3]float32 // light of the even mix, and the mean of the components
	apart      float32
	u          float32 // mm along, with what makes each ply another
}

// local looks at a ply, mm along the yarn.
func (s *Strand) local(t *stretch, x float64, ply int, l *local) {
	k := len(s.colours)
	at := min(max((x-t.from)/t.step, 0), float64(t.n-1)-1e-6)
	i := int(at)
	part := float32(at - float64(i))
	a, b := (i*s.plies+ply)*k, ((i+1)*s.plies+ply)*k
	ea, eb := t.even[(i*s.plies+ply)*3:][:3], t.even[((i+1)*s.plies+ply)*3:][:3]
	l.n, l.apart, l.area, l.u = 0, 0, [3]float32{}, float32(x)+s.seed+float32(ply)*173
	for ch := range l.even {
		l.even[ch] = ea[ch] + (eb[ch]-ea[ch])*part
	}
	for c := range k {
		share := t.shares[a+c] + (t.shares[b+c]-t.shares[a+c])*part
		if share < drop {
			continue
		}
		l.which[l.n], l.share[l.n] = c, share
		l.n++
		l.apart += share * s.apart[c]
		for ch := range l.area {
			l.area[ch] += share * s.colours[c][ch]
		}
	}
}

// light is what the surface of a ply looks like where it is seen.
func (s *Strand) light(l *local, f fine, v seen) (rgb [3]float32) {
	if f.shows <= 0 {
		return [3]float32{l.even[0] * v.shade, l.even[1] * v.shade, l.even[2] * v.shade}
	}
	n := s.noise
	w := v.round + float32(v.ply)*31
	rows, wide := w*min(9, f.perMM), w*min(5, f.perMM)
	rgb = l.even
	if l.n > 1 {
		var patches, single float32
		var patch, fibre [3]float32
		for i := range l.n {
			c := l.which[i]
			own := &s.colours[c]
			e := l.share[i] * s.apart[c] * n.patch.across(3*l.u+float32(211*c), wide+float32(97*c))
			e *= e * e
			g := l.share[i] * n.fibre.across(6*l.u+float32(307*c), rows+float32(131*c))
			g *= g
			patches, single = patches+e, single+g
			for ch := range rgb {
				patch[ch] += e * own[ch]
				fibre[ch] += g * own[ch]
			}
		}
		patches, single = l.apart/patches, 1/single
		for ch := range rgb {
			mixed := rgb[ch]
			if l.area[ch] > 1e-5 {
				mixed *= 1 + (min(fibre[ch]*single/l.area[ch], 1.8)-1)*strandContrast
			}
			mixed = patch[ch]*patches + (1-l.apart)*mixed
			rgb[ch] += (mixed - rgb[ch]) * f.shows
		}
	}
	lines := n.line.across(5*l.u+20, rows) + n.line.across(4.2*l.u+500, rows*0.8+70)
	lines = min(max(lines, -2.2), 2.2)
	shade := v.shade * (1 + 0.085*f.shows*lines)
	lustre := 0.004 * f.shows * max(0, lines)
	return [3]float32{max(0, rgb[0]*shade+lustre), max(0, rgb[1]*shade+lustre), max(0, rgb[2]*shade+lustre)}
}

// samples is how many are taken of a pixel each way, so that edges are soft.
const samples = 2

// DrawStrand draws a stretch of yarn lying across a picture, from a place on, mm; it goes on
// beyond both edges.
func DrawStrand(pic *Picture, s *Strand, from, perMM float64) {
	big := NewPicture(pic.W*samples, pic.H*samples)
	per := perMM * samples
	t := s.stretch(from, float64(pic.W)/perMM, max(2, 1/perMM))
	f := fine{perMM: float32(per) / 1.5, shows: float32(min(1, per*s.radius/3))}
	middle := float64(big.H) / 2
	reach := s.Radius() * 1.8
	var here [3]local
	for x := range big.W {
		along := from + (float64(x)+0.5)/per
		turn := s.at(along, 1)
		for i := range s.plies {
			s.local(t, along, i, &here[i])
		}
		for y := max(0, int(middle-reach*per)); y < min(big.H, int(middle+reach*per)+1); y++ {
			if v, ok := s.see(&turn, along, (float64(y)+0.5-middle)/per); ok {
				c := s.light(&here[v.ply], f, v)
				q := big.Pix[4*(y*big.W+x):][:4]
				q[0], q[1], q[2], q[3] = c[0], c[1], c[2], 1
			}
		}
	}
	s.halo(big, t, from, per)
	pic.shrink(big)
	shade(pic, cast{0.25, 0.5, 0.8, 0.30}, perMM)
}

// mean is the colour of a ply at a place, mm along, so lit.
func (s *Strand) mean(t *stretch, x float64, ply int, lit float32) [3]float32 {
	var l local
	s.local(t, x, ply, &l)
	return s.light(&l, fine{}, seen{shade: lit})
}

// halo draws the fibre that stands off the yarn: loops and ends.
func (s *Strand) halo(pic *Picture, t *stretch, from, per float64) {
	long := float64(pic.W) / per
	first, last := int((from-6)*s.hairs), int((from+long+6)*s.hairs)
	for i := first; i < last; i++ {
		r := unitOf(s.seeds+31, i)
		x := (float64(i) + r.next()) / s.hairs
		side := 1.0
		if r.next() < 0.5 {
			side = -1
		}
		reach := (1 + 4*r.next()*r.next()) * (0.35 + 0.65*s.hairs/woollenHairs)
		lean, end, lit := 2*r.next()-1, 0.15+0.85*r.next(), float32(0.9+0.4*r.next())
		opacity := float32(0.15 + 0.25*r.next())
		if r.next() < 0.35 { // a loop goes back into the yarn
			end = 0
		}
		turn := s.at(x, 1)
		root := s.Radius() * 0.72
		c := s.mean(t, min(max(x, from), from+long), int(3*r.next())%s.plies, lit)
		y0 := turn.axis + side*root
		x1, y1 := x+lean*reach*0.8, y0+side*reach*0.45
		x2, y2 := x+lean*reach*1.6, y0+side*reach*0.5*end
		const bits = 18
		for b := range bits {
			q0, q1 := float64(b)/bits, float64(b+1)/bits
			bend := func(a, m, z, q float64) float64 { return a*(1-q)*(1-q) + 2*m*q*(1-q) + z*q*q }
			fade := float32(min(1, 5*(1-q0)))
			pic.line((bend(x, x1, x2, q0)-from)*per, bend(y0, y1, y2, q0)*per+float64(pic.H)/2, (bend(x, x1, x2, q1)-from)*per,
				bend(y0, y1, y2, q1)*per+float64(pic.H)/2, max(0.03*per, 1), c, opacity*fade)
		}
	}
}
