package layup

import (
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// fadeLays is in how many lays, one narrower than the other, a border fades out.
const fadeLays = 3

// near is where a component lies that goes with others: in the lanes of those that were named, else of the one most like it in colour.
func (k *build) near(i int) [][2]float64 {
	list := k.purpose(i).Near
	if len(list) == 0 {
		best := math.Inf(1)
		for j, f := range k.fibres {
			if j == i || f.Grams < speck || !slices.Contains([]Use{AsBase, AsLane}, k.plan.Uses[j]) || k.isBase(j) {
				continue
			}
			if d := colour.CIEDE2000(k.fibres[i].Colour, f.Colour); d < best {
				best, list = d, []int{j}
			}
		}
	}
	return k.plan.lanesOf(list)
}

func (k *build) isBase(i int) bool { return k.o.Base != nil && *k.o.Base == i }

// layUpon lays what is there to be seen: veils, strokes, and what lies over chosen lanes.
func (k *build) layUpon() {
	for _, i := range k.upon {
		var l Layer
		switch k.plan.Uses[i] {
		case AsVeil:
			l.Lays = []Lay{k.over(i, k.fibres[i].Grams)}
		case AsPaint:
			l.Lays = k.strokes(i)
		default:
			l.Lays = k.fading(i)
		}
		k.onTop(i, l)
	}
}

// onTop lays a layer on top; what would drop from there lies below the topmost.
func (k *build) onTop(i int, l Layer) {
	l.Lays = slices.DeleteFunc(l.Lays, func(v Lay) bool { return v.Grams <= speck })
	at := len(k.plan.Layers)
	if f := k.fibres[i]; at > 0 && (f.Extra() || f.Lock() || !f.Holds() && k.plan.Uses[i] == AsVeil) {
		if at == 1 {
			k.room(1)
			at = len(k.plan.Layers)
		}
		at--
	}
	if len(l.Lays) > 0 {
		k.plan.Layers = slices.Insert(k.plan.Layers, at, l)
	}
}

// strokes lay a component as painted strokes, one in each lane that it goes with, as wide as its part of the batt.
func (k *build) strokes(i int) (out []Lay) {
	var all float64
	for _, f := range k.fibres {
		all += f.Grams
	}
	spans := k.near(i)
	wide := max(k.fibres[i].Grams/all, strokeMM/k.bed.WidthMM) / float64(len(spans))
	for n, g := range k.split(i, even(len(spans))...) {
		mid, half := (spans[n][0]+spans[n][1])/2, min(wide, spans[n][1]-spans[n][0])/2
		v := k.stripe(i, g, onGrid(mid-half), onGrid(mid+half))
		v.Method = Paint
		out = append(out, v)
	}
	return out
}

// fading lays a component over lanes in lays of which each is narrower than the one before, so that it fades out to their sides:
// half of its border lies within a side and half beyond. Lays weigh as they are wide.
func (k *build) fading(i int) (out []Lay) {
	fade := k.purpose(i).FadeMM
	if fade == 0 {
		fade = UsualFadeMM
	}
	fade /= k.bed.WidthMM
	type span struct{ from, to float64 }
	var spans []span
	var weights []float64
	for _, s := range k.near(i) {
		for n := range fadeLays {
			in := fade * (float64(n) + 0.5 - fadeLays/2.0) / fadeLays
			v := span{onGrid(max(0, s[0]+in)), onGrid(min(1, s[1]-in))}
			if s[0] <= 0 { // nothing to fade into beyond the cloth
				v.from = 0
			}
			if s[1] >= 1 {
				v.to = 1
			}
			if v.to-v.from >= narrow {
				spans, weights = append(spans, v), append(weights, v.to-v.from)
			}
		}
	}
	if len(spans) == 0 {
		spans, weights = []span{{0, 1}}, []float64{1}
	}
	for n, g := range k.split(i, weights...) {
		v := k.stripe(i, g, spans[n].from, spans[n].to)
		v.Method = Paint
		out = append(out, v)
	}
	return out
}

// LaidAs lays all of a component anew, as what it is there for; whatever else lies there stays as it is, but for lanes
// that move together to let another in.
func (p Plan) LaidAs(b Bed, fibres []Fibre, component int, why Purpose, step float64) (Plan, error) {
	if component < 0 || component >= len(fibres) {
		return p, fault.New("at", "There is no such component in the blend.")
	}
	if !slices.Contains(Uses(), why.As) {
		return p, fault.New("as", "A fibre is there as base, lane, scatter, veil, over, paint or spot.")
	}
	if !(why.FadeMM >= 0 && why.FadeMM <= MostFadeMM) {
		return p, fault.New("fade_mm", "It fades out over %s to %s.", unit.Millimetres(0), unit.Millimetres(MostFadeMM))
	}
	k := &build{bed: b, fibres: fibres, plan: p.clone(), o: Options{Builder: Depth, Step: step, Purposes: make([]Purpose, len(fibres))}}
	k.o.Purposes[component] = why
	k.plan.Uses = make([]Use, len(fibres))
	for i := range fibres {
		k.plan.Uses[i] = p.UseOf(fibres, i)
	}
	k.plan.Uses[component] = why.As
	if fibres[component].Grams < speck {
		return k.plan, nil
	}
	k.plan = k.plan.lifted(component)
	switch why.As {
	case AsBase:
		parts := k.split(component, 1-coverShare, coverShare)
		rest := k.plan.Layers
		k.plan.Layers = nil
		k.put(k.over(component, parts[0]))
		k.plan.Layers = append(k.plan.Layers, rest...)
		k.put(k.over(component, parts[1]))
	case AsLane:
		k.lane(component)
	case AsScatter:
		k.extras = []int{component}
		k.between()
	case AsSpot:
		k.locks = []int{component}
		k.putLocks()
	default:
		k.upon = []int{component}
		k.layUpon()
	}
	if k.waits() {
		k.plan = k.plan.Gather(fibres, step)
	}
	return k.plan, nil
}

// lifted takes all of a component away.
func (p Plan) lifted(component int) Plan {
	out := p.clone()
	for i := range out.Layers {
		out.Layers[i].Lays = slices.DeleteFunc(out.Layers[i].Lays, func(v Lay) bool { return v.Component == component })
	}
	out.Layers = slices.DeleteFunc(out.Layers, func(l Layer) bool { return len(l.Lays) == 0 })
	return out
}

// lane lays a component beside the others: where lanes lie they move together, and it lies at the right of them; where none do,
// it is a layer of its own in the middle.
func (k *build) lane(component int) {
	var all float64
	var in []int
	for n, l := range k.plan.Layers {
		if len(l.Lays) > 1 && slices.ContainsFunc(l.Lays, func(v Lay) bool { return v.To-v.From < 0.999 }) && k.fibres[l.Lays[0].Component].Ground() {
			in = append(in, n)
			for _, v := range l.Lays {
				all += v.Grams
			}
		}
	}
	if len(in) == 0 {
		at := (len(k.plan.Layers) + 1) / 2
		k.plan.Layers = slices.Insert(k.plan.Layers, at, Layer{Lays: []Lay{k.over(component, k.fibres[component].Grams)}})
		return
	}
	edge := 1 - max(narrow*2, k.fibres[component].Grams/(all+k.fibres[component].Grams))
	for n, g := range k.split(component, even(len(in))...) {
		lays := k.plan.Layers[in[n]].Lays
		for j, v := range lays {
			lays[j].From = onGrid(v.From * edge)
			lays[j].To = max(onGrid(v.To*edge), onGrid(lays[j].From+1.5*narrow))
		}
		if v := k.stripe(component, g, onGrid(edge), 1); g > speck {
			k.plan.Layers[in[n]].Lays = append(lays, v)
		}
	}
}
