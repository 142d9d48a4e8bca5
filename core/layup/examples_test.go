package layup

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func film(grams float64) Fibre {
	return Fibre{
		Name:        "film",
		Grams:       grams,
		Family:      "sparkle",
		Role:        "sparkle",
		Crimp:       "none",
		Cohesion:    "slippery",
		LickerIn:    "avoid",
		Preparation: "combed_top",
		StapleMM:    60,
	}
}

// 28 g of a sliver that fills 28/70 = 0.4 of the drum and 27 g of a slick top
// that fills 27/90 = 0.3: 70 % in all. The wool lies 14 g below and 14 g above;
// trays take 2.7 g, so 14 g are six of 2.33 g and 27 g are ten.
func TestSandwichAtSeventyPercent(t *testing.T) {
	silk := Fibre{
		Name:        "tussah",
		Grams:       27,
		Family:      "silk",
		Role:        "shine",
		Crimp:       "none",
		Cohesion:    "slippery",
		LickerIn:    "thin_only",
		Preparation: "combed_top",
		StapleMM:    70,
	}
	fibres := []Fibre{silk, wool("grey", 28)}
	p, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Passes: 1, Step: 0.1})
	require.NoError(t, err)
	l := p.Loads(standardDrum, fibres)
	assert.InDelta(t, 0.7, l.Fill, 1e-9)
	assert.InDelta(t, 7, l.HeightMM, 1e-9)
	require.Len(t, p.Layers, 3)
	for i, want := range []struct {
		component, feeds int
		grams, portion   float64
	}{{1, 12, 14, 14. / 12}, {0, 22, 27, 27. / 22}, {1, 12, 14, 14. / 12}} {
		assert.Equal(t, want.component, p.Layers[i].Lays[0].Component)
		assert.Equal(t, want.feeds, l.Layers[i].Feeds)
		assert.InDelta(t, want.grams, l.Layers[i].Grams, 1e-9)
		assert.InDelta(t, want.portion, l.Layers[i].PortionG, 1e-9)
	}
	late, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Passes: 2, Step: 0.1})
	require.NoError(t, err)
	assert.Equal(t, []int{2, 1}, late.Joins, "the silk waits for the second pass")
	now, err := Build(standardDrum, fibres, Options{Builder: Sandwich, Passes: 2, DelicateNow: true, Step: 0.1})
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1}, now.Joins)
}

// 110 g of sliver: the standard drum holds 70 g, so two units of 55 g, 22 minutes
// for a full one, so 22·55/70 each and pass. A board holds 33 g: 110/33 makes
// four, three rolags each, 20 minutes for a full one. Cotton of 24 mm goes into punis of 2.25 g, and wool
// beside it is cut.
func TestChoiceOfEquipment(t *testing.T) {
	fibres := []Fibre{wool("grey", 110)}
	c := Choose(standardDrum, fibres, nil, 2)
	assert.Equal(t, 2, c.Units)
	assert.InDelta(t, 55, c.UnitG, 1e-9)
	assert.InDelta(t, 22*55.0/70*2*2, c.Minutes, 1e-9)
	assert.Equal(t, 3, Choose(standardDrum, fibres, map[string]string{"loading": "thin"}, 1).Units, "110/42")
	board := Choose(largeBoard, fibres, nil, 2)
	assert.Equal(t, []any{4, 12}, []any{board.Units, board.Rolags})
	assert.InDelta(t, 20*110.0/33, board.Minutes, 1e-9)
	cotton := wool("cotton", 18)
	cotton.Family, cotton.StapleMM, cotton.Crimp = "cotton", 24, "none"
	mixed := []Fibre{cotton, wool("grey", 9)}
	cards := Choose(Bed{Type: Cards, LengthMM: 95, WidthMM: 210, ToothMM: 10, Smooth: 4, Lofty: 3, Minutes: 3}, mixed, nil, 1)
	assert.True(t, cards.Punis)
	assert.Equal(t, 12, cards.Rolags)
	assert.NotEmpty(t, Choose(standardDrum, mixed, nil, 1).Against)
	which, to := ToCut(mixed)
	assert.Equal(t, []int{1}, which)
	assert.InDelta(t, 24, to, 1e-9)
	mixed[1].Grams = 1.9 // under a tenth it may stay
	which, _ = ToCut(mixed)
	assert.Empty(t, which)
}

// Slack-water: A and B share a width, then B and C. Overlay: the brightest
// goes over the base colour that it is most like.
func TestFlowAndOverlay(t *testing.T) {
	fibres := []Fibre{wool("A", 8), wool("B", 8), wool("C", 8)}
	p, err := Build(standardDrum, fibres, Options{Builder: Flow, Repeats: 2, Step: 0.1})
	require.NoError(t, err)
	spans := func(l Layer) (out []string) {
		for _, v := range l.Lays {
			out = append(out, fmt.Sprintf("%d %.2f-%.2f", v.Component, v.From, v.To))
		}
		return out
	}
	assert.Equal(t, []string{"0 0.00-0.67", "1 0.00-0.67", "2 0.67-1.00"}, spans(p.Layers[0]))
	assert.Equal(t, []string{"0 0.00-0.33", "1 0.33-1.00", "2 0.33-1.00"}, spans(p.Layers[1]))
	for i, c := range [][3]float64{{40, 0, -5}, {45, 5, 5}, {60, -4, -50}, {70, 20, 60}} {
		for len(fibres) <= i {
			fibres = append(fibres, wool("D", 8))
		}
		fibres[i].Colour.L, fibres[i].Colour.A, fibres[i].Colour.B = c[0], c[1], c[2]
	}
	p, err = Build(standardDrum, fibres, Options{Builder: Overlay, Order: []int{0, 1, 3, 2}, Step: 0.1})
	require.NoError(t, err)
	require.Len(t, p.Layers, 2)
	assert.Equal(t, []string{"0 0.00-0.50", "1 0.50-1.00"}, spans(p.Layers[0]))
	assert.Equal(t, []string{"2 0.00-0.50", "3 0.50-1.00"}, spans(p.Layers[1]), "blue over the cool base, gold over the warm")
	assert.Equal(t, Paint, p.Layers[1].Lays[0].Method)
}
