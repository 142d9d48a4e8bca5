// Package show is the one place where numbers become text for people: units,
// decimals, dates. What it gives is rounded; nothing is computed from it.
package show

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/formats"
	"fairtangle/studio/workshop"
)

// Units are the maker's units and the scale's step, which sets the decimals.
type Units struct {
	Ounces bool
	Inches bool
	Step   unit.Milligrams
	Money  string
}

// From takes the units out of the settings.
func From(s workshop.Settings) Units {
	return Units{Ounces: s.WeightUnit == "oz", Inches: s.LengthUnit == "in", Step: s.StepMg, Money: s.Currency}
}

// WithStep returns the same units with another step.
func (u Units) WithStep(stepG float64) Units {
	u.Step = unit.Grams(stepG).Milligrams()
	return u
}

// Weight is the sign of the unit of weight.
func (u Units) Weight() string {
	if u.Ounces {
		return "oz"
	}
	return "g"
}

// ounceSteps are the steps of scales that read ounces, 0.005 to 0.1 oz in whole
// milligrams, with the decimals that they show.
var ounceSteps = map[unit.Milligrams]int{142: 3, 283: 2, 1417: 2, 2835: 1}

// decimals follow the scale's step: 0.1 g has one, 5 g none. Ounces have those of
// the step, or of a scale in grams two, and more where two would hide a step.
func (u Units) decimals() int {
	if u.Ounces {
		if d, ok := ounceSteps[u.Step]; ok {
			return d
		}
		d, half := 2, 0.005
		for ; d < 5 && half > u.Step.Grams().Ounces(); d++ {
			half /= 10
		}
		return d
	}
	d := 0
	for s := max(u.Step, 1); s%1000 != 0 && d < 3; d++ {
		s *= 10
	}
	return d
}

// Shown is a weight as it is shown, rounded, in the maker's unit: sums of what is
// shown add up as shown.
func (u Units) Shown(g float64) float64 {
	v, _ := strconv.ParseFloat(u.Plain(g), 64)
	return v
}

// PlainShown writes a sum of what is shown.
func (u Units) PlainShown(v float64) string { return strconv.FormatFloat(v+0, 'f', u.decimals(), 64) }

// Plain writes a weight without its unit, for fields.
func (u Units) Plain(g float64) string {
	if u.Ounces {
		g = unit.Grams(g).Ounces()
	}
	return strconv.FormatFloat(g+0, 'f', u.decimals(), 64)
}

// Grams writes a weight with its unit.
func (u Units) Grams(g float64) string { return u.Weighs(u.Plain(g)) }

// Weighs puts the unit of weight behind what was written of it. A no-break space keeps them together.
func (u Units) Weighs(written string) string { return written + "\u00a0" + u.Weight() }

// Shows reports whether a weight is more than nothing as it is written: nobody is short by 0.0 g.
func (u Units) Shows(g float64) bool { return strings.ContainsAny(u.Plain(g), "123456789") && g > 0 }

// Exact writes a weight so that reading it gives it back to half a milligram, for
// forms that send everything that stands in them.
func (u Units) Exact(g float64) string {
	if u.Ounces {
		return strconv.FormatFloat(math.Round(unit.Grams(g).Ounces()*1e5)/1e5, 'f', -1, 64)
	}
	return strconv.FormatFloat(math.Round(g*1000)/1000, 'f', -1, 64)
}

// Amount writes a weight that is there or was entered: grams to the milligram,
// ounces to two decimals, or to the step's where that is finer.
func (u Units) Amount(g float64) string {
	if u.Ounces {
		p := math.Pow10(max(2, u.decimals()))
		return strconv.FormatFloat(math.Round(unit.Grams(g).Ounces()*p)/p, 'f', -1, 64)
	}
	return u.Exact(g)
}

// Signed writes a change of weight with its sign.
func (u Units) Signed(g float64) string {
	if g < 0 {
		return "−" + u.Weighs(u.Amount(-g))
	}
	return "+" + u.Weighs(u.Amount(g))
}

// ReadGrams reads a weight as typed in the maker's unit; the field is named in
// the fault.
func (u Units) ReadGrams(field, s string) (float64, error) {
	v, err := ReadNumber(field, s, "a weight in "+u.Weight()+", such as 12.5")
	if err == nil && u.Ounces {
		v = float64(unit.FromOunces(v))
	}
	return v, err
}

// ReadNumber reads a number as typed.
func ReadNumber(field, s, what string) (float64, error) {
	v, err := formats.Number(s)
	if err != nil {
		if strings.TrimSpace(s) == "" {
			return 0, fault.New(field, "Enter %s.", what)
		}
		return 0, fault.New(field, "“%s” is not a number. Enter %s.", clip(s), what)
	}
	return v, nil
}

func clip(s string) string {
	if r := []rune(s); len(r) > 40 {
		return string(r[:40]) + "…"
	}
	return s
}

// Length writes a fibre length: centimetres to a half, or inches to a quarter.
func (u Units) Length(mm float64) string {
	if u.Inches {
		return Number(math.Round(mm/unit.MMPerInch*4)/4) + "\u00a0in"
	}
	if mm < 20 {
		return Number(math.Round(mm)) + "\u00a0mm"
	}
	return Number(math.Round(mm/5)/2) + "\u00a0cm"
}

// LengthUnit is the unit in which places on the cloth are given.
func (u Units) LengthUnit() string {
	if u.Inches {
		return "in"
	}
	return "cm"
}

// PlainLength writes a place on the cloth without its unit.
func (u Units) PlainLength(mm float64) string {
	if u.Inches {
		return Number(math.Round(mm/unit.MMPerInch*100) / 100)
	}
	return Number(math.Round(mm*10) / 100)
}

// Size writes a measure of the cloth with its unit.
func (u Units) Size(mm float64) string { return u.PlainLength(mm) + "\u00a0" + u.LengthUnit() }

// ReadLength reads a place on the cloth as typed, in mm.
func (u Units) ReadLength(field, s string) (float64, error) {
	v, err := ReadNumber(field, s, "a length in "+inWords(u.LengthUnit())+", such as 4.5")
	if u.Inches {
		return v * unit.MMPerInch, err
	}
	return v * 10, err
}

// inWords is a unit as it stands in a sentence: “in in” is no English.
func inWords(unit string) string {
	if unit == "in" {
		return "inches"
	}
	return unit
}

// Millimetres writes a small length, such as the height of pins.
func (u Units) Millimetres(mm float64) string {
	if u.Inches {
		return Number(math.Round(mm/unit.MMPerInch*100)/100) + "\u00a0in"
	}
	return Number(math.Round(mm*10)/10) + "\u00a0mm"
}

// SmallUnit is the unit of small lengths, such as the clearance of drums.
func (u Units) SmallUnit() string {
	if u.Inches {
		return "in"
	}
	return "mm"
}

// PlainSmall writes a small length finely, without its unit.
func (u Units) PlainSmall(mm float64) string {
	if u.Inches {
		mm /= unit.MMPerInch
	}
	return Number(mm)
}

// ReadSmall reads a small length as typed, in mm.
func (u Units) ReadSmall(field, s string) (float64, error) {
	v, err := ReadNumber(field, s, "a length in "+inWords(u.SmallUnit()))
	if u.Inches {
		v *= unit.MMPerInch
	}
	return v, err
}

// WriteWeight and WriteLength write the quantities of a sentence that the core says.
func (u Units) WriteWeight(g unit.Grams) string {
	return u.Weighs(u.Amount(float64(g)))
}

// WriteLength writes the height of pins finely, a fibre's length as it is given elsewhere.
func (u Units) WriteLength(mm unit.Millimetres) string {
	if mm < 30 {
		return u.Millimetres(float64(mm))
	}
	return u.Length(float64(mm))
}

// Number writes a number with as few digits as it needs, at most three
// decimals.
func Number(v float64) string { return strconv.FormatFloat(math.Round(v*1000)/1000, 'f', -1, 64) }

// Fixed writes a number with d decimals.
func Fixed(v float64, d int) string {
	if s := strconv.FormatFloat(v, 'f', d, 64); strings.Trim(s, "-0.") != "" {
		return s
	}
	return strconv.FormatFloat(0, 'f', d, 64) // and not -0
}

// Percent writes a share in percent: to a tenth below ten and where it is not
// whole, else plain.
func Percent(s float64) string { return Number(math.Round(s*1000)/10) + "\u00a0%" }

// Cost writes an amount of money.
func (u Units) Cost(v float64) string {
	if u.Money == "" {
		return Fixed(v, 2)
	}
	return u.Money + "\u00a0" + Fixed(v, 2)
}

// Priced is the weight that a price is given for.
func (u Units) Priced() string {
	if u.Ounces {
		return "1\u00a0oz"
	}
	return "100\u00a0g"
}

// priced is that weight in hundreds of grams.
func (u Units) priced() float64 {
	if u.Ounces {
		return float64(unit.FromOunces(1)) / 100
	}
	return 1
}

// ForPriced is what something for 100 g is for the weight of Priced; Per100g the other way round.
func (u Units) ForPriced(per100g float64) float64 { return per100g * u.priced() }

// Per100g is what something for the weight of Priced is for 100 g.
func (u Units) Per100g(forPriced float64) float64 { return forPriced / u.priced() }

// PlainPrice writes what a price for 100 g is for the weight of Priced.
func (u Units) PlainPrice(per100g float64) string { return Fixed(per100g*u.priced(), 2) }

// Price is PlainPrice with the sign of the money.
func (u Units) Price(per100g float64) string { return u.Cost(per100g * u.priced()) }

// ReadPrice reads a price for the weight of Priced as typed, nil where nothing was,
// as one for 100 g.
func (u Units) ReadPrice(field, s string) (*float64, error) {
	if s == "" {
		return nil, nil
	}
	v, err := ReadNumber(field, s, "what "+u.Priced()+" cost")
	v /= u.priced()
	return &v, err
}

// PlainStaple writes a measured length of fibre without its unit, in inches or cm.
func (u Units) PlainStaple(mm float64) string {
	if u.Inches {
		return Number(mm / unit.MMPerInch)
	}
	return Number(mm / 10)
}

// Date writes a date as 3 Nov 2026.
func Date(t time.Time) string { return t.Local().Format("2 Jan 2006") }

// Moment writes a date with the time of day.
func Moment(t time.Time) string { return t.Local().Format("2 Jan 2006, 15:04") }

// Step writes a scale's step.
func (u Units) StepText() string {
	if u.Ounces {
		return fmt.Sprintf("%s\u00a0oz", Number(math.Round(u.Step.Grams().Ounces()*1e4)/1e4))
	}
	return Number(float64(u.Step.Grams())) + "\u00a0g"
}

// Plural counts a noun.
func Plural[N int | int64](n N, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	if strings.HasSuffix(noun, "s") {
		noun += "e"
	}
	return strconv.FormatInt(int64(n), 10) + " " + noun + "s"
}

// Times is how often something is done, in words as far as they are short.
func Times(n int) string {
	switch n {
	case 1:
		return "once"
	case 2:
		return "twice"
	}
	return strconv.Itoa(n) + " times"
}

// Letter is the id of the i-th component, for those who can not tell the
// colours apart.
func Letter(i int) string {
	if i < 26 {
		return string(rune('A' + i))
	}
	return string(rune('A'+i/26-1)) + string(rune('A'+i%26))
}

// WholeMilligrams rounds a weight to what is kept.
func WholeMilligrams(g float64) float64 { return float64(unit.Grams(g).Milligrams().Grams()) }
