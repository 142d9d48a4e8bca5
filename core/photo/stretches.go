package photo

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Stretch is one colour of a painted top that lies straight, from where to where of the length that was marked.
type Stretch struct {
	FromMM, ToMM float64
	Colour       colour.Linear
}

// SameColour is how near, in CIEDE2000, stretches of one colour are: neighbours are one, others the colour again. An own figure.
const SameColour = 4.0

// Bounds of a reading of stretches; own figures.
const (
	leastRunPerMM = 0.5
	sliceMM       = 2.0
	mostSlices    = 800
	leastRunMM    = 10.0
	leastTopMM    = 50.0
	leastTopPX    = 6   // across it
	aStep         = 5.0 // in L*a*b*: a step of a stretch of leastCounted that is taken for one
	leastCounted  = 14.0
	mostWickMM    = 25.0 // to each side, of dyes that ran into each other
	onTheWay      = 1.12 // a colour between two others: by way of it, so much longer than from one to the other
	nearTheWay    = 1.5  // and of a stretch that is short
)

// Stretches reads the stretches of one colour of a top that lies along the longer side of an area of a photo, in which a millimetre is so many pixels: the
// colours of slices of 2 mm, each the median over its width, parted into pieces of one colour by dynamic programming with a price for
// each piece (Bellman's optimal partition; the price by the noise between neighbouring slices). Where one dye ran into the next, the
// stretch between goes half to each. Neighbours under 4 CIEDE2000 apart are one stretch.
func (p *Picture) Stretches(area Area, perMM float64, b Balance) ([]Stretch, error) {
	if !(perMM >= leastRunPerMM) {
		return nil, fault.New("length", "A millimetre is only %.1f pixels in this photo; at least %.1f are needed. Take it from nearer.", perMM, leastRunPerMM)
	}
	t := top{p: p, area: area, balance: b, level: (area.X1-area.X0)*float64(p.W) >= (area.Y1-area.Y0)*float64(p.H)}
	long, wide := (area.X1-area.X0)*float64(p.W), (area.Y1-area.Y0)*float64(p.H)
	if !t.level {
		long, wide = wide, long
	}
	if t.mm = long / perMM; t.mm < leastTopMM || wide < leastTopPX {
		return nil, fault.New("area", "Mark a part of the top: at least %s along it, and within its width.", unit.Millimetres(leastTopMM))
	}
	if err := t.read(); err != nil {
		return nil, err
	}
	return t.measured(t.joined(t.parted()))
}

// top is a painted top in a photo: the colours of its slices.
type top struct {
	p       *Picture
	area    Area
	balance Balance
	level   bool // it lies from left to right
	mm      float64
	light   []colour.Linear // of the slices
	slices  []colour.Lab
}

// part is the area between two places along it, 0 to 1.
func (t *top) part(from, to float64) Area {
	a := t.area
	if t.level {
		a.X0, a.X1 = t.area.X0+from*(t.area.X1-t.area.X0), t.area.X0+to*(t.area.X1-t.area.X0)
	} else {
		a.Y0, a.Y1 = t.area.Y0+from*(t.area.Y1-t.area.Y0), t.area.Y0+to*(t.area.Y1-t.area.Y0)
	}
	return a
}

func (t *top) read() error {
	n := max(int(leastTopMM/sliceMM), min(mostSlices, int(t.mm/sliceMM)))
	var all, clipped int
	for i := range n {
		pixels, out := t.p.sample(t.part(float64(i)/float64(n), float64(i+1)/float64(n)))
		if len(pixels) == 0 {
			return fault.New("area", "The top is too small in this photo to be read. Take it from nearer.")
		}
		all, clipped = all+len(pixels), clipped+out
		c := t.balance.apply(median(pixels))
		t.light, t.slices = append(t.light, c), append(t.slices, c.Lab())
	}
	if float64(clipped) > clippedMost*float64(all) {
		return fault.New("area", "%.0f %% of this is brighter or darker than the picture can show. Take it with less or more light.",
			100*float64(clipped)/float64(all))
	}
	return nil
}

// noise is the variance of a coordinate from slice to slice: half the median square of their steps by that of the chi-square
// distribution of three degrees of freedom, 2.366.
func (t *top) noise() float64 {
	steps := make([]float64, len(t.slices)-1)
	for i := range steps {
		d := distance(t.slices[i], t.slices[i+1])
		steps[i] = d * d
	}
	return quantile(steps, 0.5) / (2 * 2.366)
}

// parted gives where pieces of one colour end, in slices: those for which the squares within them and the prices of the pieces are
// least in all.
func (t *top) parted() (ends []int) {
	n := len(t.slices)
	sums, squares := make([][3]float64, n+1), make([]float64, n+1)
	for i, c := range t.slices {
		for k, v := range [3]float64{c.L, c.A, c.B} {
			sums[i+1][k] = sums[i][k] + v
			squares[i+1] += v * v
		}
		squares[i+1] += squares[i]
	}
	within := func(i, j int) (cost float64) {
		cost = squares[j] - squares[i]
		for k := range 3 {
			d := sums[j][k] - sums[i][k]
			cost -= d * d / float64(j-i)
		}
		return cost
	}
	least := max(2, int(math.Round(leastRunMM/t.mm*float64(n))))
	price := max(aStep*aStep*leastCounted/t.mm*float64(n), 13*t.noise()*math.Log(float64(n)))
	best, from := make([]float64, n+1), make([]int, n+1)
	for j := 1; j <= n; j++ {
		best[j] = math.Inf(1)
		for i := 0; i+least <= j; i++ {
			if c := best[i] + within(i, j) + price; c < best[j] {
				best[j], from[j] = c, i
			}
		}
	}
	for j := n; j > 0; j = from[j] {
		ends = append([]int{j}, ends...)
	}
	return ends
}

// mean is the mean colour of the slices from one to another.
func (t *top) mean(from, to int) (m colour.Lab) {
	for _, c := range t.slices[from:to] {
		m.L, m.A, m.B = m.L+c.L, m.A+c.A, m.B+c.B
	}
	n := float64(to - from)
	return colour.Lab{L: m.L / n, A: m.A / n, B: m.B / n}
}

// joined puts together neighbours of one colour, and shares out the stretches in which one dye ran into the next.
func (t *top) joined(ends []int) []int {
	for again := true; again && len(ends) > 1; {
		again = false
		at := func(k int) (from, to int) {
			if k > 0 {
				from = ends[k-1]
			}
			return from, ends[k]
		}
		mean := func(k int) colour.Lab { return t.mean(at(k)) }
		for k := range len(ends) - 1 {
			if colour.CIEDE2000(mean(k), mean(k+1)) < SameColour {
				ends, again = append(ends[:k:k], ends[k+1:]...), true
				break
			}
		}
		if again {
			continue
		}
		run, shortest := -1, math.MaxInt
		for k := 1; k+1 < len(ends); k++ {
			from, to := at(k)
			if long := to - from; long < shortest && t.ramp(from, to, mean(k-1), mean(k+1)) {
				run, shortest = k, long
			}
		}
		if run > 0 {
			from, to := at(run)
			ends[run-1] = (from + to) / 2
			ends, again = append(ends[:run:run], ends[run+1:]...), true
		}
	}
	return ends
}

// ramp reports whether a stretch goes from the colour before to the colour after it rather than having one of its own: its colour lies on
// the way from one to the other, and goes on changing in its middle, by a tenth of that way and more than the noise of slices. One under
// 20 mm has none of its own, however its two dyes mix.
func (t *top) ramp(from, to int, before, after colour.Lab) bool {
	way, m := distance(before, after), t.mean(from, to)
	by := distance(before, m) + distance(m, after)
	quarter := (to - from) / 4
	if float64(to-from)*t.mm < 2*leastRunMM*float64(len(t.slices)) || quarter < 1 {
		return by <= nearTheWay*way
	}
	middle := (from + to) / 2
	changes := distance(t.mean(from+quarter, middle), t.mean(middle, to-quarter))
	return by <= onTheWay*way && changes > max(0.1*way, 3*math.Sqrt(3*2*t.noise()/float64(quarter)))
}

// measured gives stretches the robust mean of the middle of each, and their lengths.
func (t *top) measured(ends []int) (out []Stretch, err error) {
	n, from := float64(len(t.slices)), 0
	for _, to := range ends {
		trim := 0.25 * float64(to-from)
		r, err := t.p.Read(t.part((float64(from)+trim)/n, (float64(to)-trim)/n), t.balance)
		if err != nil {
			return nil, err
		}
		out = append(out, Stretch{ToMM: float64(to) / n * t.mm, Colour: r.Colour})
		from = to
	}
	for k := range len(out) - 1 {
		first := 0
		if k > 0 {
			first = ends[k-1]
		}
		near := int(mostWickMM / t.mm * n)
		cut := t.cut(out[k].Colour, out[k+1].Colour, max((first+ends[k])/2, ends[k]-near), min((ends[k]+ends[k+1])/2, ends[k]+near))
		out[k].ToMM, out[k+1].FromMM = cut/n*t.mm, cut/n*t.mm
	}
	return out, nil
}

// cut is where one colour ends and another begins, in slices, between two places: as far from the one as all that lies
// between holds of it, as light adds up.
func (t *top) cut(a, b colour.Linear, from, to int) float64 {
	var way float64
	for ch := range a {
		way += (b[ch] - a[ch]) * (b[ch] - a[ch])
	}
	at := float64(from)
	for _, c := range t.light[from:to] {
		var on float64
		for ch := range c {
			on += (c[ch] - a[ch]) * (b[ch] - a[ch])
		}
		at += 1 - min(1, max(0, on/way))
	}
	return at
}

// Painted is how a top is painted: its colours in the order in which they come first, with their shares, and how long one runs.
type Painted struct {
	Colours []colour.Linear
	Shares  []float64 // sum to 1
	RunMM   float64
}

// PaintedOf is how a top of such stretches is painted: stretches under 4 CIEDE2000 apart are one colour that comes again. One runs as long as those do
// whose both ends are seen, on average; as all of them where none is.
func PaintedOf(runs []Stretch) (out Painted) {
	var all float64
	for _, r := range runs {
		long := r.ToMM - r.FromMM
		all += long
		known := -1
		for k, c := range out.Colours {
			if known < 0 && colour.CIEDE2000(c.Lab(), r.Colour.Lab()) < SameColour {
				known = k
			}
		}
		if known < 0 {
			known = len(out.Colours)
			out.Colours, out.Shares = append(out.Colours, r.Colour), append(out.Shares, 0)
		}
		out.Shares[known] += long
	}
	for k := range out.Shares {
		out.Shares[k] /= all
	}
	whole := runs
	if len(runs) > 2 {
		whole = runs[1 : len(runs)-1]
	}
	for _, r := range whole {
		out.RunMM += (r.ToMM - r.FromMM) / float64(len(whole))
	}
	return out
}
