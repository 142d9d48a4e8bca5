package yarn

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// The worked figures of twist: 100 tex drawn long of 75 mm: 230 turns in a metre, 5.8 in an inch; a ratio of 8 and 0.60 m: 17 1/4
// treadles; a two-ply 154, 0.50 m of it 9.6.
func TestTwistByHand(t *testing.T) {
	two := TurnsOf(100, 75, "long", 2, false, WoolDensity, 0.22)
	assert.InDelta(t, 230, two.SinglesPerM, 1e-9)
	assert.InDelta(t, 5.8, two.SinglesPerM*0.0254, 0.05)
	assert.InDelta(t, 17.25, Treadles(two.SinglesPerM, 8, 0.60), 0.01)
	assert.InDelta(t, 154, two.PlyPerM, 0.6)
	assert.InDelta(t, 9.6, Treadles(two.PlyPerM, 8, 0.50), 0.1)
	assert.InDelta(t, 25.7, two.AngleDeg, 0.1)
	for draw, deg := range map[string]float64{"from-fold": 23.3, "short-backward": 19.1, "short-forward": 17.6} {
		packing := map[string]float64{"from-fold": 0.25, "short-backward": 0.32, "short-forward": 0.38}[draw]
		assert.InDelta(t, deg, TurnsOf(100, 75, draw, 2, false, WoolDensity, packing).AngleDeg, 0.1, draw)
	}
	for staple, factor := range map[float64]float64{30: 1.32, 50: 1.13, 100: 0.92, 150: 0.81, 5: 1.35, 900: 0.75} {
		assert.InDelta(t, factor, TurnsOf(100, staple, "long", 2, false, WoolDensity, 0.22).StapleFactor, 0.005, staple)
	}
	for plies, of := range map[int]float64{2: 0.67, 3: 0.55, 4: 0.48} {
		assert.InDelta(t, of, Balance(plies), 0.0051)
	}
	one := TurnsOf(100, 75, "long", 1, true, WoolDensity, 0.22)
	assert.InDelta(t, 230*0.7*0.9, one.SinglesPerM, 1e-9)
	assert.Zero(t, one.PlyPerM)
	assert.InDelta(t, 0, Left(two.PlyPerM, two.SinglesPerM, 2), 1e-12)
	assert.InDelta(t, 230, PliedBack(230*0.67*2/100), 1e-9)
}

// The worked figures of cloth: 22 × 30 on 10 cm take 18.1 mm a stitch, 11.9 m on 100 cm²; the scarf on a loom; crochet of a middle yarn
// on a hook of 4 mm; felt of 900 cm².
func TestMetresOfClothByHand(t *testing.T) {
	assert.InDelta(t, 18.1, KnitMM(22, 30), 0.05)
	assert.InDelta(t, 13.1, KnitMM(30, 42), 0.05)
	n, rows, m := WorkedM(100, 100, Gauge{22, 30}, KnitMM(22, 30))
	assert.Equal(t, []int{22, 30}, []int{n, rows})
	assert.InDelta(t, 11.9*edges, m, 0.05)
	assert.True(t, Gauge{22, 30}.Balanced())
	assert.False(t, Gauge{22, 40}.Balanced())
	w := WovenM(300, 1800, 17.6)
	assert.InDelta(t, 326, w.WidthMM, 0.5)
	assert.InDelta(t, 351, w.ReedMM, 0.7)
	assert.InDelta(t, 123, w.Ends, 2)
	assert.InDelta(t, 339, w.WarpM, 6)
	assert.InDelta(t, 242, w.WeftM, 3)
	for kind, mm := range map[string]float64{"crochet-single": 48, "crochet-half": 67, "crochet-double": 90} {
		assert.InDelta(t, mm, CrochetMM(kind, 4, 1.5), 0.6, kind)
	}
	assert.InDelta(t, 1837, FeltedMM2(900, 0.30), 1)
}

// The worked characters: long from rolag of medium wool is hairy, short forward from top smooth, angora long from rolag haloed.
func TestCharactersByHand(t *testing.T) {
	of := func(coat, draw, prepared string, packing float64, plies int) Character {
		return CharacterOf([]Fibre{{coat, 1, 25}}, draw, prepared, packing, plies, 80, 1)
	}
	c := of("medium", "long", "rolag", 0.22, 2)
	assert.InDelta(t, 1.80, c.Hairy, 0.01)
	assert.Equal(t, []int{5, 4, 2}, []int{c.Loft, c.Hairs, c.Strength})
	c = of("medium", "short-forward", "top", 0.38, 2)
	assert.InDelta(t, 0.22, c.Hairy, 0.02)
	assert.Equal(t, []int{1, 1, 5}, []int{c.Loft, c.Hairs, c.Strength})
	c = of("angora", "long", "rolag", 0.22, 2)
	assert.InDelta(t, 2.5*1.89, c.Hairy, 0.01)
	assert.Equal(t, 5, c.Hairs)
	assert.Equal(t, 3, of("longwool", "long", "batt", 0.24, 2).Strength)
	assert.Equal(t, 1, of("medium", "long", "batt", 0.24, 1).Strength)
	assert.Equal(t, 3, of("medium", "long", "batt", 0.24, 3).Strength)
	assert.Equal(t, 1, CharacterOf([]Fibre{{"cotton", 1, 15}}, "long", "rolag", 0.22, 2, 25, 0.7).Strength)
	assert.Zero(t, CharacterOf(nil, "long", "rolag", 0.22, 2, 80, 1))
}

// Washing: 100 tex drawn long lose a tenth of their length and are 1.18 times as thick; angora less, silk hardly.
func TestWashingByHand(t *testing.T) {
	w := WashedOf([]Fibre{{"medium", 1, 25}}, "long")
	assert.InDelta(t, 0.10, w.Shorter, 1e-12)
	assert.InDelta(t, 1.18, w.Thicker, 0.005)
	assert.InDelta(t, 1.05, WashedOf([]Fibre{{"medium", 1, 25}}, "short-forward").Thicker, 0.005)
	assert.InDelta(t, 0.075, WashedOf([]Fibre{{"fine", 0.5, 20}, {"silk", 0.5, 12}}, "long").Shorter, 1e-12)
	rapid.Check(t, func(t *rapid.T) {
		var parts []Fibre
		for coat := range coats {
			parts = append(parts, Fibre{coat, rapid.Float64Range(0, 1).Draw(t, coat), 25})
		}
		last := 0.0
		for i := len(Draws) - 1; i >= 0; i-- { // the longer the draw, the more it blooms
			v := WashedOf(parts, Draws[i])
			require.GreaterOrEqual(t, v.Shorter, last)
			require.LessOrEqual(t, v.Shorter, mostShorter)
			last = v.Shorter
		}
	})
}

// The worked old yarn: 160 m per 50 g, four plies, 28 × 36, seven balls, 16 loose wraps: three plies of 99.2 tex, packing 0.280,
// 350 g; short backward from rolag, and the fold from roving or top, come nearest.
func TestInPlaceOfAYarnByHand(t *testing.T) {
	i := InsteadOf(Old{MetresPer100g: 320, Plies: 4, Gauge: Gauge{28, 36}, Metres: 1120, WrapsLoose: 16}, 0, 0.05, WoolDensity, 1)
	assert.Equal(t, 3, i.Plies)
	assert.InDelta(t, 312.5, i.Tex, 1e-9)
	assert.InDelta(t, 99.2, i.SinglesTex, 0.05)
	assert.InDelta(t, 14.65, i.StitchMM, 0.02)
	assert.InDelta(t, 1.21, i.Firmness, 0.005)
	assert.InDelta(t, 0.280, i.Packing, 0.002)
	assert.InDelta(t, 350, i.Grams, 1e-9)
	near := i.Nearest(4)
	var said []string
	for _, w := range near {
		said = append(said, w.Draw+" "+w.Prepared)
	}
	assert.Equal(t, "short-backward rolag", said[0], "what comes off a carder first")
	assert.Contains(t, said, "long top")
	wraps := map[string]float64{}
	for _, w := range i.Ways {
		wraps[w.Draw+" "+w.Prepared] = w.Wraps
	}
	for way, n := range map[string]float64{"long rolag": 14.2, "from-fold batt": 15.1, "short-backward roving": 17.1, "short-forward top": 18.6} {
		assert.InDelta(t, n, wraps[way], 0.1, way)
	}
	assert.Equal(t, "short-backward", InsteadOf(Old{MetresPer100g: 320, Plies: 2, Metres: 100}, 0, 0.05, WoolDensity, 1).Nearest(1)[0].Draw)
}

// The worked pooling: a repeat of 3.0 m, 18.1 mm, 80 stitches in the round: by two rows 5.7 stitches to the left; 83 stack upright.
func TestPoolingByHand(t *testing.T) {
	p := PoolOf(80, 18.1, 3.0, 0.5, true)
	assert.InDelta(t, 1.448, p.RowM, 1e-9)
	assert.InDelta(t, -5.7, p.Shift, 0.05)
	assert.Equal(t, "columns", p.Kind)
	assert.InDelta(t, 0, PoolOf(83, 18.1, 3.0, 0.5, true).Shift, 0.3)
	assert.InDelta(t, 0, PoolOf(166, 18.1, 3.0, 0.5, false).Shift, 0.3)
	assert.Equal(t, "stripes", PoolOf(80, 18.1, 30, 9, false).Kind)
	assert.InDelta(t, 9/1.448, PoolOf(80, 18.1, 30, 9, false).Rows, 1e-9)
	assert.Equal(t, "flecks", PoolOf(80, 18.1, 3, 0.01, false).Kind)
	assert.Equal(t, int(math.Pow(0.25/(0.045*1.448), 2)), p.Holds, "sd after m rows = cv r √m, up to half of what a colour lasts")
	narrow := PoolOf(80, 18.1, 3.0, 0.2, true) // lasts 11 stitches: away from it by twice as many
	require.NotZero(t, narrow.Other)
	assert.Greater(t, math.Abs(PoolOf(narrow.Other, 18.1, 3.0, 0.2, true).Shift), 2*0.2/0.0181)
	for n := 80 - (narrow.Other - 80) + 1; n < narrow.Other; n++ {
		assert.NotEqual(t, "patches", PoolOf(n, 18.1, 3.0, 0.2, true).Kind, "it is the nearest")
	}
	rapid.Check(t, func(t *rapid.T) { // a colour never moves further than half a repeat
		repeat := rapid.Float64Range(0.2, 20).Draw(t, "repeat")
		p := PoolOf(rapid.IntRange(1, 300).Draw(t, "stitches"), 18, repeat, repeat/4, rapid.Bool().Draw(t, "flat"))
		require.LessOrEqual(t, math.Abs(p.Shift)*0.018, repeat/2+1e-9)
	})
}

// The scarf of yarn.md, section 7, told as its weft: as many metres as the weft of the worked example (242 m), in 3.5 picks to the cm.
func TestAWeftIsWorkedAsItIsWoven(t *testing.T) {
	w := WeftOf(300, 1800, 17.6)
	assert.InDelta(t, 242, w.PanelM(), 3)
	assert.InDelta(t, 3.46*200, w.Rows, 2)
	assert.InDelta(t, 32.6*3.46, w.Stitches, 1)
	g := UsualGauge(100_000 / (1.25 * 18.1 * 1.25 * 18.1)) // a loop of 18.1 mm
	assert.InDelta(t, 410/18.1, g.Stitches, 1e-9)
	assert.InDelta(t, 18.1, KnitMM(g.Stitches, g.Rows), 0.1, "and back")
	assert.True(t, g.Balanced())
}
