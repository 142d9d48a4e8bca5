package yarn

import (
	"math"

	"fairtangle/core/fault"
)

// packed is how much of a single's room fibre fills, by how it is drawn and from what (yarn.md, section 1: judgement between
// published bounds); it rises along every row and column.
var packed = map[string]map[string]float64{
	"long":           {"rolag": 0.22, "batt": 0.24, "roving": 0.26, "top": 0.28},
	"from-fold":      {"rolag": 0.24, "batt": 0.25, "roving": 0.27, "top": 0.29},
	"short-backward": {"rolag": 0.28, "batt": 0.30, "roving": 0.32, "top": 0.34},
	"short-forward":  {"rolag": 0.30, "batt": 0.32, "roving": 0.35, "top": 0.38},
}

// Draws and Prepared are the ways, in the order in which they are offered.
var (
	Draws    = []string{"long", "from-fold", "short-backward", "short-forward"}
	Prepared = []string{"rolag", "batt", "roving", "top"}
)

// crimped is how crimp changes the packing: springy fibre keeps its neighbours away.
var crimped = map[string]float64{"high": 0.93, "medium": 1, "low": 1.05, "none": 1.10}

// Of the packing of a single, and how wide yarns lie side by side when wraps are counted.
const (
	leastPacked = 0.12
	mostPacked  = 0.60
	looseWraps  = 1.35
	mmPerInch   = 25.4
	// WoolDensity is that of wool, g/cm³.
	WoolDensity = 1.31
)

// Size is how thick a yarn is.
type Size struct {
	DiameterMM   float64
	WrapsPerInch float64 // laid loosely side by side
	Packing      float64 // the part of its room that is fibre
}

// CrimpFactor is by how much the crimp of a fibre changes how it packs; of what is not known 1.
func CrimpFactor(crimp string) float64 {
	if f, ok := crimped[crimp]; ok {
		return f
	}
	return 1
}

// SizeOf is the size of a yarn of singles of so many tex, drawn and prepared in a way, of fibre of a density (g/cm³) and a factor
// of crimp, in so many plies with a take-up: d = 2 √(tex / (1000 π ρ φ)), and of n touching circles the mean width d (1 + n/π) √(1 + t).
func SizeOf(tex, takeUp float64, plies int, draw, prepared string, density, crimp float64) (Size, error) {
	by, ok := packed[draw]
	if !ok {
		return Size{}, fault.New("draw", "A draw is long, from-fold, short-backward or short-forward.")
	}
	phi, ok := by[prepared]
	if !ok {
		return Size{}, fault.New("prepared", "Fibre is prepared as rolag, batt, roving or top.")
	}
	phi = min(max(phi*crimp, leastPacked), mostPacked)
	d := 2 * math.Sqrt(tex/(1000*math.Pi*density*phi))
	if plies > 1 {
		n := float64(plies)
		d *= (1 + n/math.Pi) * math.Sqrt(1+takeUp)
		phi *= n / ((1 + n/math.Pi) * (1 + n/math.Pi))
	}
	return Size{d, mmPerInch / (looseWraps * d), phi}, nil
}

// Wrapped is a size as a sample of so many loose wraps to the inch shows it: thicker, and with more room, or thinner.
func (s Size) Wrapped(wraps float64) Size {
	d := mmPerInch / (looseWraps * wraps)
	return Size{d, wraps, s.Packing * (s.DiameterMM / d) * (s.DiameterMM / d)}
}

// Body is what fibre a yarn is of: its density in g/cm³, and how its crimp packs (CrimpFactor).
type Body struct{ Density, Crimp float64 }

// BodyOf is that of fibres of so many grams: densities by volume, crimp by weight; of nothing, wool.
func BodyOf(grams, densities []float64, crimps []string) Body {
	var sum, volume, crimp float64
	for i, g := range grams {
		sum, volume, crimp = sum+g, volume+g/densities[i], crimp+g*CrimpFactor(crimps[i])
	}
	if sum <= 0 {
		return Body{WoolDensity, 1}
	}
	return Body{sum / volume, crimp / sum}
}
