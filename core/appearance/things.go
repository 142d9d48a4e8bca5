package appearance

import "math"

// Sort is what a placed thing looks like.
type Sort string

// The sorts of things that lie on a batt as they are.
const (
	Lock  Sort = "lock"
	Glint Sort = "glint" // film and the like: thin strips that flash
	Nep   Sort = "nep"   // felted dots
)

// Thing lies on the face of a sheet, as it was placed.
type Thing struct {
	Sort            Sort
	Component       int
	Along, Across   float64 // mm, where it begins
	Angle           float64 // from the fibre, radians
	LongMM, WideMM  float64
	Grams           float64
	CrimpMM, HighMM float64
	Seed            uint64
	Shows           float64 // 0..1, what lies above hides the rest
}

// filmGPerMM is what a millimetre of a strip of film weighs: a quarter of a millimetre
// wide, some 19 µm thick.
const filmGPerMM = 6.5e-6

// most are how many strips one thing that stands for many is drawn as.
const mostStrips = 6

func (s *Sheet) things(pic *Picture, w Window) {
	for _, t := range s.Things {
		if t.Shows < 0.03 {
			continue
		}
		r := unitOf(t.Seed, 1)
		switch t.Sort {
		case Lock:
			s.lock(pic, w, t, &r)
		case Nep:
			s.nep(pic, w, t, &r)
		default:
			n := int(min(max(t.Grams/(filmGPerMM*18), 1), mostStrips))
			for range n {
				s.glint(pic, w, t, &r)
			}
		}
	}
}

// curve draws a line along the fibre from u0 on: path gives how far aside it lies (mm),
// light what it looks like, both for parts of its length.
func (p *Picture) curve(w Window, u0, long, thick float64, path func(t float64) float64, light func(t float64) ([3]float32, float32)) {
	x0, x1 := (u0-w.U)*w.PerMM, (u0+long-w.U)*w.PerMM
	half := max(thick*w.PerMM, 0.8) / 2
	for x := max(0, int(x0)); x < min(p.W, int(x1)+1); x++ {
		t := (float64(x) + 0.5 - x0) / (x1 - x0)
		if t < 0 || t > 1 {
			continue
		}
		y := (path(t) - w.V) * w.PerMM
		if y < -half || y > float64(p.H)+half {
			continue
		}
		rgb, a := light(t)
		for py := int(math.Floor(y - half)); float64(py) < y+half; py++ {
			if py >= 0 && py < p.H {
				part := min(y+half, float64(py+1)) - max(y-half, float64(py))
				p.over(py*p.W+x, rgb[0], rgb[1], rgb[2], a*float32(part))
			}
		}
	}
}

// glint is a straight strip that dives in and out, and flashes where a facet turns.
func (s *Sheet) glint(pic *Picture, w Window, t Thing, r *unit) {
	c := s.colours[t.Component]
	long := 8 + 22*r.next()
	u := min(max(t.Along+40*(r.next()-0.5), 6), s.LengthMM-long-6)
	v := min(max(t.Across+16*(r.next()-0.5), 2), s.WidthMM-2)
	slope, dive, facet, every := 0.24*r.next()-0.12, 2*math.Pi*r.next(), 2*math.Pi*r.next(), 3+5*r.next()
	bright := float32(0.5 + 0.8*r.next()*r.next())
	pic.curve(w, u, long, 0.25, func(at float64) float64 { return v + slope*long*at }, func(at float64) ([3]float32, float32) {
		mm := at * long
		a := float32(min(max(0.55+0.9*math.Sin(2*math.Pi*mm/11+dive), 0), 1) * min(1, 8*at, 8*(1-at)))
		g := float32(math.Pow(max(0, math.Cos(2*math.Pi*mm/every+facet)), 24)) * bright
		return [3]float32{0.55*c[0] + g*(0.55+0.45*c[0]), 0.55*c[1] + g*(0.55+0.45*c[1]),
			0.55*c[2] + g*(0.55+0.45*c[2])}, a * float32(t.Shows) * (0.45 + 0.55*min(1, g+0.3))
	})
}

// lock is staples that share a rhythm, part at the tip and curl: a soft body first, so
// that the ground does not shine through, then its fibres.
func (s *Sheet) lock(pic *Picture, w Window, t Thing, r *unit) {
	c := s.colours[t.Component]
	turned := r.next() < 0.5
	curl := (2*r.next() - 1) * 0.16 * t.LongMM
	phase := r.next()
	crimp, high := t.CrimpMM, t.HighMM
	if crimp == 0 {
		crimp, high = 60, 1.2
	}
	axis := func(at float64) float64 {
		v := t.Across + math.Tan(t.Angle)*t.LongMM*(at-0.5)
		if at > 0.62 {
			v += curl * (at - 0.62) * (at - 0.62) / 0.1444
		}
		return v
	}
	draw := func(u0, long, thick, aside, from, to, wave, off float64, light [3]float32, a float32) {
		pic.curve(w, u0, long, thick, func(x float64) float64 {
			at := from + (to-from)*x
			if turned {
				at = to - (to-from)*x
			}
			taper := 1 - 0.72*math.Pow(at, 1.5)
			return axis(at) + aside*t.WideMM/2*taper + wave*(0.4+0.6*at)*math.Sin(2*math.Pi*(at*t.LongMM/crimp+phase+off))
		}, func(x float64) ([3]float32, float32) { return light, a * float32(t.Shows*min(1, 9*x, 9*(1-x))) })
	}
	begin := t.Along - t.LongMM/2
	for i := range 9 { // its shadow and its body
		aside := (float64(i) - 4) / 4.5
		draw(begin+0.8, t.LongMM, 0.8, aside+0.15, 0, 1, high, 0, [3]float32{0.01, 0.01, 0.01}, 0.06)
		draw(begin+0.04*t.LongMM, 0.9*t.LongMM, 1.3*t.WideMM/9, aside*0.9, 0.04, 0.94, high, 0, [3]float32{0.75 * c[0], 0.75 * c[1], 0.75 * c[2]}, 0.3)
	}
	const staples, fibres = 4, 26
	for i := range staples {
		middle := (2*float64(i)+1)/staples - 1
		for range fibres {
			from, to := 0.1*r.next()*r.next(), 0.75+0.25*math.Sqrt(r.next())
			shade := float32(0.75 + 0.5*r.next())
			aside := 0.72*middle + 0.34*(r.next()+r.next()-1)
			draw(begin+from*t.LongMM, (to-from)*t.LongMM, 0.12, aside, from, to, high, 0.07*middle+0.06*(r.next()-0.5),
				[3]float32{c[0] * shade, c[1] * shade, c[2] * shade}, float32(0.35+0.5*r.next()))
		}
	}
}

// nep is a felted dot, lit from the upper left.
func (s *Sheet) nep(pic *Picture, w Window, t Thing, r *unit) {
	c := s.colours[t.Component]
	radius := 0.5 * (1 + 1.6*r.next())
	a1, a2 := 2*math.Pi*r.next(), 2*math.Pi*r.next()
	x0, y0 := (t.Along-w.U)*w.PerMM, (t.Across-w.V)*w.PerMM
	reach := int(radius*1.5*w.PerMM) + 2
	for y := int(y0) - reach; y <= int(y0)+reach; y++ {
		for x := int(x0) - reach; x <= int(x0)+reach; x++ {
			if x < 0 || y < 0 || x >= pic.W || y >= pic.H {
				continue
			}
			dx, dy := (float64(x)+0.5-x0)/w.PerMM, (float64(y)+0.5-y0)/w.PerMM
			turn := math.Atan2(dy, dx)
			edge := radius * (1 + 0.14*math.Sin(2*turn+a1) + 0.09*math.Sin(3*turn+a2))
			q := math.Hypot(dx, dy) / edge
			if q > 1.15 {
				continue
			}
			up := math.Sqrt(max(0, 1-q*q))
			light := float32(0.62 + 0.42*(0.75*up-0.45*dx/edge-0.5*dy/edge))
			pic.over(y*pic.W+x, c[0]*light, c[1]*light, c[2]*light, float32(t.Shows)*smooth(float32((1.1-q)*radius*w.PerMM/1.5)))
		}
	}
}
