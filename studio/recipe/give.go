package recipe

import (
	"fairtangle/core/fibre"
	"fairtangle/core/given"
)

// Given is a blend as it is given away: what lies in a lot that was made here stands as one fibre, called by what lies most in it.
func (b Blend) Given(by, note string) given.Recipe {
	r := given.Recipe{Format: given.Format, Version: 1, Name: b.Name, By: by, Note: note, TotalG: b.TotalG, Passes: b.Passes, Colour: b.Hex}
	for _, c := range b.Components {
		kind := c.Fibre
		v := given.Component{Name: c.Name, Kind: kind.Key, Content: kind.Content(), Preparation: c.Preparation, Colour: c.Hex, Share: c.Share, StapleMM: c.StapleMM()}
		if c.Lot != nil {
			v.Preparation = c.Lot.Preparation
			if !c.Lot.Measured {
				v.StapleMM = 0
			}
			if c.Lot.Made != nil && len(c.Lot.Made.Of) > 0 {
				if most, known := fibre.FindKind(c.Lot.Made.Of[0].Kind); known {
					v.Kind, v.Content = most.Key, most.Content()
				}
			}
		} else {
			v.StapleMM = 0
		}
		if _, known := fibre.FindKind(v.Kind); !known { // one of the maker's own
			v.Kind = ""
		}
		r.Components = append(r.Components, v)
	}
	return r
}
