package art

import "math"

// TuftHeight is the height of a tuft's picture in px.
const TuftHeight = 44.0

// Tuft draws a lock of fibre, butt on the left, tip on the right, as long as
// the staple.
func Tuft(f Fibre) []byte {
	c := chance(f.Seed*2654435761 + 17)
	switch {
	case f.Prep == "neps" || f.Length < 14:
		return dots(f, &c)
	case f.Family == "sparkle":
		return strips(f, &c)
	}
	w := f.Length
	s := newSVG(w+8, TuftHeight)
	long, high := f.wave()
	phase, bend := c.next()*2*math.Pi, c.spread()*3
	half := TuftHeight/2 - 6 - high
	fibres := 34 + int(w/7)
	// The body first, so that the ground does not shine through.
	for i := range 9 {
		e := float64(i)/4 - 1
		s.curve(f.line(4, e*0.8, half, bend, phase, long, high, 0.02, 0.9, &c), shade(f.pick(float64(i)/9+0.05), 0.62, 0), half/3.4, 0.75)
	}
	for i := range fibres {
		e := 1.12 * (c.next() + c.next() - 1)
		from, to := 0.06*c.next()*c.next(), 0.76+0.24*math.Sqrt(c.next())
		if math.Abs(e) > 0.75 {
			to -= 0.12 * c.next()
		}
		hex := f.pick((float64(i) + c.next()) / float64(fibres))
		light := 0.66 + 0.62*c.next()
		white := 0.0
		if c.next() < 0.22 {
			white = f.gloss()
		}
		s.curve(f.line(4, e, half, bend, phase+0.5*c.spread(), long, high, from, to, &c), shade(hex, light, white), 0.7+0.7*c.next(), 0.95)
	}
	return s.done()
}

// line is one fibre of a tuft: e is its place across, -1 to 1. The tuft is
// held together at the butt, opens, and draws to a pointed tip.
func (f Fibre) line(x0, e, half, bend, phase, long, high, from, to float64, c *chance) []point {
	steps := max(6, int(f.Length*(to-from)/long*3))
	steps = min(steps, 48)
	stray := 0.0
	if c.next() < 0.09 {
		stray = 3 * c.spread()
	}
	out := make([]point, steps+1)
	for i := range out {
		s := from + (to-from)*float64(i)/float64(steps)
		profile := (0.5 + 0.5*math.Min(1, s*5)) * (1 - 0.86*math.Pow(s, 2.2))
		fray := 0.0
		if s < 0.08 {
			fray = e * 2.5 * (1 - s/0.08)
		}
		y := TuftHeight/2 + e*half*profile + fray + bend*math.Sin(math.Pi*s) +
			high*(0.45+0.55*s)*math.Sin(2*math.Pi*f.Length*s/long+phase) + stray*math.Sin(math.Pi*s)
		out[i] = point{x0 + s*f.Length, y}
	}
	return out
}

// dots draws neps and knops: small felted balls.
func dots(f Fibre, c *chance) []byte {
	const w = 64.0
	s := newSVG(w, TuftHeight)
	for i := range 11 {
		r := 2.2 + 2.6*c.next()
		x, y := 8+float64(i%6)*9.5+3*c.spread(), 13+float64(i/6)*16+4*c.spread()
		hex := f.pick(c.next())
		s.WriteString(`<circle cx="` + n1(x+0.8) + `" cy="` + n1(y+1.1) + `" r="` + n1(r) + `" fill="#000" opacity=".18"/>`)
		s.WriteString(`<circle cx="` + n1(x) + `" cy="` + n1(y) + `" r="` + n1(r) + `" fill="` + shade(hex, 0.8, 0) + `"/>`)
		s.WriteString(`<circle cx="` + n1(x-r*0.3) + `" cy="` + n1(y-r*0.35) + `" r="` + n1(r*0.55) + `" fill="` + shade(hex, 1.25, 0.02) + `"/>`)
		for range 4 {
			a := c.next() * 2 * math.Pi
			s.curve(
				[]point{
					{x + r*math.Cos(a), y + r*math.Sin(a)},
					{x + 1.5*r*math.Cos(a+0.4), y + 1.5*r*math.Sin(a+0.4)},
					{x + 1.5*r*math.Cos(a+0.9), y + 1.5*r*math.Sin(a+0.9)},
				},
				shade(hex, 0.9, 0),
				0.6,
				0.7,
			)
		}
	}
	return s.done()
}

// strips draws film: straight flat strips with a few bright facets.
func strips(f Fibre, c *chance) []byte {
	s := newSVG(f.Length+8, TuftHeight)
	for range 17 {
		y := TuftHeight/2 + 13*c.spread()
		slope, from, to := 5*c.spread(), 0.12*c.next(), 0.7+0.3*c.next()
		hex := f.pick(c.next())
		at := func(t float64) point { return point{4 + f.Length*t, y*(1-0.3*t) + 0.3*t*TuftHeight/2 + slope*(t-0.4)} }
		s.curve([]point{at(from), at(to)}, shade(hex, 0.55, 0), 1.3, 0.9)
		for range 2 {
			t := from + (to-from)*c.next()*0.9
			s.curve([]point{at(t), at(math.Min(to, t+0.05+0.07*c.next()))}, shade(hex, 1.3, 0.35), 1.5, 1)
		}
	}
	return s.done()
}
