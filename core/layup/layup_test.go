package layup

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/core/unit"
)

var standardDrum = Bed{Type: Drum, WidthMM: 200, LengthMM: 580, ToothMM: 10, Smooth: 90, Lofty: 50, FeedG: 0.3, Minutes: 22}
var largeBoard = Bed{Type: Board, WidthMM: 300, LengthMM: 300, ToothMM: 10, Smooth: 40, Lofty: 26, Minutes: 20}

// wool is a grippy wool of medium crimp.
func wool(name string, grams float64) Fibre {
	return Fibre{
		Name:        name,
		Grams:       grams,
		Family:      "wool",
		Role:        "base",
		Crimp:       "medium",
		Cohesion:    "grippy",
		LickerIn:    "ok",
		Preparation: "carded_sliver",
		StapleMM:    100,
		Colour:      colour.Lab{L: 60},
	}
}

func drawBed(t *rapid.T) Bed {
	b := Bed{Type: rapid.SampledFrom([]Type{Drum, Drum, Board, Cards}).Draw(t, "type"), WidthMM: rapid.Float64Range(80, 400).Draw(t, "width"),
		LengthMM: rapid.Float64Range(80, 700).Draw(t, "length"), ToothMM: rapid.Float64Range(6, 20).Draw(t, "tooth"), Minutes: 20}
	b.Lofty = unit.Grams(rapid.Float64Range(2, 100).Draw(t, "lofty"))
	b.Smooth = b.Lofty * unit.Grams(rapid.Float64Range(1, 2).Draw(t, "packs"))
	if b.Type == Drum {
		b.FeedG = rapid.Float64Range(0.1, 0.5).Draw(t, "feed")
	}
	return b
}

// drawFibres draws a blend in whole tenths of a gram, with locks, neps, film
// and slick fibre among the wool.
func drawFibres(t *rapid.T) []Fibre {
	out := make([]Fibre, rapid.IntRange(1, 9).Draw(t, "n"))
	for i := range out {
		f := wool(fmt.Sprint("fibre ", i), float64(rapid.IntRange(1, 400).Draw(t, "tenths"))/10)
		f.Colour = colour.Lab{
			L: rapid.Float64Range(10, 95).Draw(t, "L"),
			A: rapid.Float64Range(-60, 60).Draw(t, "a"),
			B: rapid.Float64Range(-60, 60).Draw(t, "b"),
		}
		f.StapleMM = rapid.Float64Range(15, 220).Draw(t, "staple")
		f.Crimp = rapid.SampledFrom([]string{"none", "low", "medium", "high"}).Draw(t, "crimp")
		switch rapid.IntRange(0, 5).Draw(t, "sort") {
		case 0:
			f.Preparation = "locks"
		case 1:
			f.Preparation, f.Role, f.Family = "neps", "texture", "texture"
		case 2:
			f.Cohesion, f.LickerIn, f.Family, f.Fragile = "slippery", "avoid", "silk", true
		}
		out[i] = f
	}
	return out
}

func drawOptions(t *rapid.T) Options {
	return Options{
		Builder:     rapid.SampledFrom(Builders()).Draw(t, "builder"),
		Repeats:     rapid.IntRange(0, 5).Draw(t, "repeats"),
		Bare:        rapid.Bool().Draw(t, "bare"),
		Passes:      rapid.IntRange(1, 3).Draw(t, "passes"),
		DelicateNow: rapid.Bool().Draw(t, "now"),
		Rolags:      rapid.IntRange(0, 5).Draw(t, "rolags"),
		Step:        0.1,
	}
}

func drawBuilt(t *rapid.T) (Bed, []Fibre, Options, Plan) {
	b, fibres, o := drawBed(t), drawFibres(t), drawOptions(t)
	p, err := Build(b, fibres, o)
	require.NoError(t, err)
	return b, fibres, o, p
}

// TestBuildersPlaceEverything: every gram is laid, in whole steps of the
// scale, nothing that binds nothing lies first or last where it can be helped,
// and no lane is fuller than another by more than rounding makes it.
func TestBuildersPlaceEverything(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, fibres, _, p := drawBuilt(t)
		require.NoError(t, p.Check(b, fibres, true))
		l := p.Loads(b, fibres)
		steps, holding, most := 0, 0, 0.0
		for i, f := range fibres {
			assert.Zero(t, l.UnplacedG[i])
			if f.Ground() {
				most = max(most, f.Grams)
			}
		}
		for _, layer := range p.Layers {
			ground := 0
			for _, v := range layer.Lays {
				steps++
				assert.InDelta(t, math.Round(v.Grams*10), v.Grams*10, 1e-6, "whole steps")
				if !fibres[v.Component].Extra() {
					ground = 1
				}
			}
			holding += ground
		}
		if most >= 1 { // enough to be laid below and above
			assert.GreaterOrEqual(t, holding, min(2, len(p.Layers)))
		}
		if holding >= 2 {
			for _, end := range []int{0, len(p.Layers) - 1} {
				for _, v := range p.Layers[end].Lays {
					assert.False(t, fibres[v.Component].Extra(), "extras lie between")
				}
			}
		}
		// A lane differs from the mean by the rounding of its lays at most: a
		// step of the scale each, over its width.
		for _, v := range l.Lanes {
			slack := 0.1 * float64(steps) / ((v.To - v.From) * l.CapacityG)
			assert.InDelta(t, l.Fill, v.Load, slack+0.002*l.Fill/(v.To-v.From)*float64(len(fibres)))
		}
		if r := p.Rolls(b, fibres); r != nil {
			for _, layer := range p.Layers {
				for _, v := range layer.Lays {
					if f := fibres[v.Component]; f.Lock() && f.StapleMM <= r.ZoneMM {
						assert.False(t, v.Crosses(f, b, r.Cuts), "locks lie clear of the cuts")
					}
				}
			}
		}
	})
}

// TestLoadsAddUp: what is placed and what is left are the blend, component by
// component; the lanes, the layers and the rolags each hold what is placed;
// feeds cover their layer and let the tray show through.
func TestLoadsAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, fibres, _, p := drawBuilt(t)
		for i := range p.Layers { // taken at random out of what a builder made
			for j := range p.Layers[i].Lays {
				v := &p.Layers[i].Lays[j]
				v.Grams *= rapid.Float64Range(0.1, 1).Draw(t, "less")
				at := rapid.Float64Range(0, 0.9).Draw(t, "at")
				v.From, v.To = at, min(1, at+rapid.Float64Range(0.01, 1).Draw(t, "wide"))
			}
		}
		require.NoError(t, p.Check(b, fibres, true))
		l := p.Loads(b, fibres)
		var lanes, wide, layers, placed, mean float64
		for i, f := range fibres {
			assert.InDelta(t, f.Grams, l.PlacedG[i]+l.UnplacedG[i], 1e-9)
			placed += l.PlacedG[i]
		}
		for _, v := range l.Lanes {
			lanes += v.Grams
			wide += v.To - v.From
			mean += v.Load * (v.To - v.From)
		}
		for i, v := range l.Layers {
			layers += v.Grams
			var fed float64
			for _, lay := range p.Layers[i].Lays {
				if lay.Method != Feed {
					continue
				}
				fed += lay.Grams
				var density float64
				for _, other := range p.Layers[i].Lays {
					if other.Method == Feed && lay.From >= other.From && lay.From < other.To {
						density += other.Grams / (other.To - other.From)
					}
				}
				assert.LessOrEqual(t, density/float64(v.Feeds), trayGrace*TrayTurns*b.FeedG*(1+1.1e-4), "the tray shows through")
			}
			assert.InDelta(t, fed, float64(v.Feeds)*v.PortionG, 1e-9, "feeds cover the layer")
		}
		assert.InDelta(t, placed, lanes, 1e-9)
		assert.InDelta(t, placed, layers, 1e-9)
		assert.InDelta(t, 1, wide, 1e-9)
		assert.InDelta(t, l.Fill, mean, 1e-9, "lane loads integrate to the fill")
		if r := p.Rolls(b, fibres); r != nil {
			var sum float64
			for _, v := range r.Each {
				sum += v.Grams
			}
			assert.InDelta(t, placed, sum, 1e-9)
		}
	})
}

func TestEditsKeepTheGrams(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, fibres, _, p := drawBuilt(t)
		n := len(p.Layers)
		same := func(q Plan) {
			require.NoError(t, q.Check(b, fibres, false))
			assert.InDeltaSlice(t, p.Placed(len(fibres)), q.Placed(len(fibres)), 1e-9)
		}
		assert.Equal(t, p, p.Mirror().Mirror(), "twice over is the same")
		same(p.Mirror())
		first := rapid.IntRange(0, n-1).Draw(t, "first")
		last := rapid.IntRange(first, n-1).Draw(t, "last")
		if q, err := p.Repeat(first, last, rapid.IntRange(2, 4).Draw(t, "times"), 0.1); err == nil {
			same(q)
		}
		to := rapid.IntRange(0, n-1).Draw(t, "to")
		moved, err := p.Move(first, to)
		require.NoError(t, err)
		same(moved)
		back, err := moved.Move(to, first)
		require.NoError(t, err)
		assert.Equal(t, p.Layers, back.Layers)
		same(p.Bury(fibres, 0.1))
		clear := p.Clear(b, fibres, 0.1)
		same(clear)
		for i := range fibres {
			fibres[i].Grams = float64(rapid.IntRange(1, 300).Draw(t, "other grams")) / 10
		}
		l := p.Fit(fibres, 0.1).Loads(b, fibres)
		for i := range fibres {
			assert.InDelta(t, 0, l.UnplacedG[i], 1e-6, "fitted to the blend as it is now")
		}
	})
}

// TestStepsLayEverythingOnce: the order of work holds every lay once, at the
// pass at which it joins, and hands near pins are always warned.
func TestStepsLayEverythingOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, fibres, _, p := drawBuilt(t)
		laid := make([]float64, len(fibres))
		pass := 0
		for i, s := range p.Survey(b, fibres, 1).Steps {
			assert.GreaterOrEqual(t, s.Pass, pass)
			pass = s.Pass
			for _, v := range s.Lays {
				laid[v.Component] += v.Grams
				assert.Equal(t, p.JoinsAt(v.Component), s.Pass)
			}
			if s.Action != Put && s.Action != Split {
				assert.NotEmpty(t, s.Cautions)
			}
			if i == 0 {
				assert.Equal(t, ManualFirst, s.Cautions[0])
			}
		}
		assert.InDeltaSlice(t, p.Placed(len(fibres)), laid, 1e-9)
	})
}

func TestWrongLayupsNameTheField(t *testing.T) {
	fibres := []Fibre{wool("grey", 20), wool("blue", 10)}
	lay := func(v Lay) Plan { return Plan{Draft: 1.75, Layers: []Layer{{Lays: []Lay{v}}}} }
	long := Plan{Draft: 1.75, Layers: make([]Layer, 1000)}
	crowd := Plan{Draft: 1.75, Layers: []Layer{{Lays: make([]Lay, 1001)}}}
	for field, p := range map[string]Plan{
		"layers[0].lays[0].to|It ends before it begins: from 0.5 lies beyond to 0.2.":   lay(Lay{From: 0.5, To: 0.2, End: 1, Grams: 1, Method: Feed}),
		"layers[0].lays[0].from|A place lies from 0 to 1.":                              lay(Lay{From: -0.1, To: 0.2, End: 1, Grams: 1, Method: Feed}),
		"layers[0].lays[0].to|A place lies from 0 to 1.":                                lay(Lay{From: 0.1, To: 1.2, End: 1, Grams: 1, Method: Feed}),
		"layers[0].lays[0].end|It has no width; start and end lie apart.":               lay(Lay{To: 1, Start: 0.3, End: 0.3, Grams: 1, Method: Feed}),
		"layers[0].lays[0].from|A place lies from 0 to 1. ":                             lay(Lay{From: math.NaN(), To: 1, End: 1, Grams: 1, Method: Feed}),
		"layers[0].lays[0].grams|A lay weighs above 0 g.":                               lay(Lay{To: 1, End: 1, Method: Feed}),
		"layers[0].lays[0].grams|Only 10 g of blue are left to lay here; this is 12 g.": lay(Lay{Component: 1, To: 1, End: 1, Grams: 12, Method: Feed}),
		"layers[0].lays[0].component|There is no such component in the blend.":          lay(Lay{Component: 2, To: 1, End: 1, Grams: 1, Method: Feed}),
		"layers[0].lays[0].method|A method is feed, paint or place.":                    lay(Lay{To: 1, End: 1, Grams: 1, Method: "throw"}),
		"layers|A lay-up has at most 200 layers; this has 1000.":                        long,
		"layers|A lay-up has at most 1000 lays; this has 1001.":                         crowd,
		"draft|The draft lies from 1 to 4; 1.5 to 2 is usual.":                          {},
		"rolags|A board makes 1 to 12 rolags; 0 leaves it unrolled.":                    {Draft: 1.75, Rolags: 13},
	} {
		l, ok := fault.From(p.Check(standardDrum, fibres, true))
		require.True(t, ok, field)
		got := l[0].Field + "|" + l[0].Message
		assert.Equal(t, field, got+field[len(got):], field)
	}
	l, _ := fault.From(lay(Lay{To: 1, End: 1, Grams: 1, Method: Feed}).Check(largeBoard, fibres, true))
	assert.Equal(t, "layers[0].lays[0].method", l[0].Field)
	_, err := Build(standardDrum, fibres, Options{Builder: "pile", Step: 0.1})
	assert.Error(t, err)
	_, err = Build(standardDrum, fibres, Options{Builder: Lanes, Step: 0.1, Order: []int{0, 0}})
	assert.Error(t, err)
}
