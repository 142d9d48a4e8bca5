package layup

import "fmt"

// Severity is how much a finding weighs.
type Severity string

// Stop means that the plan should change first, Caution that it is worth a
// thought, Hint that it may be known.
const (
	Stop    Severity = "stop"
	Caution Severity = "caution"
	Hint    Severity = "hint"
)

// Finding is something that is likely to go wrong, why, and what to do. Layer,
// Lay and Component are -1 where it is not about one. Mend names the change
// that puts it right, where there is one: place, fit, clear, bury, uneven,
// rolags.
type Finding struct {
	Key       string   `json:"key"`
	Severity  Severity `json:"severity"`
	What      string   `json:"what"`
	Why       string   `json:"why"`
	Do        string   `json:"do"`
	Layer     int      `json:"layer"`
	Lay       int      `json:"lay"`
	Component int      `json:"component"`
	Mend      string   `json:"mend,omitempty"`
}

// Bounds of what is usual; sources are the arithmetic of fill (a lane above
// 1.1 of its share, a variation above 0.15) and the makers' rules of load.
const (
	full       = 1.0
	farTooFull = 1.25
	thin       = 0.3
	LaneFull   = 1.1
	LaneThin   = 0.6 // of the mean
	uneven     = 0.15
	tooLongMM  = 150
)

// findings gathers.
type findings struct {
	list   []Finding
	plan   Plan
	bed    Bed
	fibres []Fibre
	loads  Loads
	rolls  *Rolls
}

func (s *findings) add(key string, sev Severity, mend, what, why, do string) *Finding {
	s.list = append(s.list, Finding{Key: key, Severity: sev, What: what, Why: why, Do: do, Layer: -1, Lay: -1, Component: -1, Mend: mend})
	return &s.list[len(s.list)-1]
}

// Findings looks a checked lay-up over.
func (p Plan) Findings(b Bed, fibres []Fibre, l Loads, r *Rolls) []Finding {
	s := &findings{list: []Finding{}, plan: p, bed: b, fibres: fibres, loads: l, rolls: r}
	s.amounts()
	if l.TotalG <= speck {
		return s.list
	}
	s.fill()
	s.lanes()
	s.order()
	s.methods()
	s.short()
	s.rolags()
	return s.list
}

func (s *findings) amounts() {
	const why, do = "Fibre that is weighed but not laid is missing in the blend.", "Lay the rest"
	var open []int
	var sum float64
	for i, left := range s.loads.UnplacedG {
		name := s.fibres[i].Name
		switch {
		case left > 0.005:
			open = append(open, i)
			sum += left
		case left < -0.005:
			s.add("overplaced", Stop, "fit", fmt.Sprintf("The lays of %s take %.4g g more than there are.", name, -left),
				"The blend or the number of units changed after it was laid.", "Fit it to the blend").Component = i
		}
	}
	switch len(open) {
	case 0:
	case 1:
		s.add("unplaced", Hint, "place", fmt.Sprintf("%.4g g of %s are not laid yet.", sum, s.fibres[open[0]].Name), why, do).Component = open[0]
	default:
		s.add("unplaced", Hint, "place", fmt.Sprintf("%.4g g of %d fibres are not laid yet.", sum, len(open)), why, do)
	}
}

func (s *findings) fill() {
	switch f := s.loads.Fill; {
	case f > farTooFull:
		s.add("far_too_full", Stop, "", fmt.Sprintf("It is filled to %.0f %%, far above the pins.", 100*f),
			"The packed layer can lift the cloth, bend pins and strain the drive, and tears as it comes off. The maker’s figure wins over this one.",
			fmt.Sprintf("Divide what lies here into %d units or more.", unitsFor(f, 0.9)))
	case f > full:
		s.add("too_full", Caution, "", fmt.Sprintf("It is filled to %.0f %%.", 100*f),
			"Fibre above the pin tips is not opened any more; it piles up and hides what is not mixed.",
			fmt.Sprintf("Divide what lies here into %d units.", unitsFor(f, 1)))
	case f < thin && !s.left():
		s.add("thin", Hint, "", fmt.Sprintf("It is filled to %.0f %% only.", 100*f),
			"A thin web has too few fibres across each spot to come off whole.", "Lay more in each unit, or take smaller equipment.")
	}
	if s.loads.Over && s.loads.Fill <= full {
		s.add("over_pins", Caution, "", fmt.Sprintf("In places it stands %.1f mm high; the pins end at %.0f mm.", s.loads.HeightMM, s.bed.ToothMM),
			"What lies above the pins is not held by them.", "Spread the thickest place wider.")
	}
}

func unitsFor(fill, target float64) int {
	n := 1
	for fill/float64(n) > target {
		n++
	}
	return n
}

// left tells whether something is still to be laid.
func (s *findings) left() bool {
	for _, g := range s.loads.UnplacedG {
		if g > 0.005 {
			return true
		}
	}
	return false
}

func (s *findings) lanes() {
	if s.plan.Uneven || len(s.loads.Lanes) < 2 {
		return
	}
	for _, v := range s.loads.Lanes {
		where := fmt.Sprintf("from %.0f to %.0f %% of the width", 100*v.From, 100*v.To)
		switch {
		case v.Load > LaneFull && (s.loads.Fill <= full || v.Load > farTooFull*s.loads.Fill): // else all of it is too full
			s.add("lane_full", Caution, "uneven", fmt.Sprintf("Too full %s: %.0f %%.", where, 100*v.Load),
				"A thick lane takes up the pins while its neighbours run empty, and drafts as a thick strand.", "Make it wider, move grams next to it, or say that it is meant so")
		case v.Load < LaneThin*s.loads.Fill && !s.left():
			s.add("lane_thin", Caution, "uneven", fmt.Sprintf("Thin %s: %.0f %% against %.0f %% on average.", where, 100*v.Load, 100*s.loads.Fill),
				"The batt splits along a thin strip as it is lifted.", "Top it up, or say that it is meant so")
		}
	}
	if s.loads.Variation > uneven && !s.left() {
		s.add("thick_and_thin", Caution, "uneven", fmt.Sprintf("Thick and thin: the lanes differ by %.0f %% around their mean.", 100*s.loads.Variation),
			"Above 15 % one sees and feels it in the batt.", "Widen the full lanes, or say that it is meant so")
	}
}

// order looks at what lies first and last on a drum or board.
func (s *findings) order() {
	n := len(s.plan.Layers)
	if s.bed.Type == Cards {
		return
	}
	var loose, grip, all float64
	for _, v := range s.plan.Layers[0].Lays {
		f := s.fibres[v.Component]
		all += v.Grams
		if f.extra() || f.Cohesion == "slippery" {
			loose += v.Grams
		}
		if f.grips() {
			grip += v.Grams
		}
	}
	mend := ""
	if s.holds(0) {
		mend = "bury"
	}
	if loose > 0 || grip < all/2-speck {
		s.add("base_layer", Caution, mend, "The first layer on the cloth does not grip.",
			"The deepest fibre is the hardest to lift: crimped wool stays joined and brings the rest with it.", "Lay a thin layer of the grippiest wool first").Layer = 0
	}
	if s.holds(n - 1) {
		s.add("cover_layer", Caution, "bury", "Neps, noil or film lie on top.",
			"Loose bits are held only by fibre across them; bare, they drop.", "Put them below a thin cover").Layer = n - 1
	}
	for i, l := range s.plan.Layers {
		for j, v := range l.Lays {
			if s.fibres[v.Component].lock() && (i < n-2 || v.Method == Feed) {
				f := s.add("locks_last", Caution, "", fmt.Sprintf("Locks of %s lie deep, or go through the tray.", s.fibres[v.Component].Name),
					"Each trip over the pins opens the curl that they are there for, and deep ones are not seen.", "Place them in one of the last two layers.")
				f.Layer, f.Lay = i, j
				return
			}
		}
	}
}

// holds tells whether a layer has extras in it.
func (s *findings) holds(layer int) bool {
	for _, v := range s.plan.Layers[layer].Lays {
		if s.fibres[v.Component].extra() {
			return true
		}
	}
	return false
}

func (s *findings) methods() {
	seen := map[string]bool{}
	once := func(key string, component, layer int) *Finding {
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
			if v.Method != Feed {
				continue
			}
			switch {
			case f.extra():
				if m := once("fed_bare", v.Component, i); m != nil {
					m.What, m.Why, m.Do = f.Name+" goes through the tray by itself.", "A ball or a strip gives the drum no long end to take; it is thrown down or lodges between the pins.", "Place it on the drum, or feed it between veils of wool."
				}
			case f.LickerIn == "avoid":
				if m := once("licker_in", v.Component, i); m != nil {
					m.What, m.Why, m.Do = f.Name+" clings to the small drum.", "Slick or endless fibre winds on the licker-in while the drum has nothing to pull by.", "Paint it on the drum, between wool."
				}
			case f.StapleMM > tooLongMM:
				if m := once("too_long", v.Component, i); m != nil {
					m.What, m.Why, m.Do = fmt.Sprintf("%s is %.0f mm long.", f.Name, f.StapleMM), "The main drum grips one end while the small drum still holds the other.", "Cut or pull it to about 100 mm, or paint it."
				}
			}
		}
	}
}

// short looks at fibre for punis: a companion that is much longer is cut.
func (s *findings) short() {
	which, to := ToCut(s.fibres)
	for _, i := range which {
		f := s.add("companion_long", Caution, "", fmt.Sprintf("%s is %.0f mm long beside fibre of %.0f mm.", s.fibres[i].Name, s.fibres[i].StapleMM, to),
			"The long fibre drafts first and the short comes after it in lumps.", fmt.Sprintf("Cut it to about %.0f mm, or keep it under 10 %%.", to))
		f.Component = i
	}
}

func (s *findings) rolags() {
	if s.rolls == nil {
		return
	}
	r := s.rolls
	if w := r.Staples; w < 1.5-1e-9 || w > 2+1e-9 {
		why := "Too long a wrap builds thick layers that do not draft in order."
		if w < 1.5 {
			why = "Too short a wrap leaves no lap, and the rolag falls open."
		}
		s.add("wrap_length", Caution, "rolags", fmt.Sprintf("Each of %d rolags wraps %.1f staples of the longest main fibre.", r.Count, w), why,
			fmt.Sprintf("Make %d of the board", r.Suggested))
	}
	for i, l := range s.plan.Layers {
		for j, v := range l.Lays {
			f := s.fibres[v.Component]
			if f.lock() && v.crosses(f, s.bed, r.Cuts) {
				what, do, mend := fmt.Sprintf("Locks of %s lie across a cut.", f.Name), "Put them clear of the cuts", "clear"
				if f.StapleMM > r.ZoneMM {
					what, do, mend = fmt.Sprintf("Locks of %s are longer than a rolag’s zone.", f.Name), "Make fewer rolags, or cut the locks.", ""
				}
				m := s.add("locks_cut", Hint, mend, what, "A lock over the line belongs to two rolags; it tears, or pulls a hole as the first is rolled.", do)
				m.Layer, m.Lay = i, j
				return
			}
		}
	}
	var short, all float64
	for _, f := range s.fibres {
		all += f.Grams
		if f.ground() && f.StapleMM < 45 {
			short += f.Grams
		}
	}
	if short > 0.6*all {
		s.add("punis", Hint, "", fmt.Sprintf("%.0f %% of it is shorter than 45 mm.", 100*short/all),
			"Short fibre has few overlaps; a firm thin roll keeps it in order until twist reaches it.", "Roll punis instead: a rod of 5 to 8 mm, 1.5 to 3 g each.")
	}
}
