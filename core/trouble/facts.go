package trouble

import (
	"math"
	"slices"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
)

// Fibre is a component; what is nil or empty was not told.
type Fibre struct {
	Kind        fibre.Kind
	Preparation string
	Share       float64 // of the weight, parts of 1
	StapleMM    float64 // 0: that of the kind
	Superwash   bool
	Colour      *colour.Lab
	WashedHours *float64
	DyedByHand  *bool
}

// Facts are what is known where something went wrong; what is nil or empty was not told.
type Facts struct {
	Bed          *layup.Bed
	Fibres       []Fibre
	Layers       []layup.Layer
	Pass         int // 0: not told
	Step         Stage
	ClearanceMM  *float64
	ResidueG     *float64
	TurnsPerMin  *float64
	FeedGPerTurn *float64
	HumidityPct  *float64
}

// Fields that can be asked for, in the order in which ties are settled.
var fields = []string{
	"equipment", "components", "layers", "components.preparation", "components.washed_hours_ago", "components.dyed_by_hand", "components.colour", "pass",
	"step", "clearance_mm", "residue_g", "turns_per_min", "feed_g_per_turn", "humidity_pct",
}

func fieldOrder(field string) int { return slices.Index(fields, field) }

// term is one comparison of a condition.
type term struct {
	name, op, word string
	number         float64
}

// known are the facts by name: each gives its value, or that it is not so and never can be here, or the fields that it is missing.
var known = map[string]func(Facts) value{
	"short":        ofFibre(func(f Fibre) bool { return f.body() && f.staple() < 45 }),
	"slippery":     ofFibre(func(f Fibre) bool { return f.body() && !f.superwash() && f.Kind.Cohesion == "slippery" }),
	"carrier":      ofFibre(Fibre.carries),
	"superwash":    ofFibre(Fibre.superwash),
	"fine":         ofFibre(func(f Fibre) bool { return f.body() && f.Kind.DiameterUM.Mid() < 22 }),
	"long":         ofFibre(func(f Fibre) bool { return f.body() && f.staple() > layup.TooLongMM }),
	"fragile":      ofFibre(func(f Fibre) bool { return f.Kind.Fragile }),
	"static":       ofFibre(func(f Fibre) bool { return f.Kind.Static }),
	"sparkle":      ofFibre(func(f Fibre) bool { return f.Kind.Role == "sparkle" }),
	"locks":        ofFibre(Fibre.lock),
	"dots":         ofFibre(Fibre.dots),
	"raw":          ofPreparation("raw_fleece"),
	"uncarded":     ofPreparation("raw_fleece", "washed_locks"),
	"top":          ofPreparation("combed_top"),
	"smallest":     smallest,
	"damp":         damp,
	"dyed":         dyed,
	"opposed":      opposed,
	"pale":         pale,
	"near":         near,
	"device":       func(f Facts) value { return f.bed(func(b layup.Bed) value { return value{word: string(b.Type)} }) },
	"electric":     func(f Facts) value { return f.bed(func(b layup.Bed) value { return so(b.Electric) }) },
	"tpi_low":      tpiLow,
	"load":         load,
	"lane_max":     lane(slices.Max[[]float64]),
	"lane_min":     lane(slices.Min[[]float64]),
	"n_layers":     func(f Facts) value { return f.laid(func() value { return value{number: float64(len(f.Layers))} }) },
	"painted":      painted,
	"base_bad":     baseBad,
	"top_bare":     topBare,
	"fed_sparkle":  fed(func(f Fibre) bool { return f.Kind.Role == "sparkle" }),
	"fed_dots":     fed(Fibre.dots),
	"fed_locks":    fed(Fibre.lock),
	"fed_avoid":    fed(func(f Fibre) bool { return f.Kind.LickerIn == "avoid" }),
	"staple_ratio": ratio(Fibre.staple),
	"cover_ratio":  ratio(func(f Fibre) float64 { return f.Kind.Density * f.Kind.DiameterUM.Mid() }),
	"feed_ratio":   feedRatio,
	"residue_pct":  residue,
	"pass": func(f Facts) value {
		if f.Pass == 0 {
			return missing("pass")
		}
		return value{number: float64(f.Pass)}
	},
	"step": func(f Facts) value {
		if f.Step == "" {
			return missing("step")
		}
		return value{word: string(f.Step)}
	},
	"clearance_mm":  told("clearance_mm", func(f Facts) *float64 { return f.ClearanceMM }),
	"turns_per_min": told("turns_per_min", func(f Facts) *float64 { return f.TurnsPerMin }),
	"humidity_pct":  told("humidity_pct", func(f Facts) *float64 { return f.HumidityPct }),
}

// value is a fact: a number, a word, or never where it does not hold whatever it is compared with; untold names what is missing.
type value struct {
	number float64
	word   string
	never  bool
	untold string
}

func missing(field string) value { return value{untold: field} }

// so is a fact that is so or not.
func so(v bool) value {
	if v {
		return value{number: 1}
	}
	return value{}
}

// holds compares; untold is the field that is missing.
func (t term) holds(f Facts) (ok bool, untold string) {
	v := known[t.name](f)
	switch {
	case v.untold != "":
		return false, v.untold
	case v.never:
		return false, ""
	case t.op == "":
		return v.number != 0, ""
	case v.word != "":
		return (v.word == t.word) == (t.op == "="), ""
	}
	const grain = 1e-9
	switch t.op {
	case ">":
		return v.number > t.number+grain, ""
	case "<":
		return v.number < t.number-grain, ""
	case ">=":
		return v.number >= t.number-grain, ""
	case "<=":
		return v.number <= t.number+grain, ""
	}
	return math.Abs(v.number-t.number) <= grain, ""
}

func told(field string, of func(Facts) *float64) func(Facts) value {
	return func(f Facts) value {
		if v := of(f); v != nil {
			return value{number: *v}
		}
		return missing(field)
	}
}

func (f Facts) bed(of func(layup.Bed) value) value {
	if f.Bed == nil {
		return missing("equipment")
	}
	return of(*f.Bed)
}

func (f Facts) laid(of func() value) value {
	if len(f.Layers) == 0 {
		return missing("layers")
	}
	return of()
}

func (f Facts) of(of func() value) value {
	if len(f.Fibres) == 0 {
		return missing("components")
	}
	return of()
}
