package layingpages

import (
	"fmt"
	"strings"

	"fairtangle/core/layup"
	"fairtangle/studio/laying"
	"fairtangle/web/show"
)

// offWord is a way off the tool, with its reason; on a board or a card it is named otherwise.
type offWord struct {
	Key  string `json:"key"`
	Name string `json:"name"`
	Why  string `json:"why"`
	Art  string `json:"art"` // its picture
}

var offWords = map[layup.OffWay]offWord{
	layup.OffBatt:   {"", "a batt", "lifted off whole, to be divided as you spin, or for felt", "batt"},
	layup.OffRolags: {"", "rolags straight off the drum", "on rods at the seam, loosely; airy, for a long draw", "rolag"},
	layup.OffSheet:  {"", "the whole board as one sheet", "folded and rolled from one side: a small batt without a drum", "sheet"},
	layup.OffHole:   {"", "roving drawn off through a hole", "one long strand, fibres along; what lies across breaks it", "hole"},
	layup.OffStrips: {"", "roving pulled of strips", "the batt split lengthwise and drawn out: lanes stay together", "strips"},
	layup.OffMini:   {"", "small batts", "divided by the scale; alike, to sell or to share", "mini"},
	layup.OffPunis:  {"", "punis", "wound firmly on a thin rod: for cotton and other short fibre", "puni"},
	layup.OffHands:  {"", "as it was mixed", "by hand: a heap, a patch for felt, a handful to spin from", "heap"},
}

var rodWords = []offWord{
	{"starter", "one rod, with a thin one to start", "takes hold at once, and the roll stays round", ""},
	{"one", "one rod", "round and open", ""},
	{"two", "two rods", "quick and sure, some say; the roll is oval and drafts less well, say others", ""},
}

// offsOf are the ways off a bed.
func offsOf(b layup.Bed) (out []offWord) {
	for _, way := range b.OffWays() {
		w := offWords[way]
		switch {
		case way == layup.OffRolags && b.Type == layup.Board:
			w.Name, w.Why = "rolags, band by band", "rolled over a rod and drafted against the board"
		case way == layup.OffRolags && b.Type == layup.Cards:
			w.Name, w.Why = "rolags", "rolled from toe to heel, fibres round the roll"
		}
		w.Key = string(way)
		out = append(out, w)
	}
	return out
}

// bedOff is how it comes off, as the page of a lay-up shows it.
type bedOff struct {
	Way    string    `json:"way"`
	Ways   []offWord `json:"ways"`
	Rods   string    `json:"rods"`
	Rolled bool      `json:"rolled"`
	Tight  bool      `json:"tight"`
	Hole   string    `json:"hole"`
	Drawn  bool      `json:"drawn"` // through a hole
	Flat   bool      `json:"flat"`  // can be laid crosswise
	Lie    string    `json:"lie"`   // how the fibre then lies
	Lies   string    `json:"lies"`
	Said   string    `json:"said"`
}

func bedOffOf(l laying.Layup, u show.Units) bedOff {
	o := l.LaidPlan.OffOf(l.Bed)
	out := bedOff{Way: string(o.Way), Ways: offsOf(l.Bed), Rods: o.Rods, Tight: o.Tight, Hole: u.PlainSmall(o.HoleMM), Drawn: o.Way == layup.OffHole}
	out.Rolled = o.Rolled() && l.Bed.Type != layup.Cards
	out.Flat, out.Lie = o.CanCross(), string(l.LaidPlan.LieOf(l.Bed))
	out.Lies = lieWords[layup.Lie(out.Lie)]
	if out.Drawn {
		out.Said = "A smaller hole for a finer strand: " + u.Millimetres(3) + " to " + u.Millimetres(8) + "."
		if names := namesOf(l, l.LaidPlan.Crossed(l.LaidFibres)); names != "" {
			out.Said += " " + names + " lie bare or across, and break the strand there. Between wool they draw out well."
		}
	}
	return out
}

// lieWords say how fibre lies in what came off, and what follows from it.
var lieWords = map[layup.Lie]string{
	layup.Along:   "Fibres along it, side by side: they draw out smooth, and felt of it shrinks most along them.",
	layup.Round:   "Fibres round the roll: drawn from its end they wind round the yarn. Airy, light, made for a long draw.",
	layup.Crossed: "One layer across the other: it shrinks alike both ways. For felt; it does not draw into yarn.",
}

func namesOf(l laying.Layup, components []int) string {
	var names []string
	for _, i := range components {
		names = append(names, l.Fibres[i].Name)
	}
	return strings.Join(names, ", ")
}

// liftStep is the lifting off a drum: after the last pass as it is to come off.
func liftStep(s *BenchStep, v layup.Step, l laying.Layup, u show.Units) {
	s.Title, s.Amount = fmt.Sprintf("Lift the batt off, pass %d", v.Pass), "~"+u.Grams(v.Grams)
	s.How = "Brush it down where it stands above the pins. Then part it at the seam and ease it off along the lean of the pins, turning the drum back by hand."
	if v.Pass < l.LastPass {
		return
	}
	o := l.LaidPlan.OffOf(l.Bed)
	switch o.Way {
	case layup.OffRolags:
		s.Title, s.How = fmt.Sprintf("Roll it off, pass %d", v.Pass), "Rolags straight off the drum, on "+rodsSaid(o)+", "+tightSaid(o)+"."
	case layup.OffHole:
		s.Title = fmt.Sprintf("Draw it off, pass %d", v.Pass)
		s.How = "In one strand through a hole of " + u.Millimetres(o.HoleMM) + ", from one edge round the drum to the other."
	case layup.OffStrips:
		s.How += " Then split it lengthwise and draw each strip out to a rope."
	case layup.OffMini:
		s.How += " Then divide it by the scale into small batts."
	}
	s.How += crosswise(l)
}

// crosswise is what is done for felt to what came off flat.
func crosswise(l laying.Layup) string {
	if l.LaidPlan.LieOf(l.Bed) != layup.Crossed {
		return ""
	}
	return " For felt: part it into thin sheets, and lay each on the last with a quarter of a turn."
}

// rollStep is what comes off a board.
func rollStep(s *BenchStep, l laying.Layup, u show.Units) {
	o := l.LaidPlan.OffOf(l.Bed)
	s.Title = "Roll it off"
	switch {
	case o.Way == layup.OffSheet:
		s.How = "The whole board in one sheet: rolled off on two rods, unrolled, its edges folded in, and rolled up from one side."
	case o.Way == layup.OffHole:
		s.Title, s.How = "Draw it off", "In one strand through a hole of "+u.Millimetres(o.HoleMM)+", to and fro across, from below upwards."
	case l.Rolls == nil || l.Rolls.Count == 1:
		s.How = "Roll the whole board into one, on " + rodsSaid(o) + ", " + tightSaid(o) + "."
	default:
		s.How = fmt.Sprintf("Draw off %s at a time: %s, on %s, %s. Cut at %s.", u.Size(l.Rolls.ZoneMM), show.Plural(l.Rolls.Count, "rolag"), rodsSaid(o),
			tightSaid(o), cutWords(l, u))
	}
}

// cardStep is what comes off hand cards.
func cardStep(s *BenchStep, l laying.Layup) {
	s.Title, s.How = "Card and roll", "A few light strokes, until the fibre lies in line; then roll it off the card."
	if l.LaidPlan.OffOf(l.Bed).Way == layup.OffPunis {
		s.Title, s.How = "Card it, and wind a puni", "A few light strokes; then wind the web firmly round a thin rod, and slip it off."
	}
}

func rodsSaid(o layup.Off) string {
	return map[string]string{"starter": "one rod with a starter", "one": "one rod", "two": "two rods"}[o.Rods]
}

func tightSaid(o layup.Off) string {
	if o.Tight {
		return "tight"
	}
	return "loose"
}

// aloneSaid says what is carded alone before anything is laid, and what that takes.
func aloneSaid(l laying.Layup, u show.Units) (said string, some bool) {
	units := max(l.Units, 1)
	list := layup.PaleFirst(l.LaidPlan.Loadings(l.Bed, l.LaidFibres, units), l.LaidFibres)
	if len(list) == 0 {
		return "Colour by colour through by itself, lifted off as a batt, and laid of that; what slides is left to the others. What a pass loses is " +
			"weighed in besides.", false
	}
	var parts []string
	fillings := 0
	for _, a := range list {
		parts = append(parts, fmt.Sprintf("%s of %s %s", u.Grams(a.WeighG), l.Fibres[a.Component].Name, show.Times(a.Passes)))
		fillings += a.Loads * a.Passes
	}
	return fmt.Sprintf("First, for %s, from pale to dark: %s. That is %s through, about %s min more.", show.Plural(units, "unit"), strings.Join(parts, ", "),
		show.Plural(fillings, "filling"), show.Fixed(float64(fillings)*l.Equipment.Minutes, 0)), true
}
