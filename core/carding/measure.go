package carding

import (
	"math"
	"sync"

	"fairtangle/core/colour"
)

// Bounds of the looks, in CIEDE2000 between patches of 5 mm; and what counts as a
// gradient and as two-sided.
const (
	streakyFrom = 10.0
	marledFrom  = 6.0
	evenBelow   = 2.0
	GradedFrom  = 10.0
	TwoSided    = 6.0
)

// Look is what an eye calls the mixing of a batt.
type Look string

// The looks, from the least mixed.
const (
	Streaky   Look = "streaky"
	Marled    Look = "marled"
	Heathered Look = "heathered"
	Even      Look = "even"
)

// Looks lists them from the least mixed.
func Looks() []Look { return []Look{Streaky, Marled, Heathered, Even} }

// LookOf names a patch spread.
func LookOf(d float64) Look {
	switch {
	case d > streakyFrom:
		return Streaky
	case d > marledFrom:
		return Marled
	case d >= evenBelow:
		return Heathered
	}
	return Even
}

// Upper is the patch spread at which a look ends, +Inf for streaky.
func (l Look) Upper() float64 {
	switch l {
	case Marled:
		return streakyFrom
	case Heathered:
		return marledFrom
	case Even:
		return evenBelow
	}
	return math.Inf(1)
}

// Spreads are the differences within a view.
type Spreads struct {
	Patch  float64 // between two patches of 5 mm picked at random, CIEDE2000
	Across float64 // between two places across: the gradient
	Mean   colour.Linear
	Shares []float64 // of each component in what is seen
}

// patchMM is the side of a patch, localMM how far around it counts as the place where
// it lies.
const patchMM, localMM = 5.0, 10.0

// Spread measures the colours of a view of a batt.
func (b *Batt) Spread(colours []colour.Linear) Spreads {
	lanes, cells := b.grid.Lanes, b.grid.Cells
	means, counts := make([]colour.Linear, lanes), make([]float64, lanes)
	var s Spreads
	var all float64
	for x := range lanes {
		for _, c := range colours[x*cells : x*cells+cells] {
			if c[0] == c[0] {
				plus(&means[x], c)
				counts[x]++
			}
		}
		plus(&s.Mean, means[x])
		all += counts[x]
		over(&means[x], counts[x])
	}
	over(&s.Mean, all)
	overall := s.Mean.Lab()
	var sum, n float64
	for x := range lanes {
		if counts[x] > 0 {
			d := colour.CIEDE2000(b.local(means, counts, float64(x)+0.5).Lab(), overall)
			sum, n = sum+d*d, n+1
		}
	}
	s.Across = math.Sqrt(2 * sum / max(n, 1))
	wide, long := b.patch()
	sum, n = 0, 0
	skip := long
	if wide*long == 1 {
		skip = everyOfCoarse
	}
	for x := 0; x+wide <= lanes; x += wide {
		local := b.local(means, counts, float64(x)+float64(wide)/2).Lab()
		for c := 0; c+long <= cells; c += skip {
			var patch colour.Linear
			var have float64
			for i := range wide {
				for _, v := range colours[(x+i)*cells+c:][:long] {
					if v[0] == v[0] {
						plus(&patch, v)
						have++
					}
				}
			}
			if have > 0 {
				over(&patch, have)
				d := colour.CIEDE2000(patch.Lab(), local)
				sum, n = sum+d*d, n+1
			}
		}
	}
	s.Patch = math.Sqrt(2 * sum / max(n, 1))
	return s
}

// patch is how many lanes and cells a patch takes.
func (b *Batt) patch() (wide, long int) {
	return max(1, int(math.Round(patchMM/b.lane))), max(1, int(math.Round(patchMM/b.cell)))
}

// everyOfCoarse: where a patch is a single cell, every second along is enough.
const everyOfCoarse = 2

// local is the mean of the lanes around a place across, as far on one side as on the
// other.
func (b *Batt) local(means []colour.Linear, counts []float64, at float64) (out colour.Linear) {
	reach := min(localMM/b.lane, at, float64(b.grid.Lanes)-at)
	var n float64
	for x := range means {
		if math.Abs(float64(x)+0.5-at) <= reach && counts[x] > 0 {
			plus(&out, means[x])
			n++
		}
	}
	over(&out, n)
	return out
}

func plus(a *colour.Linear, c colour.Linear) {
	for ch := range a {
		a[ch] += c[ch]
	}
}

func over(a *colour.Linear, n float64) {
	for ch := range a {
		a[ch] /= max(n, 1)
	}
}

// Shares are the grams of each component in blocks of a batt.
type Shares struct {
	Grams [][]float64 // by block and component
}

// Spread is the mass-weighted standard deviation of a component's share between the
// blocks.
func (s Shares) Spread(component int) float64 {
	var all, own float64
	for _, g := range s.Grams {
		all += total(g)
		own += g[component]
	}
	if all == 0 {
		return 0
	}
	p := own / all
	var sum float64
	for _, g := range s.Grams {
		if t := total(g); t > 0 {
			d := g[component]/t - p
			sum += t * d * d
		}
	}
	return math.Sqrt(sum / all)
}

func total(v []float64) (sum float64) {
	for _, x := range v {
		sum += x
	}
	return sum
}

// Across divides the width into n blocks of full length.
func (b *Batt) Across(n, components int) Shares {
	out := Shares{make([][]float64, n)}
	for i := range out.Grams {
		out.Grams[i] = make([]float64, components)
	}
	for z := range b.grid.Layers {
		for x := range b.grid.Lanes {
			for k, s := range b.slots {
				var sum float64
				for _, v := range b.row(z, x, k) {
					sum += float64(v)
				}
				out.Grams[x*n/b.grid.Lanes][s.component] += sum
			}
		}
	}
	return out
}

// Stage is what a batt is after a pass.
type Stage struct {
	Pass      int
	Grams     []float64 // by component
	Lost      []float64 // in this pass
	Spreads   map[Side]Spreads
	Patch     float64 // the largest patch spread of the three sides
	Look      Look
	Across    float64 // the largest gradient of face and back
	Turned    float64 // CIEDE2000 between the mean of face and back
	Lanes     Shares  // 24 of them
	Strips    Shares  // 6 of them
	Even      colour.Linear
	Irregular Irregularity
}

// Graded reports whether the batt is a gradient across.
func (s Stage) Graded() bool { return s.Across > GradedFrom }

// TotalG and LostG are the grams of all components that are there, and that the pass lost.
func (s Stage) TotalG() float64 { return total(s.Grams) }
func (s Stage) LostG() float64  { return total(s.Lost) }

// evenIndex is the index of irregularity up to which a component lies as chance alone lays it.
const evenIndex = 1.005

// MostIrregular is the component whose share differs most from place to place, with its index; ok is
// false where none does so more than by chance.
func (s Stage) MostIrregular() (component int, index float64, ok bool) {
	for i, v := range s.Irregular.Section {
		if v > index && s.Grams[i] > 0 {
			component, index = i, v
		}
	}
	return component, index, index > evenIndex
}

// TwoSided reports whether its sides differ.
func (s Stage) TwoSided() bool { return s.Turned > TwoSided }

// Eye is the room that looking at a batt needs, used again from batt to batt.
type Eye struct {
	Palette Palette
	views   [3]View
	cells   [3][]colour.Linear
}

// Patch is the largest patch spread of face, back and cut, and each of them.
func (e *Eye) Patch(b *Batt) (worst float64, sides map[Side]Spreads) {
	n := len(e.Palette.Linear)
	var seen [3]Spreads
	var all sync.WaitGroup
	every := 1
	if wide, long := b.patch(); wide*long == 1 {
		every = everyOfCoarse
	}
	for i, side := range []Side{Face, Back, Cut} { // at the same time: they only look
		all.Go(func() {
			b.Show(&e.views[i], side, n)
			e.cells[i] = e.views[i].colours(&e.Palette, e.cells[i], every)
			seen[i] = b.Spread(e.cells[i])
		})
	}
	all.Wait()
	sides = map[Side]Spreads{}
	for i, side := range []Side{Face, Back, Cut} {
		if b.sorts(n) < 2 {
			seen[i].Patch, seen[i].Across = 0, 0 // not what is left of rounding
		}
		worst = max(worst, seen[i].Patch)
		sides[side] = seen[i]
	}
	return worst, sides
}

// sorts is how many components lie on the cloth.
func (b *Batt) sorts(components int) (n int) {
	for _, g := range b.Grams(components) {
		if g > 0 {
			n++
		}
	}
	return n
}

// Measure looks at a batt from all sides.
func (e *Eye) Measure(b *Batt, pass int) Stage {
	n := len(e.Palette.Linear)
	s := Stage{Pass: pass, Grams: b.Grams(n), Lost: b.Lost(n), Lanes: b.Across(24, n), Strips: b.Across(6, n), Irregular: b.Irregular(n)}
	s.Patch, s.Spreads = e.Patch(b)
	for i, side := range []Side{Face, Back, Cut} {
		v := s.Spreads[side]
		v.Shares = e.views[i].shares()
		s.Spreads[side] = v
	}
	s.Look = LookOf(s.Patch)
	s.Across = max(s.Spreads[Face].Across, s.Spreads[Back].Across)
	if total(s.Grams) > 0 {
		s.Turned = colour.CIEDE2000(s.Spreads[Face].Mean.Lab(), s.Spreads[Back].Mean.Lab())
		shares := make([]float32, n)
		for k, g := range s.Grams {
			shares[k] = float32(g / total(s.Grams))
		}
		s.Even = e.Palette.Even(shares)
	}
	return s
}

// Irregularity is the index of blend irregularity of each component (Coplan and Klein,
// "A study of blended woollen structures", 1955): 1 is a perfect random blend. Section
// takes sections one lane wide and one cell long through the whole depth, Strand a
// strand of 100 tex taken there, Local as Section but against each lane's own share, so
// that a wanted gradient does not count.
type Irregularity struct{ Section, Strand, Local []float64 }

// strandTex is the strand that a spinner is likely to draft.
const strandTex = 100

// Irregular measures it.
func (b *Batt) Irregular(components int) Irregularity {
	out := Irregularity{make([]float64, components), make([]float64, components), make([]float64, components)}
	cells := b.grid.Cells
	grams := make([]float64, cells*components)
	lane, all := make([]float64, components), b.Grams(components)
	whole := total(all)
	var sections, inLanes float64
	for x := range b.grid.Lanes {
		b.columns(x, components, grams)
		clear(lane)
		for c := range cells {
			for k, g := range grams[c*components:][:components] {
				lane[k] += g
			}
		}
		thick := total(lane)
		for c := range cells {
			at := grams[c*components:][:components]
			t := total(at)
			if t <= 0 {
				continue
			}
			sections++
			fibres := t * 1e6 / b.cell / b.TexMgPerM
			for k, g := range at {
				p := all[k] / whole
				if p > 0 && p < 1 {
					d := (g/t - p) * (g/t - p) / (p * (1 - p))
					out.Section[k] += fibres * d
					out.Strand[k] += strandTex / b.TexMgPerM * d
				}
				if p = lane[k] / thick; p > 0 && p < 1 {
					out.Local[k] += fibres * (g/t - p) * (g/t - p) / (p * (1 - p))
				}
			}
			inLanes++
		}
	}
	for k := range components {
		out.Section[k] = math.Sqrt(1 + out.Section[k]/max(sections, 1))
		out.Strand[k] = math.Sqrt(1 + out.Strand[k]/max(sections, 1))
		out.Local[k] = math.Sqrt(1 + out.Local[k]/max(inLanes, 1))
	}
	return out
}

// columns fills in what each cell of a lane holds of each component, through all
// layers.
func (b *Batt) columns(x, components int, grams []float64) {
	clear(grams)
	for z := range b.grid.Layers {
		for k, s := range b.slots {
			for c, v := range b.row(z, x, k) {
				grams[c*components+s.component] += float64(v)
			}
		}
	}
}
