package yarn

import "math"

// Twist (yarn.md, section 3): T turns in a metre, K = T √tex.

// usualTwist is the twist factor that is usual for a draw; a quarter less or more is usual too (judgement, between mills' 2000 and 2900).
var usualTwist = map[string]float64{"long": 2300, "from-fold": 2200, "short-backward": 2000, "short-forward": 2000}

// Of twist.
const (
	TwistRange  = 0.25 // either way
	keptSingle  = 0.7  // of what is kept as a single
	haloTwist   = 0.9  // of angora and mohair: less sheds, more kills the halo
	plyRest     = 0.95 // of the twist of equal surface angle
	stapleUsual = 75.0 // mm
)

// Turns are how much a yarn is twisted.
type Turns struct {
	SinglesPerM  float64
	Low, High    float64 // what is usual
	PlyPerM      float64 // balanced; 0 of a single
	AngleDeg     float64 // of its surface
	Factor       float64 // K
	StapleFactor float64
}

// TurnsOf is the twist that is usual for a single of so many tex and a staple, drawn so, of so many plies (1: it is kept as a single),
// of a density (g/cm³) and a packing of the single. Halo is fibre that is to stand off.
func TurnsOf(tex, stapleMM float64, draw string, plies int, halo bool, density, packing float64) Turns {
	t := Turns{StapleFactor: math.Min(math.Max(math.Pow(stapleUsual/stapleMM, 0.3), 0.75), 1.35)}
	t.Factor = usualTwist[draw] * t.StapleFactor
	if plies == 1 {
		t.Factor *= keptSingle
	}
	if halo {
		t.Factor *= haloTwist
	}
	t.SinglesPerM = t.Factor / math.Sqrt(tex)
	t.Low, t.High = t.SinglesPerM*(1-TwistRange), t.SinglesPerM*(1+TwistRange)
	t.AngleDeg = angle(t.Factor, density, packing)
	if plies > 1 {
		t.PlyPerM = t.SinglesPerM * Balance(plies)
	}
	return t
}

// angle is how far aslant the fibres of a single lie on its surface, degrees: tan α = 1.121·10⁻⁴ K / √(ρφ).
func angle(factor, density, packing float64) float64 {
	return math.Atan(1.121e-4*factor/math.Sqrt(density*packing)) * 180 / math.Pi
}

// At is a yarn that is twisted by so many turns in a metre of single, where these are what is usual for it.
func (t Turns) At(perM float64, plies int, density, packing float64) Turns {
	t.Factor *= perM / t.SinglesPerM
	t.SinglesPerM, t.AngleDeg = perM, angle(t.Factor, density, packing)
	if plies > 1 {
		t.PlyPerM = perM * Balance(plies)
	}
	return t
}

// Balance is the twist of a balanced ply, of that of its singles.
func Balance(plies int) float64 { return plyRest / math.Sqrt(float64(plies)) }

// Treadles is how often a wheel of a ratio is trodden while so many m are drawn, for so many turns in a metre.
func Treadles(turnsPerM, ratio, drawM float64) float64 { return turnsPerM * drawM / ratio }

// Left is the energy left in a ply, of the balanced one: within a tenth it hangs straight, beyond a quarter it leans and loops.
func Left(plyPerM, singlesPerM float64, plies int) float64 {
	balanced := singlesPerM * Balance(plies)
	return (plyPerM - balanced) / balanced
}

// PliedBack is the turns in a metre of a fresh single that was let fold back on itself, of so many bumps in a cm.
func PliedBack(bumpsPerCM float64) float64 { return bumpsPerCM / 2 * 100 / 0.67 }
