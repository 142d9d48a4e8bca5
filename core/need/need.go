// Package need works out how much fibre a piece of work takes: from metres of yarn and a grist,
// or a weight of yarn, from batts, or from felt; what spinning, finishing and carding lose on
// the way, and what is to be weighed in.
package need

import (
	"fmt"
	"math"

	"fairtangle/core/fault"
	"fairtangle/core/losses"
	"fairtangle/core/unit"
)

// Usual allowances, as parts, where the maker says nothing else.
const (
	Margin = 0.10
	Waste  = 0.03 // of what is spun
	TakeUp = 0.05 // of the length, in plying
	// Finishing is lost of the yarn in washing, FinishingHome where the fibre was washed at home.
	Finishing     = 0.02
	FinishingHome = 0.05
	// Shrinkage is by how much washing shortens a yarn drawn short, ShrinkageLong one drawn long.
	Shrinkage     = 0.05
	ShrinkageLong = 0.10
)

// gristOfWPI is the grist of a yarn of one wrap per inch, m in 100 g; it grows with the square.
// Unsure says by which part a grist from wraps is off, either way.
const (
	gristOfWPI = 1.5
	Unsure     = 0.30
)

// GristOf estimates the grist of a yarn from its wraps per inch, m in 100 g.
func GristOf(wpi float64) float64 { return gristOfWPI * wpi * wpi }

// WrapsOf is what GristOf reads: the wraps per inch of a yarn of so many m in 100 g.
func WrapsOf(gristM float64) float64 { return math.Sqrt(gristM / gristOfWPI) }

// Yarn is what is to be there when all is done: two of length, grist and weight; the third
// follows. WPI stands for a grist that was not measured.
type Yarn struct {
	LengthM float64
	GristM  float64 // m in 100 g
	WPI     float64
	WeightG float64
	Plies   int
}

// Batts are so many pieces of so many grams, off the carder.
type Batts struct {
	Count int
	Grams float64
}

// Felt is an area of fibre laid so thick.
type Felt struct{ AreaCM2, GramsPerM2 float64 }

// Allowances are what is added and lost after carding, as parts; TakeUp is the part by which
// singles are longer than what is plied of them, Shrinkage that by which washing shortens the yarn.
// Without a Shrinkage the single is worked out from the yarn as if it were never washed.
type Allowances struct {
	Margin, Waste, Finishing, TakeUp float64
	Shrinkage                        *float64
}

// Component is a fibre of what is carded.
type Component struct {
	Share   float64
	Loses   losses.Fall
	JoinsAt int
	Alone   int // how often it is carded alone before it is laid
}

// Request asks how much a piece of work takes. Exactly one of Yarn, Batts, Felt and Fibre is
// set; Fibre is that much carded fibre, whatever becomes of it.
type Request struct {
	Yarn       *Yarn
	Batts      *Batts
	Felt       *Felt
	FibreG     float64
	Allowances Allowances
	Components []Component
	Passes     int
	SampleG    float64
	CapacityG  float64 // of one unit, weighed in; 0: not known
	ClothG     float64 // that the cloths of the carder take up of all units
	StepG      float64 // of the scale
}

// Answer is how much it takes.
type Answer struct {
	Yarn         Yarn // with all three of its figures, where a grist is known
	Estimated    bool // the grist is
	FibreG       float64
	LowG, HighG  float64 // of the fibre; the same where the grist was measured
	SinglesM     float64
	SinglesGrist float64   // m in 100 g
	PerPlyG      []float64 // of the fibre; whole steps of the scale, the last takes the difference
	WeighInG     []float64 // of each component, before carding
	TotalG       float64   // of all of them
	SampleG      float64
	ClothG       float64
	PlyM         float64 // to be plied, with the margin and what washing takes of the length
	Units        int     // that hold what is weighed in; 0: not known
	Flow         []Part
}

// Part is where grams go; all parts add up to what is set aside.
type Part struct {
	Key   string // yarn, finishing, spinning, margin, felt, batts, fibre, carding, cloth, sample
	Grams float64
}

// SetAsideG is what is weighed in, what the cloths take up, and the sample.
func (a Answer) SetAsideG() float64 { return a.TotalG + a.ClothG + a.SampleG }

// Limits of a request.
const (
	MaxPlies  = 12
	mostMetre = 1e6
	mostGrist = 1e5
	mostWPI   = 200
	mostLoss  = 0.9
	mostCount = 500
	mostAdded = 10
	mostArea  = 1e7
	mostGsm   = 1e4
	// mostShrunk is the most of its length that a yarn can lose in washing.
	mostShrunk = 0.5
)

func (q Request) check() error {
	var l fault.List
	above := func(field string, v, most float64, sentence string) {
		if !(v > 0 && v <= most) {
			l.Add(field, "%s", sentence)
		}
	}
	may := func(field string, v, most float64, sentence string) {
		if v != 0 {
			above(field, v, most, sentence)
		}
	}
	ways := 0
	if y := q.Yarn; y != nil {
		ways++
		may("yarn.length_m", y.LengthM, mostMetre, "A length is above 0 and at most a million metres.")
		may("yarn.grist_m_per_100g", y.GristM, mostGrist, "A grist is above 0, and less than that of the finest thread.")
		may("yarn.wpi", y.WPI, mostWPI, "Wraps per inch are above 0 and at most 200.")
		if y.WeightG != 0 {
			grams(&l, "yarn.weight_g", y.WeightG)
		}
		if y.WeightG == 0 && (y.LengthM == 0 || y.GristM == 0 && y.WPI == 0) {
			l.Add("yarn", "Give a weight of yarn, or a length with a grist or with wraps per inch.")
		}
		y.agree(&l)
		if y.Plies < 1 || y.Plies > MaxPlies {
			l.Add("plies", "A yarn has 1 to %d plies.", MaxPlies)
		}
	}
	if b := q.Batts; b != nil {
		ways++
		if b.Count < 1 || b.Count > mostCount {
			l.Add("batts.count", "The number is a whole number from 1 to %d.", mostCount)
		}
		grams(&l, "batts.grams", b.Grams)
	}
	if f := q.Felt; f != nil {
		ways++
		above("felt.area_cm2", f.AreaCM2, mostArea, "An area is above 0 and at most a thousand square metres.")
		above("felt.g_per_m2", f.GramsPerM2, mostGsm, "Felt is laid with more than nothing and less than 10 kg on a square metre.")
	}
	if q.FibreG != 0 {
		ways++
		grams(&l, "fibre_g", q.FibreG)
	}
	if ways != 1 && len(l) == 0 {
		l.Add("yarn", "Say what it is for in one way: yarn, batts, felt, or so much fibre.")
	}
	q.Allowances.check(&l)
	q.checkCarding(&l)
	return l.Err()
}

func (al Allowances) check(l *fault.List) {
	for _, a := range []struct {
		field string
		v     float64
		most  float64
	}{{"margin_pct", al.Margin, mostAdded}, {"waste_pct", al.Waste, mostLoss}, {"finishing_pct", al.Finishing, mostLoss},
		{"take_up_pct", al.TakeUp, mostAdded}} {
		if !(a.v >= 0 && a.v <= a.most) {
			l.Add(a.field, "This lies between 0 and %g %%.", 100*a.most)
		}
	}
	if s := al.Shrinkage; s != nil && !(*s >= 0 && *s <= mostShrunk) {
		l.Add("shrinkage_pct", "Washing takes from 0 to %g %% of the length.", 100*mostShrunk)
	}
}

// apart is by which part length, grist and weight may miss each other: what a figure rounded to three places does.
const apart = 0.005

// agree finds where all three of length, grist and weight were told, and do not make each other; wraps per inch only estimate.
func (y Yarn) agree(l *fault.List) {
	grist, may := y.GristM, apart
	if grist == 0 {
		grist, may = GristOf(y.WPI), Unsure
	}
	if !(y.LengthM > 0 && y.WeightG > 0 && grist > 0) {
		return
	}
	if of := 100 * y.LengthM / grist / y.WeightG; of > 1+may || of < 1-may {
		l.Add("yarn.weight_g", "This length at this grist weighs %s, not %s: leave one of the three out.", unit.Grams(math.Round(1000*y.LengthM/grist)/10),
			unit.Grams(y.WeightG))
	}
}

func (q Request) checkCarding(l *fault.List) {
	var sum float64
	for i, c := range q.Components {
		at := fmt.Sprintf("components[%d].", i)
		if !(c.Share >= 0 && c.Share <= 1) {
			l.Add(at+"share", "A share lies between 0 and 1.")
		}
		if !(c.Loses.First >= 0 && c.Loses.First <= mostLoss) {
			l.Add(at+"loss_pct", "A loss lies between 0 and 90 %% a pass.")
		}
		if !(c.Loses.Decay >= 0 && c.Loses.Decay <= 1) {
			l.Add(at+"decay", "What a pass loses of what the one before did lies between 0 and 1.")
		}
		if c.JoinsAt < 0 || c.JoinsAt > max(q.Passes, 1) {
			l.Add(at+"joins_at_pass", "A component joins at one of the passes, 1 to %d.", max(q.Passes, 1))
		}
		if c.Alone < 0 || c.Alone > losses.MaxAlone {
			l.Add(at+"alone_first", "A component is carded alone 0 to %d times.", losses.MaxAlone)
		}
		sum += c.Share
	}
	if len(q.Components) > 0 && len(*l) == 0 && math.Abs(sum-1) > 1e-3 {
		l.Add("components", "The shares add up to %.4g, not to 1.", sum)
	}
	if q.Passes < 0 || q.Passes > losses.MaxPasses {
		l.Add("passes", "The number of passes is a whole number from 0 to %d.", losses.MaxPasses)
	}
	if !(q.SampleG >= 0 && q.SampleG <= float64(unit.MaxGrams)) {
		l.Add("sample_g", "A sample weighs from %s to %s.", unit.Grams(0), unit.MaxGrams)
	}
	if !(q.CapacityG >= 0 && q.CapacityG <= float64(unit.MaxGrams)) {
		l.Add("unit_capacity_g", "A unit holds from %s to %s.", unit.Grams(0), unit.MaxGrams)
	}
	if !(q.ClothG >= 0 && q.ClothG <= float64(unit.MaxGrams)) {
		l.Add("cloth_g", "A cloth takes up from %s to %s.", unit.Grams(0), unit.MaxGrams)
	}
	if !(q.StepG > 0 && q.StepG <= 1000) {
		l.Add("step_g", "The scale's step is above %s and at most %s.", unit.Grams(0), unit.Grams(1000))
	}
}

func grams(l *fault.List, field string, g float64) {
	if !(g > 0 && g <= float64(unit.MaxGrams)) {
		l.Add(field, "A weight is above %s and at most %s.", unit.Grams(0), unit.MaxGrams)
	}
}

// Work works out how much it takes. Of yarn, the fibre is its weight × (1 + margin) / ((1 −
// waste)(1 − finishing)); of felt its area × its weight × (1 + margin); a component is weighed
// in as its share of the fibre over what carding leaves of it.
func Work(q Request) (Answer, error) {
	if err := q.check(); err != nil {
		return Answer{}, err
	}
	a, al := Answer{SampleG: q.SampleG, ClothG: q.ClothG}, q.Allowances
	switch {
	case q.Yarn != nil:
		a.spin(*q.Yarn, al)
	case q.Batts != nil:
		a.FibreG = float64(q.Batts.Count) * q.Batts.Grams
		a.Flow = []Part{{"batts", a.FibreG}}
	case q.Felt != nil:
		felt := q.Felt.AreaCM2 * 1e-4 * q.Felt.GramsPerM2
		a.FibreG = felt * (1 + al.Margin)
		a.Flow = []Part{{"felt", felt}, {"margin", felt * al.Margin}}
	default:
		a.FibreG = q.FibreG
		a.Flow = []Part{{"fibre", a.FibreG}}
	}
	if a.HighG == 0 {
		a.LowG, a.HighG = a.FibreG, a.FibreG
	}
	if q.Yarn != nil {
		a.PerPlyG = Plies(a.FibreG, q.Yarn.Plies, q.StepG)
	}
	a.card(q)
	return a, nil
}

// spin works out the fibre of a yarn.
func (a *Answer) spin(y Yarn, al Allowances) {
	if y.GristM == 0 && y.WPI > 0 && (y.LengthM == 0 || y.WeightG == 0) {
		y.GristM, a.Estimated = GristOf(y.WPI), true
	}
	unsure := false
	switch {
	case y.WeightG == 0:
		y.WeightG = 100 * y.LengthM / y.GristM
		unsure = a.Estimated
	case y.LengthM == 0:
		y.LengthM = y.WeightG * y.GristM / 100
	case y.GristM == 0:
		y.GristM = 100 * y.LengthM / y.WeightG
	}
	a.Yarn = y
	dry := y.WeightG * (1 + al.Margin)
	spun := dry / (1 - al.Finishing)
	a.FibreG = spun / (1 - al.Waste)
	a.LowG, a.HighG = a.FibreG, a.FibreG
	if unsure {
		a.LowG, a.HighG = a.FibreG/(1+Unsure), a.FibreG/(1-Unsure)
	}
	longer := float64(y.Plies)
	if y.Plies > 1 {
		longer *= 1 + al.TakeUp
	}
	a.PlyM = y.LengthM * (1 + al.Margin)
	a.SinglesM, a.SinglesGrist = y.LengthM*longer, y.GristM*longer
	if al.Shrinkage != nil { // what is on the bobbin is longer than what it washes to, and weighs more
		left := 1 - *al.Shrinkage
		a.PlyM, a.SinglesM, a.SinglesGrist = a.PlyM/left, a.SinglesM/left, a.SinglesGrist*(1-al.Finishing)/left
	}
	a.Flow = []Part{{"yarn", y.WeightG}, {"margin", y.WeightG * al.Margin}, {"finishing", spun - dry}, {"spinning", a.FibreG - spun}}
}

// card works out what is weighed in.
func (a *Answer) card(q Request) {
	a.TotalG = a.FibreG
	if len(q.Components) > 0 {
		var sum float64
		a.TotalG = 0
		for _, c := range q.Components {
			sum += c.Share
		}
		for _, c := range q.Components {
			g := losses.Way{Fall: c.Loses, Alone: c.Alone, Joins: c.JoinsAt, Passes: q.Passes}.WeighIn(a.FibreG * c.Share / sum)
			a.WeighInG, a.TotalG = append(a.WeighInG, g), a.TotalG+g
		}
	}
	a.Flow = append(a.Flow, Part{"carding", a.TotalG - a.FibreG}, Part{"cloth", a.ClothG}, Part{"sample", a.SampleG})
	if q.CapacityG > 0 {
		a.Units = int(max(1, math.Ceil(a.TotalG/q.CapacityG-1e-9)))
	}
	if q.Batts != nil { // each is a unit of its own, and more where they are too large for one
		a.Units = max(a.Units, q.Batts.Count)
	}
}

// Plies divides fibre into equal parts of whole steps of the scale; the last one takes the
// difference.
func Plies(fibreG float64, plies int, stepG float64) []float64 {
	all := math.Round(fibreG / stepG)
	each := math.Round(all / float64(plies))
	out := make([]float64, plies)
	for i := range out {
		out[i] = unit.Clean(each * stepG)
	}
	out[plies-1] = unit.Clean((all - each*float64(plies-1)) * stepG)
	return out
}
