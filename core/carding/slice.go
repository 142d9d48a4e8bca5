package carding

import "math"

// Slice is a batt cut across: the grams of each component in each layer of each lane,
// for a square metre, and how much of that is in clumps.
type Slice struct {
	Lanes, Layers, Components int
	Grams, Patch              []float64 // g/m²; component, layer, lane from fastest to slowest
}

// sliceMM is how far to either side of a cut fibre counts as lying in it.
const sliceMM = 10.0

// Slice cuts a batt across at a place along it, in mm.
func (b *Batt) Slice(at float64, components int) Slice {
	s := Slice{b.grid.Lanes, b.grid.Layers, components, make([]float64, b.grid.Lanes*b.grid.Layers*components), make([]float64,
		b.grid.Lanes*b.grid.Layers*components)}
	reach := max(1, int(math.Round(sliceMM/b.cell)))
	middle := int(at / b.cell)
	area := b.lane * b.cell * float64(2*reach+1) * 1e-6
	for x := range b.grid.Lanes {
		for z := range b.grid.Layers {
			out := (x*b.grid.Layers + z) * components
			for k, v := range b.slots {
				row := b.row(z, x, k)
				var sum float64
				for i := -reach; i <= reach; i++ {
					sum += float64(row[b.beside(middle, i)])
				}
				s.Grams[out+v.component] += sum / area
				s.Patch[out+v.component] += sum * v.unopened / area
			}
		}
	}
	return s
}
