package layup

import (
	"cmp"
	"math"
	"slices"

	"fairtangle/core/colour"
)

// lay does what the builder is named for with the ground fibres.
func (k *build) lay() {
	if len(k.ground) == 0 {
		return
	}
	switch k.o.Builder {
	case Sandwich:
		k.sandwich()
	case Lanes:
		k.lanes(max(k.o.Repeats, 1))
	case Depth:
		k.depth(max(k.o.Repeats, 1))
	case Flow:
		k.flow(max(k.o.Repeats, 4))
	case StripesAlong, StripesAcross:
		k.stripes(max(k.o.Repeats, 1))
	case Overlay:
		if len(k.bright) == 0 {
			k.depth(1)
			return
		}
		k.lanes(1)
	}
}

// without leaves one component out.
func without(list []int, i int) []int {
	return slices.DeleteFunc(slices.Clone(list), func(v int) bool { return v == i })
}

// coverShare is the part of the base fibre that goes on top.
const coverShare = 0.5

// sandwich lays the base wool first and last; between, the most delicate fibre
// lies in the middle.
func (k *build) sandwich() {
	base := k.base(func(f Fibre) float64 { return f.Grams })
	if base < 0 { // no wool: the longest that there is
		base = k.ground[0]
		for _, i := range k.ground {
			if k.fibres[i].StapleMM > k.fibres[base].StapleMM {
				base = i
			}
		}
	}
	inner := without(k.ground, base)
	slices.SortStableFunc(inner, func(a, b int) int { return cmp.Compare(k.fibres[a].delicacy(), k.fibres[b].delicacy()) })
	parts := k.split(base, 1-coverShare, coverShare)
	k.put(k.over(base, parts[0]))
	var back []int
	for n, i := range inner {
		if n%2 == 0 {
			k.put(k.over(i, k.fibres[i].Grams))
		} else {
			back = append(back, i)
		}
	}
	slices.Reverse(back)
	for _, i := range back {
		k.put(k.over(i, k.fibres[i].Grams))
	}
	k.put(k.over(base, parts[1]))
}

// even returns n equal weights.
func even(n int) []float64 {
	out := make([]float64, n)
	for i := range out {
		out[i] = 1
	}
	return out
}

// lanes lays the colours side by side, as often as asked. A base that was
// chosen lies under all.
func (k *build) lanes(times int) {
	list := k.ground
	if k.o.Base != nil && !k.o.Bare && len(list) > 1 {
		list = without(list, *k.o.Base)
		k.put(k.over(*k.o.Base, k.fibres[*k.o.Base].Grams))
	}
	if len(list) == 0 {
		return
	}
	sides := 1
	if k.o.Mirrored && len(list) > 1 {
		back := slices.Clone(list)
		slices.Reverse(back)
		list, sides = append(slices.Clone(list), back...), 2
	}
	edges := k.abreast(list)
	parts := make([][]float64, len(list))
	for n, i := range list {
		side := n / (len(list) / sides)
		var weights []float64
		for at, j := range list {
			for range times {
				if j == i {
					weights = append(weights, k.thick(at))
				}
			}
		}
		parts[n] = k.split(i, weights...)[side*times : (side+1)*times]
	}
	for t := range times {
		var lays []Lay
		for n, i := range list {
			lays = append(lays, k.stripe(i, parts[n][(t+n)%times], edges[n], edges[n+1]))
		}
		k.put(lays...)
	}
}

// stripe is a lay from one place across to another, all along. One too
// narrow to lay goes over the whole width.
func (k *build) stripe(component int, grams, from, to float64) Lay {
	v := k.over(component, grams)
	if to-from >= narrow {
		v.From, v.To = from, to
	}
	return v
}

// depth lays full layers one after the other, as often as asked.
func (k *build) depth(times int) {
	parts := make([][]float64, len(k.ground))
	for n, i := range k.ground {
		parts[n] = k.split(i, even(times)...)
	}
	for t := range times {
		for n, i := range k.ground {
			k.put(k.over(i, parts[n][t]))
		}
	}
}

// flow lays neighbours over one another, in pairs that change from layer to
// layer: A and B, C and D together, then B and C. A pair shares the width of
// both, so that every lane stays as full as the others.
func (k *build) flow(times int) {
	edges := k.tiles(k.ground)
	parts := make([][]float64, len(k.ground))
	for n, i := range k.ground {
		parts[n] = k.split(i, even(times)...)
	}
	for t := range times {
		var lays []Lay
		for n := 0; n < len(k.ground); {
			size := min(2, len(k.ground)-n)
			if n == 0 && t%2 == 1 {
				size = 1
			}
			for m := n; m < n+size; m++ {
				lays = append(lays, k.stripe(k.ground[m], parts[m][(t+m)%times], edges[n], edges[n+size]))
			}
			n += size
		}
		k.put(lays...)
	}
}

// Of the base wool under stripes, this part lies below and the rest covers.
const underShare = 0.6

// stripes lays a thin base, stripes along or across the board, and a thin
// cover of the same wool. The plainest wool is the base.
func (k *build) stripes(times int) {
	base := k.base(func(f Fibre) float64 { return -math.Hypot(f.Colour.A, f.Colour.B) })
	list := k.ground
	if len(list) < 2 {
		base = -1
	}
	var parts []float64
	if base >= 0 {
		list = without(list, base)
		parts = k.split(base, underShare, 1-underShare)
		k.put(k.over(base, parts[0]))
	}
	grams := make([][]float64, len(list))
	all := make([]int, 0, times*len(list))
	for range times {
		all = append(all, list...)
	}
	across := k.abreast(all)
	for n, i := range list {
		weights := make([]float64, times)
		for t := range times {
			weights[t] = k.thick(t*len(list) + n)
		}
		grams[n] = k.split(i, weights...)
	}
	edges := k.tiles(list)
	var lays []Lay
	for t := range times {
		for n, i := range list {
			v := k.over(i, grams[n][t])
			from, to := onGrid((float64(t)+edges[n])/float64(times)), onGrid((float64(t)+edges[n+1])/float64(times))
			if len(k.o.Thick) > 0 {
				from, to = across[t*len(list)+n], across[t*len(list)+n+1]
			}
			switch {
			case to-from < narrow:
			case k.o.Builder == StripesAlong:
				v.From, v.To = from, to
			default:
				v.Start, v.End = from, to
			}
			lays = append(lays, v)
		}
	}
	k.put(lays...)
	if base >= 0 {
		k.put(k.over(base, parts[1]))
	}
}

// putBright paints the brighter fibres of an overlay over the lanes, each near the base colour that is most like it.
func (k *build) putBright() {
	over := slices.Clone(k.bright)
	if len(over) == 0 {
		return
	}
	list := k.ground
	if k.o.Base != nil && len(list) > 1 {
		list = without(list, *k.o.Base)
	}
	edges := k.tiles(list)
	middle := func(i int) float64 {
		best, at := math.Inf(1), 0.0
		for n, j := range list {
			if d := colour.CIEDE2000(k.fibres[i].Colour, k.fibres[j].Colour); d < best {
				best, at = d, (edges[n]+edges[n+1])/2
			}
		}
		return at
	}
	slices.SortStableFunc(over, func(a, b int) int { return cmp.Compare(middle(a), middle(b)) })
	edges = k.tiles(over)
	var lays []Lay
	for n, i := range over {
		v := k.stripe(i, k.fibres[i].Grams, edges[n], edges[n+1])
		v.Method = Paint
		lays = append(lays, v)
	}
	k.put(lays...)
}

// brightest are the fibres that an overlay paints over the others: those that were asked for, else those whose chroma and
// lightness together lie above the mean of all. What was told what it is there for is none of them, nor the base; and never
// all that holds.
func (k *build) brightest(all []int) map[int]bool {
	if k.o.Builder != Overlay {
		return nil
	}
	may := slices.DeleteFunc(slices.Clone(all), func(i int) bool {
		return k.fibres[i].Grams < speck || !k.fibres[i].Ground() || k.purpose(i).As != "" || k.isBase(i)
	})
	asked := slices.DeleteFunc(slices.Clone(may), func(i int) bool { return !slices.Contains(k.o.Over, i) })
	if len(asked) == 0 {
		asked = k.brighter(all, may)
	}
	out := map[int]bool{}
	for _, i := range asked {
		out[i] = true
	}
	k.keepCarrying(all, out)
	carried := func(i int) bool {
		return !out[i] && k.fibres[i].Grams >= speck && (k.plan.Uses[i] == AsLane || k.plan.Uses[i] == AsBase)
	}
	if !slices.ContainsFunc(all, carried) {
		return nil
	}
	return out
}

// keepCarrying takes wool out of what is painted over the others, the most first, until what lies below everywhere is enough to carry
// what is scattered in it.
func (k *build) keepCarrying(all []int, painted map[int]bool) {
	for {
		var carries, slides float64
		most := -1
		for _, i := range all {
			f := k.fibres[i]
			switch {
			case painted[i] && f.Holds() && (most < 0 || f.Grams > k.fibres[most].Grams):
				most = i
			case painted[i]:
			case k.plan.Uses[i] == AsScatter:
				slides += f.Grams
			case f.Holds():
				carries += f.Grams
			}
		}
		if most < 0 || carries >= slides-speck {
			return
		}
		delete(painted, most)
	}
}

// brighter are those of may whose chroma and lightness together lie above the mean of all ground fibre.
func (k *build) brighter(all, may []int) (out []int) {
	bright := func(i int) float64 {
		c := k.fibres[i].Colour
		return math.Hypot(c.A, c.B) + c.L/2
	}
	var sum, n float64
	for _, i := range all {
		if k.fibres[i].Grams >= speck && k.fibres[i].Ground() {
			sum, n = sum+bright(i), n+1
		}
	}
	for _, i := range may {
		if bright(i) > sum/n+1e-9 {
			out = append(out, i)
		}
	}
	return out
}
