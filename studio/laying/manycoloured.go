package laying

import (
	"slices"

	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
)

// How long a run of a painted top is, and what a metre of it weighs, where nothing was told (simulation.md, section 14).
const (
	usualRunG   = 20 * 12.0 / 100    // 12 cm at 20 g in a metre
	usualPatchG = 25 * 2.0 / 100 / 3 // 2 cm, over a third of the width
)

// lyingIn is how the colours of a component lie; nil where one shows: it has one, one of them was taken, or they were stirred together.
func lyingIn(c recipe.Component) *carding.Coloured {
	if c.Lot == nil || c.Only != "" || len(c.Lot.Colours) < 2 {
		return nil
	}
	lies := fibre.LieOf(c.Lot.Lies, c.Preparation)
	if lies == "stirred" {
		return nil
	}
	out := &carding.Coloured{Lies: carding.Lies(lies), Fed: carding.InOrder, PieceG: usualPatchG}
	n := float64(len(c.Lot.Colours))
	for _, v := range c.Lot.Colours {
		out.Shares = append(out.Shares, v.Share)
		out.RunsG = append(out.RunsG, usualRunG*n*v.Share)
	}
	return out
}

// part has every colour of a fibre of many followed for itself.
func (f *Foretelling) part(colours []colour.Reflectance, strength []float64) {
	l := f.Layup
	many := make([]*carding.Coloured, len(l.Blend.Components))
	for i, c := range l.Blend.Components {
		many[i] = lyingIn(c)
	}
	plan, slots := f.Plan.Part(many, CarderSeed)
	if plan.Slots() > carding.MaxSlots { // too many to be told apart
		plan, slots = f.Plan.Part(make([]*carding.Coloured, len(many)), CarderSeed)
		clear(many)
	}
	var own []colour.Reflectance
	var strong []float64
	var sorts []layup.Fibre
	f.of = nil
	for _, s := range slots {
		r := colours[s.Component]
		if many[s.Component] != nil {
			c := l.Blend.Components[s.Component].Lot.Colours[s.Colour]
			r = floor.ReflectanceIn(store.Colour{Hex: c.Hex, Reflectance: c.Reflectance})
		}
		own, strong, sorts = append(own, r), append(strong, strength[s.Component]), append(sorts, f.sorts[s.Component])
		f.of = append(f.of, s.Component)
	}
	f.Plan, f.sorts = plan, sorts
	f.Palette = carding.NewPalette(l.at.Model, own, strong)
}

// Together adds up what is by colour to what is by fibre.
func (f *Foretelling) Together(list []float64) []float64 {
	if len(list) != len(f.of) {
		return list
	}
	out := make([]float64, len(f.Layup.Blend.Components))
	for k, v := range list {
		out[f.of[k]] += v
	}
	return out
}

// OfFibres is a stage whose figures are of fibres, not of their colours.
func (f *Foretelling) OfFibres(st carding.Stage) carding.Stage {
	st.Grams, st.Lost = f.Together(st.Grams), f.Together(st.Lost)
	st.Lanes, st.Strips = f.sharesTogether(st.Lanes), f.sharesTogether(st.Strips)
	spreads := map[carding.Side]carding.Spreads{}
	for side, v := range st.Spreads {
		v.Shares = f.Together(v.Shares)
		spreads[side] = v
	}
	st.Spreads = spreads
	return st
}

func (f *Foretelling) sharesTogether(s carding.Shares) carding.Shares {
	out := carding.Shares{Grams: slices.Clone(s.Grams)}
	for i := range out.Grams {
		out.Grams[i] = f.Together(out.Grams[i])
	}
	return out
}
