package layup

import (
	"cmp"
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/fault"
)

// TestSandwichHoldsTheDelicateInTheMiddle: the same gripping wool below and
// above, and the delicacy of what is laid in layers rises towards the middle.
func TestSandwichHoldsTheDelicateInTheMiddle(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		fibres := slices.DeleteFunc(drawFibres(t), func(f Fibre) bool { return !f.Ground() })
		fibres = append(fibres, wool("base", 12))
		p, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Passes: 1, Step: 0.1})
		require.NoError(t, err)
		first, last := p.Layers[0].Lays[0].Component, p.Layers[len(p.Layers)-1].Lays[0].Component
		assert.Equal(t, first, last)
		assert.True(t, fibres[first].Grips())
		assert.GreaterOrEqual(t, fibres[first].StapleMM, 50.0)
		var inner []int
		for _, l := range p.Layers[1 : len(p.Layers)-1] {
			if i := l.Lays[0].Component; p.UseOf(fibres, i) == AsLane {
				inner = append(inner, fibres[i].delicacy())
			}
		}
		if len(inner) == 0 {
			return
		}
		top := slices.Index(inner, slices.Max(inner))
		assert.True(t, slices.IsSorted(inner[:top+1]), inner)
		assert.True(t, slices.IsSortedFunc(inner[top:], func(a, b int) int { return cmp.Compare(b, a) }), inner)
	})
}

// TestLanesKeepTheirOrder: the colours lie across in the order asked for,
// without a gap, and as often as asked.
func TestLanesKeepTheirOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var fibres []Fibre
		for i := range rapid.IntRange(2, 9).Draw(t, "n") {
			fibres = append(fibres, wool(fmt.Sprint(i), float64(rapid.IntRange(20, 200).Draw(t, "tenths"))/10))
		}
		order := rapid.Permutation(seq(len(fibres))).Draw(t, "order")
		times := rapid.IntRange(1, 4).Draw(t, "times")
		p, err := Build(standardDrum, fibres, Options{Builder: Lanes, Order: order, Repeats: times, Step: 0.1})
		require.NoError(t, err)
		require.Len(t, p.Layers, times)
		for _, l := range p.Layers {
			at := 0.0
			for n, v := range l.Lays {
				assert.Equal(t, order[n], v.Component)
				assert.InDelta(t, at, v.From, 1e-9)
				at = v.To
			}
			assert.InDelta(t, 1, at, 1e-9)
		}
	})
}

func seq(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

// TestWhatWaitsForTheLastPass: extras and locks on a drum where there is ground
// for them, delicate fibre by the school where there is sturdy, nothing on a
// board.
func TestWhatWaitsForTheLastPass(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b, fibres, o, p := drawBuilt(t)
		var ground, sturdy bool
		for _, f := range fibres {
			ground = ground || f.Ground()
			sturdy = sturdy || f.Ground() && !f.delicate()
		}
		for i, f := range fibres {
			late := b.Type == Drum && o.Passes > 1 && (!f.Ground() && ground || f.delicate() && sturdy && !o.DelicateNow)
			assert.Equal(t, late, p.JoinsAt(i) > 1, f.Name)
			if late {
				assert.Equal(t, o.Passes, p.JoinsAt(i))
			}
		}
	})
}

func TestStripesRunTheirWay(t *testing.T) {
	base, blue, rust := wool("undyed", 10), wool("blue", 6), wool("rust", 4)
	blue.Colour.B, rust.Colour.A = -40, 40
	fibres := []Fibre{blue, base, rust}
	along, err := Build(largeBoard, fibres, Options{Builder: StripesAlong, Repeats: 2, Step: 0.1})
	require.NoError(t, err)
	across, err := Build(largeBoard, fibres, Options{Builder: StripesAcross, Repeats: 2, Step: 0.1})
	require.NoError(t, err)
	for name, p := range map[string]Plan{"along": along, "across": across} {
		require.Len(t, p.Layers, 3, name)
		assert.Equal(t, []float64{6, 4}, []float64{p.Layers[0].Lays[0].Grams, p.Layers[2].Lays[0].Grams}, "60 %% of the plain wool below, the rest on top")
		assert.Equal(t, 1, p.Layers[0].Lays[0].Component, "the plainest is the base")
		require.Len(t, p.Layers[1].Lays, 4)
		for n, v := range p.Layers[1].Lays {
			from, to, other := v.From, v.To, v.End-v.Start
			if name == "across" {
				from, to, other = v.Start, v.End, v.To-v.From
			}
			assert.InDelta(t, []float64{0, 0.3, 0.5, 0.8}[n], from, 1e-6, "6 g to 4 g, twice over")
			assert.InDelta(t, []float64{0.3, 0.5, 0.8, 1}[n], to, 1e-6)
			assert.InDelta(t, 1, other, 1e-9)
		}
	}
	bare, err := Build(largeBoard, fibres, Options{Builder: StripesAlong, Bare: true, Step: 0.1})
	require.NoError(t, err)
	assert.Len(t, bare.Layers, 1, "straight on")
	_, err = Build(largeBoard, fibres, Options{Builder: StripesAlong, Step: 0.1, Rolags: -1})
	assert.Error(t, err)
	two := 2
	chosen, err := Build(largeBoard, fibres, Options{Builder: StripesAlong, Base: &two, Step: 0.1})
	require.NoError(t, err)
	assert.Equal(t, 2, chosen.Layers[0].Lays[0].Component)
}

func TestBuildersRefuse(t *testing.T) {
	fibres := []Fibre{wool("a", 5), film(1)}
	one, nine := 1, 9
	for field, o := range map[string]Options{
		"builder": {}, "repeats": {Builder: Depth, Repeats: 41}, "step_g": {Builder: Depth, Step: -1}, "order": {Builder: Depth, Order: []int{0}},
		"order ": {Builder: Depth, Order: []int{0, 2}}, "over": {Builder: Overlay, Over: []int{5}}, "rolags": {Builder: Depth,
			Rolags: 13}, "draft": {Builder: Depth, Draft: 9},
		"base": {Builder: Lanes, Base: &nine}, "base ": {Builder: Lanes, Base: &one},
	} {
		if o.Step == 0 {
			o.Step = 0.1
		}
		_, err := Build(standardDrum, fibres, o)
		l, ok := fault.From(err)
		require.True(t, ok, field)
		assert.Equal(t, field[:len(l[0].Field)], l[0].Field)
	}
	_, err := Build(standardDrum, []Fibre{{Name: "none", StapleMM: 50}}, Options{Builder: Depth, Step: 0.1})
	assert.EqualError(t, err, "components: There is no fibre to lay.")
}

func TestSchoolsHaveReasons(t *testing.T) {
	for _, m := range Matters() {
		assert.GreaterOrEqual(t, len(m.Schools), 2, m.Key)
		for _, s := range m.Schools {
			assert.NotEmpty(t, s.Reason)
			assert.Equal(t, s.Key, Chosen(map[string]string{m.Key: s.Key})[m.Key])
		}
		assert.Equal(t, m.Schools[0].Key, Chosen(map[string]string{m.Key: "nonsense"})[m.Key])
	}
}

// A stripe may be as narrow as can be laid, and no narrower; what lies nowhere weighs nothing there.
func TestTheNarrowestStripe(t *testing.T) {
	k := build{o: Options{Step: 0.1}, fibres: []Fibre{wool("undyed", 10)}}
	assert.Equal(t, narrow, k.stripe(0, 1, 0, narrow).To)
	assert.Equal(t, 1.0, k.stripe(0, 1, 0, narrow*0.99).To)
	p := Plan{Layers: []Layer{{Lays: []Lay{{From: 0.5, To: 0.5, Grams: 3}, {From: 0, To: 1, Grams: 4}}}}}
	assert.Equal(t, 4.0, p.gramsIn(across, 0, 1, nil))
}
