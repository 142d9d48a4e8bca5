package advice

import (
	"fmt"
	"math"

	"fairtangle/core/layup"
	"fairtangle/core/unit"
)

// amounts looks at what is laid of what there is.
func (s *cloth) amounts() {
	const why, do = "Fibre that is weighed but not laid is missing in the blend.", "Lay the rest"
	var open []int
	var sum float64
	for i, left := range s.loads.UnplacedG {
		name := s.fibres[i].Name
		switch {
		case left > 0.005:
			open = append(open, i)
			sum += left
		case left < -layup.OverplacedG:
			s.measured("overplaced", Stop, "fit", unit.Say("The lays of %s take %s more than there are.", name, unit.Grams(-left)),
				plain("The blend or the number of units changed after it was laid."), plain("Fit it to the blend")).Component = i
		}
	}
	for i, f := range s.fibres {
		if f.Wanted > speck && f.Grams <= speck {
			s.add("rounds_to_nothing", Caution, "", fmt.Sprintf("Each unit would take less %s than a step of the scale.", f.Name),
				"What rounds to nothing is missing in the batt.", "Weigh it once for all units and divide it by eye, mix it into another fibre first, or take a "+
					"finer scale.").Component = i
		}
	}
	switch len(open) {
	case 0:
	case 1:
		s.measured("unplaced", Hint, "place", unit.Say("%s of %s are not laid yet.", unit.Grams(sum), s.fibres[open[0]].Name), plain(why),
			plain(do)).Component = open[0]
	default:
		s.measured("unplaced", Hint, "place", unit.Say("%s of %d fibres are not laid yet.", unit.Grams(sum), len(open)), plain(why), plain(do))
	}
}

func (s *cloth) fill() {
	if !s.bed.Pins() {
		s.handful()
		return
	}
	switch f := s.loads.Fill; {
	case f > s.b("R17 from"):
		harm := "lift the cloth and bend pins"
		if s.bed.Type == layup.Drum {
			harm = "lift the cloth, bend pins and strain the drive"
		}
		s.add("far_too_full", Stop, "more-units", fmt.Sprintf("It is filled to %.0f %%, far above the pins.", 100*f),
			fmt.Sprintf("The packed layer can %s, and tears as it comes off. The maker’s figure wins over this one.", harm),
			fmt.Sprintf("Divide what lies here into %d units or more", unitsFor(f, mended))).Times = unitsFor(f, mended)
	case f > s.b("R16 from")+1e-9:
		s.add("too_full", Caution, "more-units", fmt.Sprintf("It is filled to %.0f %%.", 100*f),
			"Fibre above the pin tips is not opened any more; it piles up and hides what is not mixed.",
			fmt.Sprintf("Divide what lies here into %d units", unitsFor(f, 1))).Times = unitsFor(f, 1)
	case f < s.b("R18 load") && !s.left():
		s.add("thin", Hint, "", fmt.Sprintf("It is filled to %.0f %% only.", 100*f),
			"A thin web has too few fibres across each spot to come off whole.", "Lay more in each unit, or take smaller equipment.")
	}
	if s.loads.Over && s.loads.Fill <= s.b("R16 from") {
		n := int(math.Ceil(s.loads.HeightMM/s.bed.ToothMM - near))
		s.measured("over_pins", Caution, "more-units",
			unit.Say("In places it stands %s high; the pins end at %s.", unit.Millimetres(s.loads.HeightMM), unit.Millimetres(s.bed.ToothMM)),
			plain("What lies above the pins is not held by them: spread the thickest place wider, or lay less."),
			plain(fmt.Sprintf("Divide what lies here into %d units", n))).Times = n
	}
}

// handful finds more than two hands mix at once.
func (s *cloth) handful() {
	if f := s.loads.Fill; f > s.b("R16 from")+1e-9 {
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
func (s *cloth) left() bool {
	for _, g := range s.loads.UnplacedG {
		if g > 0.005 {
			return true
		}
	}
	return false
}

// tooManyExtras finds shine, silk and texture above a quarter of the weight, for
// those who keep to it.
func (s *cloth) tooManyExtras() {
	var sum, all float64
	for _, f := range s.fibres {
		all += f.Grams
		if !f.Ground() || f.Cohesion == "slippery" && f.Family != "hair" && f.Family != "down" {
			sum += f.Grams
		}
	}
	if all == 0 || sum <= s.b("L07 share")*all+speck {
		return
	}
	s.add("extras", Hint, "", "Shine, silk and texture are more than a quarter of the weight.",
		"They bind nothing by themselves; the yarn may turn out ropy and shed.", "Add wool, or choose the other school.")
}
