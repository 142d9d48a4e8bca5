package photo

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Look is what a photo of a batt shows of its look.
type Look struct {
	Mean      colour.Linear
	MeanError float64 // CIEDE2000, of the mean within the picture
	// Patch is the difference of two patches of 5 mm picked at random, RMS CIEDE2000, with
	// the shading of light and loft and the texture of single fibres taken off; Low and High are
	// from where to where it lies, 9 times of 10.
	Patch, Low, High float64
	Texture          float64 // what was taken off for texture, CIEDE2000
	Shade            float64 // how much darker one end of the fibre was lit, part
	Angle            float64 // of the fibre, degrees from the horizontal
	Patches          int
	Sure             bool // the range is narrow enough to tell a look
}

// PatchMM is the side of a patch.
const PatchMM = 5.0

// Bounds of a reading.
const (
	localMM       = 10.0
	columnMM      = 0.625 // a patch is eight columns
	columns       = 8
	leastPerMM    = 2.5
	leastAcross   = 30.0
	leastAlong    = 40.0
	leastOriented = 0.08
	mostShade     = 0.6
	surely        = 1.5 // CIEDE2000: a wider range tells no look
	within90      = 1.645
)

// Look reads the look of a batt from an area of a photo, in which a millimetre is so many
// pixels. It finds the direction of the fibre by itself. Each patch is read twice, from
// every second column of it: what both readings share is the patch, what they do not is the
// texture of fibres and the noise of the camera (D² = mean of a² + b² − c², with a and b the
// differences of the two readings from the place where the patch lies, c that between them).
func (p *Picture) Look(area Area, perMM float64, b Balance) (Look, error) {
	if !(perMM >= leastPerMM) {
		return Look{}, fault.New("length", "A millimetre is only %.1f pixels in this photo; at least %.1f are needed. Take it from nearer.", perMM, leastPerMM)
	}
	f, err := p.frame(area, perMM)
	if err != nil {
		return Look{}, err
	}
	if err := p.fill(f, b); err != nil {
		return Look{}, err
	}
	out := Look{Angle: f.angle * 180 / math.Pi, Shade: f.unshade()}
	if out.Shade > mostShade {
		return out, fault.New("area", "One end of it is lit too differently from the other. Take the photo in even light.")
	}
	f.measure(&out)
	if out.Patches < 30 {
		return out, fault.New("area", "Too few patches of %s lie in this area. Choose a larger one.", unit.Millimetres(PatchMM))
	}
	return out, nil
}

// frame is an area turned so that the fibre runs along it: columns of fibre, and patches.
type frame struct {
	x0, y0, x1, y1 int
	angle          float64 // of the fibre
	cos, sin       float64
	cx, cy, perMM  float64
	along, across  int // patches
	sums           []colour.Linear
	counts         []float64 // of each column in each row of patches
}

// frame lays a frame over an area.
func (p *Picture) frame(a Area, perMM float64) (*frame, error) {
	at := func(v float64, n int) int { return int(math.Round(min(max(v, 0), 1) * float64(n))) }
	f := &frame{x0: at(a.X0, p.W), x1: at(a.X1, p.W), y0: at(a.Y0, p.H), y1: at(a.Y1, p.H), perMM: perMM}
	if f.x1-f.x0 < 20 || f.y1-f.y0 < 20 {
		return nil, fault.New("area", "Mark the part of the photo that shows the batt.")
	}
	oriented := p.direct(f)
	if oriented < leastOriented {
		return nil, fault.New("area", "No direction of the fibre is to be seen here, so streaks can not be told from anything else.")
	}
	f.cos, f.sin = math.Cos(f.angle), math.Sin(f.angle)
	f.cx, f.cy = float64(f.x0+f.x1)/2, float64(f.y0+f.y1)/2
	// The largest frame of the area's own proportions that lies in it when turned.
	w, h := float64(f.x1-f.x0), float64(f.y1-f.y0)
	c, s := math.Abs(f.cos), math.Abs(f.sin)
	long, wide := w, h
	if s > c {
		long, wide = h, w
	}
	k := min(w/(long*c+wide*s), h/(long*s+wide*c))
	long, wide = long*k/perMM, wide*k/perMM
	f.along, f.across = int(long/PatchMM), int(wide/PatchMM)
	if long < leastAlong || wide < leastAcross {
		return nil, fault.New("area", "The part that is marked shows %s by %s of fibre; %s by %s are needed.",
			unit.Millimetres(math.Round(long)), unit.Millimetres(math.Round(wide)), unit.Millimetres(leastAlong), unit.Millimetres(leastAcross))
	}
	f.sums, f.counts = make([]colour.Linear, f.along*f.across*columns), make([]float64, f.along*f.across*columns)
	return f, nil
}

// direct finds the direction of the fibre: along it lightness changes least (the structure
// tensor; Bigün and Granlund 1987, cited from memory). It returns how clear that is, 0 to 1.
func (p *Picture) direct(f *frame) float64 {
	w, h := (f.x1-f.x0)/2, (f.y1-f.y0)/2
	light := make([]float64, w*h) // of two by two pixels
	for y := range h {
		for x := range w {
			for i := range 4 {
				q := p.Pix[3*((f.y0+2*y+i/2)*p.W+f.x0+2*x+i%2):]
				light[y*w+x] += 0.2126*linear[q[0]] + 0.7152*linear[q[1]] + 0.0722*linear[q[2]]
			}
		}
	}
	var xx, yy, xy float64
	for y := 1; y < h-1; y++ {
		for x := 1; x < w-1; x++ { // Scharr's operator, which favours no direction
			at := func(dx, dy int) float64 { return light[(y+dy)*w+x+dx] }
			dx := 3*(at(1, -1)-at(-1, -1)) + 10*(at(1, 0)-at(-1, 0)) + 3*(at(1, 1)-at(-1, 1))
			dy := 3*(at(-1, 1)-at(-1, -1)) + 10*(at(0, 1)-at(0, -1)) + 3*(at(1, 1)-at(1, -1))
			xx, yy, xy = xx+dx*dx, yy+dy*dy, xy+dx*dy
		}
	}
	f.angle = 0.5*math.Atan2(2*xy, xx-yy) + math.Pi/2 // across it light changes most
	if f.angle > math.Pi/2 {
		f.angle -= math.Pi
	}
	if xx+yy == 0 {
		return 1 // one colour all over: any direction will do
	}
	return math.Hypot(xx-yy, 2*xy) / (xx + yy)
}

// fill sums the pixels up by column and row of patches.
func (p *Picture) fill(f *frame, b Balance) error {
	var clipped, all int
	for y := f.y0; y < f.y1; y++ {
		for x := f.x0; x < f.x1; x++ {
			dx, dy := (float64(x)+0.5-f.cx)/f.perMM, (float64(y)+0.5-f.cy)/f.perMM
			u := dx*f.cos + dy*f.sin + PatchMM*float64(f.along)/2
			v := -dx*f.sin + dy*f.cos + PatchMM*float64(f.across)/2
			i, j := int(math.Floor(u/PatchMM)), int(math.Floor(v/columnMM))
			if i < 0 || j < 0 || i >= f.along || j >= f.across*columns {
				continue
			}
			q := p.Pix[3*(y*p.W+x):]
			all++
			if max(q[0], q[1], q[2]) >= 254 || max(q[0], q[1], q[2]) <= 1 {
				clipped++
			}
			c := b.apply(colour.Linear{linear[q[0]], linear[q[1]], linear[q[2]]})
			at := i*f.across*columns + j
			for ch := range c {
				f.sums[at][ch] += c[ch]
			}
			f.counts[at]++
		}
	}
	if float64(clipped) > clippedMost*float64(all) {
		return fault.New("area", "%.0f %% of this is brighter or darker than the picture can show. Take it with less or more light.",
			100*float64(clipped)/float64(all))
	}
	return nil
}

// patch is the mean of the columns of a patch that are chosen.
func (f *frame) patch(i, k int, chosen func(column int) bool) (m colour.Linear, n float64) {
	for c := range columns {
		at := i*f.across*columns + k*columns + c
		if !chosen(c) || f.counts[at] == 0 {
			continue
		}
		for ch := range m {
			m[ch] += f.sums[at][ch]
		}
		n += f.counts[at]
	}
	for ch := range m {
		m[ch] /= max(n, 1)
	}
	return m, n
}

func every(int) bool { return true }

// unshade takes off how the light changes along the fibre: a smooth curve through the
// lightness of the rows of patches, turned a little from side to side. Across the fibre it
// stays, as colours may change there; the local mean takes it off. It returns the part by
// which the darkest end was darker.
func (f *frame) unshade() float64 {
	const terms = 3 // u, u², uv
	var a [terms + 1][terms + 2]float64
	var squares float64
	row := func(i, k int) [terms + 1]float64 {
		u, v := 2*(float64(i)+0.5)/float64(f.along)-1, 2*(float64(k)+0.5)/float64(f.across)-1
		return [terms + 1]float64{u, u * u, u * v, 1}
	}
	for i := range f.along {
		for k := range f.across {
			m, n := f.patch(i, k, every)
			if y := m.XYZ()[1]; n > 0 && y > 0 {
				r := row(i, k)
				for p := range r {
					for q := range r {
						a[p][q] += r[p] * r[q]
					}
					a[p][terms+1] += r[p] * math.Log(y)
				}
				squares += math.Log(y) * math.Log(y)
			}
		}
	}
	k := shrink(a, solve(a), squares)
	low, high := math.Inf(1), math.Inf(-1)
	for i := range f.along {
		for x := range f.across {
			r := row(i, x)
			s := k[0]*r[0] + k[1]*(r[1]-1.0/3) + k[2]*r[2]
			low, high = min(low, s), max(high, s)
			by := math.Exp(-s)
			for c := range columns {
				at := i*f.across*columns + x*columns + c
				for ch := range f.sums[at] {
					f.sums[at][ch] *= by
				}
			}
		}
	}
	return 1 - math.Exp(low-high)
}

// shrink takes of a fitted curve what stands out of the patches' own differences: streaks
// that happen to lie more at one end are no shade. squares is the sum of the squared values
// that it was fitted to.
func shrink(a [4][5]float64, k [4]float64, squares float64) [4]float64 {
	n, rest := a[3][3], squares
	for i := range k {
		rest -= k[i] * a[i][4]
	}
	for i := range 3 {
		var e [4][5]float64
		for r := range e {
			copy(e[r][:4], a[r][:4])
		}
		e[i][4] = 1
		err := max(0, rest) / max(n, 1) * solve(e)[i] * alike
		if k[i] != 0 {
			k[i] *= max(0, 1-err/(k[i]*k[i]))
		}
	}
	return k
}

// solve solves a small linear system by elimination; what is not determined is 0.
func solve(a [4][5]float64) (out [4]float64) {
	for i := range 4 {
		best := i
		for j := i; j < 4; j++ {
			if math.Abs(a[j][i]) > math.Abs(a[best][i]) {
				best = j
			}
		}
		a[i], a[best] = a[best], a[i]
		if math.Abs(a[i][i]) < 1e-12 {
			continue
		}
		for j := range 4 {
			if j != i {
				by := a[j][i] / a[i][i]
				for c := range 5 {
					a[j][c] -= by * a[i][c]
				}
			}
		}
	}
	for i := range 4 {
		if math.Abs(a[i][i]) >= 1e-12 {
			out[i] = a[i][4] / a[i][i]
		}
	}
	return out
}

// measure works out the mean and the differences of patches.
func (f *frame) measure(out *Look) {
	wide := f.across * columns
	lanes, counts := make([]colour.Linear, wide), make([]float64, wide)
	var all float64
	for i := range f.along {
		for j := range wide {
			at := i*wide + j
			for ch := range lanes[j] {
				lanes[j][ch] += f.sums[at][ch]
				out.Mean[ch] += f.sums[at][ch]
			}
			counts[j] += f.counts[at]
			all += f.counts[at]
		}
	}
	for ch := range out.Mean {
		out.Mean[ch] /= max(all, 1)
	}
	var sum, square, texture, total float64
	for k := range f.across {
		here := local(lanes, counts, (float64(k)+0.5)*columns).Lab()
		for i := range f.along {
			full := f.counts[i*wide+k*columns]
			a, na := f.patch(i, k, func(c int) bool { return c%2 == 0 })
			b, nb := f.patch(i, k, func(c int) bool { return c%2 == 1 })
			if full == 0 || na == 0 || nb == 0 {
				continue
			}
			da, db, dc := colour.CIEDE2000(a.Lab(), here), colour.CIEDE2000(b.Lab(), here), colour.CIEDE2000(a.Lab(), b.Lab())
			v := da*da + db*db - dc*dc
			whole, _ := f.patch(i, k, every)
			d := colour.CIEDE2000(whole.Lab(), here)
			sum, square, texture, total = sum+v, square+v*v, texture+dc*dc, total+d*d
			out.Patches++
		}
	}
	n := float64(max(out.Patches, 1))
	mean := sum / n
	// Patches along a streak are alike: fewer are independent than there are.
	spread := within90 * math.Sqrt(max(0, square/n-mean*mean)/(n/alike))
	out.Texture = math.Sqrt(texture/n) / 2
	out.Patch = math.Sqrt(max(0, mean-loft*loft))
	own := model * out.Patch
	out.Low = out.Patch - math.Hypot(own, out.Patch-math.Sqrt(max(0, mean-spread-mostLoft*mostLoft)))
	out.High = out.Patch + math.Hypot(own, math.Sqrt(max(0, mean+spread-leastLoft*leastLoft))-out.Patch)
	out.Low = max(0, out.Low)
	out.Sure = out.High-out.Low <= 2*surely
	out.MeanError = math.Sqrt(total/n) / math.Sqrt(n/alike)
}

// The loft of a batt shades it: one of a single colour reads as so much, from a smooth one
// to a lofty one. model is by which part a picture of streaks differs from their grid.
const (
	loft, leastLoft, mostLoft = 1.7, 1.2, 2.2
	model                     = 0.12
)

// alike is how many patches along a streak show the same.
const alike = 12

// local is the mean of all columns within 10 mm of a place, the window shrunk evenly at an
// edge.
func local(lanes []colour.Linear, counts []float64, at float64) (m colour.Linear) {
	reach := min(localMM/columnMM, at, float64(len(lanes))-at)
	var n float64
	for j := int(math.Floor(at - reach)); j < int(math.Ceil(at+reach)) && j < len(lanes); j++ {
		for ch := range m {
			m[ch] += lanes[max(j, 0)][ch]
		}
		n += counts[max(j, 0)]
	}
	for ch := range m {
		m[ch] /= max(n, 1)
	}
	return m
}
