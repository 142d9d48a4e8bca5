package layup

import (
	"slices"

	"fairtangle/core/fault"
)

// Copied lays all of a component as another one lies: in the same layers and as wide, by the same method where its equipment
// has it, moved across by so much of the width, and turned left to right where mirrored. Weights follow in proportion; what
// would lie beyond the cloth ends at its edge. Whatever else lies there stays.
func (p Plan) Copied(b Bed, fibres []Fibre, component, as int, moved float64, mirrored bool, step float64) (Plan, error) {
	if component < 0 || component >= len(fibres) || as < 0 || as >= len(fibres) || component == as {
		return p, fault.New("to", "It is laid as another fibre of the blend lies.")
	}
	at, weights := p.of(as)
	if len(at) == 0 {
		return p, fault.New("to", "%s does not lie anywhere yet.", fibres[as].Name)
	}
	if fibres[component].Grams < speck {
		return p, fault.New("to", "There is nothing of %s to lay.", fibres[component].Name)
	}
	k := &build{bed: b, fibres: fibres, plan: p.clone(), o: Options{Step: step}}
	for n, g := range k.split(component, weights...) {
		v := p.Layers[at[n].layer].Lays[at[n].lay]
		v.Component, v.Grams, v.Key = component, g, 0
		if mirrored {
			v.From, v.To = 1-v.To, 1-v.From
		}
		from, to := onGrid(min(max(v.From+moved, 0), 1)), onGrid(min(max(v.To+moved, 0), 1))
		if to-from < narrow {
			return p, fault.New("moved", "Moved so far, some of it would lie beyond the cloth.")
		}
		if v.From, v.To = from, to; g > speck {
			l := &k.plan.Layers[at[n].layer]
			l.Lays = append(l.Lays, v)
		}
	}
	out := k.plan
	for i := range out.Layers { // what it was before
		was := len(p.Layers[i].Lays)
		kept := out.Layers[i].Lays[:0:0]
		for j, v := range out.Layers[i].Lays {
			if j >= was || v.Component != component {
				kept = append(kept, v)
			}
		}
		out.Layers[i].Lays = kept
	}
	out.Layers = slices.DeleteFunc(out.Layers, func(l Layer) bool { return len(l.Lays) == 0 })
	return out, nil
}
