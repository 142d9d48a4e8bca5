package layup

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
)

func silk(name string, grams float64) Fibre {
	f := wool(name, grams)
	f.Family, f.Cohesion, f.Role = "silk", "slippery", "shine"
	return f
}

// Whatever the blend, no builder gives a strip to what does not hold by itself: over no part of the width lies more slippery
// fibre than wool, where there is as much wool in all; and every gram of it is laid.
func TestNoBuilderGivesAStripToWhatSlides(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, o := drawBed(t), drawOptions(t)
		var fibres []Fibre
		var held float64
		for i := range rapid.IntRange(1, 4).Draw(t, "wools") {
			f := wool(fmt.Sprint("wool ", i), float64(rapid.IntRange(50, 200).Draw(t, "wool"))/10)
			f.Colour.L, held = float64(rapid.IntRange(20, 90).Draw(t, "L")), held+f.Grams
			fibres = append(fibres, f)
		}
		for i := range rapid.IntRange(1, 3).Draw(t, "silks") {
			f := silk(fmt.Sprint("silk ", i), math.Floor(held*10/4*rapid.Float64Range(0.1, 1).Draw(t, "part"))/10)
			f.Colour.L = float64(rapid.IntRange(20, 90).Draw(t, "L"))
			fibres = append(fibres, f)
		}
		p, err := Build(b, fibres, o)
		require.NoError(t, err)
		for i, g := range p.Placed(len(fibres)) {
			assert.InDelta(t, fibres[i].Grams, g, 1e-9)
		}
		if o.Builder == Overlay { // painted over the lanes, where it is to be seen
			return
		}
		for _, v := range p.lanes(b.Capacity(fibres)) {
			by := make([]float64, len(fibres))
			p.gramsIn(across, v.From, v.To, by)
			var slides, holds float64
			for i, f := range fibres {
				if f.Holds() {
					holds += by[i]
				} else {
					slides += by[i]
				}
			}
			assert.LessOrEqual(t, slides, holds+0.2*float64(len(p.Layers)), "of the strip from %.2f to %.2f", v.From, v.To)
		}
		for i, f := range fibres {
			want := AsLane
			if !f.Holds() {
				want = AsScatter
			}
			if got := p.UseOf(fibres, i); got != AsOver {
				assert.Equal(t, want, got, f.Name)
			}
		}
	})
}

// Scattered fibre lies in no heap: a single layer makes room for it, a tray that shows through in each gap, four at most.
func TestScatteredFibreMakesRoom(t *testing.T) {
	for _, c := range []struct {
		silk  float64
		gaps  int
		edges []float64 // grams of the wool, of the silk
	}{{1.2, 1, []float64{20, 1.2}}, {2.4, 2, []float64{13.4, 1.2}}, {8, 4, []float64{8, 2}}} {
		fibres := []Fibre{wool("grey", 40), silk("white", c.silk)}
		p, err := Build(standardDrum, fibres, Options{Builder: Lanes, Passes: 1, Step: 0.1})
		require.NoError(t, err)
		require.Len(t, p.Layers, 2*c.gaps+1, "%v g", c.silk)
		for i, l := range p.Layers {
			require.Len(t, l.Lays, 1)
			assert.InDelta(t, c.edges[i%2], l.Lays[0].Grams, 0.11)
			assert.Equal(t, i%2, l.Lays[0].Component)
		}
	}
}

// What is laid over chosen lanes lies there, thinner towards their sides: half of the border within a side and half beyond,
// and the lays weigh as they are wide.
func TestOverChosenLanesItFadesOut(t *testing.T) {
	fibres := []Fibre{wool("a", 20), wool("b", 20), wool("c", 20), silk("shine", 6)}
	why := []Purpose{{}, {}, {}, {As: AsOver, Near: []int{1}, FadeMM: 30}}
	p, err := Build(standardDrum, fibres, Options{Builder: Lanes, Passes: 1, Step: 0.001, Purposes: why})
	require.NoError(t, err)
	top := p.Layers[len(p.Layers)-1].Lays
	require.Len(t, top, 3)
	for n, v := range top {
		in := (float64(n) - 1) * 10 / standardDrum.WidthMM
		assert.InDelta(t, 1./3+in, v.From, 1e-5)
		assert.InDelta(t, 2./3-in, v.To, 1e-5)
		assert.Equal(t, []any{3, Paint}, []any{v.Component, v.Method})
		assert.InDelta(t, top[0].Grams/(top[0].To-top[0].From), v.Grams/(v.To-v.From), 0.02)
	}
	fibres[3].Colour, fibres[2].Colour.L, fibres[3].Colour.L = fibres[2].Colour, 70, 71
	why[3].Near = nil
	p, err = Build(standardDrum, fibres, Options{Builder: Lanes, Passes: 1, Step: 0.001, Purposes: why})
	require.NoError(t, err)
	top = p.Layers[len(p.Layers)-1].Lays
	assert.InDelta(t, 1, top[2].To, 1e-9, "over the lane that is most like it, and not beyond the cloth")
	assert.InDelta(t, 2./3, top[1].From, 1e-5)
}

// One fibre laid anew as something else leaves the rest where it lies, and keeps all its grams; pressed twice it is the same.
func TestLaidAnewAsSomethingElse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, fibres, o, p := drawBuilt(t)
		i := rapid.IntRange(0, len(fibres)-1).Draw(t, "which")
		as := rapid.SampledFrom(Uses()).Draw(t, "as")
		out, err := p.LaidAs(b, fibres, i, Purpose{As: as}, o.Step)
		require.NoError(t, err)
		require.NoError(t, out.Check(b, fibres, true))
		assert.InDeltaSlice(t, p.Placed(len(fibres)), out.Placed(len(fibres)), 1e-9)
		assert.Equal(t, as, out.UseOf(fibres, i))
		again, err := out.LaidAs(b, fibres, i, Purpose{As: as}, o.Step)
		require.NoError(t, err)
		if as != AsLane { // a lane moves to the right once more
			assert.Equal(t, shape(out, i), shape(again, i))
		}
	})
}

// shape is where a component lies, by place and method, with the grams of each place together.
func shape(p Plan, component int) map[string]float64 {
	out := map[string]float64{}
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			if v.Component == component {
				at := fmt.Sprintf("%.3f %.3f %.3f %.3f %s", v.From, v.To, v.Start, v.End, v.Method)
				out[at] = math.Round((out[at]+v.Grams)*1000) / 1000
			}
		}
	}
	return out
}

// A fibre that becomes a lane lies at the right of the others, as wide as its part, and they keep their order.
func TestANewLaneLetsTheOthersMoveTogether(t *testing.T) {
	fibres := []Fibre{wool("a", 20), wool("b", 20), wool("c", 10)}
	p, err := Build(standardDrum, fibres, Options{Builder: Lanes, Repeats: 2, Passes: 1, Step: 0.1, Purposes: []Purpose{{}, {}, {As: AsScatter}}})
	require.NoError(t, err)
	p, err = p.LaidAs(standardDrum, fibres, 2, Purpose{As: AsLane}, 0.1)
	require.NoError(t, err)
	for _, l := range p.Layers {
		if len(l.Lays) < 3 {
			continue
		}
		assert.InDeltaSlice(t, []float64{0.4, 0.8, 1}, []float64{l.Lays[0].To, l.Lays[1].To, l.Lays[2].To}, 1e-6)
	}
	for _, v := range p.lanes(p.Loads(standardDrum, fibres).CapacityG) {
		assert.InDelta(t, p.Loads(standardDrum, fibres).Fill, v.Load, 0.01, "no lane is fuller than another")
	}
}

// What is chosen to lie first and last lies so, whatever it is usually there for.
func TestAChosenBaseIsTheBase(t *testing.T) {
	fibres := []Fibre{wool("grey", 30), silk("white", 10)}
	one := 1
	p, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Passes: 1, Step: 0.1, Base: &one})
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1}, []int{p.Layers[0].Lays[0].Component, p.Layers[len(p.Layers)-1].Lays[0].Component})
	assert.Equal(t, AsBase, p.UseOf(fibres, 1))
	p, err = Build(standardDrum, fibres, Options{Builder: Lanes, Passes: 1, Step: 0.1, Purposes: []Purpose{{As: AsBase}, {As: AsLane}}})
	require.NoError(t, err)
	assert.Equal(t, 0, p.Layers[0].Lays[0].Component, "told to be the base")
}

func TestWrongPurposesNameTheField(t *testing.T) {
	fibres := []Fibre{wool("a", 20), wool("b", 20)}
	for field, why := range map[string]Purpose{
		"components[0].as": {As: "heap"}, "components[0].fade_mm": {FadeMM: -1}, "components[0].near[0]": {Near: []int{0}},
	} {
		_, err := Build(standardDrum, fibres, Options{Builder: Lanes, Passes: 1, Step: 0.1, Purposes: []Purpose{why}})
		assert.ErrorContains(t, err, field+":")
	}
	_, err := Build(standardDrum, fibres, Options{Builder: Lanes, Passes: 1, Step: 0.1, Turns: MaxTurns + 1})
	assert.ErrorContains(t, err, "turns_about:")
	assert.Error(t, Plan{Draft: 1, Uses: []Use{"", "heap"}}.Check(standardDrum, fibres, false))
	assert.Len(t, Uses(), len(slices.Compact(slices.Sorted(slices.Values(Uses())))))
}

// The wool that is most of a blend is painted over nothing where too little other wool would be left below to carry what slides: by hand,
// 40 g of bright wool beside 2 g of dark wool and 3 g of dark silk, which is scattered through all the width.
func TestAnOverlayLeavesWhatCarriesBelow(t *testing.T) {
	bright, dark, slides, over := wool("bright wool", 40), wool("dark wool", 2), silk("dark silk", 3), silk("white silk", 3)
	bright.Colour, dark.Colour, slides.Colour, over.Colour = colour.Lab{L: 84, B: 12}, colour.Lab{L: 20}, colour.Lab{L: 20}, colour.Lab{L: 95}
	fibres := []Fibre{bright, dark, slides, over}
	p, err := Build(standardDrum, fibres, Options{Builder: Overlay, Passes: 1, Step: 0.1})
	require.NoError(t, err)
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			assert.False(t, v.Component == 0 && v.Method == Paint, "the wool that carries is painted on")
		}
	}
	dark.Grams = 30 // now there is enough of the other
	p, err = Build(standardDrum, []Fibre{bright, dark, slides, over}, Options{Builder: Overlay, Passes: 1, Step: 0.1})
	require.NoError(t, err)
	painted := false
	for _, l := range p.Layers {
		for _, v := range l.Lays {
			painted = painted || v.Component == 0 && v.Method == Paint
		}
	}
	assert.True(t, painted)
}
