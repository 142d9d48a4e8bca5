// Package losses keeps the balance of a carding, where every gram goes, and learns from
// it how much a fibre loses. Rates are parts of the mass, 0 to 1.
package losses

import (
	"math"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Residue is what becomes of the fibre that is picked off the small drum.
type Residue string

// It is fed back, kept for another time, or thrown away; then it is scrap, no loss of the
// fibre.
const (
	Returned Residue = "returned"
	Kept     Residue = "kept"
	Thrown   Residue = "thrown"
)

// Carded is what was weighed about one batt in one pass, in grams.
type Carded struct {
	In        float64 // tray and painted layers
	Batt      float64 // lifted off
	Residue   float64 // picked off the small drum
	Back      Residue // what became of that; empty: returned
	Cloth     float64 // by how much the fibre held in the cloth grew; below 0: it came loose
	Droppings float64
	Picked    float64 // specks, by hand
	// Expect is what is usually lost of this fibre by the lines that were not weighed: droppings, specks, and
	// always what flies. The zero value expects nothing.
	Expect Belief
	// HumidityIn and HumidityOut are those of the room at both weighings, percent; nil:
	// not known.
	HumidityIn, HumidityOut *float64
	Drier                   float64 // see Went
}

// Ask is what an entry that does not add up makes one ask.
type Ask string

// What may be wrong with it.
const (
	Moisture      Ask = "moisture"
	ForgottenBatt Ask = "forgotten batt"
	Slip          Ask = "slip of typing"
)

// Balanced is where the grams went.
type Balanced struct {
	Unaccounted float64 // fly, moisture, the scale's error; below 0: more came off than went in
	Loss        float64 // droppings, specks and what is not accounted for
	Rate        float64 // of the fibre that really went through
	Learn       bool    // it may be learned from
	Ask         []Ask
}

// Parts of what went in by which what is not accounted for may be off what is to be expected of it,
// beside two standard deviations of that.
const (
	leastUnaccounted = -0.015
	mostUnaccounted  = 0.04
)

// Balance works out where the grams went: I = B + L + dC + D + N + U, and the rate of loss
// (D + N + U) / (I − L − dC). Where both humidities are known, what came off is brought to
// the moisture of what went in.
func Balance(c Carded) (Balanced, error) {
	if err := c.check(); err != nil {
		return Balanced{}, err
	}
	dry := 1.0
	if c.HumidityIn != nil && c.HumidityOut != nil {
		takes := 1 - c.Drier
		dry = (1 + takes*Regain(*c.HumidityIn)) / (1 + takes*Regain(*c.HumidityOut))
	}
	off, residue, cloth, droppings, picked := c.Batt*dry, c.Residue*dry, c.Cloth*dry, c.Droppings*dry, c.Picked*dry
	through := c.In - residue - cloth
	if !(through > 0) {
		return Balanced{}, fault.New("residue_g", "More stayed on the small drum and in the cloth than went in.")
	}
	var b Balanced
	b.Unaccounted = unit.Clean(c.In - off - residue - cloth - droppings - picked)
	b.Loss = unit.Clean(droppings + picked + b.Unaccounted)
	b.Rate = b.Loss / through
	wide := 2 * c.Expect.SD
	switch more := b.Unaccounted - c.Expect.Mean; {
	case more < leastUnaccounted*c.In-wide:
		b.Ask = []Ask{Moisture, Slip}
	case more > mostUnaccounted*c.In+wide:
		b.Ask = []Ask{Moisture, ForgottenBatt, Slip}
	default:
		b.Learn = true
	}
	return b, nil
}

func (c Carded) check() error {
	var l fault.List
	for _, v := range []struct {
		field string
		grams float64
		least float64
	}{
		{"in_g", c.In, 0}, {"batt_g", c.Batt, 0}, {"residue_g", c.Residue, 0}, {"cloth_g", c.Cloth, -1e4}, {"droppings_g", c.Droppings, 0}, {"picked_g", c.Picked, 0},
	} {
		if !(v.grams >= v.least && v.grams <= 1e5) {
			l.Add(v.field, "This weighs from %s to %s.", unit.Grams(v.least), unit.Grams(1e5))
		}
	}
	if len(l) == 0 && c.In == 0 {
		l.Add("in_g", "Enter what went in, above %s.", unit.Grams(0))
	}
	if c.Back != "" && c.Back != Returned && c.Back != Kept && c.Back != Thrown {
		l.Add("residue", "The residue is returned, kept or thrown.")
	}
	for field, h := range map[string]*float64{"humidity_in_pct": c.HumidityIn, "humidity_out_pct": c.HumidityOut} {
		if h != nil && !(*h >= 0 && *h <= 100) {
			l.Add(field, "A humidity lies from 0 to 100 percent.")
		}
	}
	return l.Err()
}

// regains are what wool takes up of its dry mass, by the humidity of the room in tens of
// percent: its sorption curve at room temperature, the mean of both ways, through 16 % at
// 65.
var regains = [11]float64{0, 0.040, 0.063, 0.083, 0.102, 0.122, 0.145, 0.175, 0.205, 0.250, 0.335}

// Regain is what wool takes up of its dry mass in a room of so much humidity, percent.
func Regain(humidity float64) float64 {
	at := math.Min(math.Max(humidity, 0), 100) / 10
	i := min(int(at), 9)
	return regains[i] + (at-float64(i))*(regains[i+1]-regains[i])
}
