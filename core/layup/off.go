package layup

import (
	"slices"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// OffWay is how fibre comes off the tool.
type OffWay string

// The ways: as a batt; as rolags, of a board band by band, straight off a drum or off a card; a whole board as one sheet, rolled; a
// roving drawn off through a hole, or pulled of strips; small batts; punis on a rod; as it was mixed by hand.
const (
	OffBatt   OffWay = "batt"
	OffRolags OffWay = "rolags"
	OffSheet  OffWay = "sheet"
	OffHole   OffWay = "hole"
	OffStrips OffWay = "strips"
	OffMini   OffWay = "mini"
	OffPunis  OffWay = "punis"
	OffHands  OffWay = "loose"
)

// Rods are what rolags are rolled on: one thick rod, the same with a thin one to start, or two alike.
var Rods = []string{"starter", "one", "two"}

// Usual figures of what comes off: a hole for a medium strand, a thick rod, two alike, and the rod of a puni (hands.md, sections 3, 4
// and 10).
const (
	UsualHoleMM = 6.0
	thickRodMM  = 13.0
	pairRodMM   = 8.0
	PuniRodMM   = 6.5
	leastHoleMM = 1.0
	mostHoleMM  = 30.0
)

// Off is how it comes off the tool; left out, as is usual there.
type Off struct {
	Way    OffWay  `json:"way,omitempty"`
	Rods   string  `json:"rods,omitempty"`    // of what is rolled: starter, one, two
	Tight  bool    `json:"tight,omitempty"`   // drawn against the pins as it is rolled
	HoleMM float64 `json:"hole_mm,omitempty"` // of what is drawn off through one; 0: as usual
	// Crossed is laid one layer across the other, for felt.
	Crossed bool `json:"crossed,omitempty"`
}

// OffWays are the ways off a bed, the usual one first.
func (b Bed) OffWays() []OffWay {
	switch b.Type {
	case Board:
		return []OffWay{OffRolags, OffSheet, OffHole}
	case Cards:
		return []OffWay{OffRolags, OffPunis}
	case Hands:
		return []OffWay{OffHands}
	}
	return []OffWay{OffBatt, OffRolags, OffHole, OffStrips, OffMini}
}

// OffOf is how a plan comes off a bed, with what was left out as usual; a way that is none there is the usual one.
func (p Plan) OffOf(b Bed) Off {
	o := p.Off
	if ways := b.OffWays(); !slices.Contains(ways, o.Way) {
		o.Way = ways[0]
	}
	if o.Rods == "" {
		o.Rods = Rods[0]
	}
	if o.HoleMM == 0 {
		o.HoleMM = UsualHoleMM
	}
	return o
}

// Rolled reports whether it is rolled on rods.
func (o Off) Rolled() bool { return slices.Contains([]OffWay{OffRolags, OffSheet, OffPunis}, o.Way) }

// Makes is what is made by it: batt, rolags, punis or roving, as rules have it.
func (o Off) Makes() string {
	switch o.Way {
	case OffRolags, OffSheet:
		return "rolags"
	case OffPunis:
		return "punis"
	case OffHole, OffStrips:
		return "roving"
	}
	return "batt"
}

// RodMM is how thick the rod is that it is rolled on; 0 where it is not rolled on one. A rolag off a card is rolled over its teeth.
func (o Off) RodMM(b Bed) float64 {
	switch {
	case o.Way == OffPunis:
		return PuniRodMM
	case !o.Rolled() || b.Type == Cards:
		return 0
	case o.Rods == "two":
		return pairRodMM
	}
	return thickRodMM
}

// OffFault is what is wrong with how it comes off; nil where nothing is.
func (p Plan) OffFault() error {
	var l fault.List
	p.checkOff(&l)
	return l.Err()
}

// checkOff finds what can not come off so.
func (p Plan) checkOff(l *fault.List) {
	if p.Off.Rods != "" && !slices.Contains(Rods, p.Off.Rods) {
		l.Add("off.rods", "It is rolled on one rod, on one with a starter, or on two.")
	}
	all := []OffWay{"", OffBatt, OffRolags, OffSheet, OffHole, OffStrips, OffMini, OffPunis, OffHands}
	if !slices.Contains(all, p.Off.Way) {
		l.Add("off.way", "It comes off as batt, rolags, sheet, hole, strips, mini, punis or loose.")
	}
	if v := p.Off.HoleMM; v != 0 && !(v >= leastHoleMM && v <= mostHoleMM) {
		l.Add("off.hole_mm", "A hole is %s to %s wide.", unit.Millimetres(leastHoleMM), unit.Millimetres(mostHoleMM))
	}
}

// Crossed reports whether something lies across the run of the fibre: it breaks what is drawn off through a hole. Wool that holds nubs
// inside draws well; nubs that lie bare, and what was placed as it is, do not.
func (p Plan) Crossed(fibres []Fibre) (components []int) {
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			if v.Method == Place && !slices.Contains(components, v.Component) && fibres[v.Component].Lock() {
				components = append(components, v.Component)
			}
		}
	}
	if n := len(p.Layers); n > 0 {
		for _, v := range p.Layers[n-1].Lays {
			if fibres[v.Component].Extra() && !slices.Contains(components, v.Component) {
				components = append(components, v.Component)
			}
		}
	}
	return components
}
