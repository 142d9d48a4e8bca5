package advice

import (
	"fmt"
	"slices"

	"fairtangle/core/layup"
	"fairtangle/core/unit"
)

// lanes looks at strips that are too full or too thin.
func (s *cloth) lanes() {
	if s.plan.Uneven || len(s.loads.Lanes) < 2 {
		return
	}
	for _, v := range s.loads.Lanes {
		where := fmt.Sprintf("from %.0f to %.0f %% of the width", 100*v.From, 100*v.To)
		switch {
		case s.loads.TooFull(v, s.b("R19 load as laid"), s.b("R17 from")):
			s.add(
				"lane_full",
				Caution,
				"uneven",
				fmt.Sprintf("Too full %s: %.0f %%.", where, 100*v.Load),
				"A thick lane takes up the pins while its neighbours run empty, and drafts as a thick strand.",
				"Make it wider, move grams next to it, or say that it is meant so",
			)
		case v.Load < s.b("R20 of the mean")*s.loads.Fill && !s.left():
			s.add("lane_thin", Caution, "uneven", fmt.Sprintf("Thin %s: %.0f %% against %.0f %% on average.", where, 100*v.Load, 100*s.loads.Fill),
				"The batt splits along a thin strip as it is lifted.", "Top it up, or say that it is meant so")
		}
	}
	if s.loads.Variation > s.b("L05 variation") && !s.left() {
		s.add("thick_and_thin", Caution, "uneven", fmt.Sprintf("Thick and thin: the lanes differ by %.0f %% around their mean.", 100*s.loads.Variation),
			fmt.Sprintf("Above %.0f %% one sees and feels it in the batt.", 100*s.b("L05 variation")), "Widen the full lanes, or say that it is meant so")
	}
}

// order looks at what lies first and last on a drum or board.
func (s *cloth) order() {
	n := len(s.plan.Layers)
	if s.bed.Type == layup.Cards || !s.bed.Pins() {
		return
	}
	s.base()
	covers := slices.ContainsFunc(s.fibres, func(f layup.Fibre) bool { return f.Ground() && f.Grams > speck })
	if s.holds(n-1) && covers && !s.plan.Late(s.plan.Layers[n-1]) {
		s.add("cover_layer", Caution, "bury", "Neps, noil or film lie on top.",
			"Loose bits are held only by fibre across them; bare, they drop.", "Put them below a thin cover").Layer = n - 1
	}
	for i, l := range s.plan.Layers {
		for j, v := range l.Lays {
			late := s.plan.JoinsAt(v.Component) > 1
			if s.fibres[v.Component].Lock() && (i < n-2 && !late || v.Method == layup.Feed) {
				f := s.add("locks_last", Caution, "", fmt.Sprintf("Locks of %s lie deep, or go through the tray.", s.fibres[v.Component].Name),
					"Each trip over the pins opens the curl that they are there for, and deep ones are not seen.", "Place them in one of the last two layers.")
				f.Layer, f.Lay = i, j
				return
			}
		}
	}
}

// slides finds a strip of the width in which what does not hold by itself lies alone, or outweighs what carries it, where there
// is enough of that in all. What is there to be seen lies where the maker wants it.
func (s *cloth) slides() {
	var all, holds float64
	for i, f := range s.fibres {
		if all += s.loads.PlacedG[i]; f.Holds() {
			holds += s.loads.PlacedG[i]
		}
	}
	if holds < all/2 || s.left() {
		return
	}
	for _, v := range s.loads.Lanes {
		most, which, here, slips := 0.0, -1, 0.0, 0.0
		for i, g := range s.plan.InStrip(v.From, v.To, len(s.fibres)) {
			f, use := s.fibres[i], s.plan.UseOf(s.fibres, i)
			switch {
			case f.Holds():
				here += g
			case f.Ground() && (use == layup.AsLane || use == layup.AsScatter || use == layup.AsBase):
				if slips += g; g > most {
					most, which = g, i
				}
			}
		}
		if which >= 0 && slips > here+speck {
			m := s.add("strip_slides", Caution, "use",
				fmt.Sprintf("From %.0f to %.0f %% of the width %s lies with too little wool to carry it.", 100*v.From, 100*v.To, s.fibres[which].Name),
				"A strip of it does not hold together: the batt splits there, and it drafts in lumps.", "Scatter it between the layers")
			m.Component = which
			return
		}
	}
}

// base looks at what lies on the bare cloth. It only advises wool that is in the
// blend, and nothing against what was chosen.
func (s *cloth) base() {
	b := s.plan.Bottom(s.fibres)
	if !b.Slides || s.plan.Bare || s.schools["first"] == "bare" {
		return
	}
	mend := ""
	if b.Extras {
		mend = "bury"
	}
	s.add("base_layer", Caution, mend, "The first layer on the cloth does not grip.",
		"The deepest fibre is the hardest to lift: crimped wool stays joined and brings the rest with it.",
		fmt.Sprintf("Lay a thin layer of %s first", s.fibres[b.Wool].Name)).Layer = b.Layer
}

// holds reports whether a layer has extras in it.
func (s *cloth) holds(layer int) bool {
	for _, v := range s.plan.Layers[layer].Lays {
		if s.fibres[v.Component].Extra() {
			return true
		}
	}
	return false
}

func (s *cloth) methods() {
	seen := map[string]bool{}
	once := func(key string, component, layer int) *LaidFinding {
		if id := fmt.Sprint(key, component); !seen[id] {
			seen[id] = true
			f := s.add(key, Caution, "", "", "", "")
			f.Layer, f.Component = layer, component
			return f
		}
		return nil
	}
	for i, l := range s.plan.Layers {
		for _, v := range l.Lays {
			f := s.fibres[v.Component]
			if v.Method != layup.Feed || f.Lock() { // fed locks have an advice of their own
				continue
			}
			switch {
			case f.Extra():
				if m := once("fed_bare", v.Component, i); m != nil {
					m.What = plain(f.Name + " goes through the tray by itself.")
					m.Why = plain("A ball or a strip gives the drum no long end to take; it is thrown down or lodges between the pins.")
					m.Do = plain("Place it on the drum, or feed it between veils of wool.")
				}
			case f.LickerIn == "avoid":
				if m := once("licker_in", v.Component, i); m != nil {
					m.What = plain(f.Name + " clings to the small drum.")
					m.Why = plain("Slick or endless fibre winds on the licker-in while the drum has nothing to pull by.")
					m.Do = plain("Paint it on the drum, between wool.")
				}
			case f.StapleMM > s.b("R03 mm"):
				if m := once("too_long", v.Component, i); m != nil {
					m.What = unit.Say("%s is %s long.", f.Name, unit.Millimetres(f.StapleMM))
					m.Why = plain("The main drum grips one end while the small drum still holds the other.")
					m.Do = unit.Say("Cut or pull it to about %s, or paint it.", unit.Millimetres(100))
				}
			}
		}
	}
}
