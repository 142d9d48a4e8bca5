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
	lane                     lane
}

// Show fills in what is seen of a side; v may be used again.
func (b *Batt) Show(v *View, side Side, components int) { b.show(v, side, components, false) }

// ShowBare is Show without what was placed on top as it is, for who draws that by itself.
func (b *Batt) ShowBare(v *View, side Side, components int) { b.show(v, side, components, true) }

func (b *Batt) show(v *View, side Side, components int, bare bool) {
	cells := b.grid.Lanes * b.grid.Cells
	if v.Lanes != b.grid.Lanes || v.Cells != b.grid.Cells || v.Components != components {
		*v = View{
			Lanes: b.grid.Lanes, Cells: b.grid.Cells, Components: components,
			Shares: make([]float32, cells*components), Patch: make([]float32, cells*components), Cover: make([]float32, cells),
			lane: lane{make([]float32, b.grid.Cells), make([]float32, b.grid.Cells), make([]float32, 2*components*b.grid.Cells)},
		}
	}
	for x := range b.grid.Lanes {
		to := x
		if side == Back {
			to = b.grid.Lanes - 1 - x
		}
		if side == Cut {
			b.cut(&v.lane, x)
		} else {
			b.seen(&v.lane, x, side == Back, bare)
		}
		v.keep(to, side == Cut)
	}
	if side == Cut {
		hide := b.hide()
		for i, g := range v.Cover {
			v.Cover[i] = 1 - exp(g*hide)
		}
	}
}

// lane is the room for looking at one lane: what still shows through, what a gram of a
// layer shows, and by component what shows and how much of that is in clumps.
type lane struct{ through, factor, sums []float32 }

// hide is one over the grams that let 1/e of what lies below a cell show.
func (b *Batt) hide() float32 { return float32(1 / (b.lane * b.cell * 1e-6 * b.HidingGsm)) }

// shows is the transmission below which nothing is seen any more.
const shows = 0.01

// seen gathers what shows of a lane, from the seen side inwards.
func (b *Batt) seen(l *lane, x int, back, bare bool) {
	clear(l.sums)
	for c := range l.through {
		l.through[c] = 1
	}
	hide, n := b.hide(), len(l.through)
	for i := range b.grid.Layers {
		z := b.grid.Layers - 1 - i
		if back {
			z = i
		}
		f := l.factor
		clear(f)
		for k, s := range b.slots {
			if bare && s.asPlaced() {
				continue
			}
			for c, m := range b.row(z, x, k)[:len(f)] {
				f[c] += m
			}
		}
		left := false
		for c, m := range f {
			t := l.through[c]
			if m <= 0 || t < shows {
				f[c] = 0
				left = left || t >= shows
				continue
			}
			e := exp(m * hide)
			f[c] = t * (1 - e) / m
			l.through[c] = t * e
			left = left || t*e >= shows
		}
		for k, s := range b.slots {
			if bare && s.asPlaced() {
				continue
			}
			u := float32(s.unopened)
			share, patch := l.sums[2*s.component*n:][:n], l.sums[(2*s.component+1)*n:][:n]
			for c, m := range b.row(z, x, k)[:n] {
				g := m * f[c]
				share[c] += g
				patch[c] += g * u
			}
		}
		if !left {
			return
		}
	}
}

// cut gathers all there is of a lane.
func (b *Batt) cut(l *lane, x int) {
	clear(l.sums)
	n := len(l.through)
	for c := range l.through {
		l.through[c] = 1
	}
	for z := range b.grid.Layers {
		for k, s := range b.slots {
			u := float32(s.unopened)
			share, patch := l.sums[2*s.component*n:][:n], l.sums[(2*s.component+1)*n:][:n]
			for c, m := range b.row(z, x, k)[:n] {
				share[c] += m
				patch[c] += m * u
			}
		}
	}
}

// keep writes a lane's sums as shares of what shows.
func (v *View) keep(x int, grams bool) {
	n := v.Cells
	cover := v.Cover[x*n : x*n+n]
	for c, t := range v.lane.through {
		cover[c] = 1 - t
		v.lane.factor[c] = 0
		if cover[c] > 0 {
			v.lane.factor[c] = 1 / cover[c]
		}
	}
	if grams { // their sum is nearer to them than 1 less what is left of 1
		for c := range cover {
			var sum float32
			for k := range v.Components {
				sum += v.lane.sums[2*k*n+c]
			}
			cover[c], v.lane.factor[c] = sum, 0
			if sum > 0 {
				v.lane.factor[c] = 1 / sum
			}
		}
	}
	for k := range v.Components {
		share, patch := v.lane.sums[2*k*n:][:n], v.lane.sums[(2*k+1)*n:][:n]
		at := x*n*v.Components + k
		for c, f := range v.lane.factor {
			v.Shares[at], v.Patch[at] = share[c]*f, patch[c]*f
			at += v.Components
		}
	}
}

// shares is how much of what is seen falls to each component.
func (v *View) shares() []float64 {
	out := make([]float64, v.Components)
	var all float64
	for i, cover := range v.Cover {
		for k, s := range v.Shares[i*v.Components:][:v.Components] {
			out[k] += float64(cover * s)
		}
		all += float64(cover)
	}
	for k := range out {
		out[k] /= max(all, 1e-12)
	}
	return out
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
	if n == 1 {
		for k, s := range shares {
			if s > 0.0005 {
				return p.Linear[k]
			}
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
func (v *View) Colours(p *Palette, out []colour.Linear) []colour.Linear { return v.colours(p, out, 1) }

// colours is Colours of every so-manieth cell along; those between are left out.
func (v *View) colours(p *Palette, out []colour.Linear, every int) []colour.Linear {
	if len(out) != len(v.Cover) {
		out = make([]colour.Linear, len(v.Cover))
	}
	n := v.Components
	for i := range out {
		if v.Cover[i] <= 0 || i%v.Cells%every != 0 {
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

// Bed returns the cloth that a batt lies on.
func (b *Batt) Bed() Bed { return b.bed }

// StreakWidths is how wide the streaks of each component's clumps are, by mass, in mm.
func (b *Batt) StreakWidths(components int) []float64 {
	out, grams := make([]float64, components), make([]float64, components)
	for _, s := range b.slots {
		out[s.component] += s.ledger * s.clump / (b.ClumpGsm * 1e-6 * b.StreakMM)
		grams[s.component] += s.ledger
	}
	for k := range out {
		if grams[k] > 0 {
			out[k] /= grams[k]
		}
	}
	return out
}
