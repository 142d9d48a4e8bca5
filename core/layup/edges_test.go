package layup

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/fault"
)

// The last number that is allowed is, and the next is not; what is wrong is named.
func TestBoundsOfAPlan(t *testing.T) {
	fibres := []Fibre{wool("grey", 20), wool("blue", 10)}
	plan := func(change func(*Plan)) Plan {
		p := Plan{Draft: 1.75, Layers: []Layer{{Lays: []Lay{{To: 1, End: 1, Grams: 1, Method: Feed}}}}}
		change(&p)
		return p
	}
	layers := func(n int) Plan {
		return plan(func(p *Plan) {
			for len(p.Layers) < n {
				p.Layers = append(p.Layers, Layer{})
			}
		})
	}
	for _, c := range []struct {
		field string
		bad   bool
		p     Plan
	}{
		{"passes", false, plan(func(p *Plan) { p.Passes = 20 })}, {"passes", true, plan(func(p *Plan) { p.Passes = 21 })},
		{"passes", true, plan(func(p *Plan) { p.Passes = -1 })}, {"strips", false, plan(func(p *Plan) { p.Strips = MaxStrips })},
		{"strips", true, plan(func(p *Plan) { p.Strips = MaxStrips + 1 })}, {"strips", true, plan(func(p *Plan) { p.Strips = -1 })},
		{"rolags", false, plan(func(p *Plan) { p.Rolags = MaxRolags })}, {"rolags", true, plan(func(p *Plan) { p.Rolags = -1 })},
		{"draft", false, plan(func(p *Plan) { p.Draft = 1 })}, {"draft", false, plan(func(p *Plan) { p.Draft = 4 })},
		{"draft", true, plan(func(p *Plan) { p.Draft = 4.01 })}, {"draft", true, plan(func(p *Plan) { p.Draft = 0.99 })},
		{"joins_at_pass", false, plan(func(p *Plan) { p.Joins = []int{0, 20} })}, {"joins_at_pass", true, plan(func(p *Plan) { p.Joins = []int{21} })},
		{"joins_at_pass", true, plan(func(p *Plan) { p.Joins = []int{-1} })}, {"joins_at_pass", true, plan(func(p *Plan) { p.Joins = []int{1, 1, 1} })},
		{"refeed", false, plan(func(p *Plan) { p.Refeed = OwnPlace })}, {"refeed", true, plan(func(p *Plan) { p.Refeed = "folded" })},
		{"layers", false, layers(MaxLayers)}, {"layers", true, layers(MaxLayers + 1)},
		{"layers[0].lays[0].component", true, plan(func(p *Plan) { p.Layers[0].Lays[0].Component = -1 })},
		{"layers[0].lays[0].component", false, plan(func(p *Plan) { p.Layers[0].Lays[0].Component = 1 })},
	} {
		err := c.p.Check(standardDrum, fibres, true)
		l, _ := fault.From(err)
		if !c.bad {
			assert.NoError(t, err, c.field)
			continue
		}
		if assert.Len(t, l, 1, "%s %+v", c.field, c.p) {
			assert.Equal(t, c.field, l[0].Field)
		}
	}
}

// Grams are counted from lay to lay: the first that takes more than is left is named.
func TestGramsRunOutInTheOrderOfTheLayers(t *testing.T) {
	fibres := []Fibre{wool("grey", 20), wool("blue", 10)}
	of := func(component int, grams float64) Layer {
		return Layer{Lays: []Lay{{Component: component, To: 1, End: 1, Grams: grams, Method: Feed}}}
	}
	p := Plan{Draft: 1.75, Layers: []Layer{of(0, 12), of(1, 10), of(0, 8)}}
	assert.NoError(t, p.Check(standardDrum, fibres, true))
	p.Layers[2] = of(0, 8.5)
	l, ok := fault.From(p.Check(standardDrum, fibres, true))
	require.True(t, ok)
	assert.Equal(t, "layers[2].lays[0].grams", l[0].Field)
	assert.Equal(t, "Only 8 g of grey are left to lay here; this is 8.5 g.", l[0].Message)
}

// A layer divided into more than it has steps is laid in as many as it has, and the
// lays of a layer take turns with the step that is left over.
func TestDividedLayersTakeTurns(t *testing.T) {
	p := Plan{Draft: 1.75, Layers: []Layer{{Lays: []Lay{
		{Component: 0, To: 0.5, End: 1, Grams: 0.3, Method: Feed}, {Component: 1, From: 0.5, To: 1, End: 1, Grams: 0.1, Method: Feed},
	}}}}
	out, err := p.Split(0, 4, 0.1)
	require.NoError(t, err)
	var of [2]float64
	most := 0
	for _, l := range out.Layers {
		assert.NotEmpty(t, l.Lays)
		most = max(most, len(l.Lays))
		for _, v := range l.Lays {
			assert.InDelta(t, 0.1, v.Grams, 1e-9)
			of[v.Component] += v.Grams
		}
	}
	assert.InDelta(t, 0.3, of[0], 1e-9)
	assert.InDelta(t, 0.1, of[1], 1e-9)
	assert.Len(t, out.Layers, 4, "no step lies on another")
	assert.Equal(t, 1, most)

	_, err = Plan{Layers: make([]Layer, MaxLayers-2)}.Repeat(0, 0, 3, 0.1)
	assert.NoError(t, err)
	_, err = Plan{Layers: make([]Layer, MaxLayers-2)}.Repeat(0, 0, 4, 0.1)
	assert.ErrorContains(t, err, "times")
	_, err = Plan{Layers: make([]Layer, MaxLayers-2)}.Repeat(0, 1, 2, 0.1)
	assert.NoError(t, err)
	_, err = Plan{Layers: make([]Layer, MaxLayers-2)}.Repeat(0, 2, 2, 0.1)
	assert.ErrorContains(t, err, "times")
}

// Film laid on top goes into the middle of what else there is.
func TestExtrasAreBuriedInTheMiddle(t *testing.T) {
	fibres := []Fibre{wool("a", 10), wool("b", 10), wool("c", 10), film(1)}
	layer := func(component int, grams float64) Layer {
		return Layer{Lays: []Lay{{Component: component, To: 1, End: 1, Grams: grams, Method: Feed}}}
	}
	order := func(p Plan) (out []int) {
		for _, l := range p.Layers {
			out = append(out, l.Lays[0].Component)
		}
		return out
	}
	assert.Equal(t, []int{0, 3, 1}, order(Plan{Layers: []Layer{layer(0, 10), layer(1, 10), layer(3, 1)}}.Bury(fibres, 0.1)))
	assert.Equal(t, []int{0, 1, 3, 2}, order(Plan{Layers: []Layer{layer(3, 1), layer(0, 10), layer(1, 10), layer(2, 10)}}.Bury(fibres, 0.1)))
	assert.Equal(t, []int{0, 3, 0}, order(Plan{Layers: []Layer{layer(0, 10), layer(3, 1)}}.Bury(fibres, 0.1)), "one layer is laid in two")
	assert.Equal(t, []int{0, 1}, order(Plan{Layers: []Layer{layer(0, 10), layer(1, 10)}}.Bury(fibres, 0.1)))
}

// A batt is torn into strips of about 40 mm, or into its lanes where each goes back
// to its place, as near as a forecast can follow; or as said.
func TestStripsOfABatt(t *testing.T) {
	lanes := func(n int) (out Layer) {
		for i := range n {
			out.Lays = append(out.Lays, Lay{From: float64(i) / float64(n), To: float64(i+1) / float64(n), End: 1, Grams: 1, Method: Feed})
		}
		return out
	}
	for _, c := range []struct {
		width  float64
		plan   Plan
		strips int
	}{
		{200, Plan{Layers: []Layer{lanes(7)}}, 4}, {201, Plan{Layers: []Layer{lanes(7)}}, 6}, {60, Plan{Layers: []Layer{lanes(1)}}, 2},
		{200, Plan{Layers: []Layer{lanes(7)}, Refeed: OwnPlace}, 6}, {200, Plan{Layers: []Layer{lanes(2)}, Refeed: OwnPlace}, 2},
		{200, Plan{Layers: []Layer{lanes(1)}, Refeed: OwnPlace}, 4}, {200, Plan{Layers: []Layer{lanes(7)}, Strips: 5}, 5},
	} {
		assert.Equal(t, c.strips, c.plan.StripsOf(Bed{WidthMM: c.width}), "%v wide, %+v", c.width, c.plan.Refeed)
	}
}

// In a sandwich the two most delicate lie in the middle, and what is beside them
// falls off to both sides in turn; what does not hold by itself is scattered between the layers, unless it is to be one.
func TestOrderOfASandwich(t *testing.T) {
	slick := func(name string, fragile bool) Fibre {
		f := wool(name, 5)
		f.Family, f.Cohesion, f.Fragile, f.StapleMM = "silk", "slippery", fragile, 90
		return f
	}
	smooth := wool("smooth", 5)
	smooth.Cohesion = "smooth"
	fibres := []Fibre{slick("most", true), wool("base", 20), slick("silk", false), smooth}
	layers := func(why ...Purpose) (names []string) {
		p, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Passes: 1, Step: 0.1, Purposes: why})
		require.NoError(t, err)
		for _, l := range p.Layers {
			var name string
			for _, v := range l.Lays {
				name += fibres[v.Component].Name + " "
			}
			names = append(names, strings.TrimSpace(name))
		}
		return names
	}
	assert.Equal(t, []string{"base", "smooth", "most", "silk", "base"}, layers(Purpose{As: AsLane}, Purpose{}, Purpose{As: AsLane}))
	assert.Equal(t, []string{"base", "most silk", "smooth", "most silk", "base"}, layers())
}

// A base that was chosen lies whole under lanes and under an overlay, and is not a
// lane of its own.
func TestAChosenBaseLiesUnderAll(t *testing.T) {
	fibres := []Fibre{wool("a", 8), wool("b", 8), wool("ground", 12), wool("c", 8)}
	base := 2
	for _, builder := range []Builder{Lanes, Overlay} {
		p, err := Build(standardDrum, fibres, Options{Builder: builder, Passes: 1, Step: 0.1, Base: &base, Over: []int{3, 2}})
		require.NoError(t, err)
		require.Len(t, p.Layers[0].Lays, 1, builder)
		first := p.Layers[0].Lays[0]
		assert.Equal(t, base, first.Component, builder)
		assert.InDelta(t, 12, first.Grams, 1e-9, builder)
		for _, l := range p.Layers[1:] {
			for _, v := range l.Lays {
				assert.NotEqual(t, base, v.Component, builder)
			}
		}
	}
	over, err := Build(standardDrum, fibres, Options{Builder: Overlay, Passes: 1, Step: 0.1, Over: []int{3}})
	require.NoError(t, err)
	last := over.Layers[len(over.Layers)-1].Lays
	require.Len(t, last, 1)
	assert.Equal(t, 3, last[0].Component)
	assert.Equal(t, Paint, last[0].Method)
}

// Where exactly a piece of equipment begins not to suit.
func TestWhereEquipmentBeginsNotToSuit(t *testing.T) {
	drum := standardDrum
	drum.TPI = 72
	of := func(f Fibre, grams float64) Fibre {
		f.Grams = grams
		return f
	}
	long, fine := wool("long", 0), wool("fine", 0)
	long.StapleMM = 240
	fine.MinTPI = 108
	for i, c := range []struct {
		fibres []Fibre
		suits  bool
	}{
		{[]Fibre{film(10), wool("grey", 10)}, true}, {[]Fibre{film(10.1), wool("grey", 10)}, false},
		{[]Fibre{of(long, 4.9), wool("grey", 95.1)}, true}, {[]Fibre{of(long, 5), wool("grey", 95)}, false},
		{[]Fibre{of(fine, 100*mainShare-0.1), wool("grey", 100-100*mainShare+0.1)}, true},
		{[]Fibre{of(fine, 100*mainShare), wool("grey", 100-100*mainShare)}, false},
	} {
		assert.Equal(t, c.suits, drum.against(c.fibres) == "", fmt.Sprintf("%d: %s", i, drum.against(c.fibres)))
	}
	drum.TPI = 108
	assert.Empty(t, drum.against([]Fibre{of(fine, 30)}), "as fine as it wants")
	long.StapleMM = TooLongMM
	assert.Empty(t, drum.against([]Fibre{of(long, 30)}), "as long as it may be")
}

// What the plan places is counted for the components there are; anything else is
// left out, not counted for another.
func TestPlacedCountsWhatThereIs(t *testing.T) {
	p := Plan{Layers: []Layer{{Lays: []Lay{{Component: 0, Grams: 2}, {Component: 1, Grams: 3}, {Component: 7, Grams: 5}, {Component: -1, Grams: 9}}}}}
	assert.Equal(t, []float64{2, 3}, p.Placed(2))
}

// Also of two fibres a chosen base lies under the other, as lanes and as overlay.
func TestABaseOfTwo(t *testing.T) {
	fibres := []Fibre{wool("ground", 20), wool("other", 10)}
	base := 0
	p, err := Build(standardDrum, fibres, Options{Builder: Lanes, Passes: 1, Step: 0.1, Base: &base})
	require.NoError(t, err)
	require.Len(t, p.Layers[0].Lays, 1)
	assert.Equal(t, base, p.Layers[0].Lays[0].Component)
	assert.Equal(t, 1.0, p.Layers[0].Lays[0].To-p.Layers[0].Lays[0].From)
	p, err = Build(standardDrum, fibres, Options{Builder: Overlay, Passes: 1, Step: 0.1, Base: &base, Over: []int{1}})
	require.NoError(t, err)
	last := p.Layers[len(p.Layers)-1].Lays[0]
	assert.Equal(t, 1, last.Component)
	assert.InDelta(t, 0.5, (last.From+last.To)/2, 0.01, "over the middle of what lies below")
}

// Equipment without a tray: what was fed is painted, what was painted or placed stays as it was.
func TestOffTheTray(t *testing.T) {
	p := Plan{Layers: []Layer{{Lays: []Lay{{Method: Feed}, {Method: Paint}, {Method: Place}}}}}
	var by []Method
	for _, v := range p.OffTheTray().Layers[0].Lays {
		by = append(by, v.Method)
	}
	assert.Equal(t, []Method{Paint, Paint, Place}, by)
	assert.Equal(t, Feed, p.Layers[0].Lays[0].Method, "the plan it is made from is left alone")
}
