package appearance

import "math"

// Window is a part of a sheet: the millimetres at its upper left corner, along and
// across, and how many pixels a millimetre takes.
type Window struct{ U, V, PerMM float64 }

// Whole is the window that shows all of a sheet in the middle of a picture, with room
// for its loose fibres and its shadow.
func (s *Sheet) Whole(w, h int) Window {
	const room = 14.0 // mm
	per := min(float64(w)/(s.LengthMM+2*room), float64(h)/(s.WidthMM+2*room))
	return Window{(s.LengthMM - float64(w)/per) / 2, (s.WidthMM - float64(h)/per) / 2, per}
}

// stride is how far apart the waves are looked at, in pixels; between, they are
// interpolated.
const stride = 8

// Draw draws a window of a sheet: its shadow, the sheet, and the loose fibres on it.
func Draw(pic *Picture, s *Sheet, w Window) {
	k := s.scaled(w.PerMM)
	var p point
	n := pic.W/stride + 2
	waves := make([]float32, 2*n)
	for y := range pic.H {
		v := float32(w.V + (float64(y)+0.5)/w.PerMM)
		for i := range n {
			u := float32(w.U + (float64(i*stride)+0.5)/w.PerMM)
			waves[2*i], waves[2*i+1] = s.waves(u, v)
		}
		for x := range pic.W {
			u := float32(w.U + (float64(x)+0.5)/w.PerMM)
			i, f := x/stride, float32(x%stride)/stride
			slow := waves[2*i] + (waves[2*i+2]-waves[2*i])*f
			quick := waves[2*i+1] + (waves[2*i+3]-waves[2*i+1])*f
			there := s.edge(u, v, slow, quick, k.rows)
			if there <= 0 {
				continue
			}
			rgb, cover := s.light(&p, &k, u, v, slow, quick)
			thick := s.thick(v)
			q := pic.Pix[4*(y*pic.W+x):][:4]
			q[0], q[1], q[2], q[3] = rgb[0]*thick, rgb[1]*thick, rgb[2]*thick, there*cover
		}
	}
	s.things(pic, w)
	s.hairs(pic, w)
	shadow(pic, w.PerMM)
}

// edge is how much there is at a place near the ends and the sides: single fibres end
// where the batt was parted, the sides are tidier.
func (s *Sheet) edge(u, v, slow, quick, rows float32) float32 {
	long, wide := float32(s.LengthMM), float32(s.WidthMM)
	if u < -6 || u > long+6 || v < -4 || v > wide+4 {
		return 0
	}
	side := min(v, wide-v) + 0.9*slow + 0.5*quick - 0.4
	out := smooth(side / 4)
	if out == 0 {
		return 0
	}
	near, end := u, float32(0)
	if long-u < u {
		near, end = long-u, 301
	}
	if near < 45 {
		t := s.noise.line
		fibre := t.across(s.seed+end, v*1.3*rows+end)
		tuft := t.across(s.seed+end+90, v*0.45+end)
		out *= smooth((near - 6 - 5*fibre - 2.5*tuft - 2*slow) / 18)
	}
	return out
}

// thick is the shade of the sides, where the sheet falls off.
func (s *Sheet) thick(v float32) float32 {
	const round = 14
	y := min(v, float32(s.WidthMM)-v)
	if y >= round {
		return 1
	}
	y = 1 - max(y, 0)/round
	return 0.80 + 0.20*float32(math.Sqrt(float64(1-y*y)))
}

func smooth(t float32) float32 {
	t = min(max(t, 0), 1)
	return t * t * (3 - 2*t)
}

// hair is one loose fibre, drawn as a curve over what lies along it.
type hair struct {
	u, v, long, slope, bend float64 // mm; bend is how far its middle lies aside
	light, opacity          float32
	thick                   float64 // mm
	pick                    float32 // 0..1, of which component; 0: of the mix
	wave, phase, apart      float64 // its crimp: how much, where it begins, and how long beside the usual
}

// usualHairs is how many loose fibres there are on a sheet of 600 × 200 mm.
const usualHairs = 1500

// hairs draws the loose fibres: along the sides, at the ends, some on the face; under a
// loupe more of them.
func (s *Sheet) hairs(pic *Picture, w Window) {
	n := int(usualHairs * s.LengthMM * s.WidthMM / 120_000)
	for i := range n {
		h := s.hair(i, n)
		s.stroke(pic, w, h)
	}
	if w.PerMM >= 4 {
		s.loft(pic, w)
	}
}

// unit are random numbers of an item, from 0 up to 1.
type unit uint64

func unitOf(seed uint64, item int) unit {
	return unit(seed*0xD1342543DE82EF95 + uint64(item+1)*0x9E3779B97F4A7C15)
}

func (r *unit) next() float64 {
	*r += 0x9E3779B97F4A7C15
	z := uint64(*r)
	z = (z ^ z>>30) * 0xBF58476D1CE4E5B9
	z = (z ^ z>>27) * 0x94D049BB133111EB
	return float64((z^z>>31)>>11) / (1 << 53)
}

func (s *Sheet) hair(i, n int) hair {
	r := unitOf(s.seeds, i)
	h := hair{
		u: r.next() * s.LengthMM, v: r.next() * s.WidthMM, long: 15 + 40*r.next(), slope: 0.3*r.next() - 0.15, light: float32(0.9 + 0.35*r.next()),
		opacity: float32(0.12 + 0.3*r.next()), thick: 0.03 + 0.02*r.next(),
	}
	h.bend = 0.06 * h.long * (2*r.next() - 1)
	place, out := float64(i)/float64(n), 0.25*r.next()-0.06
	switch {
	case place < 0.25:
		h.v, h.slope = 1+3*r.next(), -out
	case place < 0.5:
		h.v, h.slope = s.WidthMM-1-3*r.next(), out
	case place < 0.667:
		h.u = 22*r.next() - 0.35*h.long
	case place < 0.833:
		h.u = s.LengthMM - 22*r.next() - 0.65*h.long
	}
	return h
}

// loft draws fibres that stand off the face: in each bit of it the same ones, however
// it is looked at.
func (s *Sheet) loft(pic *Picture, w Window) {
	const long, wide = 9.0, 1.1 // mm to a fibre
	u1, v1 := w.U+float64(pic.W)/w.PerMM, w.V+float64(pic.H)/w.PerMM
	for a := int(math.Floor(max(w.U-40, 0) / long)); float64(a)*long < min(u1, s.LengthMM); a++ {
		for c := int(math.Floor(max(w.V-6, 0) / wide)); float64(c)*wide < min(v1+6, s.WidthMM); c++ {
			r := unitOf(s.seeds+7919, a*100_003+c)
			h := hair{
				u: (float64(a) + r.next()) * long, v: (float64(c) + r.next()) * wide, long: 12 + 24*r.next(), slope: 0.42*r.next() - 0.21,
				light: float32(0.9 + 0.35*r.next()), opacity: float32(0.13 + 0.22*r.next()), thick: 0.025, pick: float32(1e-3 + r.next()),
				wave: 0.35 + 0.9*r.next(), phase: r.next(), apart: 0.8 + 0.5*r.next(),
			}
			h.bend = 0.1 * h.long * (2*r.next() - 1)
			dark := h
			dark.v, dark.light, dark.opacity = h.v+0.12, 0.45, 0.35*h.opacity
			s.stroke(pic, w, dark)
			s.stroke(pic, w, h)
		}
	}
}

// stroke draws a hair column by column: continuous, and as wide as it is.
func (s *Sheet) stroke(pic *Picture, w Window, h hair) {
	x0, x1 := (h.u-w.U)*w.PerMM, (h.u+h.long-w.U)*w.PerMM
	if x1 < 0 || x0 > float64(pic.W) {
		return
	}
	if y := (h.v - w.V) * w.PerMM; y < -20*w.PerMM || y > float64(pic.H)+20*w.PerMM {
		return
	}
	rgb, ok := s.colourNear(h.u+h.long/2, h.v, h.pick)
	if !ok {
		return
	}
	width := max(h.thick*w.PerMM, 0.8)
	strong := h.opacity * float32(min(1, h.thick*w.PerMM/0.8+0.55))
	wave := h.wave * float64(s.crimp.high) * min(max((w.PerMM-2)/2, 0), 1)
	for x := max(0, int(x0)); x < min(pic.W, int(x1)+1); x++ {
		t := (float64(x) + 0.5 - x0) / (x1 - x0)
		if t < 0 || t > 1 {
			continue
		}
		v := h.v + h.slope*h.long*(t-0.5) + h.bend*4*t*(1-t)
		if wave > 0 {
			v += wave * math.Sin(2*math.Pi*(t*h.long/(float64(s.crimp.long)*h.apart)+h.phase)) * (0.6 + 0.4*math.Sin(7*t+6*h.phase))
		}
		y := (v - w.V) * w.PerMM
		a := strong * float32(min(1, 6*t, 6*(1-t)))
		lean := width * 0.5
		for py := int(math.Floor(y - lean)); float64(py) < y+lean; py++ {
			if py < 0 || py >= pic.H {
				continue
			}
			part := min(y+lean, float64(py+1)) - max(y-lean, float64(py))
			pic.over(py*pic.W+x, rgb[0]*h.light, rgb[1]*h.light, rgb[2]*h.light, a*float32(part))
		}
	}
}

// colourNear is the colour of a fibre about a place: of the mix, or of the component
// that a part of what lies there falls to.
func (s *Sheet) colourNear(u, v float64, pick float32) (rgb [3]float32, ok bool) {
	var p point
	u, v = min(max(u, 0), s.LengthMM), min(max(v, 0), s.WidthMM)
	s.at(&p, float32(u*float64(s.view.Cells)/s.LengthMM)-0.5, float32(v*float64(s.view.Lanes)/s.WidthMM)-0.5)
	if pick > 0 {
		for i := range p.n {
			if pick -= p.share[i]; pick <= 0 || i == p.n-1 {
				return s.colours[p.which[i]], true
			}
		}
	}
	return p.even, p.n > 0
}

// cast is how a shadow lies: so far to the right and down, and how soft, mm; and how dark.
type cast struct{ right, down, soft, dark float64 }

// shadow lays what the sheet shades of the ground under it, to its lower right, soft.
func shadow(pic *Picture, perMM float64) { shade(pic, cast{2, 4, 3, 0.35}, perMM) }

func shade(pic *Picture, s cast, perMM float64) {
	dx, dy := int(math.Round(s.right*perMM)), int(math.Round(s.down*perMM))
	alpha := make([]float32, pic.W*pic.H)
	for y := range pic.H {
		for x := range pic.W {
			if sx, sy := x-dx, y-dy; sx >= 0 && sy >= 0 {
				alpha[y*pic.W+x] = pic.Pix[4*(sy*pic.W+sx)+3]
			}
		}
	}
	n := int(math.Round(s.soft*perMM)) | 1
	dark := float32(s.dark)
	for range 2 {
		blur(alpha, pic.H, pic.W, pic.W, 1, n)
		blur(alpha, pic.W, pic.H, 1, pic.W, n)
	}
	for i, a := range alpha {
		q := pic.Pix[4*i : 4*i+4]
		under := a * dark * (1 - q[3])
		all := q[3] + under
		if all <= 0 {
			continue
		}
		q[0], q[1], q[2], q[3] = (q[0]*q[3]+0.010*under)/all, (q[1]*q[3]+0.008*under)/all, (q[2]*q[3]+0.006*under)/all, all
	}
}

// blur replaces values by the mean of n around them, along lines of samples.
func blur(v []float32, lines, samples, stride, step, n int) {
	half := n / 2
	old := make([]float32, samples)
	for l := range lines {
		at := l * stride
		var sum float32
		for i := range samples {
			old[i] = v[at+i*step]
		}
		for i := range min(half, samples) {
			sum += old[i]
		}
		for i := range samples {
			if i+half < samples {
				sum += old[i+half]
			}
			if i-half-1 >= 0 {
				sum -= old[i-half-1]
			}
			v[at+i*step] = sum / float32(n)
		}
	}
}
