package layup

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Every school, with every builder, on every sort of equipment: what the maker holds to is what the plan has, or the plan says that
// it gave way and why; and what it says can be turned round holds once it is.
func TestSchoolsHoldOrSayThatTheyGaveWay(t *testing.T) {
	matters := Matters()
	hands := Bed{Type: Hands, WidthMM: 300, LengthMM: 300, ToothMM: 60, Smooth: 40, Lofty: 30}
	cards := Bed{Type: Cards, LengthMM: 95, WidthMM: 210, ToothMM: 10, Smooth: 4, Lofty: 3, TPI: 72, Minutes: 3}
	beds := []Bed{standardDrum, largeBoard, cards, hands}
	silk := Fibre{Name: "silk", Grams: 4, Family: "silk", Role: "shine", Crimp: "none", Cohesion: "slippery", StapleMM: 90}
	down := Fibre{Name: "down", Grams: 3, Family: "down", Role: "partner", Crimp: "medium", Cohesion: "smooth", Fragile: true, StapleMM: 40}
	rapid.Check(t, func(t *rapid.T) {
		schools := map[string]string{}
		for _, m := range matters {
			schools[m.Key] = rapid.SampledFrom(m.Schools).Draw(t, m.Key).Key
		}
		b := rapid.SampledFrom(beds).Draw(t, "bed")
		fibres := rapid.SampledFrom([][]Fibre{
			{wool("grey", 10), wool("blue", 8)}, {wool("grey", 10), silk}, {wool("grey", 10), down, silk}, {silk, down},
		}).Draw(t, "fibres")
		blend := rapid.IntRange(1, 3).Draw(t, "passes of the blend")
		o := Options{Builder: rapid.SampledFrom(Builders()).Draw(t, "builder"), Step: 0.1}.Held(b, schools)
		if o.Passes == 0 && UsualPasses(o.Builder) > 1 {
			o.Passes = blend
		}
		p, err := Build(b, fibres, o)
		if err != nil {
			return // that builder is not for this equipment
		}
		gave := p.Collide(b, fibres, schools, blend)
		for _, g := range gave {
			require.NotEmpty(t, g.Why)
		}
		held(t, p, b, fibres, schools, blend, gave)
		for _, g := range gave {
			if g.Turn == 0 {
				continue
			}
			turned := p.TurnRound(g.School, g.Turn, fibres, 0.1)
			for _, still := range turned.Collide(b, fibres, schools, blend) {
				assert.NotEqual(t, g.School, still.School, "it was turned round")
			}
			for i, g := range turned.Placed(len(fibres)) {
				assert.InDelta(t, fibres[i].Grams, g, 1e-9, "and all of it lies there still")
			}
		}
	})
}

// One pass, and silk that waits for the second: the plan goes through once, says so, and two passes let it wait.
func TestOnePassAndDelicateFibreLate(t *testing.T) {
	silk := Fibre{Name: "silk", Grams: 4, Family: "silk", Role: "shine", Crimp: "none", Cohesion: "slippery", StapleMM: 90}
	fibres := []Fibre{wool("grey", 10), silk}
	schools := map[string]string{"passes": "one", "delicate": "late"}
	p, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Step: 0.1}.Held(standardDrum, schools))
	require.NoError(t, err)
	assert.Equal(t, 1, p.Passes)
	gave := p.Collide(standardDrum, fibres, schools, 2)
	require.Len(t, gave, 1)
	assert.Equal(t, GaveWay{"delicate", "passes", "It goes through once, so that silk can not wait for a second pass.", 2}, gave[0])
	turned := p.TurnRound("delicate", 2, fibres, 0.1)
	assert.Equal(t, []int{1, 2}, turned.Joins)
	assert.Empty(t, turned.Collide(standardDrum, fibres, schools, 2))
	two := []Fibre{wool("grey", 10), wool("blue", 8)}
	lanes, err := Build(standardDrum, two, Options{Builder: Lanes, Step: 0.1})
	require.NoError(t, err)
	assert.Equal(t, "builder", lanes.Collide(standardDrum, two, nil, 2)[0].For)
	assert.Empty(t, Plan{Passes: 1, Layers: []Layer{{Lays: []Lay{{To: 1, End: 1, Grams: 18}}}}}.Collide(standardDrum, two, nil, 2), "her own choice")
	bare, err := Build(standardDrum, fibres[1:], Options{Builder: Sandwich, Step: 0.1})
	require.NoError(t, err)
	var fors []string
	for _, g := range bare.Collide(standardDrum, fibres[1:], nil, 2) {
		fors = append(fors, g.School+" for "+g.For)
	}
	assert.Equal(t, []string{"delicate for fibre"}, fors)
	onBoard, err := Build(largeBoard, fibres, Options{Builder: StripesAlong, Step: 0.1})
	require.NoError(t, err)
	assert.Equal(t, "equipment", onBoard.Collide(largeBoard, fibres, nil, 2)[0].For)
}

func held(t *rapid.T, p Plan, b Bed, fibres []Fibre, schools map[string]string, blend int, gave []GaveWay) {
	gaveWay := func(matter string) bool {
		for _, g := range gave {
			if g.School == matter {
				return true
			}
		}
		return false
	}
	last := p.Last(b, blend)
	switch {
	case b.Type != Drum:
	case schools["passes"] == "one":
		assert.Equal(t, 1, last)
	case schools["passes"] == "few" && blend > 1:
		assert.True(t, last > 1 || !p.placed() || gaveWay("passes"), "%d passes", last)
	}
	if schools["delicate"] == "late" && p.delicateFirst(fibres) != "" {
		assert.True(t, gaveWay("delicate"), "delicate fibre in the first of %d passes", last)
	}
	if schools["delicate"] == "between" {
		for i, f := range fibres {
			if f.Ground() {
				assert.Equal(t, 1, p.JoinsAt(i), "first pass, between wool")
			}
		}
	}
	if n := RolagsBy(schools); n > 0 && b.Type == Board {
		assert.Equal(t, n, p.Rolags)
	}
	if schools["first"] == "base" && p.Bare && b.Pins() {
		assert.True(t, gaveWay("first"))
	}
}
