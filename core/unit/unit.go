// Package unit names the quantities of the job. A weight is stored as whole
// milligrams so that sums are exact; grams are for computing.
package unit

import "math"

// Grams is a weight in grams.
type Grams float64

// Milligrams is a weight in whole milligrams, the form in which it is stored.
type Milligrams int64

// GramsPerOunce is the international avoirdupois ounce (1959), exact.
const GramsPerOunce = 28.349523125

// The international yard and inch (1959), exact.
const (
	MMPerInch     = 25.4
	MetresPerYard = 0.9144
)

// MaxGrams bounds every weight that can be entered: a tonne of fibre. It keeps
// sums of milligrams far away from the limits of an int64.
const MaxGrams Grams = 1e6

// Milligrams rounds to the nearest milligram.
func (g Grams) Milligrams() Milligrams { return Milligrams(math.Round(float64(g) * 1000)) }

// Ounces converts to avoirdupois ounces.
func (g Grams) Ounces() float64 { return float64(g) / GramsPerOunce }

// FromOunces converts avoirdupois ounces to grams.
func FromOunces(oz float64) Grams { return Grams(oz * GramsPerOunce) }

// Grams converts to grams.
func (m Milligrams) Grams() Grams { return Grams(m) / 1000 }

// Clean takes the noise of binary fractions off a number of nine decimals or
// fewer.
func Clean(v float64) float64 { return math.Round(v*1e9) / 1e9 }
