package layup

import (
	"fmt"
	"math"
)

// Choice is what a blend makes on one piece of equipment.
type Choice struct {
	CapacityG float64 `json:"capacity_g"`
	Units     int     `json:"units"`
	UnitG     float64 `json:"unit_g"`
	Fill      float64 `json:"fill"`
	Minutes   float64 `json:"minutes"` // for all units and passes
	Rolags    int     `json:"rolags"`  // in all, where it makes rolags or punis
	Punis     bool    `json:"punis"`
	// Evenness is how it comes out, School who would choose it.
	Evenness string `json:"evenness"`
	School   string `json:"school"`
	// Against is why it may not suit; empty where it does.
	Against string `json:"against"`
}

// How full a school fills the cloth: all but a twentieth, so that a reading a little over still lies between the pins, or so thin
// that one sees through.
const (
	FillFull = 0.95
	FillThin = 0.6
)

// PassesBy is how many passes the school of a maker makes of those that a blend plans.
func PassesBy(schools map[string]string, passes int) int {
	if Chosen(schools)["passes"] == "one" {
		return min(1, passes)
	}
	return passes
}

// Filled is how full the school of a maker fills the cloth.
func Filled(schools map[string]string) float64 {
	if Chosen(schools)["loading"] == "thin" {
		return FillThin
	}
	return FillFull
}

// UnitsFor is how many units fibres of so many grams in all make on a bed, none fuller than fill of what the bed holds of them.
func (b Bed) UnitsFor(fibres []Fibre, fill float64) int {
	var total float64
	for _, f := range fibres {
		total += f.Grams
	}
	return Units(total, b.Capacity(fibres), fill)
}

// Units is how many units grams make where one holds so much, none fuller than fill of that.
func Units(grams, capacity, fill float64) int {
	if !(capacity > 0) {
		return 1
	}
	return int(max(1, math.Ceil(grams/(fill*capacity)-1e-9)))
}

// puniG is the middle of the 1.5 to 3 g of a puni; shortMM is the staple below
// which fibre is spun from punis; companion is how much longer another may be.
const (
	puniG     = 2.25
	shortMM   = 25
	companion = 1.5
)

// leastLoad is the part of the minutes of a full load that a thin one takes too.
const leastLoad = 0.3

// Bounds of what equipment is for: a staple that hand cards and boards draw, and
// the share of slippery fibre that no wool holds on a drum (rules R09 and R03).
const (
	cardsLongMM   = 130
	slipperyAlone = 0.6
	carrierLeast  = 0.25
)

// Choose tells what fibres of so many grams in all make on a bed for a maker of
// such schools, in so many passes. Minutes are those of the equipment for a full load, in
// proportion to the grams of each unit and the passes.
func Choose(b Bed, fibres []Fibre, schools map[string]string, passes int) Choice {
	var total float64
	for _, f := range fibres {
		total += f.Grams
	}
	c := Choice{CapacityG: b.Capacity(fibres), Against: b.against(fibres)}
	c.Units = b.UnitsFor(fibres, Filled(schools))
	c.UnitG = total / float64(c.Units)
	c.Fill = c.UnitG / c.CapacityG
	rounds := Plan{}.Last(b, passes)
	c.Minutes = b.Minutes * max(leastLoad, c.Fill) * float64(c.Units) * float64(rounds)
	short := Short(fibres)
	switch {
	case b.Type == Drum:
		c.Evenness = map[int]string{1: "streaky: one pass keeps the colours apart", 2: "marled, on the way to heathered"}[rounds]
		if c.Evenness == "" {
			c.Evenness = "even, but for a few streaks"
		}
		c.School = "layers and lanes; whole batts that match"
	case b.Type == Board:
		c.Evenness = "as it is laid: stripes up the board are in every rolag, bands across it go one to a rolag"
		c.School = "stripes, locks and rolags; colour placed by hand"
		if c.Rolags = RolagsBy(schools); c.Rolags == 0 {
			c.Rolags = SuggestRolags(b, DefaultDraft, fibres)
		}
		c.Rolags *= c.Units
	case b.Type == Hands:
		c.Evenness = fmt.Sprintf("heathered after about %d rounds, which double the layers each; no tool, and nothing is lost", rounds)
		c.School = "samples, felting, and whoever has no carder"
	default:
		c.Evenness = "even within a rolag, each a little different"
		c.School = "samples, and fibre too short for a drum"
		c.Rolags = c.Units
	}
	if alone(fibres) {
		c.Evenness = "one fibre: nothing to mix, only to open"
	}
	if b.Pins() && b.Type != Drum && len(short) > 0 {
		c.Punis = true
		c.Rolags = int(max(1, math.Round(total/puniG)))
	}
	return c
}

// alone reports whether there is one fibre only.
func alone(fibres []Fibre) bool {
	n := 0
	for _, f := range fibres {
		if f.Grams > speck {
			n++
		}
	}
	return n == 1
}

// against is why equipment may not suit fibres; empty where it does.
func (b Bed) against(fibres []Fibre) string {
	var all, slippery, carrier, film, long, fine float64
	var tooLong, tooFine string
	longMM := float64(TooLongMM)
	switch b.Type {
	case Board, Cards:
		longMM = cardsLongMM
	case Hands: // any length can be torn
		longMM = math.Inf(1)
	}
	for _, f := range fibres {
		all += f.Grams
		if f.Preparation == rawFleece {
			return f.Name + " is raw fleece: wash it before it meets any cloth"
		}
		switch {
		case f.Family == "sparkle":
			film += f.Grams
			continue
		case !f.Ground():
			continue
		case f.Cohesion == "slippery":
			slippery += f.Grams
		case f.Grips() && f.StapleMM >= 50 && f.StapleMM <= 130:
			carrier += f.Grams
		}
		if f.StapleMM > longMM && f.Grams > long {
			long, tooLong = f.Grams, f.Name
		}
		if b.TPI > 0 && b.TPI < f.MinTPI && f.Grams > fine {
			fine, tooFine = f.Grams, f.Name
		}
	}
	if all == 0 {
		return ""
	}
	switch {
	case film > 0.5*all:
		return "film binds nothing: it needs wool around it on any cloth"
	case b.Type == Drum && len(Short(fibres)) > 0:
		return "fibre this short sinks into the cloth of a drum"
	case b.Type == Drum && slippery > slipperyAlone*all && carrier < carrierLeast*all:
		return "slippery fibre with too little wool comes off a drum in ribbons; a board or hand cards hold it"
	case long >= 0.05*all:
		if b.Type == Drum {
			return tooLong + " is longer than the drums lie apart; cut it, or paint it on"
		}
		return tooLong + " is too long to be drawn over this cloth; cut it, or take a drum"
	case fine >= mainShare*all:
		return fmt.Sprintf("%s slips between %.0f pins a square inch; it wants finer cloth", tooFine, b.TPI)
	}
	return ""
}

// cottonMM is the staple below which cotton is spun from punis; longer cotton is
// drawn like a fine wool.
const cottonMM = 45

// Short lists the main fibres that are too short for rolags, under 25 mm, and
// cotton: they are spun from punis.
func Short(fibres []Fibre) (out []int) {
	var sum float64
	for _, f := range fibres {
		sum += f.Grams
	}
	for i, f := range fibres {
		short := f.StapleMM < shortMM || f.Family == "cotton" && f.StapleMM < cottonMM
		if f.Ground() && short && f.Grams >= mainShare*sum-speck {
			out = append(out, i)
		}
	}
	return out
}

// ToCut lists the companions of short fibre that are to be cut, and to which
// length in mm: those above a tenth of the weight that are more than half as
// long again as the shortest main fibre. Without short fibre it is empty.
func ToCut(fibres []Fibre) (which []int, toMM float64) {
	var sum float64
	shortest := math.Inf(1)
	for _, i := range Short(fibres) {
		shortest = min(shortest, fibres[i].StapleMM)
	}
	for _, f := range fibres {
		sum += f.Grams
	}
	for i, f := range fibres {
		if f.Ground() && f.StapleMM > companion*shortest && f.Grams > mainShare*sum+speck {
			which = append(which, i)
		}
	}
	if len(which) == 0 {
		return nil, 0
	}
	return which, shortest
}
