package trouble

import (
	"math"
	"slices"

	"fairtangle/core/colour"
)

// mainShare is what a fibre has at least of the weight to count beside others.
const mainShare = 0.1

func (f Fibre) staple() float64 {
	if f.StapleMM > 0 {
		return f.StapleMM
	}
	return f.Kind.StapleMM.Mid()
}

func (f Fibre) texture() bool { return f.Kind.Role == "texture" }
func (f Fibre) lock() bool    { return f.Kind.Key == "locks_wool" || f.Kind.Key == "locks_mohair" }
func (f Fibre) dots() bool    { return f.texture() && !f.lock() }

// body reports whether it is fibre that is carded, neither texture nor sparkle.
func (f Fibre) body() bool {
	return !f.texture() && f.Kind.Family != "sparkle" && f.Kind.Role != "sparkle"
}

// superwash reports whether it is treated wool.
func (f Fibre) superwash() bool {
	return f.Kind.Family == "wool" && (f.Superwash || f.Kind.Key == "merino_superwash")
}

// grips reports whether it is a wool that grips.
func (f Fibre) grips() bool {
	return f.Kind.Family == "wool" && f.Kind.Cohesion == "grippy" && !f.superwash()
}

// carries reports whether it carries others: a wool that grips, of a length that drafts.
func (f Fibre) carries() bool { return f.grips() && f.staple() >= 50 && f.staple() <= 130 }

// ofFibre is the part of the weight, in percent, of fibre that is so.
func ofFibre(is func(Fibre) bool) func(Facts) value {
	return func(f Facts) value {
		return f.of(func() value {
			var sum float64
			for _, v := range f.Fibres {
				if is(v) {
					sum += v.Share
				}
			}
			return value{number: 100 * sum}
		})
	}
}

// ofPreparation is the part of the weight that is prepared so; where no component says how it is prepared it is not told.
func ofPreparation(so ...string) func(Facts) value {
	part := ofFibre(func(f Fibre) bool { return slices.Contains(so, f.Preparation) })
	return func(f Facts) value {
		if len(f.Fibres) > 0 && !slices.ContainsFunc(f.Fibres, func(v Fibre) bool { return v.Preparation != "" }) {
			return missing("components.preparation")
		}
		return part(f)
	}
}

func smallest(f Facts) value {
	return f.of(func() value {
		least := math.Inf(1)
		for _, v := range f.Fibres {
			least = min(least, v.Share)
		}
		return value{number: 100 * least}
	})
}

// damp: something was washed less than a day ago.
func damp(f Facts) value {
	return f.of(func() value {
		toldOf := false
		for _, v := range f.Fibres {
			if v.WashedHours != nil {
				if toldOf = true; *v.WashedHours < 24 {
					return so(true)
				}
			}
		}
		if !toldOf {
			return missing("components.washed_hours_ago")
		}
		return so(false)
	})
}

func dyed(f Facts) value {
	return f.of(func() value {
		toldOf := false
		for _, v := range f.Fibres {
			if v.DyedByHand != nil {
				if toldOf = true; *v.DyedByHand {
					return so(true)
				}
			}
		}
		if !toldOf {
			return missing("components.dyed_by_hand")
		}
		return so(false)
	})
}

// seenShare is the part of the weight from which a colour counts; two of them at least have to be told.
const seenShare = 0.05

func coloured(f Facts, of func([]Fibre) value) value {
	return f.of(func() value {
		var list []Fibre
		for _, v := range f.Fibres {
			if v.Colour != nil && v.Share >= seenShare-1e-9 {
				list = append(list, v)
			}
		}
		if len(list) < 2 {
			return missing("components.colour")
		}
		return of(list)
	})
}

// opposed: two colours of a fifth or more each, both clearly coloured, lie across the wheel.
func opposed(f Facts) value {
	return coloured(f, func(list []Fibre) value {
		for i, a := range list {
			for _, b := range list[:i] {
				apart := math.Abs(math.Mod(a.Colour.Hue()-b.Colour.Hue()+540, 360) - 180)
				if a.Share >= 0.2-1e-9 && b.Share >= 0.2-1e-9 && a.Colour.Chroma() > 20 && b.Colour.Chroma() > 20 && apart >= 150-1e-9 {
					return so(true)
				}
			}
		}
		return so(false)
	})
}

func pale(f Facts) value {
	return coloured(f, func(list []Fibre) value {
		return so(!slices.ContainsFunc(list, func(v Fibre) bool { return v.Colour.L < 65 }))
	})
}

// near: no two of the colours lie far apart.
func near(f Facts) value {
	return coloured(f, func(list []Fibre) value {
		var most float64
		for i, a := range list {
			for _, b := range list[:i] {
				most = max(most, distance(*a.Colour, *b.Colour))
			}
		}
		return so(most < 12)
	})
}

// distance is that of two colours in CIELAB.
func distance(a, b colour.Lab) float64 {
	return math.Sqrt((a.L-b.L)*(a.L-b.L) + (a.A-b.A)*(a.A-b.A) + (a.B-b.B)*(a.B-b.B))
}

// ratio is the largest over the least of the main fibres; 1 where there is one.
func ratio(of func(Fibre) float64) func(Facts) value {
	return func(f Facts) value {
		return f.of(func() value {
			least, most := math.Inf(1), 0.0
			for _, v := range f.Fibres {
				if v.body() && v.Share >= mainShare-1e-9 {
					least, most = min(least, of(v)), max(most, of(v))
				}
			}
			if most == 0 {
				return value{number: 1}
			}
			return value{number: most / least}
		})
	}
}
