package laying

import (
	"slices"

	"fairtangle/core/carding"
	"fairtangle/core/colour"
	"fairtangle/core/layup"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/recipe"
)

// How long a run of a painted top is, how large a blotch, and what a metre of a top weighs, where nothing was told
// (simulation.md, section 14). Torn pieces are 6 cm long; a blotch covers a third of the width.
const (
	usualRunCM   = 12.0
	usualPatchCM = 2.0
	tornCM       = 6.0
	paintedGPerM = 20.0
	topGPerM     = 25.0
	patchPart    = 1.0 / 3
)

// lyingIn is how the colours of a component lie and how it is used; nil where one shows, or it was stirred first.
func lyingIn(c recipe.Component, fed layup.FedAs) *carding.Coloured {
	lies := c.Lies()
	if lies == "" || fed.How == "stirred-first" {
		return nil
	}
	run, patch := usualRunCM, usualPatchCM
	if c.Lot.RunCM > 0 {
		run, patch = c.Lot.RunCM, c.Lot.RunCM
	}
	out := &carding.Coloured{Lies: carding.Lies(lies), Fed: carding.Fed(fed.How), Abreast: fed.Abreast, PieceG: topGPerM * patch / 100 * patchPart}
	if lies == string(carding.Along) {
		out.PieceG = paintedGPerM * min(run, tornCM) / 100
	}
	n := float64(len(c.Lot.Colours))
	for _, v := range c.Lot.Colours {
		out.Shares = append(out.Shares, v.Share)
		out.RunsG = append(out.RunsG, paintedGPerM*run/100*n*v.Share)
	}
	return out
}

// ColourPart is where one colour of a lay lies, in parts of the cloth; later ones lie upon those before.
type ColourPart struct {
	Hex                  string
	From, To, Start, End float64
	Grams                float64
}

// ColourParts tells of each lay of each layer where its colours lie; nil of a fibre of one.
func (out Layup) ColourParts() [][][]ColourPart {
	n := len(out.Blend.Components)
	many := make([]*carding.Coloured, n)
	any := false
	for i, c := range out.Blend.Components {
		many[i] = lyingIn(c, out.LaidPlan.FedOf(i))
		any = any || many[i] != nil
	}
	if !any {
		return nil
	}
	each := carding.Plan{Bed: carding.Bed{WidthMM: out.Bed.WidthMM, LengthMM: out.Bed.LengthMM}, Components: make([]carding.Component, n)}
	for _, l := range out.LaidPlan.Layers {
		for _, v := range l.Lays {
			lay := carding.Lay{Component: v.Component, From: v.From, To: v.To, Start: v.Start, End: v.End, Grams: v.Grams, Method: carding.Method(v.Method)}
			if v.Component >= n {
				lay.Grams = 0 // no longer in the blend
			}
			each.Layers = append(each.Layers, []carding.Lay{lay})
		}
	}
	parted, slots := each.Part(many, CarderSeed)
	parts, at := make([][][]ColourPart, len(out.LaidPlan.Layers)), 0
	for i, l := range out.LaidPlan.Layers {
		parts[i] = make([][]ColourPart, len(l.Lays))
		for j, v := range l.Lays {
			for _, p := range parted.Layers[at] {
				if v.Component < n && many[v.Component] != nil {
					hex := out.Blend.Components[v.Component].Lot.Colours[slots[p.Component].Colour].Hex
					parts[i][j] = append(parts[i][j], ColourPart{hex, p.From, p.To, p.Start, p.End, p.Grams})
				}
			}
			at++
		}
	}
	return parts
}

// part has every colour of a fibre of many followed for itself.
func (f *Foretelling) part(colours []colour.Reflectance, strength []float64) {
	l := f.Layup
	many := make([]*carding.Coloured, len(l.Blend.Components))
	for i, c := range l.Blend.Components {
		many[i] = lyingIn(c, l.LaidPlan.FedOf(i))
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
	f.Plan, f.sorts, f.own = plan, sorts, own
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

// Leading names the fibre that there is most of in shares of what is followed, and its colour that there is most of where it has
// several.
func (f *Foretelling) Leading(shares []float64) string {
	fibres := f.Together(shares)
	most := 0
	for i, v := range fibres {
		if v > fibres[most] {
			most = i
		}
	}
	name, lead, colours := f.Layup.Fibres[most].Name, -1, 0
	for k, of := range f.of {
		if of == most && k < len(shares) {
			if colours++; lead < 0 || shares[k] > shares[lead] {
				lead = k
			}
		}
	}
	if colours < 2 {
		return name
	}
	return name + ", " + colour.Name(f.own[lead].Lab())
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
