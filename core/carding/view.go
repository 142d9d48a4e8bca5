package carding

import (
	"math"

	"fairtangle/core/colour"
	"fairtangle/core/mix"
)

// Side is from where a batt is looked at.
type Side string

// The sides: as it lies on the cloth, from the cloth (turned over about its length),
// and cut through, which is what a spinner drafts.
const (
	Face Side = "face"
	Back Side = "back"
	Cut  Side = "cut"
)

// View is what is seen of each cell: the share of each component in what shows, the
// part of it that is in clumps, and how much of the ground is covered.
type View struct {
	Lanes, Cells, Components int
	Shares, Patch            []float32 // component, cell, lane from fastest to slowest
	Cover                    []float32
}

// at is where a cell is in Shares and Patch.
func (v *View) at(x, c int) int { return (x*v.Cells + c) * v.Components }

// Look fills in what is seen of a side; v may be used again.
func (b *Batt) Look(v *View, side Side, components int) {
	cells := b.grid.Lanes * b.grid.Cells
	if v.Lanes != b.grid.Lanes || v.Cells != b.grid.Cells || v.Components != components {
		*v = View{
			b.grid.Lanes, b.grid.Cells, components,
			make([]float32, cells*components), make([]float32, cells*components), make([]float32, cells),
		}
	}
	clear(v.Shares)
	clear(v.Patch)
	area := b.lane * b.cell * 1e-6 // m²
	hide := float32(1 / (area * b.HidingGsm))
	through := make([]float32, b.grid.Cells)
	grams := make([]float32, b.grid.Cells)
	for x := range b.grid.Lanes {
		to := x
		if side == Back {
			to = b.grid.Lanes - 1 - x
		}
		for c := range through {
			through[c] = 1
		}
		shares, patch := v.Shares[v.at(to, 0):v.at(to+1, 0)], v.Patch[v.at(to, 0):v.at(to+1, 0)]
		for i := range b.grid.Layers {
			z := b.grid.Layers - 1 - i
			if side == Back {
				z = i
			}
			b.seen(z, x, side, hide, through, grams, shares, patch, components)
		}
		for c, left := range through {
			cover := 1 - left
			if side == Cut {
				cover = grams[c]
			}
			v.Cover[to*v.Cells+c] = cover
			if cover <= 0 {
				continue
			}
			for k := range components {
				shares[c*components+k] /= cover
				patch[c*components+k] /= cover
			}
		}
		clear(grams)
	}
	if side == Cut {
		for i, g := range v.Cover {
			v.Cover[i] = 1 - exp(g*hide)
		}
	}
}

// seen adds what shows of one layer of a lane. For a cut, grams gathers all there is.
func (b *Batt) seen(z, x int, side Side, hide float32, through, grams, shares, patch []float32, components int) {
	if side != Cut {
		clear(grams)
		for k := range b.slots {
			for c, m := range b.row(z, x, k) {
				grams[c] += m
			}
		}
		for c, m := range grams {
			if m <= 0 || through[c] < 0.01 {
				grams[c] = 0
				continue
			}
			e := exp(m * hide)
			grams[c] = through[c] * (1 - e) / m
			through[c] *= e
		}
	}
	for k, s := range b.slots {
		u := float32(s.unopened)
		for c, m := range b.row(z, x, k) {
			if m <= 0 {
				continue
			}
			gain := m
			if side != Cut {
				gain *= grams[c]
			} else {
				grams[c] += m
			}
			at := c*components + s.component
			shares[at] += gain
			patch[at] += gain * u
		}
	}
	if side != Cut {
		clear(grams)
	}
}

// exp is e to the power of -x, for x from 0, good to 1e-4.
func exp(x float32) float32 {
	if x > 12 {
		return 0
	}
	// (1 + x/16)^-16 with the next term of its series.
	y := 1 + x*(1.0/16)*(1+x*(1.0/32)*(1+x*(1.0/48)))
	y *= y
	y *= y
	y *= y
	y *= y
	return 1 / y
}

// Palette is the components as the eye mixes them.
type Palette struct {
	Model    mix.Model
	Prepared []mix.Prepared
	Linear   []colour.Linear
	Strength []float64
}

// NewPalette readies the colours of components. A strength says how much a gram
// counts for the colour; nil for 1.
func NewPalette(m mix.Model, colours []colour.Reflectance, strength []float64) Palette {
	p := Palette{Model: m, Prepared: make([]mix.Prepared, len(colours)), Linear: make([]colour.Linear, len(colours)), Strength: strength}
	for i := range colours {
		p.Prepared[i], p.Linear[i] = m.Prepare(&colours[i]), colours[i].Linear()
	}
	if strength == nil {
		p.Strength = make([]float64, len(colours))
		for i := range p.Strength {
			p.Strength[i] = 1
		}
	}
	return p
}

// Even returns the colour of the even mix of shares; those below 0.0005 count for
// nothing.
func (p *Palette) Even(shares []float32) colour.Linear {
	var lots [MaxSlots]*mix.Prepared
	var parts [MaxSlots]float64
	n, sum := 0, 0.0
	for k, s := range shares {
		if s > 0.0005 {
			lots[n], parts[n] = &p.Prepared[k], float64(s)*p.Strength[k]
			sum += parts[n]
			n++
		}
	}
	for i := range n {
		parts[i] /= sum
	}
	r := p.Model.Blend(lots[:n], parts[:n])
	return r.Linear()
}

// Colours fills in the colour of every cell of a view: clumps are patches whose areas
// average, opened fibre is mixed. Cells without fibre are left out: NaN.
func (v *View) Colours(p *Palette, out []colour.Linear) []colour.Linear {
	if len(out) != len(v.Cover) {
		out = make([]colour.Linear, len(v.Cover))
	}
	n := v.Components
	for i := range out {
		if v.Cover[i] <= 0 {
			out[i] = colour.Linear{math.NaN(), math.NaN(), math.NaN()}
			continue
		}
		shares, patch := v.Shares[i*n:i*n+n], v.Patch[i*n:i*n+n]
		var c colour.Linear
		apart := 0.0
		for k, u := range patch {
			w := float64(u)
			apart += w
			for ch := range c {
				c[ch] += w * p.Linear[k][ch]
			}
		}
		if apart < 0.9999 {
			even := p.Even(shares)
			for ch := range c {
				c[ch] += (1 - apart) * even[ch]
			}
		}
		out[i] = c
	}
	return out
}
