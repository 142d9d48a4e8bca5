package carding

// Field is a batt as a spinner takes hold of it: the grams of each component in cells along
// the fibre and lanes across, through its whole depth.
type Field struct {
	WidthMM, LengthMM float64
	Lanes, Cells, N   int
	Open              bool      // its ends do not meet
	Grams             []float64 // component, cell, lane from fastest to slowest
	Unopened          []float64 // the part of each component that is still in clumps
}

// Field looks at the whole depth of a batt of n components.
func (b *Batt) Field(n int) Field {
	f := Field{
		WidthMM: b.bed.WidthMM, LengthMM: b.bed.LengthMM, Lanes: b.grid.Lanes, Cells: b.grid.Cells, N: n, Open: b.bed.Open,
		Grams: make([]float64, b.grid.Lanes*b.grid.Cells*n), Unopened: make([]float64, n),
	}
	all := make([]float64, n)
	for z := range b.grid.Layers {
		for x := range b.grid.Lanes {
			for k, s := range b.slots {
				for c, v := range b.row(z, x, k) {
					f.Grams[(x*f.Cells+c)*n+s.component] += float64(v)
					all[s.component] += float64(v)
					f.Unopened[s.component] += float64(v) * s.unopened
				}
			}
		}
	}
	for k, g := range all {
		if g > 0 {
			f.Unopened[k] /= g
		}
	}
	return f
}
