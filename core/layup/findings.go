package layup

import (
	"encoding/json"
	"fmt"
	"slices"

	"fairtangle/core/unit"
)

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
// rolags, joins, passes, refeed, gather, units; Others are more such.
type Finding struct {
	Key       string        `json:"key"`
	Severity  Severity      `json:"severity"`
	What      unit.Sentence `json:"what"`
	Why       unit.Sentence `json:"why"`
	Do        unit.Sentence `json:"do"`
	Layer     int           `json:"layer"`
	Lay       int           `json:"lay"`
	Component int           `json:"component"`
	Mend      string        `json:"mend,omitempty"`
	Times     int           `json:"times,omitempty"` // of the mend, where it takes a number
	Others    []Way         `json:"others,omitempty"`
}

// MarshalJSON adds the quantities of What, so that nobody has to read them out of
// the sentence.
func (f Finding) MarshalJSON() ([]byte, error) {
	type said Finding
	return json.Marshal(struct {
		said
		Values []unit.Quantity `json:"values"`
	}{said(f), f.What.Quantities()})
}

// Way is another change that puts a finding right.
type Way struct {
	Mend  string `json:"mend"`
	Do    string `json:"do"`
	Times int    `json:"times,omitempty"`
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

	last    int               // pass
	schools map[string]string // that were chosen
	right   []string
}

// add finds something that is said without a quantity.
func (s *findings) add(key string, sev Severity, mend, what, why, do string) *Finding {
	return s.measured(key, sev, mend, plain(what), plain(why), plain(do))
}

func plain(text string) unit.Sentence { return unit.Say("%s", text) }

// measured finds something that is said with weights or lengths.
func (s *findings) measured(key string, sev Severity, mend string, what, why, do unit.Sentence) *Finding {
	s.list = append(s.list, Finding{Key: key, Severity: sev, What: what, Why: why, Do: do, Layer: -1, Lay: -1, Component: -1, Mend: mend})
	return &s.list[len(s.list)-1]
}

// all looks a checked lay-up over.
func (s *findings) all() {
	s.amounts()
	s.prepared()
	if s.loads.TotalG <= speck {
		return
	}
	s.fill()
	s.lanes()
	s.order()
	if s.bed.Pins() {
		s.methods()
		s.later()
	}
	s.short()
	s.rolags()
	if s.schools["extras"] == "quarter" {
		s.tooManyExtras()
	}
}

// prepared finds fibre that is not ready for the cloth.
func (s *findings) prepared() {
	for i, f := range s.fibres {
		if f.Preparation == rawFleece {
			s.add("greasy_raw", Stop, "", f.Name+" is raw fleece.",
				"Grease glues dirt and short ends into the cloth and can rust the pins; up to half of what is weighed is dirt and grease.",
				"Wash, dry and pick it first, and put it on the shelf as what it is then.").Component = i
		}
	}
}

// overplacedG is by how much lays may take more than there is: what rounding to
// the scale's step leaves over when the number of units changes.
const overplacedG = 0.05

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
		case left < -overplacedG:
			s.measured("overplaced", Stop, "fit", unit.Say("The lays of %s take %s more than there are.", name, unit.Grams(-left)),
				plain("The blend or the number of units changed after it was laid."), plain("Fit it to the blend")).Component = i
		}
	}
	for i, f := range s.fibres {
		if f.Wanted > speck && f.Grams <= speck {
			s.add("rounds_to_nothing", Caution, "", fmt.Sprintf("Each unit would take less %s than a step of the scale.", f.Name),
				"What rounds to nothing is missing in the batt.", "Weigh it once for all units and divide it by eye, mix it into another fibre first, or take a finer scale.").Component = i
		}
	}
	switch len(open) {
	case 0:
	case 1:
		s.measured("unplaced", Hint, "place", unit.Say("%s of %s are not laid yet.", unit.Grams(sum), s.fibres[open[0]].Name), plain(why), plain(do)).Component = open[0]
	default:
		s.measured("unplaced", Hint, "place", unit.Say("%s of %d fibres are not laid yet.", unit.Grams(sum), len(open)), plain(why), plain(do))
	}
}

func (s *findings) fill() {
	if !s.bed.Pins() {
		s.handful()
		return
	}
	switch f := s.loads.Fill; {
	case f > farTooFull:
		harm := "lift the cloth and bend pins"
		if s.bed.Type == Drum {
			harm = "lift the cloth, bend pins and strain the drive"
		}
		s.add("far_too_full", Stop, "more-units", fmt.Sprintf("It is filled to %.0f %%, far above the pins.", 100*f),
			fmt.Sprintf("The packed layer can %s, and tears as it comes off. The maker’s figure wins over this one.", harm),
			fmt.Sprintf("Divide what lies here into %d units or more", unitsFor(f, 0.9))).Times = unitsFor(f, 0.9)
	case f > full+1e-9:
		s.add("too_full", Caution, "more-units", fmt.Sprintf("It is filled to %.0f %%.", 100*f),
			"Fibre above the pin tips is not opened any more; it piles up and hides what is not mixed.",
			fmt.Sprintf("Divide what lies here into %d units", unitsFor(f, 1))).Times = unitsFor(f, 1)
	case f < thin && !s.left():
		s.add("thin", Hint, "", fmt.Sprintf("It is filled to %.0f %% only.", 100*f),
			"A thin web has too few fibres across each spot to come off whole.", "Lay more in each unit, or take smaller equipment.")
	}
	if s.loads.Over && s.loads.Fill <= full {
		s.measured(
			"over_pins",
			Caution,
			"",
			unit.Say("In places it stands %s high; the pins end at %s.", unit.Millimetres(s.loads.HeightMM), unit.Millimetres(s.bed.ToothMM)),
			plain("What lies above the pins is not held by them."),
			plain("Spread the thickest place wider."),
		)
	}
}

// handful finds more than two hands mix at once.
func (s *findings) handful() {
	if f := s.loads.Fill; f > full+1e-9 {
		s.add("too_full", Caution, "more-units", fmt.Sprintf("It is %.0f %% of what two hands hold.", 100*f),
			"What does not fit between the hands is torn without being laid on the rest; it stays as it was.",
			fmt.Sprintf("Divide what lies here into %d handfuls", unitsFor(f, 1))).Times = unitsFor(f, 1)
	}
}

func unitsFor(fill, target float64) int {
	n := 1
	for fill/float64(n) > target {
		n++
	}
	return n
}

// left reports whether something is still to be laid.
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
			s.add(
				"lane_full",
				Caution,
				"uneven",
				fmt.Sprintf("Too full %s: %.0f %%.", where, 100*v.Load),
				"A thick lane takes up the pins while its neighbours run empty, and drafts as a thick strand.",
				"Make it wider, move grams next to it, or say that it is meant so",
			)
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

// bottom is the first layer of which something lies on the bare cloth, with what
// of it does: what joins later lies on what was there before. -1 where there is
// none.
func (s *findings) bottom() (int, []Lay) {
	for i, l := range s.plan.Layers {
		var lays []Lay
		for _, v := range l.Lays {
			if s.plan.JoinsAt(v.Component) == 1 {
				lays = append(lays, v)
			}
		}
		if len(lays) > 0 {
			return i, lays
		}
	}
	return -1, nil
}

// order looks at what lies first and last on a drum or board.
func (s *findings) order() {
	n := len(s.plan.Layers)
	if s.bed.Type == Cards || !s.bed.Pins() {
		return
	}
	s.base()
	covers := slices.ContainsFunc(s.fibres, func(f Fibre) bool { return f.ground() && f.Grams > speck })
	if s.holds(n-1) && covers && !s.plan.late(s.plan.Layers[n-1]) {
		s.add("cover_layer", Caution, "bury", "Neps, noil or film lie on top.",
			"Loose bits are held only by fibre across them; bare, they drop.", "Put them below a thin cover").Layer = n - 1
	}
	for i, l := range s.plan.Layers {
		for j, v := range l.Lays {
			late := s.plan.JoinsAt(v.Component) > 1
			if s.fibres[v.Component].lock() && (i < n-2 && !late || v.Method == Feed) {
				f := s.add("locks_last", Caution, "", fmt.Sprintf("Locks of %s lie deep, or go through the tray.", s.fibres[v.Component].Name),
					"Each trip over the pins opens the curl that they are there for, and deep ones are not seen.", "Place them in one of the last two layers.")
				f.Layer, f.Lay = i, j
				return
			}
		}
	}
}

// base looks at what lies on the bare cloth. It only advises wool that is in the
// blend, and nothing against what was chosen.
func (s *findings) base() {
	at, lays := s.bottom()
	if at < 0 || s.plan.Bare || s.schools["first"] == "bare" {
		return
	}
	best := -1
	for i, f := range s.fibres {
		if f.grips() && s.plan.JoinsAt(i) == 1 && (best < 0 || f.Grams > s.fibres[best].Grams) {
			best = i
		}
	}
	if best < 0 {
		return
	}
	var loose, grip, all float64
	held := false
	for _, v := range lays {
		f := s.fibres[v.Component]
		all += v.Grams
		if f.extra() || f.Cohesion == "slippery" {
			loose += v.Grams
			held = held || f.extra()
		}
		if f.grips() {
			grip += v.Grams
		}
	}
	if loose == 0 && grip >= all/2-speck {
		return
	}
	mend := ""
	if held {
		mend = "bury"
	}
	m := s.add("base_layer", Caution, mend, "The first layer on the cloth does not grip.",
		"The deepest fibre is the hardest to lift: crimped wool stays joined and brings the rest with it.",
		fmt.Sprintf("Lay a thin layer of %s first", s.fibres[best].Name))
	m.Layer = at
}

// holds reports whether a layer has extras in it.
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
			if v.Method != Feed || f.lock() { // fed locks have an advice of their own
				continue
			}
			switch {
			case f.extra():
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
			case f.StapleMM > tooLongMM:
				if m := once("too_long", v.Component, i); m != nil {
					m.What = unit.Say("%s is %s long.", f.Name, unit.Millimetres(f.StapleMM))
					m.Why = plain("The main drum grips one end while the small drum still holds the other.")
					m.Do = unit.Say("Cut or pull it to about %s, or paint it.", unit.Millimetres(100))
				}
			}
		}
	}
}

// short looks at fibre for punis: a companion that is much longer is cut.
func (s *findings) short() {
	which, to := ToCut(s.fibres)
	for _, i := range which {
		f := s.measured("companion_long", Caution, "",
			unit.Say("%s is %s long beside fibre of %s.", s.fibres[i].Name, unit.Millimetres(s.fibres[i].StapleMM), unit.Millimetres(to)),
			plain("The long fibre drafts first and the short comes after it in lumps."),
			unit.Say("Cut it to about %s, or keep it under 10 %%.", unit.Millimetres(to)))
		f.Component = i
	}
}

func (s *findings) rolags() {
	if s.rolls == nil {
		return
	}
	r := s.rolls
	s.wrap()
	locks := false
	for i, l := range s.plan.Layers {
		for j, v := range l.Lays {
			f := s.fibres[v.Component]
			locks = locks || f.lock() && v.Grams > speck
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
	if locks && len(r.Cuts) > 0 {
		s.right = append(s.right, "locks_clear")
	}
	var short, all float64
	for _, f := range s.fibres {
		all += f.Grams
		if f.ground() && f.StapleMM < 45 {
			short += f.Grams
		}
	}
	if short > 0.6*all {
		s.measured("punis", Hint, "", unit.Say("%.0f %% of it is shorter than %s.", 100*short/all, unit.Millimetres(45)),
			plain("Short fibre has few overlaps; a firm thin roll keeps it in order until twist reaches it."),
			unit.Say("Roll punis instead: a rod of %s to %s, %s to %s each.", unit.Millimetres(5), unit.Millimetres(8), unit.Grams(1.5), unit.Grams(3)))
	}
}

// wrap looks at what is drawn off for each rolag. It never advises the number
// that there is, nor one against the school that was chosen.
func (s *findings) wrap() {
	r := s.rolls
	w := r.Staples
	chosen := map[string][2]int{"one": {1, 1}, "three": {3, 3}, "five": {4, 5}}[s.schools["rolags"]]
	if w >= 1.5-1e-9 && w <= 2+1e-9 || r.Suggested == r.Count || chosen[0] <= r.Count && r.Count <= chosen[1] {
		return
	}
	why := "Too long a wrap builds thick layers that do not draft in order."
	if w < 1.5 {
		why = "Too short a wrap leaves no lap, and the rolag falls open."
	}
	s.add("wrap_length", Caution, "rolags", fmt.Sprintf("Each of %d rolags wraps %.1f staples of the longest main fibre.", r.Count, w), why,
		fmt.Sprintf("Make %d of the board", r.Suggested)).Times = r.Suggested
}
