// Package fibre knows the kinds of fibre and their preparations: how long and
// how thick the fibres are, how they behave, what they lose in carding.
package fibre

import (
	_ "embed"
	"encoding/csv"
	"fmt"
	"strconv"
	"strings"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

// Range is a low and a high value of a property; single fleeces fall outside.
type Range struct{ Low, High float64 }

// Mid is the middle of the range.
func (r Range) Mid() float64 { return (r.Low + r.High) / 2 }

// Kind is a fibre type with its properties.
type Kind struct {
	Key        string
	Name       string
	Family     string // wool, hair, down, silk, cotton, bast, regenerated, synthetic, sparkle, texture, unknown
	Role       string // base, partner, shine, strength, short, sparkle, texture
	DiameterUM Range  // for film the width of the strip
	StapleMM   Range  // for neps and knops the size of the dot
	Density    float64
	Crimp      string  // none, low, medium, high
	Cohesion   string  // grippy, smooth, slippery
	Lustre     string  // matt, semi, bright, mirror
	LickerIn   string  // how it goes through the small drum: ok, thin_only, avoid
	Fragile    bool    // breaks, tangles or dulls from carding
	Static     bool    // charges up in dry air
	Nep        bool    // rolls up into specks
	Felts      bool    // in a wash that moves
	LossPct    Range   // carding loss of the first pass, percent of mass
	Decay      float64 // what each later pass loses of what the one before did
	MaxPct     float64
	// MinTPI and MaxTPI bound the cloth that holds it, in pins per square inch; 0
	// is no bound.
	MinTPI, MaxTPI float64
	Note           string // the maker's own
	Blended        bool   // several fibres, carded together
}

// filmUM is the middle of the 12 to 25 µm that film is thick. The diameter of a
// film is the width of its strip, which does not make it cover less.
const filmUM = 18.5

// Thickness is density × mean diameter in g/cm³·µm, of film density × the
// thickness of the film; visible surface per gram goes as one over it.
func (k Kind) Thickness() float64 {
	if k.Family == "sparkle" {
		return k.Density * filmUM
	}
	return k.Density * k.DiameterUM.Mid()
}

// Unknown reports whether it stands for a kind that nobody has told yet: its ranges are those of all that it could be, and
// nothing is judged by their middle.
func (k Kind) Unknown() bool { return k.Key == "unknown" || k.Key == "wool_unknown" }

// Preparation is the state in which a lot lies on the shelf.
type Preparation struct {
	Key  string
	Name string
	// ReadyLossPct is what is lost until the fibre can be carded, percent of
	// mass; the carding itself is not in it.
	ReadyLossPct Range
}

// The words a property may have, in the order in which they are offered.
var (
	Families = []string{"wool", "hair", "down", "silk", "cotton", "bast", "regenerated", "synthetic", "sparkle", "texture", "unknown"}
	Roles    = []string{"base", "partner", "shine", "strength", "short", "sparkle", "texture"}
	Crimps   = []string{"none", "low", "medium", "high"}
	Cohesion = []string{"grippy", "smooth", "slippery"}
	Lustres  = []string{"matt", "semi", "bright", "mirror"}
)

//go:embed fibres.csv
var fibresCSV string

//go:embed prep_forms.csv
var prepsCSV string

var (
	kinds   = readKinds()
	kindAt  = index(kinds, func(k Kind) string { return k.Key })
	preps   = readPreparations()
	prepsAt = index(preps, func(p Preparation) string { return p.Key })
)

// Kinds lists the built-in kinds in the order of the table.
func Kinds() []Kind { return append([]Kind(nil), kinds...) }

// Preparations lists the preparations in the order of the table.
func Preparations() []Preparation { return append([]Preparation(nil), preps...) }

// FindKind looks a built-in kind up by its key.
func FindKind(key string) (Kind, bool) {
	i, ok := kindAt[key]
	if !ok {
		return Kind{}, false
	}
	return kinds[i], true
}

// FindPreparation looks a preparation up by its key.
func FindPreparation(key string) (Preparation, bool) {
	i, ok := prepsAt[key]
	if !ok {
		return Preparation{}, false
	}
	return preps[i], true
}

func index[T any](list []T, key func(T) string) map[string]int {
	m := make(map[string]int, len(list))
	for i, v := range list {
		m[key(v)] = i
	}
	return m
}

// table reads an embedded CSV into maps by column name. A damaged table is a
// fault of the build, so it panics.
func table(name, text string) []map[string]string {
	rows, err := csv.NewReader(strings.NewReader(text)).ReadAll()
	if err != nil || len(rows) < 2 {
		panic(fmt.Sprintf("fibre: embedded %s is damaged: %v", name, err))
	}
	out := make([]map[string]string, 0, len(rows)-1)
	for _, row := range rows[1:] {
		m := make(map[string]string, len(row))
		for i, col := range rows[0] {
			m[col] = row[i]
		}
		out = append(out, m)
	}
	return out
}

func number(row map[string]string, col string) float64 {
	if row[col] == "" {
		return 0
	}
	v, err := strconv.ParseFloat(row[col], 64)
	if err != nil {
		panic(fmt.Sprintf("fibre: %s of %s: %v", col, row["key"], err))
	}
	return v
}

func between(row map[string]string, col string) Range {
	return Range{number(row, col+"_low"), number(row, col+"_high")}
}

func readKinds() (out []Kind) {
	for _, r := range table("fibres.csv", fibresCSV) {
		k := Kind{
			Key: r["key"], Name: r["name"], Family: r["family"], Role: r["role"],
			DiameterUM: between(r, "diameter_um"), StapleMM: between(r, "staple_mm"),
			Density: number(r, "density_g_cm3"), Crimp: r["crimp"], Cohesion: r["cohesion"], LickerIn: r["licker_in"], Fragile: r["fragile"] == "1",
			Static: r["static_prone"] == "1", Nep: r["nep_prone"] == "1", Felts: r["felts"] == "1",
			Lustre: r["lustre"], LossPct: between(r, "carding_loss_pct"),
			MaxPct: number(r, "usual_max_share_pct"), MinTPI: number(r, "min_cloth_tpi"), MaxTPI: number(r, "max_cloth_tpi"),
		}
		k.Decay = UsualDecay(k)
		out = append(out, k)
	}
	return out
}

func readPreparations() (out []Preparation) {
	for _, r := range table("prep_forms.csv", prepsCSV) {
		out = append(out, Preparation{
			Key: r["key"], Name: r["name"], ReadyLossPct: between(r, "loss_to_card_ready_pct"),
		})
	}
	return out
}

// Check finds what is wrong with a kind, field by field; the fields carry the
// names of the columns of the table.
func (k Kind) Check() error {
	var l fault.List
	if strings.TrimSpace(k.Name) == "" {
		l.Add("name", "Give the kind a name.")
	}
	oneOf := func(field, v string, words []string) {
		for _, w := range words {
			if v == w {
				return
			}
		}
		l.Add(field, "Choose one of: %s.", strings.Join(words, ", "))
	}
	oneOf("family", k.Family, Families)
	oneOf("role", k.Role, Roles)
	oneOf("crimp", k.Crimp, Crimps)
	oneOf("cohesion", k.Cohesion, Cohesion)
	oneOf("lustre", k.Lustre, Lustres)
	within := func(field, what, verb string, r Range, can unit.Limits, as func(float64) any) {
		switch {
		case !can.Holds(r.Low):
			l.Add(field+"_low", what+" lies between "+verb+" and "+verb+".", as(can.Least), as(can.Most))
		case !(r.High >= r.Low && can.Holds(r.High)):
			l.Add(field+"_high", "The high value is at least the low one and at most "+verb+".", as(can.Most))
		}
	}
	figure := func(v float64) any { return v }
	within("diameter_um", "The diameter in µm", "%g", k.DiameterUM, Can.DiameterUM, figure)
	within("staple_mm", "The staple", "%s", k.StapleMM, Can.StapleMM, func(mm float64) any { return unit.Millimetres(mm) })
	within("carding_loss_pct", "The loss in percent", "%g", k.LossPct, Can.LossPct, figure)
	if !Can.Decay.Holds(k.Decay) {
		l.Add("loss_decay", "A later pass loses between 0 and 1 of what the one before did.")
	}
	if !Can.Density.Holds(k.Density) {
		l.Add("density_g_cm3", "The density in g/cm³ lies between %g and %g; wool has 1.31.", Can.Density.Least, Can.Density.Most)
	}
	return l.Err()
}
