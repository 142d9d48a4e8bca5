package appearance

import (
	"context"
	"math"
	"runtime"
	"sync"
)

// Swatch is a piece of stocking stitch. Rows are worked from below, to and fro.
type Swatch struct {
	Stitches, Rows int
	StitchMM       float64 // of yarn in a stitch
	FromM          float64 // of the yarn at the first stitch
}

// UsesM is the yarn in it, m.
func (w Swatch) UsesM() float64 { return float64(w.Stitches*w.Rows) * w.StitchMM / 1000 }

// What a stitch measures: its width is so much of the yarn in it, and its height of that.
const (
	widthOf  = 1.0 / 4
	heightOf = 0.8
)

// showsTwist is the part of the twist of a stitch that is seen from the front; the rest lies behind.
const showsTwist = 0.65

// The room around a swatch in stitches, for its edges and its loose fibres.
const around = 1.0

// Size is how large a picture of it is, with so many pixels to the width of a stitch.
func (w Swatch) Size(perStitch float64) (width, height int) {
	return int(math.Ceil((float64(w.Stitches) + 2*around) * perStitch)), int(math.Ceil((float64(w.Rows)*heightOf + 2*around) * perStitch))
}

// knit is a swatch that is being drawn.
type knit struct {
	Swatch
	s    *Strand
	t    *stretch
	f    fine
	pic  *Picture
	cell float64 // pixels, of a stitch's width
	mm   float64 // of a stitch's width

	twist *twisted
}

// band draws the stitches between two columns of the picture, what lies in front first.
func (k *knit) band(ctx context.Context, x0, x1 int) {
	for row := k.Rows - 1; row >= 0 && ctx.Err() == nil; row-- {
		for n := range k.Stitches {
			k.stitch(row, n, x0, x1)
		}
	}
	k.ground(ctx, x0, x1)
}

// DrawSwatch draws a piece knitted of a yarn over a picture of its Size. Cancelling ctx ends it within
// some milliseconds, with ctx's error.
func DrawSwatch(ctx context.Context, pic *Picture, s *Strand, w Swatch, perStitch float64) error {
	k := knit{Swatch: w, s: s, cell: perStitch * samples, mm: w.StitchMM * widthOf, pic: NewPicture(pic.W*samples, pic.H*samples)}
	k.t = s.stretch(1000*w.FromM, 1000*w.UsesM(), max(w.StitchMM/3, 2))
	// What is finer than a pixel is left out, rather than shown as a flicker.
	k.f = fine{perMM: float32(k.cell / k.mm), shows: float32(min(max((perStitch-6)/8, 0), 1))}
	k.twist = s.twisted()
	bands := runtime.GOMAXPROCS(0)
	var all sync.WaitGroup
	for b := range bands {
		all.Go(func() { k.band(ctx, k.pic.W*b/bands, k.pic.W*(b+1)/bands) })
	}
	all.Wait()
	k.fuzz(ctx)
	if err := ctx.Err(); err != nil {
		return err
	}
	pic.shrink(k.pic)
	shade(pic, cast{0.10, 0.25, 0.35, 0.35}, perStitch)
	return nil
}

// place is the middle of a stitch and the top of its cell, in pixels. Stitches at an edge turn
// with the rows, so that it is knotted every second one.
func (k *knit) place(row, n int) (x, top float64) {
	x = (around + float64(n) + 0.5) * k.cell
	switch n {
	case 0:
		x += (0.10*float64(row%2) + 0.02) * k.cell
	case k.Stitches - 1:
		x -= (0.10*float64((row+1)%2) + 0.02) * k.cell
	}
	return x, (around + float64(k.Rows-1-row)*heightOf) * k.cell
}

// yarn is where the yarn of a stitch begins, mm.
func (k *knit) yarn(row, n int) float64 {
	if row%2 == 1 {
		n = k.Stitches - 1 - n
	}
	return 1000*k.FromM + float64(row*k.Stitches+n)*k.StitchMM
}

// ground fills what lies behind the stitches: the dark of their own yarn.
func (k *knit) ground(ctx context.Context, x0, x1 int) {
	for row := range k.Rows {
		if ctx.Err() != nil {
			return
		}
		for n := range k.Stitches {
			x, top := k.place(row, n)
			at := k.yarn(row, n) + k.StitchMM/2
			var c [3]float32
			for p := range k.s.plies {
				one := k.s.mean(k.t, at, p, 0.26)
				for ch := range c {
					c[ch] += one[ch] / float32(k.s.plies)
				}
			}
			left, right := x-k.cell*0.5, x+k.cell*0.5
			if n == 0 {
				left += 0.14 * k.cell
			}
			if n == k.Stitches-1 {
				right -= 0.14 * k.cell
			}
			from, to := top+0.25*k.cell, top+(heightOf+0.45)*k.cell
			if row == 0 {
				to = top + 0.9*k.cell
			}
			for y := int(from); y < min(k.pic.H, int(to)+1); y++ {
				for px := max(x0, int(left)); px < min(x1, int(right)+1); px++ {
					if q := k.pic.Pix[4*(y*k.pic.W+px):][:4]; q[3] == 0 {
						q[0], q[1], q[2], q[3] = c[0], c[1], c[2], 1
					}
				}
			}
		}
	}
}

// leg is one side of a stitch: a bow from its foot, inside the stitch below, up and out to where
// it bends back behind the stitch above.
type leg struct {
	x0, y0, x1, y1, x2, y2 float64 // foot, middle, head, in pixels
	half                   float64 // its width at the thickest
}

// at is a place along the leg, 0 at the foot, and which way it runs there.
func (l leg) at(q float64) (x, y, dx, dy float64) {
	a, b, c := (1-q)*(1-q), 2*q*(1-q), q*q
	x, y = a*l.x0+b*l.x1+c*l.x2, a*l.y0+b*l.y1+c*l.y2
	dx, dy = 2*(1-q)*(l.x1-l.x0)+2*q*(l.x2-l.x1), 2*(1-q)*(l.y1-l.y0)+2*q*(l.y2-l.y1)
	long := math.Hypot(dx, dy)
	return x, y, dx / long, dy / long
}

// stitch draws one: its two legs, the first the one that the yarn comes from.
func (k *knit) stitch(row, n, x0, x1 int) {
	r := unitOf(k.s.seeds+71, row*10_007+n)
	jitter := func() float64 { return 1 + 0.04*(2*r.next()-1) }
	wide, high, tilt := k.cell*jitter(), k.cell*heightOf*jitter(), 0.04*(2*r.next()-1)*k.cell
	x, top := k.place(row, n)
	if x+k.cell < float64(x0) || x-k.cell > float64(x1) {
		return
	}
	for second := range 2 {
		side := float64(2*second - 1) // left first, where the row is worked to the right
		if row%2 == 1 {
			side = -side
		}
		l := leg{
			x0: x + side*0.07*wide - tilt, y0: top + 1.42*high,
			x1: x + side*0.30*wide, y1: top + 0.86*high,
			x2: x + side*0.43*wide + tilt, y2: top + 0.02*high, half: 0.285 * wide,
		}
		k.leg(l, k.yarn(row, n)+float64(second)*k.StitchMM/2, second == 1, x0, x1)
	}
}

// leg draws one side of a stitch, whose yarn begins at a place, mm, at its foot, or, down, at its
// head.
func (k *knit) leg(l leg, from float64, down bool, x0, x1 int) {
	var here [3]local
	y0, y1 := max(0, int(l.y2-2)), min(k.pic.H-1, int(l.y0+2))
	for y := y0; y <= y1; y++ {
		q := k.solve(l, float64(y)+0.5)
		cx, _, _, dy := l.at(q)
		e := (2*q - 1) / 1.03
		if e <= -1 || e >= 1 {
			continue
		}
		half := l.half * math.Pow(1-e*e, 0.42)
		reach := half / max(math.Abs(dy), 0.2)
		part, sense := q, 1.0
		if down { // turned by half a turn
			part, sense = 1-q, -1
		}
		along := from + part*k.StitchMM/2
		twist := k.twist.at(from + part*k.StitchMM/2*showsTwist)
		dim := float32(1 - 0.38*e*e*e*e)
		if e < 0 { // its foot comes from under the stitch below
			dim *= float32(1 - 0.25*e*e)
		}
		slant := math.Abs(dy) / half
		for i := range k.s.plies {
			k.s.local(k.t, along, i, &here[i])
		}
		for px := max(x0, int(cx-reach)); px <= min(x1-1, int(cx+reach)); px++ {
			flat := (float64(px) + 0.5 - cx) * slant // -1..1, to the right
			q := k.pic.Pix[4*(y*k.pic.W+px):][:4]
			if q[3] > 0 || flat <= -1 || flat >= 1 {
				continue
			}
			v := twist.see(float32(flat * sense))
			v.shade = (v.shade*k.f.shows + (1-k.f.shows)*0.92) * dim * float32(0.42+0.58*math.Sqrt(1-flat*flat))
			c := k.s.light(&here[v.ply], k.f, v)
			q[0], q[1], q[2], q[3] = c[0], c[1], c[2], 1
		}
	}
}

// solve finds the place along a leg at a height of the picture; a leg runs down all its way.
func (k *knit) solve(l leg, y float64) float64 {
	a, b, c := l.y0-2*l.y1+l.y2, 2*(l.y1-l.y0), l.y0-y
	if math.Abs(a) < 1e-9 {
		return -c / b
	}
	root := math.Sqrt(max(0, b*b-4*a*c))
	return min(max(2*c/(-b+root), 0), 1)
}

// fuzz draws the loose fibre over all of it.
func (k *knit) fuzz(ctx context.Context) {
	n := int(float64(k.Stitches*k.Rows) * 1.2 * k.s.hairs / woollenHairs)
	for i := range n {
		if i%256 == 0 && ctx.Err() != nil {
			return
		}
		r := unitOf(k.s.seeds+113, i)
		row, col := int(r.next()*float64(k.Rows)), int(r.next()*float64(k.Stitches))
		x, top := k.place(row, col)
		c := k.s.mean(k.t, k.yarn(row, col), int(3*r.next())%k.s.plies, float32(0.85+0.4*r.next()))
		x, y := x+(r.next()-0.5)*k.cell, top+r.next()*k.cell
		a, long, bend := 2*math.Pi*r.next(), (0.5+1.3*r.next())*k.cell, (2*r.next()-1)*1.8
		opacity := float32(0.10 + 0.22*r.next())
		const bits = 10
		for range bits {
			nx, ny := x+math.Cos(a)*long/bits, y+math.Sin(a)*long/bits
			k.pic.line(x, y, nx, ny, max(0.03*k.cell/k.mm, 1), c, opacity)
			x, y, a = nx, ny, a+bend/bits
		}
	}
}
