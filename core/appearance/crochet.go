package appearance

import (
	"context"
	"math"
	"runtime"
	"sync"
)

// Crochet is how a piece is crocheted: in single, half double or double stitches (as they are called where a single is the shortest).
type Crochet string

// The stitches.
const (
	Single     Crochet = "crochet-single"
	HalfDouble Crochet = "crochet-half"
	Double     Crochet = "crochet-double"
)

// hooked is what a stitch is like: its height of its width, the yarn in it of its width, and at which heights of it the yarn is laid
// over on the way up (from 17 × 20, 16 × 14 and 16 × 9 stitches on 10 cm and yarn.md, section 7).
type hooked struct {
	height, yarn float64
	wraps        []float64
}

var hookedAs = map[Crochet]hooked{
	Single: {17.0 / 20, 48 * 17 / 100.0, nil}, HalfDouble: {16.0 / 14, 67 * 16 / 100.0, []float64{0.80}}, Double: {16.0 / 9, 90 * 16 / 100.0, []float64{0.42}},
}

// Crocheted is a piece of crochet, worked round, seen from the front, from below upwards.
type Crocheted struct {
	Swatch
	As Crochet
}

// Size is how large a picture of it is, with so many pixels to the width of a stitch.
func (w Crocheted) Size(perStitch float64) (width, height int) {
	return int(math.Ceil((float64(w.Stitches) + 2*around) * perStitch)),
		int(math.Ceil((float64(w.Rows)*hookedAs[w.As].height + 2*around) * perStitch))
}

// crochet is a piece that is being drawn.
type crochet struct {
	knit
	of hooked
}

// Of the parts of a stitch: the yarn that lies in its posts, the rest being its top; how thick it is drawn, of the width.
const (
	inPosts    = 0.72
	thickHook  = 0.19
	topSpreads = 0.15
)

// DrawCrochet draws a crocheted piece over a picture of its Size. Cancelling ctx ends it within some milliseconds, with ctx's error.
func DrawCrochet(ctx context.Context, pic *Picture, s *Strand, w Crocheted, perStitch float64) error {
	of := hookedAs[w.As]
	k := crochet{of: of, knit: knit{Swatch: w.Swatch, s: s, cell: perStitch * samples, mm: w.StitchMM / of.yarn,
		pic: NewPicture(pic.W*samples, pic.H*samples)}}
	k.t = s.stretch(1000*w.FromM, 1000*w.UsesM(), max(w.StitchMM/6, 2))
	k.f = fine{perMM: float32(k.cell / k.mm), shows: float32(min(max((perStitch-6)/8, 0), 1))}
	k.twist = s.twisted()
	bands := runtime.GOMAXPROCS(0)
	var all sync.WaitGroup
	for b := range bands {
		all.Go(func() { k.bandOf(ctx, k.pic.W*b/bands, k.pic.W*(b+1)/bands) })
	}
	all.Wait()
	if err := ctx.Err(); err != nil {
		return err
	}
	pic.shrink(k.pic)
	shade(pic, cast{0.10, 0.25, 0.35, 0.35}, perStitch)
	return nil
}

// bandOf draws what lies between two columns of the picture, what lies in front first: tops, yarn laid over, posts, and the dark behind.
func (k *crochet) bandOf(ctx context.Context, x0, x1 int) {
	for _, part := range []func(row, n, x0, x1 int){k.top, k.wraps, k.posts, k.behind} {
		for row := -1; row < k.Rows; row++ { // the first is the chain that it begins with
			if ctx.Err() != nil {
				return
			}
			for n := range k.Stitches {
				if x, _ := k.at(row, n); x+1.5*k.cell > float64(x0) && x-1.5*k.cell < float64(x1) {
					part(row, n, x0, x1)
				}
			}
		}
	}
}

// at is the middle of a stitch and its top, in pixels; each row of a round leans half a stitch.
func (k *crochet) at(row, n int) (x, top float64) {
	r := unitOf(k.s.seeds+211, row*10_007+n)
	lean := 0.10 * float64((row+2)%2)
	return (around + float64(n) + 0.5 + lean - 0.05 + 0.05*(2*r.next()-1)) * k.cell,
		(around + float64(k.Rows-1-row)*k.of.height) * k.cell
}

// begins is where the yarn of a stitch begins, mm.
func (k *crochet) begins(row, n int) float64 {
	row = max(row, 0)
	return 1000*k.FromM + float64(row*k.Stitches+n)*k.StitchMM
}

// top is the loop that lies on the edge of a row: two strands that part to the left.
func (k *crochet) top(row, n, x0, x1 int) {
	x, y := k.at(row, n)
	from, w := k.begins(row, n)+inPosts*k.StitchMM, k.cell
	for i, side := range [2]float64{1, -1} {
		k.tube(bow{x + 0.56*w, y + 0.10*w, x - 0.1*w, y + (0.10+1.6*topSpreads*side)*w, x - 0.46*w, y + (0.10+topSpreads*side)*w},
			from+float64(i)*(1-inPosts)/2*k.StitchMM, (1-inPosts)/2*k.StitchMM, 0.92, x0, x1)
	}
}

// wraps is the yarn that was laid over the hook and lies across the post.
func (k *crochet) wraps(row, n, x0, x1 int) {
	if row < 0 {
		return
	}
	x, y := k.at(row, n)
	h, w := k.of.height*k.cell, k.cell
	for _, up := range k.of.wraps {
		at := y + (1-up)*h + 0.1*w
		k.tube(bow{x - 0.36*w, at + 0.26*w, x, at - 0.04*w, x + 0.38*w, at - 0.24*w}, k.begins(row, n)+0.3*k.StitchMM, 0.14*k.StitchMM, 1, x0, x1)
	}
}

// posts are the strands that run from the row below to the top: they lean, and one lies over the other.
func (k *crochet) posts(row, n, x0, x1 int) {
	if row < 0 {
		return
	}
	x, y := k.at(row, n)
	r := unitOf(k.s.seeds+307, row*10_007+n)
	h, w := k.of.height*k.cell, k.cell
	tilt := (0.06 + 0.05*(2*r.next()-1)) * w
	for i, side := range [2]float64{1, -1} {
		k.tube(bow{x + side*0.09*w - tilt, y + h + 0.34*w, x + side*(0.26+0.05*r.next())*w, y + 0.55*h, x + side*0.20*w + tilt, y + 0.02*w},
			k.begins(row, n)+float64(i)*inPosts/2*k.StitchMM, inPosts/2*k.StitchMM, 0.94-0.10*float64(i), x0, x1)
	}
}

// behind fills what lies behind a stitch: the dark of its own yarn.
func (k *crochet) behind(row, n, x0, x1 int) {
	if row < 0 {
		return
	}
	x, top := k.at(row, n)
	var c [3]float32
	for p := range k.s.plies {
		one := k.s.mean(k.t, k.begins(row, n)+k.StitchMM/2, p, 0.24)
		for ch := range c {
			c[ch] += one[ch] / float32(k.s.plies)
		}
	}
	for y := max(0, int(top+0.1*k.cell)); y < min(k.pic.H, int(top+(k.of.height+0.12)*k.cell)+1); y++ {
		for px := max(x0, int(x-0.58*k.cell)); px < min(x1, int(x+0.58*k.cell)+1); px++ {
			if q := k.pic.Pix[4*(y*k.pic.W+px):][:4]; q[3] == 0 {
				q[0], q[1], q[2], q[3] = c[0], c[1], c[2], 1
			}
		}
	}
}

// bow is a strand between two points, over a third, in pixels.
type bow struct{ x0, y0, x1, y1, x2, y2 float64 }

// tube draws yarn along a bow: so many mm of it from a place, lit from above.
func (k *crochet) tube(b bow, from, long, lit float64, x0, x1 int) {
	l := leg{x0: b.x0, y0: b.y0, x1: b.x1, y1: b.y1, x2: b.x2, y2: b.y2}
	way := math.Hypot(b.x1-b.x0, b.y1-b.y0) + math.Hypot(b.x2-b.x1, b.y2-b.y1)
	half := thickHook * k.cell
	steps := max(4, int(2*way))
	var here [3]local
	for i := range steps {
		q := (float64(i) + 0.5) / float64(steps)
		cx, cy, dx, dy := l.at(q)
		if cx+half < float64(x0) || cx-half > float64(x1) {
			continue
		}
		place := from + q*long
		twist := k.twist.at(from + q*way/k.cell*k.mm) // of it as long as it is seen; the rest lies behind
		for p := range k.s.plies {
			k.s.local(k.t, place, p, &here[p])
		}
		e := 2*q - 1
		ends := float32(lit * (1 - 0.30*e*e*e*e))
		for o := -half; o <= half; o += 0.5 {
			x, y := int(cx-dy*o), int(cy+dx*o)
			if x < x0 || x >= x1 || y < 0 || y >= k.pic.H {
				continue
			}
			px := k.pic.Pix[4*(y*k.pic.W+x):][:4]
			if px[3] > 0 {
				continue
			}
			flat := o / (half * 1.001)
			v := twist.see(float32(flat))
			v.shade = (v.shade*k.f.shows + (1-k.f.shows)*0.92) * ends * float32(0.42+0.58*math.Sqrt(1-flat*flat))
			c := k.s.light(&here[v.ply], k.f, v)
			px[0], px[1], px[2], px[3] = c[0], c[1], c[2], 1
		}
	}
}
