package show

import (
	"strconv"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

const inchCM = unit.MMPerInch / 10

// YarnUnit is the unit of a length of yarn.
func (u Units) YarnUnit() string {
	if u.Inches {
		return "yd"
	}
	return "m"
}

func (u Units) perMetre() float64 {
	if u.Inches {
		return 1 / unit.MetresPerYard
	}
	return 1
}

// PlainYarn writes a length of yarn, without its unit.
func (u Units) PlainYarn(m float64) string {
	return threeFigures(m * u.perMetre())
}

// threeFigures writes tenths below a hundred, and whole ones from what is written as a hundred.
func threeFigures(v float64) string {
	if v < 99.95 {
		return Fixed(v, 1)
	}
	return Fixed(v, 0)
}

// Yarn writes a length of yarn.
func (u Units) Yarn(m float64) string { return u.PlainYarn(m) + "\u00a0" + u.YarnUnit() }

// ReadYarn reads a length of yarn, metres.
func (u Units) ReadYarn(field, s string) (float64, error) {
	v, err := ReadNumber(field, s, "a length of yarn, such as 240")
	return v / u.perMetre(), err
}

// GristUnit is the unit of a grist.
func (u Units) GristUnit() string {
	if u.Ounces {
		return u.YarnUnit() + " in 1 oz"
	}
	return u.YarnUnit() + " in 100 g"
}

func (u Units) gristFactor() float64 {
	f := u.perMetre()
	if u.Ounces {
		f *= unit.GramsPerOunce / 100
	}
	return f
}

// PlainGrist writes a grist of so many metres in 100 g, without its unit.
func (u Units) PlainGrist(mPer100g float64) string {
	return threeFigures(mPer100g * u.gristFactor())
}

// Grist writes a grist of so many metres in 100 g.
func (u Units) Grist(mPer100g float64) string {
	return u.PlainGrist(mPer100g) + "\u00a0" + u.YarnUnit() + map[bool]string{true: " in 1\u00a0oz", false: " in 100\u00a0g"}[u.Ounces]
}

// ReadGrist reads a grist, metres in 100 g.
func (u Units) ReadGrist(field, s string) (float64, error) {
	v, err := ReadNumber(field, s, "a grist, such as 360")
	return v / u.gristFactor(), err
}

// AreaUnit is the unit of an area of felt.
func (u Units) AreaUnit() string {
	if u.Inches {
		return "sq in"
	}
	return "cm²"
}

// PlainArea writes an area, without its unit.
func (u Units) PlainArea(cm2 float64) string {
	if u.Inches {
		cm2 /= inchCM * inchCM
	}
	return Number(round1(cm2))
}

// ReadArea reads an area, cm².
func (u Units) ReadArea(field, s string) (float64, error) {
	v, err := ReadNumber(field, s, "an area, such as 900")
	if u.Inches {
		v *= inchCM * inchCM
	}
	return v, err
}

// LaidUnit is the unit of how thick felt is laid.
func (u Units) LaidUnit() string {
	if u.Ounces {
		return "oz on a square yard"
	}
	return "g on a square metre"
}

// PlainLaid writes how thick felt is laid, without its unit.
func (u Units) PlainLaid(gPerM2 float64) string {
	if u.Ounces {
		gPerM2 *= unit.MetresPerYard * unit.MetresPerYard / unit.GramsPerOunce
	}
	return Number(round1(gPerM2))
}

// ReadLaid reads how thick felt is laid, grams on a square metre.
func (u Units) ReadLaid(field, s string) (float64, error) {
	v, err := ReadNumber(field, s, "a weight, such as 350")
	if u.Ounces {
		v *= unit.GramsPerOunce / (unit.MetresPerYard * unit.MetresPerYard)
	}
	return v, err
}

// GaugeOver is the length over which stitches and rows are counted.
func (u Units) GaugeOver() string {
	if u.Inches {
		return "4\u00a0in"
	}
	return "10\u00a0cm"
}

func (u Units) gaugeFactor() float64 {
	if u.Inches {
		return 4 * inchCM / 10
	}
	return 1
}

// Gauge writes how many stitches or rows there are, of so many over 10 cm.
func (u Units) Gauge(per10cm float64) string { return Number(round1(per10cm * u.gaugeFactor())) }

// ReadGauge reads a count of stitches or rows, over 10 cm.
func (u Units) ReadGauge(field, s string) (float64, error) {
	v, err := ReadNumber(field, s, "how many, such as 22")
	return v / u.gaugeFactor(), err
}

func round1(v float64) float64 {
	w, _ := strconv.ParseFloat(strconv.FormatFloat(v, 'f', 1, 64), 64)
	return w
}

// Whole reads a count.
func Whole(field, s, what string) (float64, error) {
	n, err := strconv.Atoi(s)
	if err != nil {
		return 0, fault.New(field, "Enter %s as a whole number.", what)
	}
	return float64(n), nil
}

// PlainTurns writes turns in a metre as they are counted in the maker's units: in an inch, or in 10 cm.
func (u Units) PlainTurns(perM float64) string {
	if u.Inches {
		return Fixed(perM*0.0254, 1)
	}
	return Fixed(perM/10, 0)
}

// Turns is PlainTurns with its unit.
func (u Units) Turns(perM float64) string {
	if u.Inches {
		return u.PlainTurns(perM) + " turns in 1\u00a0in"
	}
	return u.PlainTurns(perM) + " turns in 10\u00a0cm"
}

// GaugeWidth is the width on which stitches are counted; InGauge is how many lie there of so many on 10 cm, FromGauge the other way.
func (u Units) GaugeWidth() string {
	if u.Inches {
		return "4\u00a0in"
	}
	return "10\u00a0cm"
}

// InGauge is how many stitches or rows lie on GaugeWidth, of so many on 10 cm.
func (u Units) InGauge(on10cm float64) float64 { return on10cm * u.gauge() }

// FromGauge is how many lie on 10 cm.
func (u Units) FromGauge(n float64) float64 { return n / u.gauge() }

// BumpsOver is the length on which bumps of a yarn that was plied back on itself are counted.
func (u Units) BumpsOver() string {
	if u.Inches {
		return "1\u00a0in"
	}
	return "1\u00a0cm"
}

// InBumps is how many bumps lie on BumpsOver, of so many on 1 cm.
func (u Units) InBumps(perCM float64) float64 { return perCM * u.bumps() }

// FromBumps is how many lie on 1 cm.
func (u Units) FromBumps(n float64) float64 { return n / u.bumps() }

func (u Units) bumps() float64 {
	if u.Inches {
		return 2.54
	}
	return 1
}

func (u Units) gauge() float64 {
	if u.Inches {
		return 1.016
	}
	return 1
}
