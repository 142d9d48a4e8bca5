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
// above, and delicacy rises towards the middle.
func TestSandwichHoldsTheDelicateInTheMiddle(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		fibres := slices.DeleteFunc(drawFibres(t), func(f Fibre) bool { return !f.ground() })
		fibres = append(fibres, wool("base", 12))
		p, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Passes: 1, Step: 0.1})
		require.NoError(t, err)
		first, last := p.Layers[0].Lays[0].Component, p.Layers[len(p.Layers)-1].Lays[0].Component
		assert.Equal(t, first, last)
		assert.True(t, fibres[first].grips())
		assert.GreaterOrEqual(t, fibres[first].StapleMM, 50.0)
		var inner []int
		for _, l := range p.Layers[1 : len(p.Layers)-1] {
			inner = append(inner, fibres[l.Lays[0].Component].delicacy())
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
			ground = ground || f.ground()
			sturdy = sturdy || f.ground() && !f.delicate()
		}
		for i, f := range fibres {
			late := b.Type == Drum && o.Passes > 1 && (!f.ground() && ground || f.delicate() && sturdy && !o.DelicateNow)
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
		"order ": {Builder: Depth, Order: []int{0, 2}}, "over": {Builder: Overlay, Over: []int{5}}, "rolags": {Builder: Depth, Rolags: 13}, "draft": {Builder: Depth, Draft: 9},
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

// Every finding has a lay-up that has it, and one thing changed takes it away.
func TestEveryFinding(t *testing.T) {
	grey := func(g float64) Fibre { return wool("grey", g) }
	curl := wool("curls", 5)
	curl.Preparation, curl.StapleMM = "locks", 60
	slick := Fibre{
		Name:        "white silk",
		Grams:       10,
		Family:      "silk",
		Role:        "shine",
		Crimp:       "none",
		Cohesion:    "slippery",
		LickerIn:    "avoid",
		Preparation: "combed_top",
		StapleMM:    90,
	}
	cotton := Fibre{
		Name:        "cotton",
		Grams:       20,
		Family:      "cotton",
		Role:        "short",
		Crimp:       "low",
		Cohesion:    "smooth",
		LickerIn:    "thin_only",
		Preparation: "carded_sliver",
		StapleMM:    22,
	}
	long := wool("long", 20)
	long.StapleMM = 200
	layers := func(lays ...Lay) Plan {
		p := Plan{Draft: 1.75}
		for _, v := range lays {
			p.Layers = append(p.Layers, Layer{Lays: []Lay{v}})
		}
		return p
	}
	rolled := func(p Plan, n int) Plan {
		p.Rolags = n
		return p
	}
	half := whole(0, 20, Feed)
	half.To = 0.5
	for key, c := range map[string]struct {
		bed    Bed
		fibres []Fibre
		with   Plan
		none   Plan
	}{
		"far_too_full":   {standardDrum, []Fibre{grey(90)}, layers(whole(0, 90, Feed)), layers(whole(0, 60, Feed))},
		"too_full":       {standardDrum, []Fibre{grey(80)}, layers(whole(0, 80, Feed)), layers(whole(0, 60, Feed))},
		"thin":           {standardDrum, []Fibre{grey(15)}, layers(whole(0, 15, Feed)), layers(whole(0, 10, Feed))}, // more to come
		"lane_thin":      {standardDrum, []Fibre{grey(40)}, layers(half, whole(0, 5, Feed), half), layers(whole(0, 40, Feed))},
		"locks_last":     {standardDrum, []Fibre{grey(30), curl}, layers(whole(0, 10, Feed), whole(1, 5, Place), whole(0, 10, Feed), whole(0, 10, Feed)), layers(whole(0, 30, Feed), whole(1, 5, Place))},
		"licker_in":      {standardDrum, []Fibre{grey(30), slick}, layers(whole(0, 15, Feed), whole(1, 10, Feed), whole(0, 15, Feed)), layers(whole(0, 15, Feed), whole(1, 10, Paint), whole(0, 15, Feed))},
		"too_long":       {standardDrum, []Fibre{long}, layers(whole(0, 20, Feed)), layers(whole(0, 20, Paint))},
		"punis":          {largeBoard, []Fibre{cotton}, rolled(layers(whole(0, 20, Paint)), 6), layers(whole(0, 20, Paint))},
		"companion_long": {largeBoard, []Fibre{cotton, grey(10)}, layers(whole(0, 20, Paint), whole(1, 10, Paint)), Plan{Draft: 1.75}},
		"wrap_length":    {largeBoard, []Fibre{grey(20)}, rolled(layers(whole(0, 20, Paint)), 2), rolled(layers(whole(0, 20, Paint)), 3)},
		"base_layer":     {standardDrum, []Fibre{slick, grey(20)}, layers(whole(0, 10, Paint), whole(1, 20, Feed)), layers(whole(1, 10, Feed), whole(0, 10, Paint), whole(1, 10, Feed))},
	} {
		for want, p := range map[bool]Plan{true: c.with, false: c.none} {
			require.NoError(t, p.Check(c.bed, c.fibres, false), key)
			assert.Equal(t, want, slices.Contains(keys(p.Survey(c.bed, c.fibres, 1, nil).Findings), key), "%s %v", key, want)
		}
	}
	quarter := map[string]string{"extras": "quarter"}
	for grams, want := range map[float64]bool{30: false, 29: true} {
		fibres := []Fibre{grey(grams), slick}
		p := layers(whole(0, grams/2, Feed), whole(1, 10, Paint), whole(0, grams/2, Feed))
		assert.Equal(t, want, slices.Contains(keys(p.Survey(standardDrum, fibres, 1, quarter).Findings), "extras"), "%g g beside 10 g of silk", grams)
		assert.NotContains(t, keys(p.Survey(standardDrum, fibres, 1, map[string]string{"extras": "free"}).Findings), "extras")
	}
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
