package layup

import (
	"math"
	"slices"

	"fairtangle/core/fault"
)

// clone copies a plan so that its layers can be changed.
func (p Plan) clone() Plan {
	out := p
	out.Layers = make([]Layer, len(p.Layers))
	for i, l := range p.Layers {
		out.Layers[i] = Layer{Lays: slices.Clone(l.Lays), Key: l.Key}
	}
	out.Joins = slices.Clone(p.Joins)
	return out
}

func (p Plan) layer(i int) error {
	if i < 0 || i >= len(p.Layers) {
		return fault.New("layer", "There is no such layer.")
	}
	return nil
}

// parts divides a lay into n of the same place whose grams add up to its own,
// in whole steps of the scale as far as that goes.
func (v Lay) parts(n int, step float64) []Lay {
	out := make([]Lay, n)
	for i, g := range split(v.Grams, step, even(n)) {
		out[i] = v
		out[i].Grams = g
	}
	return out
}

// Split lays a layer in n thinner ones, one on the other, with the same grams
// in all, in whole steps of the scale.
func (p Plan) Split(layer, n int, step float64) (Plan, error) { return p.Repeat(layer, layer, n, step) }

// Repeat lays a set of neighbouring layers n times over, each time with an nth
// of the grams, so that nothing is laid twice.
func (p Plan) Repeat(first, last, n int, step float64) (Plan, error) {
	if err := p.layer(first); err != nil {
		return p, err
	}
	if last < first || last >= len(p.Layers) {
		return p, fault.New("last", "The set ends at a layer from %d to %d.", first+1, len(p.Layers))
	}
	if n < 2 || n > MaxLayers {
		return p, fault.New("times", "Divide it by 2 or more, at most %d.", MaxLayers)
	}
	if len(p.Layers)+(n-1)*(last-first+1) > MaxLayers {
		return p, fault.New("times", "That makes more than %d layers.", MaxLayers)
	}
	out := p.clone()
	set := make([]Layer, 0, n*(last-first+1))
	for t := range n {
		for _, l := range p.Layers[first : last+1] {
			var one Layer
			for j, v := range l.Lays { // lays take turns with what is left over
				if part := v.parts(n, step)[(t+j)%n]; part.Grams > speck {
					one.Lays = append(one.Lays, part)
				}
			}
			if len(one.Lays) > 0 {
				set = append(set, one)
			}
		}
	}
	out.Layers = slices.Replace(out.Layers, first, last+1, set...)
	return out, nil
}

// Move takes a layer to another place in the order.
func (p Plan) Move(layer, to int) (Plan, error) {
	if err := p.layer(layer); err != nil {
		return p, err
	}
	if to < 0 || to >= len(p.Layers) {
		return p, fault.New("to", "There is no such place in the order.")
	}
	out := p.clone()
	moved := out.Layers[layer]
	out.Layers = slices.Insert(slices.Delete(out.Layers, layer, layer+1), to, moved)
	return out, nil
}

// Mirror turns a lay-up over left to right. Twice gives it back.
func (p Plan) Mirror() Plan {
	out := p.clone()
	for i := range out.Layers {
		lays := out.Layers[i].Lays
		for j, v := range lays {
			lays[j].From, lays[j].To = onGrid(1-v.To), onGrid(1-v.From)
		}
	}
	return out
}

// OnGrid puts all places on the grid of a millionth of the cloth.
func (p Plan) OnGrid() Plan {
	out := p.clone()
	for i := range out.Layers {
		for j := range out.Layers[i].Lays {
			v := &out.Layers[i].Lays[j]
			v.From, v.To, v.Start, v.End = onGrid(v.From), onGrid(v.To), onGrid(v.Start), onGrid(v.End)
		}
	}
	return out
}

// OffTheTray paints what was fed: for equipment without a tray.
func (p Plan) OffTheTray() Plan {
	out := p.clone()
	for i := range out.Layers {
		for j := range out.Layers[i].Lays {
			if v := &out.Layers[i].Lays[j]; v.Method == Feed {
				v.Method = Paint
			}
		}
	}
	return out
}

// layAt is the place of a lay in a plan.
type layAt struct{ layer, lay int }

// of lists the lays of a component with their grams.
func (p Plan) of(component int) (at []layAt, grams []float64) {
	for i, l := range p.Layers {
		for j, v := range l.Lays {
			if v.Component == component {
				at, grams = append(at, layAt{i, j}), append(grams, v.Grams)
			}
		}
	}
	return at, grams
}

// share divides grams of a component over its lays as they were, in whole steps
// of the scale as far as that goes.
func (p Plan) share(component int, grams, step float64) {
	at, weights := p.of(component)
	if len(at) == 0 {
		return
	}
	for n, g := range split(grams, step, weights) {
		p.Layers[at[n].layer].Lays[at[n].lay].Grams = g
	}
}

// dropEmpty takes away lays and layers that hold nothing.
func (p Plan) dropEmpty() Plan {
	for i := range p.Layers {
		p.Layers[i].Lays = slices.DeleteFunc(p.Layers[i].Lays, func(v Lay) bool { return v.Grams <= speck })
	}
	return p.tidy()
}

// Fit scales the lays of each component to the grams that there are: after the
// blend changed, everything is placed again as it was spread before, in whole
// steps of the scale.
func (p Plan) Fit(fibres []Fibre, step float64) Plan {
	out := p.clone()
	for i, f := range fibres {
		out.share(i, f.Grams, step)
	}
	return out.dropEmpty()
}

// Refit follows a change of what there is of each fibre: what was all laid is all
// laid again, what was laid in part stays the same part, and that of which there
// was too little for a step of the scale is laid as its rest would be.
func (p Plan) Refit(b Bed, before, after []Fibre, step float64) Plan {
	out := p.clone()
	placed := p.Placed(len(before))
	for i, f := range before {
		grams := after[i].Grams
		if left := f.Grams - placed[i]; left > OverplacedG && f.Grams > speck {
			grams = math.Floor(placed[i]/f.Grams*after[i].Grams/step+1e-6) * step
		}
		out.share(i, grams, step)
	}
	out = out.dropEmpty()
	for i, f := range before {
		if f.Grams <= speck {
			out = out.PlaceRest(b, after, i, step)
		}
	}
	return out
}

// PlaceRest lays what is left of a component: added to its lays in proportion,
// or as a full layer of its own, extras below the top.
func (p Plan) PlaceRest(b Bed, fibres []Fibre, component int, step float64) Plan {
	out := p.clone()
	f := fibres[component]
	placed := p.Placed(len(fibres))[component]
	left := f.Grams - placed
	if left <= speck {
		return out
	}
	if placed > speck {
		out.share(component, f.Grams, step)
		return out.dropEmpty()
	}
	at := len(out.Layers)
	if !f.Ground() && at > 1 {
		at--
	}
	out.Layers = slices.Insert(out.Layers, at, Layer{Lays: []Lay{whole(component, left, b.Usual(f))}})
	return out
}

// Clear takes locks off the cuts: each goes whole into the zone that holds
// most of it, or is shared out over the zones where it is longer than one.
func (p Plan) Clear(b Bed, fibres []Fibre, step float64) Plan {
	r := p.Rolls(b, fibres)
	if r == nil {
		return p
	}
	k := build{bed: b}
	out := p.clone()
	for i, l := range p.Layers {
		var lays []Lay
		for _, v := range l.Lays {
			f := fibres[v.Component]
			if !f.Lock() || !v.Crosses(f, b, r.Cuts) {
				lays = append(lays, v)
				continue
			}
			n := p.Rolags
			first, last := int(v.Start*float64(n)+1e-9), min(int(v.End*float64(n)-1e-9), n-1)
			if v.End-v.Start <= 1/float64(n) { // it fits into one zone
				mid := min(int((v.Start+v.End)/2*float64(n)), n-1)
				first, last = mid, mid
			}
			for z, part := range v.parts(last-first+1, step) {
				if part.Grams > speck {
					part.Start, part.End = k.zone(first+z, n)
					lays = append(lays, part)
				}
			}
		}
		out.Layers[i].Lays = lays
	}
	return out
}

// Bury moves extras away from the first and the last layer, into the middle of
// what else there is.
func (p Plan) Bury(fibres []Fibre, step float64) Plan {
	out := p.clone()
	loose := func(l Layer) (in, rest []Lay) {
		for _, v := range l.Lays {
			if fibres[v.Component].Extra() {
				in = append(in, v)
			} else {
				rest = append(rest, v)
			}
		}
		return in, rest
	}
	var buried []Lay
	for len(out.Layers) > 0 {
		in, rest := loose(out.Layers[0])
		if len(in) == 0 {
			break
		}
		buried = append(buried, in...)
		out.Layers[0].Lays = rest
		out = out.tidy()
	}
	for len(out.Layers) > 0 {
		last := len(out.Layers) - 1
		in, rest := loose(out.Layers[last])
		if len(in) == 0 {
			break
		}
		buried = append(buried, in...)
		out.Layers[last].Lays = rest
		out = out.tidy()
	}
	if len(buried) == 0 {
		return out
	}
	if len(out.Layers) == 1 {
		out, _ = out.Split(0, 2, step)
	}
	out.Layers = slices.Insert(out.Layers, (len(out.Layers)+1)/2, Layer{Lays: buried})
	return out
}

// tidy drops layers that hold nothing.
func (p Plan) tidy() Plan {
	p.Layers = slices.DeleteFunc(p.Layers, func(l Layer) bool { return len(l.Lays) == 0 })
	return p
}
