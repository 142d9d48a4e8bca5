package advice

import (
	"cmp"
	"math"
	"slices"

	"fairtangle/core/layup"
	"fairtangle/core/unit"
)

// mendWidths makes lanes wider or narrower, so that each layer lies evenly over the whole width:
// a lay is as much of the width as it is of its layer's grams.
func mendWidths(p Plan, _ Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	for _, y := range p.Layers {
		if !widened(y.Lays) {
			return p, "", unit.Sentence{}, false
		}
	}
	return p, "order", unit.Say("Each lane as wide as its grams ask: all lie equally thick."), true
}

// widened spreads lays that lie side by side over the whole width, by their grams, in place; false
// where some lie over others or over a part of the length only.
func widened(lays []layup.Lay) bool {
	order := make([]int, len(lays))
	var grams float64
	for i, v := range lays {
		order[i] = i
		grams += v.Grams
		if v.Start > near || v.End < 1-near {
			return false
		}
	}
	if grams <= 0 {
		return true
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(lays[a].From, lays[b].From) })
	for k := 1; k < len(order); k++ {
		if lays[order[k]].From < lays[order[k-1]].To-near {
			return false
		}
	}
	at := 0.0
	for _, i := range order {
		lays[i].From = at
		at += lays[i].Grams / grams
		lays[i].To = math.Min(at, 1)
	}
	if len(order) > 0 {
		lays[order[len(order)-1]].To = 1
	}
	return true
}

// clearMM is how far a lock is kept from a cut.
const clearMM = 10

// mendCut takes locks that lie across cuts into the rolag that holds most of each.
func mendCut(p Plan, f Finding, _ func(string) float64) (Plan, string, unit.Sentence, bool) {
	if p.Told.Rolags == nil || p.Bed == nil || p.Bed.LengthMM <= 0 {
		return p, "", unit.Sentence{}, false
	}
	n := float64(*p.Told.Rolags)
	gap := clearMM / p.Bed.LengthMM
	if 1/n <= 2*gap {
		return p, "", unit.Sentence{}, false
	}
	for y := range p.Layers {
		for k := range p.Layers[y].Lays {
			v := &p.Layers[y].Lays[k]
			if !p.Fibres[v.Component].lock() {
				continue
			}
			band, most := 0.0, -1.0
			for i := 0.0; i < n; i++ {
				if over := math.Min(v.End, (i+1)/n) - math.Max(v.Start, i/n); over > most+near {
					band, most = i, over
				}
			}
			if v.Start >= band/n-near && v.End <= (band+1)/n+near {
				continue
			}
			long := math.Min(v.End-v.Start, 1/n-2*gap)
			v.Start = math.Min(math.Max(v.Start, band/n+gap), (band+1)/n-gap-long)
			v.End = v.Start + long
		}
	}
	return p, "order", unit.Say("%s clear of the cuts, each in the rolag that holds most of it.", p.Fibres[f.Component].Name), true
}

// slabPart is how much of the cloth a part of a divided layer fills at most.
const slabPart = 0.08

// mostParts is into how many parts a layer is divided at most: nobody lays more, and a cloth so far
// overfilled wants more units first.
const mostParts = 24

// mendSlab divides a thick layer into equal parts that lie between the others.
func mendSlab(p Plan, f Finding, b func(string) float64) (Plan, string, unit.Sentence, bool) {
	thick := p.Layers[f.Layer]
	rest := slices.Delete(slices.Clone(p.Layers), f.Layer, f.Layer+1)
	parts := int(math.Ceil(f.Values["load"]/math.Min(slabPart, b("of the cloth")) - near))
	if len(rest) == 0 || parts < 2 || parts > mostParts {
		return p, "", unit.Sentence{}, false
	}
	divided := make([]layup.Layer, parts)
	for i := range divided {
		for _, v := range thick.Lays {
			v.Grams /= float64(parts)
			v.Key = 0
			divided[i].Lays = append(divided[i].Lays, v)
		}
	}
	// the others keep their order; the parts come between them, the first where the layer lay
	out := make([]layup.Layer, 0, len(rest)+parts)
	for i, y := range rest {
		for k := parts * i / len(rest); k < parts*(i+1)/len(rest); k++ {
			out = append(out, divided[k])
		}
		out = append(out, y)
	}
	p.Layers = out
	return p, "order", unit.Say("%s in %d thin layers between the others.", p.Fibres[f.Component].Name, parts), true
}
