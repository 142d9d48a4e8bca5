package layup

import (
	"math"
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
	"fairtangle/core/weigh"
)

// Builder names a way to turn a blend into a lay-up.
type Builder string

// The builders.
const (
	Sandwich      Builder = "sandwich"
	Lanes         Builder = "lanes"
	Depth         Builder = "depth"
	Flow          Builder = "flow"
	StripesAlong  Builder = "stripes-along"
	StripesAcross Builder = "stripes-across"
	Overlay       Builder = "overlay"
)

// Builders lists them in the order in which they are offered.
func Builders() []Builder {
	return []Builder{Sandwich, Lanes, Depth, Flow, StripesAlong, StripesAcross, Overlay}
}

// Options is how a builder goes about it.
type Options struct {
	Builder Builder
	Order   []int // of components; nil: as they are in the blend
	Repeats int   // how often a set of layers, or of stripes, is laid; 0: as usual
	// Base is the component that is laid first and last; nil: the builder
	// chooses where it needs one. Bare lays straight on the cloth.
	Base *int
	Bare bool
	Over []int // the brighter fibres of an overlay; nil: chosen by chroma
	// Purposes are what the components are there for; without, the usual of their kind.
	Purposes []Purpose
	// Turns is how often strips of the batt and what joins late are fed turn about; 0: as usual.
	Turns int
	// Alone is how often each fibre that can be is carded alone before it is laid.
	Alone    int
	Mirrored bool // lanes run across twice, the second time the other way round
	// Thick is how thick stripes, or mirrored lanes, are by turns, side by side: 3, 1 are thick and thin. Empty: as their grams have it.
	Thick []float64
	// Passes through a drum; 0: as usual for the builder. Extras and locks wait for the last, and delicate
	// fibre too, unless DelicateNow puts it between wool at the first.
	Passes      int
	DelicateNow bool
	Rolags      int // of a board; 0: as the staple suggests
	Draft       float64
	Step        float64 // grams are whole steps of this, as far as the fibre's are
}

const (
	maxRepeats = 40
	maxThick   = 12
)

func (o *Options) check(n int) error {
	var l fault.List
	if !slices.Contains(Builders(), o.Builder) {
		l.Add("builder", "A builder is one of sandwich, lanes, depth, flow, stripes-along, stripes-across, overlay.")
	}
	if o.Repeats < 0 || o.Repeats > maxRepeats {
		l.Add("repeats", "A set is laid 1 to %d times; 0 leaves it to the builder.", maxRepeats)
	}
	if !(o.Step >= 0.001 && o.Step <= 1000) {
		l.Add("step_g", "The scale's step lies from %s to %s.", unit.Grams(0.001), unit.Grams(1000))
	}
	if o.Base != nil && (*o.Base < 0 || *o.Base >= n) {
		l.Add("base", "There is no such component in the blend.")
	}
	if o.Alone < 0 || o.Alone > losses.MaxAlone {
		l.Add("alone_first", "A fibre is carded alone 0 to %d times.", losses.MaxAlone)
	}
	if o.Rolags < 0 || o.Rolags > MaxRolags {
		l.Add("rolags", "A board makes 1 to %d rolags; 0 leaves the number to the staple.", MaxRolags)
	}
	seen := make([]bool, n)
	for _, i := range o.Order {
		if i < 0 || i >= n || seen[i] {
			l.Add("order", "The order names each component once, counted from 0.")
			break
		}
		seen[i] = true
	}
	o.checkPurposes(&l, n)
	if len(o.Thick) > maxThick || slices.ContainsFunc(o.Thick, func(v float64) bool { return !(v >= 0.1 && v <= 10) }) {
		l.Add("thick", "Thick and thin are at most %d numbers from 0.1 to 10, such as 3 1.", maxThick)
	}
	if len(o.Order) > 0 && len(o.Order) != n {
		l.Add("order", "The order names all %d components.", n)
	}
	for _, i := range o.Over {
		if i < 0 || i >= n {
			l.Add("over", "There is no such component in the blend.")
			break
		}
	}
	return l.Err()
}

// UsualPasses are those of a lay-up by a builder where nothing else is said:
// what lies side by side or is painted on keeps its place for one pass only.
func UsualPasses(b Builder) int {
	switch b {
	case Lanes, StripesAlong, StripesAcross, Overlay:
		return 1
	}
	return 2
}

// Build makes a lay-up that uses every gram of every component. Lays of a
// layer share its width in proportion to their grams, so that no lane is
// fuller than another; extras lie between other layers, locks just below the
// top and, on a board, clear of the cuts.
func Build(b Bed, fibres []Fibre, o Options) (Plan, error) {
	if o.Draft == 0 {
		o.Draft = DefaultDraft
	}
	if o.Passes == 0 {
		o.Passes = UsualPasses(o.Builder)
	}
	if err := o.check(len(fibres)); err != nil {
		return Plan{}, err
	}
	if err := (Plan{Draft: o.Draft}).Check(b, fibres, true); err != nil {
		return Plan{}, err
	}
	k := &build{bed: b, fibres: fibres, o: o}
	k.sort()
	o = k.o
	if len(k.ground)+len(k.extras)+len(k.locks)+len(k.upon)+len(k.bright) == 0 {
		return Plan{}, fault.New("components", "There is no fibre to lay.")
	}
	if o.Base != nil && !slices.Contains(k.ground, *o.Base) {
		return Plan{}, fault.New("base", "%s can not carry the others; choose a fibre that is no lock, nep or film.", fibres[*o.Base].Name)
	}
	k.plan.Draft = o.Draft
	switch b.Type {
	case Drum:
		k.plan.Passes = o.Passes
	case Hands:
		k.plan.Passes = UsualRounds
	}
	if b.Type == Board {
		k.plan.Rolags = o.Rolags
		if o.Rolags == 0 {
			k.plan.Rolags = SuggestRolags(b, o.Draft, fibres)
		}
	}
	k.late()
	k.lay()
	k.between()
	k.putBright()
	k.layUpon()
	k.putLocks()
	if k.waits() {
		k.plan = k.plan.Gather(fibres, o.Step)
		k.plan.Turns = k.turns()
	}
	k.plan.Bare, k.plan.Uneven = k.bare(), k.uneven()
	if o.Alone > 0 {
		k.plan, _ = k.plan.AloneFirst(fibres, -1, o.Alone)
	}
	if err := k.plan.Check(b, fibres, true); err != nil {
		return Plan{}, err
	}
	return k.plan, nil
}

func (o Options) order(n int) []int {
	if len(o.Order) == n {
		return o.Order
	}
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

// build is a lay-up in the making.
type build struct {
	bed                   Bed
	fibres                []Fibre
	o                     Options
	ground, extras, locks []int // components, in their order
	bright, upon          []int // painted over the lanes of an overlay; veils, strokes, and over chosen lanes
	plan                  Plan
}

// late decides which fibres of a drum wait for the last pass.
func (k *build) late() {
	passes := 1
	if k.bed.Type == Drum {
		passes = k.o.Passes
	}
	k.plan.Joins = late(k.fibres, k.ground, passes, k.o.DelicateNow)
}

// late is at which of so many passes each fibre joins: extras, locks and delicate ground at the last, the rest at the first.
// Something has to be there for them: where all of the ground is delicate none of it waits, and without any ground nothing does.
func late(fibres []Fibre, ground []int, passes int, delicateNow bool) []int {
	joins := make([]int, len(fibres))
	sturdy := slices.ContainsFunc(ground, func(i int) bool { return !fibres[i].delicate() })
	for i, f := range fibres {
		joins[i] = 1
		if !f.Ground() && len(ground) > 0 || f.delicate() && sturdy && !delicateNow {
			joins[i] = max(passes, 1)
		}
	}
	return joins
}

// UsualJoins is at which of so many passes through a drum each fibre joins where nothing is laid yet, by the maker's schools.
func UsualJoins(fibres []Fibre, passes int, schools map[string]string) []int {
	var ground []int
	for i, f := range fibres {
		if f.Ground() && f.Grams > 0 {
			ground = append(ground, i)
		}
	}
	return late(fibres, ground, passes, Chosen(schools)["delicate"] == "between")
}

// usualTurns is how often strips and what joins are fed turn about where nothing is said: a thin layer of it after each
// strip of a batt that is divided as usual, but for the last. An own figure.
const usualTurns = 3

// turns is how often strips and what joins late are fed turn about, no more often than its grams can be divided.
func (k *build) turns() int {
	var late float64
	for i, f := range k.fibres {
		if k.plan.JoinsAt(i) > 1 {
			late += f.Grams
		}
	}
	n := k.o.Turns
	if n == 0 {
		n = usualTurns
	}
	if most := int(late / k.o.Step); n > most {
		n = max(1, most)
	}
	if n > MaxTurns || k.bed.Type != Drum {
		return 0
	}
	return n
}

// waits reports whether anything waits for a later pass.
func (k *build) waits() bool {
	return slices.ContainsFunc(k.plan.Joins, func(n int) bool { return n > 1 })
}

// bare reports whether the builder, or who asked it, lays on the bare cloth what
// does not grip.
func (k *build) bare() bool {
	return k.o.Bare || k.plan.Bottom(k.fibres).Slides
}

// uneven reports whether whole steps of the scale leave lanes thick and thin.
func (k *build) uneven() bool {
	loads := k.plan.Loads(k.bed, k.fibres)
	return len(loads.Lanes) > 1 && (loads.Variation > LaneVariation || slices.ContainsFunc(loads.Lanes, func(v Lane) bool {
		return loads.TooFull(v, LaneFull, farTooFull) || v.Load < LaneThin*loads.Fill
	}))
}

// split divides a component's grams by weights into whole steps that add up to
// all of it; what is no whole step goes with the largest part.
func (k *build) split(component int, weights ...float64) []float64 {
	return split(k.fibres[component].Grams, k.o.Step, weights)
}

func split(grams, step float64, weights []float64) []float64 {
	var sum float64
	for _, w := range weights {
		sum += w
	}
	steps := math.Floor(grams/step + 1e-6)
	exact, out := make([]float64, len(weights)), make([]float64, len(weights))
	for i, w := range weights {
		exact[i] = steps * w / sum
	}
	most, used := 0, 0.0
	for i, n := range weigh.Apportion(exact, int64(steps)) {
		out[i] = float64(unit.Grams(float64(n)*step).Milligrams()) / 1000
		used += out[i]
		if out[i] > out[most] {
			most = i
		}
	}
	out[most] = math.Round((out[most]+grams-used)*1e12) / 1e12
	return out
}

// put adds a layer of the lays that weigh anything.
func (k *build) put(lays ...Lay) {
	var l Layer
	for _, v := range lays {
		if v.Grams > speck {
			l.Lays = append(l.Lays, v)
		}
	}
	if len(l.Lays) > 0 {
		k.plan.Layers = append(k.plan.Layers, l)
	}
}

func (k *build) over(component int, grams float64) Lay {
	return whole(component, grams, k.bed.Usual(k.fibres[component]))
}

// tiles shares the width out by grams, in the order of the components.
func (k *build) tiles(components []int) []float64 {
	grams := make([]float64, len(components))
	for n, i := range components {
		grams[n] = k.fibres[i].Grams
	}
	return tiled(grams)
}

// tiled shares the width out by grams.
func tiled(grams []float64) (edges []float64) {
	var sum, at float64
	for _, g := range grams {
		sum += g
	}
	edges = []float64{0}
	for n, g := range grams {
		at += g / sum
		if n == len(grams)-1 {
			at = 1
		}
		edges = append(edges, max(onGrid(at), edges[n]))
	}
	return edges
}

// thick is how thick the lane or stripe is that lies so far from the left, beside others.
func (k *build) thick(n int) float64 {
	if len(k.o.Thick) == 0 {
		return 1
	}
	return k.o.Thick[n%len(k.o.Thick)]
}

// abreast is where lanes or stripes of components lie side by side, each as often as it is named, thick and thin.
func (k *build) abreast(components []int) []float64 {
	all := map[int]float64{}
	for n, i := range components {
		all[i] += k.thick(n)
	}
	grams := make([]float64, len(components))
	for n, i := range components {
		grams[n] = k.fibres[i].Grams * k.thick(n) / all[i]
	}
	return tiled(grams)
}

// base is the component to lay first and last: the one asked for, else the
// grippiest long wool that there is most of, -1 where there is none.
func (k *build) base(grams func(Fibre) float64) int {
	if k.o.Bare {
		return -1
	}
	if k.o.Base != nil {
		return *k.o.Base
	}
	best := -1
	for _, i := range k.ground {
		f := k.fibres[i]
		if f.Grips() && f.StapleMM >= 50 && (best < 0 || grams(f) > grams(k.fibres[best])) {
			best = i
		}
	}
	return best
}
