package layup

import "math"

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

// How full a school fills the cloth.
const (
	FillFull = 0.9
	FillThin = 0.6
)

// puniG is the middle of the 1.5 to 3 g of a puni; shortMM is the staple below
// which fibre is spun from punis; companion is how much longer another may be.
const (
	puniG     = 2.25
	shortMM   = 25
	companion = 1.5
)

// Choose tells what fibres of so many grams in all make on a bed, filled so
// far, in so many passes. Minutes are the equipment's own for one unit.
func Choose(b Bed, fibres []Fibre, fill float64, passes int) Choice {
	var total float64
	for _, f := range fibres {
		total += f.Grams
	}
	c := Choice{CapacityG: b.Capacity(fibres)}
	c.Units = int(max(1, math.Ceil(total/(fill*c.CapacityG)-1e-9)))
	c.UnitG = total / float64(c.Units)
	c.Fill = c.UnitG / c.CapacityG
	rounds := 1
	if b.Type == Drum {
		rounds = max(1, passes)
	}
	c.Minutes = b.Minutes * float64(c.Units) * float64(rounds)
	short := Short(fibres)
	switch b.Type {
	case Drum:
		c.Evenness = map[int]string{1: "streaky: one pass keeps the colours apart", 2: "marled, on the way to heathered"}[rounds]
		if c.Evenness == "" {
			c.Evenness = "even, but for a few streaks"
		}
		c.School = "layers and lanes; whole batts that match"
		if len(short) > 0 {
			c.Against = "fibre this short sinks into the cloth of a drum"
		}
	case Board:
		c.Evenness = "as it is laid: stripes stay stripes, each rolag shows them all"
		c.School = "stripes, locks and rolags; colour placed by hand"
		c.Rolags = c.Units * SuggestRolags(b, DefaultDraft, fibres)
	default:
		c.Evenness = "even within a rolag, each a little different"
		c.School = "samples, and fibre too short for a drum"
		c.Rolags = c.Units
	}
	if b.Type != Drum && len(short) > 0 {
		c.Punis = true
		c.Rolags = int(max(1, math.Round(total/puniG)))
	}
	return c
}

// Short lists the main fibres that are too short for rolags, under 25 mm: they
// are spun from punis.
func Short(fibres []Fibre) (out []int) {
	var sum float64
	for _, f := range fibres {
		sum += f.Grams
	}
	for i, f := range fibres {
		if f.ground() && f.StapleMM < shortMM && f.Grams >= mainShare*sum-speck {
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
		if f.ground() && f.StapleMM > companion*shortest && f.Grams > mainShare*sum+speck {
			which = append(which, i)
		}
	}
	if len(which) == 0 {
		return nil, 0
	}
	return which, shortest
}
