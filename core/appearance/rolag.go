package appearance

import "math"

// Tube is a rolag that is rolled from the zone of a board between two places along it:
// rolling starts at Core, and what lies at Skin is on its outside. Lengths are mm.
type Tube struct {
	Core, Skin float64
	Draft      float64 // how much longer the fibre is drawn as it is rolled
	Grams      float64
}

// looseness is the grams in a cubic centimetre of a loosely rolled rolag: a choice.
const looseness = 0.035

// Radius is how thick a rolag of so many grams is on a board of that width.
func (t Tube) Radius(widthMM float64) float64 {
	return 10 * math.Sqrt(t.Grams/(math.Pi*widthMM/10*looseness))
}

// Roll draws a rolag lying across a picture: its skin is what was rolled on last, and at
// its right end one sees the spiral from the core outwards. The width of the board
// takes most of the picture's width; two pictures of a size show two rolags at one scale.
func Roll(pic *Picture, s *Sheet, t Tube) {
	if t.Grams <= 0 {
		return
	}
	const room, tilt = 10.0, 0.30 // mm at the ends; how far one looks at the right end
	radius := t.Radius(s.WidthMM)
	per := float64(pic.W) / (s.WidthMM + 2*room)
	k := s.scaled(max(per, 1))
	var p point
	half := math.Pi * radius / t.Draft // of the zone, in sight on the outside
	way := 1.0
	if t.Skin < t.Core {
		way = -1
	}
	for y := range pic.H {
		for x := range pic.W {
			v := (float64(x)+0.5)/per - room
			h := ((float64(y)+0.5)/per - float64(pic.H)/per/2)
			slow, quick := s.waves(float32(t.Skin)+float32(h), float32(v))
			wobble, _ := s.waves(float32(t.Skin)+90, 0.3*float32(v))
			r := radius * (1 + 0.02*float64(wobble))
			q := h / r
			rim := smooth(float32((1-math.Abs(q))*r/0.9 + 0.25*float64(quick)))
			if rim <= 0 {
				continue
			}
			i := 4 * (y*pic.W + x)
			bulge := tilt * r * math.Sqrt(max(0, 1-q*q))
			end := s.WidthMM - tilt*r - v // of the right end's middle
			switch {
			case -end > bulge:
				continue
			case math.Abs(end) <= bulge && s.spiral(pic, i, &p, &k, t, r, -end/(tilt*r), q, rim):
				continue
			}
			fuzz := smooth(float32(v)/5 + 0.4*s.noise.line.across(s.seed+90, float32(h)*1.4+40))
			angle := math.Asin(min(max(q, -1), 1))
			u := t.Skin - way*half*(0.5-angle/math.Pi)
			rgb, cover := s.light(&p, &k, float32(u), float32(v+0.12*radius*angle), slow, quick)
			for deeper := 1; cover < 0.98 && deeper <= 3; deeper++ { // a thin place shows the turn below
				below, more := s.light(&p, &k, float32(u-way*2*half*float64(deeper)), float32(v+0.12*radius*angle), slow, quick)
				all := cover + (1-cover)*more
				for ch := range rgb {
					rgb[ch] = (rgb[ch]*cover + below[ch]*(1-cover)*more) / max(all, 1e-6)
				}
				cover = all
			}
			shade := float32(0.45 + 0.6*math.Sqrt(max(0, 1-q*q)) - 0.12*q)
			pic.over(i/4, rgb[0]*shade, rgb[1]*shade, rgb[2]*shade, rim*fuzz*min(1, 1.5*cover))
		}
	}
	shadow(pic, per)
}

// spiral draws a point of a rolag's end, at parts of its radius to the right and down:
// what lies there was rolled on the later the farther out it is.
func (s *Sheet) spiral(pic *Picture, i int, p *point, k *scale, t Tube, radius, right, down float64, rim float32) bool {
	out := math.Hypot(right, down)
	if out > 1 {
		return false
	}
	long := math.Abs(t.Skin-t.Core) * t.Draft
	turns := long / (math.Pi * radius) // each as thick as the next
	turn := out*turns - math.Atan2(down, right)/(2*math.Pi)
	at := min(max(turn/turns, 0), 1)
	u, v := float32(t.Core+(t.Skin-t.Core)*at*at), float32(s.WidthMM-2+2*down)
	slow, quick := s.waves(u, v)
	rgb, cover := s.light(p, k, u, v, slow, quick)
	if cover <= 0 {
		return false
	}
	gap := math.Abs(turn - math.Round(turn))
	shade := float32(0.62 + 0.3*math.Sqrt(min(1, 4*gap)) - 0.08*down)
	pic.over(i/4, rgb[0]*shade, rgb[1]*shade, rgb[2]*shade, rim)
	return true
}
