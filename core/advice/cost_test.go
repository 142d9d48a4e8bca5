package advice

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/day"
	"fairtangle/core/layup"
)

func costOf(t *testing.T, rule string, list ...change) Cost {
	a := Judge(plan(list...), nil)
	i := slices.IndexFunc(a.Findings, func(f Finding) bool { return f.Rule == rule })
	require.GreaterOrEqual(t, i, 0, rule)
	return a.Findings[i].Cost
}

// What is at stake, worked out by hand.
func TestWhatIsAtStake(t *testing.T) {
	minutes := func(b *layup.Bed) *layup.Bed { b.Minutes = 20; return b }
	// 40 % slippery of 200 g: the 10 % beyond three tenths are 20 g.
	assert.InDelta(t, 20, costOf(t, "R08", fibres(of("viscose", 0.4), of("corriedale", 0.6)), weighs(200, 2)).Grams, 1e-9)
	// 66 g on a drum that holds 1/(1/70) = 70 g of medium crimp, so 84 g is 14 g too much in each of two batts, and a batt more is 20 min.
	c := costOf(t, "R16", fibres(of("corriedale", 1)), on(minutes(drumOf(72))), weighs(168, 2))
	assert.InDelta(t, 2*(84-plan(fibres(of("corriedale", 1)), on(drumOf(72))).Capacity()), c.Grams, 1e-9)
	assert.InDelta(t, 20, c.Minutes, 1e-9)
	// Five passes in place of four, three batts of 20 min.
	assert.InDelta(t, 60, costOf(t, "R34", fibres(of("romney", 1)), on(minutes(drumOf(72))), weighs(120, 3), goes(5)).Minutes, 1e-9)
	// 30 % of 100 g is raw: all of it is spoiled, and the cloth.
	assert.InDelta(t, 100, costOf(t, "R49", fibres(of("romney", 0.3, prep("raw_fleece")), of("romney", 0.7)), weighs(100, 1)).Grams, 1e-9)
	// It takes 80 g of a fibre of which there are 50.
	assert.InDelta(t, 30, costOf(t, "R47", fibres(of("romney", 1, func(f *Fibre) { f.HaveG = p(50.0) })), weighs(80, 1)).Grams, 1e-9)
	// Two lanes of half the width with 30 and 10 g: each is 10 g off an even 20, whatever the cloth holds.
	half := func(c int, from, g float64) layup.Lay {
		return layup.Lay{Component: c, From: from, To: from + 0.5, End: 1, Grams: g, Method: layup.Feed}
	}
	lanes := []layup.Layer{{Lays: []layup.Lay{half(0, 0, 30), half(1, 0.5, 10)}}}
	two := []change{fibres(of("corriedale", 0.75), of("corriedale", 0.25)), on(drumOf(72)), weighs(120, 3), laidAs(lanes)}
	assert.InDelta(t, 10*3, costOf(t, "R19", two...).Grams, 1e-9)
	assert.InDelta(t, 10*3, costOf(t, "R20", two...).Grams, 1e-9)
	// 20 g of silk in the first of three passes, in which it loses what its kind does: two passes too many.
	silk := of("silk_tussah", 0.2)
	assert.InDelta(t, 20*silk.Kind.LossPct.Mid()/100*2, costOf(t, "R26", fibres(of("corriedale", 0.8), silk), weighs(100, 1), goes(3)).Grams, 1e-9)
	// Red and green of chroma 50, half and half, mix to grey: all 50 are lost.
	red, green := of("corriedale", 0.5), of("corriedale", 0.5)
	red.Lab, green.Lab = &colour.Lab{L: 50, A: 50}, &colour.Lab{L: 50, A: -50}
	assert.InDelta(t, 50, costOf(t, "R38", fibres(red, green), mixed(), goes(2)).Look, 1e-9)
	// 12 % of neps in 200 g: the 2 % beyond a tenth are 4 g that nothing holds.
	assert.InDelta(t, 4, costOf(t, "R12", fibres(of("corriedale", 0.88), of("neps_wool", 0.12)), weighs(200, 2)).Grams, 1e-9)
	assert.InDelta(t, day.FullMin, costOf(t, "R40", fibres(of("corriedale", 1, hex("#ffffff"))), mixed(), told(Told{BeforeL: p(20.0)})).Minutes, 1e-9)
}

// Stops come before cautions before hints; within those what costs more fibre, then time, then look.
func TestFindingsStandInTheOrderOfWhatIsAtStake(t *testing.T) {
	q := plan(
		fibres(of("viscose", 0.7, hex("#204060")), of("corriedale", 0.15, hex("#ffffff")), of("neps_wool", 0.15, hex("#ff8800"))), mixed(), on(drumOf(72)), goes(5),
		weighs(300, 2), makes("batt"), looks("even"), told(Told{BeforeL: p(5.0), Sampled: p(false)}), laidAs(layers(layup.Feed, 105, 22.5, 22.5)),
	)
	a := Judge(q, nil)
	require.Greater(t, len(a.Findings), 6)
	assert.True(t, slices.IsSortedFunc(a.Findings, Dearer))
	first := a.Findings[0]
	assert.Equal(t, Stop, first.Severity)
	for _, f := range a.Findings {
		if f.Severity == first.Severity {
			assert.GreaterOrEqual(t, first.Cost.Grams, f.Cost.Grams)
		}
	}
}

// What the lay-up sees itself takes the place of the rule, once, and keeps its mend.
func TestTheLayupSeesItselfOnce(t *testing.T) {
	q := plan(fibres(of("corriedale", 1)), on(drumOf(72)), weighs(100, 1), makes("batt"), laidAs(layers(layup.Feed, 100)))
	wool := []layup.Fibre{{Name: "corriedale", Grams: 100, Family: "wool", Role: "base", Crimp: "medium", Cohesion: "grippy",
		Preparation: "carded_sliver", StapleMM: 100}}
	p := layup.Plan{Layers: q.Layers, Draft: 1.75}
	l := LaidPlan{Plan: p, Bed: *q.Bed, Fibres: wool, Passes: 1, Survey: p.Survey(*q.Bed, wool, 1)}.Judge(nil)
	require.NotEmpty(t, l.Findings)
	a := Judge(q, nil).With(q, l)
	seen := map[string]int{}
	for _, f := range a.Findings {
		seen[f.Rule]++
		if f.Rule == "R17" {
			assert.NotNil(t, f.Laid, "it knows the press that ends it")
			assert.NotNil(t, f.Mend)
			assert.Positive(t, f.Cost.Grams)
		}
	}
	assert.Equal(t, 1, seen["R17"])
	own := LaidPlan{Plan: p, Bed: *q.Bed, Fibres: wool, Passes: 1, Survey: p.Survey(*q.Bed, wool, 1)}.Judge(Bounds{"R17 from": 2, "R16 from": 2})
	for _, f := range own.Findings {
		assert.NotContains(t, []string{"R16", "R17"}, f.Rule, "the maker's own figures count in the lay-up too")
	}
}

// Lanes as wide as their grams: all are equally thick, and nothing has changed its layer or weight.
func TestLanesGetAsWideAsTheirGrams(t *testing.T) {
	lay := func(c int, from, to, g float64) layup.Lay {
		return layup.Lay{Component: c, From: from, To: to, End: 1, Grams: g, Method: layup.Feed}
	}
	q := plan(fibres(of("corriedale", 0.5), of("romney", 0.25), of("corriedale", 0.25)), on(drumOf(72)), weighs(40, 1), laidAs([]layup.Layer{
		{Lays: []layup.Lay{lay(1, 0.5, 0.75, 10), lay(0, 0, 0.25, 20), lay(2, 0.75, 1, 10)}},
	}))
	a := Judge(q, nil)
	i := slices.IndexFunc(a.Findings, func(f Finding) bool { return f.Rule == "R19" })
	require.GreaterOrEqual(t, i, 0)
	require.NotNil(t, a.Findings[i].Mend)
	after := a.Findings[i].Mend.After.Layers[0].Lays
	assert.Equal(t, []layup.Lay{lay(1, 0.5, 0.75, 10), lay(0, 0, 0.5, 20), lay(2, 0.75, 1, 10)}, after)
	over := plan(fibres(of("corriedale", 1)), on(drumOf(72)), weighs(40, 1), laidAs([]layup.Layer{{Lays: []layup.Lay{lay(0, 0, 0.6, 30), lay(0, 0.5, 1, 10)}}}))
	_, _, _, ok := mendWidths(over.clone(), Finding{}, nil)
	assert.False(t, ok, "lays over each other are for the maker")
}

// A thick layer in thin ones between the others: none above its figure, the same grams in all.
func TestASlabIsDividedBetweenTheOthers(t *testing.T) {
	q := plan(fibres(of("corriedale", 0.6), of("romney", 0.4)), on(drumOf(72)), weighs(40, 1), looks("even"), goes(3), laidAs(layers(layup.Feed, 24, 8, 8)))
	q.Layers[2].Lays[0].Component = 1
	a := Judge(q, nil)
	i := slices.IndexFunc(a.Findings, func(f Finding) bool { return f.Rule == "R31" })
	require.GreaterOrEqual(t, i, 0)
	require.NotNil(t, a.Findings[i].Mend)
	var thick float64
	for _, y := range a.Findings[i].Mend.After.Layers {
		for _, v := range y.Lays {
			if v.Component == 0 {
				thick += v.Grams
				assert.LessOrEqual(t, v.Grams/q.Capacity(), slabPart+1e-9)
			}
		}
	}
	assert.InDelta(t, 24, thick, 1e-9)
}

// Another carder is taken whose cloth suits: the coarsest that holds it, the finest that lets it go.
func TestAnotherClothSuits(t *testing.T) {
	q := plan(fibres(of("merino", 1)), on(drumOf(40)), weighs(40, 1))
	for id, tpi := range []float64{60, 200, 128, 90} {
		q.Others = append(q.Others, Cloth{int64(id), "a drum", drumOf(tpi)})
	}
	need := q.Fibres[0].Kind.MinTPI
	for _, f := range Judge(q, nil).Findings {
		if f.Rule == "R06" {
			require.NotNil(t, f.Mend)
			assert.GreaterOrEqual(t, f.Mend.After.Bed.TPI, need)
			for _, o := range q.Others {
				assert.False(t, o.Bed.TPI >= need && o.Bed.TPI < f.Mend.After.Bed.TPI, "%g would have done", o.Bed.TPI)
			}
			return
		}
	}
	t.Fatal("a superfine wool on 40 pins is not caught")
}
