package carding

import "math"

// Params are the strengths of what carding does. The structure follows carding
// theory and geometry; the strengths are tuned so that results agree with what
// makers say, and can be fitted to a carder of one's own (Fit).
type Params struct {
	SpreadMM   float64 // lateral spreading of one pass, standard deviation
	EdgeMM     float64 // how far the edge of a portion fed by hand strays
	StreakMM   float64 // length of the streak that a clump is drawn into: a bit over a staple
	StapleMM   float64 // mass-weighted over the fibres
	ClumpG     float64 // mass of a clump after the first carding: a thumbnail wisp
	Unopened   float64 // part of the fibre that is in clumps then
	Opening    float64 // what is left of that part after one more pass
	Thinning   float64 // what is left of a clump's mass after one more pass
	LeastG     float64 // mass of a clump of a few fibres, which is not opened further
	ClumpGsm   float64 // areal mass of a clump, which sets the width of its streak, g/m²
	TexMgPerM  float64 // of a fibre
	HidingGsm  float64 // areal mass that lets 1/e of what lies below show, g/m²
	HandsOpen  float64 // what one round of tearing and laying by hand leaves unopened
	HandsHalve float64 // and of a clump's mass: each round doubles the layers
}

// DefaultParams are those of a medium wool on a drum carder.
func DefaultParams() Params {
	return Params{
		SpreadMM: 6, EdgeMM: 4, StreakMM: 110, StapleMM: 80, ClumpG: 0.020, Unopened: 0.80, Opening: 0.45, Thinning: 0.30, LeastG: 0.00035,
		ClumpGsm: 45, TexMgPerM: 0.643, HidingGsm: 25.7, HandsOpen: 0.92, HandsHalve: 0.5,
	}
}

// Chunkiness of what is fed: as it is teased by most, in torn lumps, in a fine
// cloud.
const (
	Teased = 1.0
	Lumps  = 3.0
	Cloud  = 0.4
)

// Fibre is what the strengths depend on of a fibre.
type Fibre struct {
	Grams, StapleMM float64
	Density         float64 // g/cm³
	Thickness       float64 // density times diameter (of film its thickness), g/cm³·µm
}

// For returns the parameters for a mix of fibres, by mass: their staple and the length
// of the streaks with it, what a metre of a fibre weighs (π/4·d²·ρ), and what hides what
// lies below (π/4·d·ρ).
func (p Params) For(fibres []Fibre) Params {
	var grams, staple, tex, hiding float64
	for _, f := range fibres {
		if !(f.Grams > 0 && f.StapleMM > 0 && f.Density > 0 && f.Thickness > 0) {
			continue
		}
		d := f.Thickness / f.Density
		grams += f.Grams
		staple += f.Grams * f.StapleMM
		tex += f.Grams * math.Pi / 4 * d * f.Thickness / 1000
		hiding += f.Grams * math.Pi / 4 * f.Thickness
	}
	if grams == 0 {
		return p
	}
	p.StreakMM *= staple / grams / p.StapleMM
	p.StapleMM, p.TexMgPerM, p.HidingGsm = staple/grams, tex/grams, hiding/grams
	return p
}
