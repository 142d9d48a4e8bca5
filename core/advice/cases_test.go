package advice

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/fibre"
	"fairtangle/core/layup"
)

// of is a component of a kind.
func of(kind string, share float64, more ...func(*Fibre)) Fibre {
	k, ok := fibre.FindKind(kind)
	if !ok {
		panic(kind)
	}
	f := Fibre{Name: kind, Kind: k, Share: share, Preparation: "carded_sliver", Joins: 1}
	for _, m := range more {
		m(&f)
	}
	return f
}

func staple(mm float64) func(*Fibre) { return func(f *Fibre) { f.StapleMM = mm } }
func prep(p string) func(*Fibre)     { return func(f *Fibre) { f.Preparation = p } }
func hex(h string) func(*Fibre) {
	return func(f *Fibre) {
		c, err := colour.ParseHex(h)
		if err != nil {
			panic(err)
		}
		lab := c.Lab()
		f.Lab = &lab
	}
}
func joins(n int) func(*Fibre) { return func(f *Fibre) { f.Joins = n } }

func p[T any](v T) *T { return &v }

// drumOf is a drum of 200 mm that takes 60 g lofty and 90 g smooth, at 72 pins.
func drumOf(tpi float64) *layup.Bed {
	return &layup.Bed{Type: layup.Drum, WidthMM: 200, LengthMM: 580, ToothMM: 10, TPI: tpi, Smooth: 90, Lofty: 50, FeedG: 0.3}
}

func board() *layup.Bed {
	return &layup.Bed{Type: layup.Board, WidthMM: 300, LengthMM: 300, ToothMM: 10, TPI: 72, Smooth: 40, Lofty: 25}
}

// layers lays components one over the other across the whole width.
func layers(m layup.Method, list ...float64) (out []layup.Layer) {
	for i, g := range list {
		out = append(out, layup.Layer{Lays: []layup.Lay{{Component: i, To: 1, End: 1, Grams: g, Method: m}}})
	}
	return out
}

// mixOf mixes colours by their light, for tests: grey of opposites.
func mixOf(list []Fibre) func([]float64) colour.Lab {
	return func(shares []float64) (out colour.Lab) {
		for i, s := range shares {
			out.L += s * list[i].Lab.L
			out.A += s * list[i].Lab.A
			out.B += s * list[i].Lab.B
		}
		return out
	}
}

type change func(*Plan)

func fibres(list ...Fibre) change   { return func(q *Plan) { q.Fibres = list } }
func on(b *layup.Bed) change        { return func(q *Plan) { q.Bed = b } }
func laidAs(l []layup.Layer) change { return func(q *Plan) { q.Layers = l } }
func told(t Told) change            { return func(q *Plan) { q.Told = t } }
func goes(n int) change             { return func(q *Plan) { q.Passes = n } }
func use(s string) change           { return func(q *Plan) { q.Uses = []string{s} } }
func looks(s string) change         { return func(q *Plan) { q.Goal = s } }
func makes(s string) change         { return func(q *Plan) { q.Product = s } }
func weighs(total float64, units int) change {
	return func(q *Plan) { q.TotalG, q.Units, q.StepG = total, units, 0.1 }
}
func mixed() change { return func(q *Plan) { q.Mix = mixOf(q.Fibres) } }

func plan(list ...change) (q Plan) {
	for _, c := range list {
		c(&q)
	}
	return q
}

// cases read like the rules: a plan in which each fires, and one near by in which it does not.
var cases = []struct {
	rule        string
	fires, near []change
}{
	{"R01", []change{fibres(of("corriedale", 0.5, staple(110)), of("corriedale", 0.5, staple(54)))},
		[]change{fibres(of("corriedale", 0.5, staple(108)), of("corriedale", 0.5, staple(54)))}},
	{"R01", []change{fibres(of("corriedale", 0.9, staple(200)), of("corriedale", 0.1, staple(50)))},
		[]change{fibres(of("corriedale", 0.91, staple(200)), of("corriedale", 0.09, staple(50)))}},
	{"R01", []change{fibres(of("corriedale", 0.9, staple(205)), of("corriedale", 0.1, staple(50)))},
		[]change{fibres(of("corriedale", 0.85, staple(205)), of("corriedale", 0.15, staple(50)))}},
	{"R02", []change{fibres(of("corriedale", 0.85, staple(201)), of("corriedale", 0.15, staple(50)))},
		[]change{fibres(of("corriedale", 0.85, staple(200)), of("corriedale", 0.15, staple(50)))}},
	{"R03", []change{fibres(of("lincoln", 1, staple(151))), on(drumOf(72)), laidAs(layers(layup.Feed, 40))},
		[]change{fibres(of("lincoln", 1, staple(150))), on(drumOf(72)), laidAs(layers(layup.Feed, 40))}},
	{"R03", []change{fibres(of("lincoln", 1, staple(200))), on(drumOf(72)), laidAs(layers(layup.Feed, 40))},
		[]change{fibres(of("lincoln", 1, staple(200))), on(drumOf(72)), laidAs(layers(layup.Paint, 40))}},
	{"R04", []change{fibres(of("merino", 0.5), of("lincoln", 0.5))}, []change{fibres(of("merino", 0.91), of("lincoln", 0.09))}},
	{"R05", []change{fibres(of("merino", 0.95), of("lincoln", 0.05)), use("next-to-skin")},
		[]change{fibres(of("merino", 0.96), of("lincoln", 0.04)), use("next-to-skin")}},
	{"R06", []change{fibres(of("merino", 1)), on(drumOf(71))}, []change{fibres(of("merino", 1)), on(drumOf(72))}},
	{"R07", []change{fibres(of("icelandic", 1)), on(drumOf(91))}, []change{fibres(of("icelandic", 1)), on(drumOf(90))}},
	{"R08", []change{fibres(of("viscose", 0.301), of("corriedale", 0.699))}, []change{fibres(of("viscose", 0.30), of("corriedale", 0.70))}},
	{"R08", []change{fibres(of("viscose", 0.60), of("corriedale", 0.40))}, []change{fibres(of("viscose", 0.61), of("corriedale", 0.39))}},
	{"R09", []change{fibres(of("viscose", 0.61), of("corriedale", 0.24), of("lincoln", 0.15)), on(drumOf(72))},
		[]change{fibres(of("viscose", 0.61), of("corriedale", 0.25), of("lincoln", 0.14)), on(drumOf(72))}},
	{"R09", []change{fibres(of("viscose", 0.7), of("lincoln", 0.3)), on(drumOf(72))}, []change{fibres(of("viscose", 0.7), of("lincoln", 0.3)), on(board())}},
	{"R11", []change{fibres(of("film_metallised", 0.031), of("corriedale", 0.969))}, []change{fibres(of("film_metallised", 0.03), of("corriedale", 0.97))}},
	{"R12", []change{fibres(of("neps_wool", 0.11), of("corriedale", 0.89))}, []change{fibres(of("neps_wool", 0.10), of("corriedale", 0.90))}},
	{"R12", []change{fibres(of("locks_wool", 0.36), of("corriedale", 0.64))}, []change{fibres(of("locks_wool", 0.35), of("corriedale", 0.65))}},
	{"R13", []change{fibres(of("cotton_upland", 0.20), of("lincoln", 0.31), of("corriedale", 0.49)), makes("batt")},
		[]change{fibres(of("cotton_upland", 0.20), of("lincoln", 0.30), of("corriedale", 0.50)), makes("batt")}},
	{"R13", []change{fibres(of("cotton_upland", 1)), makes("rolags")}, []change{fibres(of("cotton_upland", 1)), makes("punis")}},
	{"R14", []change{fibres(of("lincoln", 0.51), of("corriedale", 0.49)), use("socks")},
		[]change{fibres(of("lincoln", 0.50), of("corriedale", 0.50)), use("socks")}},
	{"R15", []change{fibres(of("merino_superfine", 0.5), of("lincoln", 0.5))}, []change{fibres(of("merino", 0.5), of("polwarth", 0.5))}},
	{"R15", []change{fibres(of("merino_superfine", 0.5, hex("#202040")), of("lincoln", 0.5, hex("#e0e0d0")))},
		[]change{fibres(of("merino_superfine", 0.5, hex("#e0e0d0")), of("lincoln", 0.5, hex("#e0e0d0")))}},
	{"R16", []change{fibres(of("corriedale", 1)), on(drumOf(72)), weighs(71, 1)}, []change{fibres(of("corriedale", 1)), on(drumOf(72)), weighs(70, 1)}},
	{"R17", []change{fibres(of("corriedale", 1)), on(drumOf(72)), weighs(88, 1)}, []change{fibres(of("corriedale", 1)), on(drumOf(72)), weighs(87.5, 1)}},
	{"R18", []change{fibres(of("corriedale", 1)), on(drumOf(72)), weighs(20.9, 1), makes("batt")},
		[]change{fibres(of("corriedale", 1)), on(drumOf(72)), weighs(21, 1), makes("batt")}},
	{"R19", []change{fibres(of("corriedale", 1)), on(drumOf(72)), laidAs(twoLanes(26, 14))},
		[]change{fibres(of("corriedale", 1)), on(drumOf(72)), laidAs(twoLanes(25, 15))}},
	{"R20", []change{fibres(of("corriedale", 1)), on(drumOf(72)), laidAs(twoLanes(28.1, 11.9))},
		[]change{fibres(of("corriedale", 1)), on(drumOf(72)), laidAs(twoLanes(28, 12))}},
	{"R21", []change{fibres(of("corriedale", 1)), on(drumOf(72)), weighs(46, 1), told(Told{Turns: p(100.0)})},
		[]change{fibres(of("corriedale", 1)), on(drumOf(72)), weighs(45, 1), told(Told{Turns: p(100.0)})}},
	{"R21", []change{fibres(of("merino", 1)), on(drumOf(72)), weighs(31, 1), told(Told{Turns: p(100.0)})},
		[]change{fibres(of("merino", 1)), on(drumOf(72)), weighs(30, 1), told(Told{Turns: p(100.0)})}},
	{"R21", []change{fibres(of("corriedale", 0.5), of("merino", 0.5)), on(drumOf(72)), laidAs(layers(layup.Feed, 16, 16)), told(Told{Turns: p(100.0)})},
		[]change{fibres(of("corriedale", 0.5), of("romney", 0.5)), on(drumOf(72)), laidAs(layers(layup.Feed, 16, 16)), told(Told{Turns: p(100.0)})}},
	{"R22", []change{fibres(of("corriedale", 1, prep("combed_top"))), told(Told{Wisps: p(false)})},
		[]change{fibres(of("corriedale", 1, prep("combed_top"))), told(Told{Wisps: p(true)})}},
	{"R23", []change{fibres(of("corriedale", 1)), told(Told{PerMinute: p(41.0)})}, []change{fibres(of("corriedale", 1)), told(Told{PerMinute: p(40.0)})}},
	{"R23", []change{fibres(of("merino_superfine", 1)), told(Told{PerMinute: p(26.0)})},
		[]change{fibres(of("merino_superfine", 1)), told(Told{PerMinute: p(25.0)})}},
	{"R23", []change{fibres(of("corriedale", 1)), on(drumOf(72)), told(Told{PerMinute: p(41.0)})},
		[]change{fibres(of("corriedale", 1)), on(&layup.Bed{Type: layup.Board}), told(Told{PerMinute: p(41.0)})}},
	{"R24", []change{fibres(of("lincoln", 0.5), of("corriedale", 0.5)), on(drumOf(72)), laidAs(layers(layup.Feed, 20, 20))},
		[]change{fibres(of("corriedale", 0.5), of("lincoln", 0.5)), on(drumOf(72)), laidAs(layers(layup.Feed, 20, 20))}},
	{"R25", []change{fibres(of("corriedale", 0.95), of("neps_wool", 0.05)), on(drumOf(72)), laidAs(layers(layup.Place, 38, 2))},
		[]change{fibres(of("corriedale", 0.95), of("locks_wool", 0.05)), on(drumOf(72)), laidAs(layers(layup.Place, 38, 2))}},
	{"R26", []change{fibres(of("corriedale", 0.70), of("silk_tussah", 0.30)), goes(2)},
		[]change{fibres(of("corriedale", 0.69), of("silk_tussah", 0.31)), goes(2)}},
	{"R26", []change{fibres(of("corriedale", 0.8), of("silk_tussah", 0.2)), goes(2)},
		[]change{fibres(of("corriedale", 0.8), of("silk_tussah", 0.2, joins(2))), goes(2)}},
	{"R27", []change{fibres(of("corriedale", 0.9), of("locks_wool", 0.1)), on(drumOf(72)), laidAs(layers(layup.Feed, 36, 4))},
		[]change{fibres(of("corriedale", 0.9), of("locks_wool", 0.1)), on(drumOf(72)), laidAs(layers(layup.Place, 36, 4))}},
	{"R28", []change{fibres(of("corriedale", 0.9), of("locks_wool", 0.1)), on(board()), laidAs(lockAt(0.2, 0.4)), makes("rolags"), told(Told{Rolags: p(3)})},
		[]change{fibres(of("corriedale", 0.9), of("locks_wool", 0.1)), on(board()), laidAs(lockAt(0.2, 1.0/3)), makes("rolags"), told(Told{Rolags: p(3)})}},
	{"R29", []change{fibres(of("corriedale", 0.9), of("neps_wool", 0.1)), on(drumOf(72)), laidAs(layers(layup.Feed, 36, 4))},
		[]change{fibres(of("corriedale", 0.9), of("neps_wool", 0.1)), on(drumOf(72)), laidAs(layers(layup.Place, 36, 4))}},
	{"R31", []change{fibres(of("corriedale", 0.5), of("jacob", 0.5)), on(drumOf(72)), looks("even"), laidAs(layers(layup.Feed, 10.6, 10.6))},
		[]change{fibres(of("corriedale", 0.5), of("jacob", 0.5)), on(drumOf(72)), looks("even"), laidAs(layers(layup.Feed, 10.5, 10.5))}},
	{"R32", []change{on(board()), told(Told{Brush: "up"})}, []change{on(board()), told(Told{Brush: "down"})}},
	{"R33", []change{fibres(of("corriedale", 0.5), of("jacob", 0.5)), looks("heather"), goes(1)},
		[]change{fibres(of("corriedale", 0.5), of("jacob", 0.5)), looks("heather"), goes(2)}},
	{"R33", []change{fibres(of("corriedale", 0.91), of("jacob", 0.09)), looks("even"), goes(2)},
		[]change{fibres(of("corriedale", 0.90), of("jacob", 0.10)), looks("even"), goes(2)}},
	{"R34", []change{fibres(of("corriedale", 1)), goes(5)}, []change{fibres(of("corriedale", 1)), goes(4)}},
	{"R34", []change{fibres(of("merino", 0.30), of("corriedale", 0.70)), goes(3)}, []change{fibres(of("merino", 0.29), of("corriedale", 0.71)), goes(3)}},
	{"R35", []change{fibres(of("corriedale", 1)), goes(2), told(Told{Strips: p(1)})}, []change{fibres(of("corriedale", 1)), goes(2), told(Told{Strips: p(4)})}},
	{"R36", []change{told(Told{Specks: p(11)})}, []change{told(Told{Specks: p(10)})}},
	{"R37", []change{fibres(of("corriedale", 0.9), of("neps_wool", 0.1)), goes(2)},
		[]change{fibres(of("corriedale", 0.9), of("neps_wool", 0.1, joins(2))), goes(2)}},
	{"R38", []change{fibres(of("corriedale", 0.5, hex("#2f7fd0")), of("corriedale", 0.5, hex("#c98a2f"))), goes(2), mixed()},
		[]change{fibres(of("corriedale", 0.5, hex("#2f7fd0")), of("corriedale", 0.5, hex("#c98a2f"))), goes(1), mixed()}},
	{"R39", []change{fibres(of("corriedale", 0.3, hex("#202020")), of("corriedale", 0.3, hex("#303030")),
		of("corriedale", 0.4, hex("#d0d0d0"))), looks("gradient")},
		[]change{fibres(of("corriedale", 0.3, hex("#505050")), of("corriedale", 0.3, hex("#686868")), of("corriedale", 0.4, hex("#808080"))), looks("gradient")}},
	{"R40", []change{fibres(of("corriedale", 1, hex("#e8e8e8"))), told(Told{BeforeL: p(20.0)})},
		[]change{fibres(of("corriedale", 1, hex("#e8e8e8"))), told(Told{BeforeL: p(20.0), Cleaned: p(true)})}},
	{"R41", []change{fibres(of("corriedale", 1)), told(Told{BeforeShed: p(true)})}, []change{fibres(of("corriedale", 1)), told(Told{BeforeShed: p(false)})}},
	{"R42", []change{fibres(handDyed(0.9, "#202040"), of("corriedale", 0.10, hex("#e8e8e8")))},
		[]change{fibres(handDyed(0.91, "#202040"), of("corriedale", 0.09, hex("#e8e8e8")))}},
	{"R42", []change{fibres(of("silk_threads_recycled", 0.9, hex("#202040")), of("corriedale", 0.10, hex("#e8e8e8")))},
		[]change{fibres(of("silk_threads_recycled", 0.9, hex("#202040"), func(f *Fibre) { f.BleedTested = p(true) }), of("corriedale", 0.10, hex("#e8e8e8")))}},
	{"R42", []change{fibres(handDyed(0.5, "#202040"), of("corriedale", 0.5, hex("#e8e8e8")))},
		[]change{fibres(handDyed(0.5, "#c8c8c8"), of("corriedale", 0.5, hex("#e8e8e8")))}},
	{"R43", []change{told(Told{BattsG: []float64{100, 103.1}})}, []change{told(Told{BattsG: []float64{100, 103}})}},
	{"R44", []change{told(Told{BobbinsG: []float64{102.1, 97.9}})}, []change{told(Told{BobbinsG: []float64{102, 98}})}},
	{"R45", []change{weighs(102, 1), told(Told{TargetG: p(100.0), LossPct: p(4.0)})}, []change{weighs(104.1, 1), told(Told{TargetG: p(100.0), LossPct: p(4.0)})}},
	{"R45", []change{weighs(107.0, 1), told(Told{TargetG: p(100.0), LossPct: p(4.0), ClothG: p(1.5), SampleG: p(8.0)})},
		[]change{weighs(113.7, 1), told(Told{TargetG: p(100.0), LossPct: p(4.0), ClothG: p(1.5), SampleG: p(8.0)})}},
	{"R45", []change{fibres(of("corriedale", 1)), goes(2), weighs(103.1, 1), told(Told{TargetG: p(100.0)})},
		[]change{fibres(of("corriedale", 1)), goes(2), weighs(103.3, 1), told(Told{TargetG: p(100.0)})}},
	{"R46", []change{fibres(of("corriedale", 1)), weighs(101, 2), told(Told{Sampled: p(false)})},
		[]change{fibres(of("corriedale", 1)), weighs(100, 2), told(Told{Sampled: p(false)})}},
	{"R47", []change{fibres(have(1, 99)), weighs(100, 1)}, []change{fibres(have(1, 100)), weighs(100, 1)}},
	{"R48", []change{fibres(of("corriedale", 0.991), of("film_metallised", 0.009)), weighs(100, 1)},
		[]change{fibres(of("corriedale", 0.99), of("film_metallised", 0.01)), weighs(100, 1)}},
	{"R49", []change{fibres(of("romney", 1, prep("raw_fleece")))}, []change{fibres(of("romney", 1, prep("washed_locks")))}},
	{"R50", []change{fibres(of("romney", 1, func(f *Fibre) { f.Tacky = p(true) }))}, []change{fibres(of("romney", 1, func(f *Fibre) { f.Tacky = p(false) }))}},
	{"R51", []change{fibres(of("flax_top", 1)), weighs(21, 1)}, []change{fibres(of("flax_top", 1)), weighs(20, 1)}},
	{"R52", []change{fibres(of("romney", 1, func(f *Fibre) { f.PlantPct = p(3.1) }))}, []change{fibres(of("romney", 1, func(f *Fibre) { f.PlantPct = p(3.0) }))}},
	{"R53", []change{fibres(of("romney", 1, func(f *Fibre) { f.SecondCutsPct = p(2.1) }))},
		[]change{fibres(of("romney", 1, func(f *Fibre) { f.SecondCutsPct = p(2.0) }))}},
	{"R54", []change{fibres(of("romney", 1, func(f *Fibre) { f.Tender = p(true) }))}, []change{fibres(of("romney", 1, func(f *Fibre) { f.Tender = p(false) }))}},
	{"R55", []change{fibres(of("icelandic", 1, func(f *Fibre) { f.Parted = p(false) }))},
		[]change{fibres(of("icelandic", 1, func(f *Fibre) { f.Parted = p(true) }))}},
	{"R55", []change{fibres(of("camel_down", 1, prep("washed_fleece"), func(f *Fibre) { f.Parted = p(false) }))},
		[]change{fibres(of("camel_down", 1, prep("cloud"), func(f *Fibre) { f.Parted = p(false) }))}},
	{"R55", []change{fibres(of("herdwick", 1, func(f *Fibre) { f.Parted = p(false) }))}, []change{fibres(of("romney", 1, func(f *Fibre) { f.Parted = p(false) }))}},
	{"R56", []change{fibres(of("romney", 1, func(f *Fibre) { f.WashedHours = p(23.0) }))},
		[]change{fibres(of("romney", 1, func(f *Fibre) { f.WashedHours = p(24.0) }))}},
	{"R57", []change{fibres(of("silk_tussah", 0.25), of("corriedale", 0.75)), told(Told{HumidityPct: p(44.0)})},
		[]change{fibres(of("silk_tussah", 0.25), of("corriedale", 0.75)), told(Told{HumidityPct: p(45.0)})}},
	{"R58", []change{fibres(of("corriedale", 0.85), of("silk_tussah", 0.15)), use("machine-wash")},
		[]change{fibres(of("corriedale", 0.86), of("silk_tussah", 0.14)), use("machine-wash")}},
	{"R59", []change{fibres(of("romney", 1, func(f *Fibre) { f.MothSigns = p(true) }))},
		[]change{fibres(of("romney", 1, func(f *Fibre) { f.MothSigns = p(false) }))}},
	{"R60", []change{told(Told{RolagG: p(6.1), RolagCM3: p(100.0)})}, []change{told(Told{RolagG: p(6.0), RolagCM3: p(100.0)})}},
	{"R61", []change{fibres(of("corriedale", 1, staple(100))), told(Told{DrawOffMM: p(149.0)})},
		[]change{fibres(of("corriedale", 1, staple(100))), told(Told{DrawOffMM: p(150.0)})}},
	{"R62", []change{fibres(of("corriedale", 1, staple(60))), told(Told{DowelMM: p(12.0)})},
		[]change{fibres(of("corriedale", 1, staple(60))), told(Told{DowelMM: p(10.0)})}},
	{"R63", []change{fibres(of("cotton_upland", 0.61), of("corriedale", 0.39)), makes("rolags")},
		[]change{fibres(of("cotton_upland", 0.60), of("corriedale", 0.40)), makes("rolags")}},
	{"R64", []change{makes("roving"), told(Told{DizzMM: p(9.0)})}, []change{makes("roving"), told(Told{DizzMM: p(8.0)})}},
	{"R65", []change{told(Told{LiftedWrong: p(true)})}, []change{told(Told{LiftedWrong: p(false)})}},
	{"R66", []change{told(Told{Labelled: p(false)})}, []change{told(Told{Labelled: p(true)})}},
	{"R66", []change{told(Told{ForSale: p(true)})}, []change{told(Told{ForSale: p(false)})}},
	{"R66", []change{told(Told{ForSale: p(true), Labelled: p(true)})}, []change{told(Told{ForSale: p(false), Labelled: p(true)})}},
	{"R67", []change{on(drumOf(72)), told(Told{Starting: p(true)})}, []change{on(drumOf(72)), told(Told{Starting: p(false)})}},
	{"R68", []change{on(drumOf(72)), told(Told{Starting: p(true), Ticked: p(false)})}, []change{on(drumOf(72)), told(Told{Starting: p(true), Ticked: p(true)})}},
	{"R69", []change{on(electric()), told(Told{Next: "doff", Unplugged: p(false)})}, []change{on(electric()), told(Told{Next: "doff", Unplugged: p(true)})}},
	{"R70", []change{fibres(of("romney", 1, prep("raw_fleece")))}, []change{fibres(of("romney", 1))}},
	{"R71", []change{told(Told{UsesDye: p(true)})}, []change{told(Told{UsesDye: p(false)})}},
	{"R72", []change{told(Told{ChildNear: p(true)})}, []change{told(Told{ChildNear: p(false)})}},
	{"R73", []change{told(Told{Manual: p(false)})}, []change{told(Told{Manual: p(true)})}},
	{"R74", []change{told(Told{Stored: "sealed"})}, []change{told(Told{Stored: "loose"})}},
	{"R74", []change{told(Told{AgeMonths: p(6.1)})}, []change{told(Told{AgeMonths: p(6.0)})}},
	{"R56", []change{fibres(of("romney", 1, func(f *Fibre) { f.OverWeightPct = p(5.1) }))},
		[]change{fibres(of("romney", 1, func(f *Fibre) { f.OverWeightPct = p(5.0) }))}},
}

func twoLanes(a, b float64) []layup.Layer {
	return []layup.Layer{{Lays: []layup.Lay{{To: 0.5, End: 1, Grams: a, Method: layup.Feed}, {From: 0.5, To: 1, End: 1, Grams: b, Method: layup.Feed}}}}
}

func lockAt(from, to float64) []layup.Layer {
	return []layup.Layer{
		{Lays: []layup.Lay{{To: 1, End: 1, Grams: 20, Method: layup.Paint}}},
		{Lays: []layup.Lay{{Component: 1, To: 1, Start: from, End: to, Grams: 2, Method: layup.Place}}},
	}
}

func handDyed(share float64, h string) Fibre {
	f := of("corriedale", share, hex(h))
	f.DyedByHand = p(true)
	return f
}

func have(share, grams float64) Fibre {
	f := of("corriedale", share)
	f.HaveG = &grams
	return f
}

func electric() *layup.Bed {
	b := drumOf(72)
	b.Electric = true
	return b
}

func fired(a Answer, rule string) bool {
	for _, f := range a.Findings {
		if f.Rule == rule {
			return true
		}
	}
	return false
}

func TestEachRuleFiresAndANearOneDoesNot(t *testing.T) {
	for i, c := range cases {
		a := Judge(plan(c.fires...), nil)
		assert.True(t, fired(a, c.rule), "%s, case %d, fires: %v", c.rule, i, a.Findings)
		n := Judge(plan(c.near...), nil)
		assert.False(t, fired(n, c.rule), "%s, case %d, near: %v", c.rule, i, n.Findings)
		assert.Contains(t, n.Checked, c.rule, "%s, case %d, is judged in both", c.rule, i)
	}
	// The licker-in of a kind that is to avoid it, and habits of share, are read off the table.
	for _, k := range fibre.Kinds() {
		if k.MaxPct > 0 && k.MaxPct < 99 {
			most := k.MaxPct / 100
			assert.True(t, fired(Judge(plan(fibres(of(k.Key, most+0.001), of("corriedale", 1-most-0.001))), nil), "R10"), k.Key)
			assert.False(t, fired(Judge(plan(fibres(of(k.Key, most), of("corriedale", 1-most))), nil), "R10"), k.Key)
		}
		fed := plan(fibres(of(k.Key, 1)), on(drumOf(72)), laidAs(layers(layup.Feed, 20)))
		assert.Equal(t, k.LickerIn == "avoid", fired(Judge(fed, nil), "R30"), k.Key)
	}
}

func TestEveryRuleHasItsWordsAndItsCase(t *testing.T) {
	tested := map[string]bool{"R10": true, "R30": true}
	for _, c := range cases {
		tested[c.rule] = true
	}
	require.Len(t, Texts(), len(rules))
	for _, v := range Texts() { // those of lay-ups have theirs with them
		assert.True(t, tested[v.ID] || v.ID[0] == 'L', "%s has a case", v.ID)
		for _, s := range []string{v.Key, v.Group, v.When, v.Why, v.Do, v.Schools} {
			assert.NotEmpty(t, s, v.ID)
		}
	}
}

// What was not told is not judged, and names the one thing to tell.
func TestWhatWasNotToldIsNotJudged(t *testing.T) {
	inPlan := 0
	for _, r := range rules {
		if r.judge != nil {
			inPlan++
		}
	}
	a := Judge(plan(fibres(of("corriedale", 1))), nil)
	for _, u := range a.Unjudged {
		assert.NotContains(t, a.Checked, u.Rule)
		assert.NotEmpty(t, u.Tell, u.Rule)
	}
	assert.Equal(t, inPlan, len(a.Checked)+len(a.Unjudged))
	assert.NotContains(t, a.Checked, "R16")
	assert.Contains(t, Judge(plan(fibres(of("corriedale", 1)), on(drumOf(72)), weighs(40, 1)), nil).Checked, "R16")
}

// A bound that a maker has set otherwise counts.
func TestAMakersOwnBounds(t *testing.T) {
	q := plan(fibres(of("viscose", 0.4), of("corriedale", 0.6)))
	assert.True(t, fired(Judge(q, nil), "R08"))
	assert.False(t, fired(Judge(q, Bounds{"R08 from": 0.5}), "R08"))
}

// Who holds to another school is not cautioned for it.
func TestASchoolIsKnown(t *testing.T) {
	free := func(q *Plan) { q.Schools = map[string]string{"extras": "free", "delicate": "between", "first": "bare"} }
	weight := func(rule string, list ...change) Severity {
		for _, f := range Judge(plan(list...), nil).Findings {
			if f.Rule == rule {
				return f.Severity
			}
		}
		return ""
	}
	film := fibres(of("film_metallised", 0.05), of("corriedale", 0.95))
	assert.Equal(t, Caution, weight("R11", film))
	assert.Equal(t, Hint, weight("R11", film, free))
	silk := fibres(of("corriedale", 0.8), of("silk_tussah", 0.2))
	assert.Equal(t, Caution, weight("R26", silk, goes(2)))
	assert.Equal(t, Hint, weight("R26", silk, goes(2), free))
	longWool := []change{fibres(of("lincoln", 1)), on(drumOf(72)), laidAs(layers(layup.Feed, 20))}
	assert.Equal(t, Caution, weight("R24", longWool...))
	assert.Empty(t, weight("R24", append(longWool, free)...))
	other := func(q *Plan) { q.Schools = map[string]string{"passes": "one", "specks": "show", "loading": "thin"} }
	once := []change{fibres(of("corriedale", 0.5), of("romney", 0.5)), looks("heather"), goes(1)}
	assert.Equal(t, Hint, weight("R33", once...))
	assert.Empty(t, weight("R33", append(once, other)...), "one, and keep the streaks")
	five := []change{fibres(of("romney", 1)), goes(5)}
	assert.Equal(t, Caution, weight("R34", five...))
	assert.Equal(t, Hint, weight("R34", append(five, func(q *Plan) { q.Schools = map[string]string{"passes": "look"} })...))
	eleven := []change{fibres(of("romney", 1)), told(Told{Specks: p(11)})}
	assert.Equal(t, Caution, weight("R36", eleven...))
	assert.Equal(t, Hint, weight("R36", append(eleven, other)...))
	assert.Equal(t, Caution, weight("R36", fibres(of("romney", 1)), told(Told{Specks: p(31)}), other), "far too many are too many for all")
	thin := []change{fibres(of("romney", 1)), on(drumOf(72)), weighs(10, 1), makes("batt")}
	assert.Equal(t, Hint, weight("R18", thin...))
	assert.Empty(t, weight("R18", append(thin, other)...))
}

// A rule in which makers differ by name knows the camp that was chosen, and the others with their reasons.
func TestCampsAreNamed(t *testing.T) {
	own, others, ok := Camps("R33", map[string]string{"passes": "one"})
	require.True(t, ok)
	assert.Equal(t, "one", own.Key)
	require.Len(t, others, 2)
	for _, o := range others {
		assert.NotEmpty(t, o.Reason)
	}
	own, _, _ = Camps("R33", nil)
	assert.Equal(t, "few", own.Key, "the first, until one is chosen")
	_, _, ok = Camps("R40", nil)
	assert.False(t, ok)
	for _, r := range rules {
		_, _, ok := Camps(r.ID, nil)
		assert.Equal(t, r.matter != "", ok, r.ID)
	}
}

// What was not told is not judged: passes and weights of nothing are asked for.
func TestNoPassesAreAQuestion(t *testing.T) {
	for _, rule := range []string{"R33", "R45"} {
		q := plan(fibres(of("corriedale", 0.5), of("merino", 0.5)), on(drumOf(72)), weighs(40, 1), looks("even"))
		q.Told.TargetG, q.Passes = p(40.0), 2
		require.Contains(t, Judge(q, nil).Checked, rule)
		q.Passes = 0
		assert.NotContains(t, Judge(q, nil).Checked, rule)
	}
	q := plan(fibres(of("corriedale", 1)), on(drumOf(72)), weighs(0, 1))
	q.Told.TargetG, q.Passes = p(40.0), 2
	assert.NotContains(t, Judge(q, nil).Checked, "R45", "nothing is planned")
}
