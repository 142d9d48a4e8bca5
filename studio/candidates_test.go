package studio

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/colour"
	"fairtangle/core/match"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
)

// A shelf with more lots than a search takes is thinned: what stays still has
// every sort of colour, and of two that are nearly alike the fuller one.
func TestALargeShelfIsThinned(t *testing.T) {
	s, _, _ := shelfOf(t)
	var many []shelf.NewLot
	for i := range 500 {
		c := colour.Lab{L: 20 + float64(i%8)*9, A: -30 + float64(i/8%8)*9, B: -30 + float64(i/64)*9}
		many = append(
			many,
			shelf.NewLot{
				LotInput: shelf.LotInput{
					Name:        fmt.Sprint("lot ", i),
					Kind:        "merino",
					Preparation: "combed_top",
					Colours:     []shelf.LotColour{{Hex: c.Linear().Hex()}},
				},
				Grams: 20,
			},
		)
	}
	many = append(
		many,
		shelf.NewLot{
			LotInput: shelf.LotInput{
				Name:        "the same, but more",
				Kind:        "merino",
				Preparation: "combed_top",
				Colours:     []shelf.LotColour{{Hex: many[0].Colours[0].Hex}},
			},
			Grams: 90,
		},
	)
	lots, err := s.Shelf.CreateLots(t.Context(), many, "")
	require.NoError(t, err)
	c, err := s.Reach.Candidates(t.Context(), recipe.BlendInput{Name: "b", TotalG: 60}, reach.Wish{NoSparkle: true})
	require.NoError(t, err)
	assert.LessOrEqual(t, len(c.Lots), match.MaxLots)
	assert.Greater(t, len(c.Lots), match.MaxLots/4)
	ids := map[int64]bool{}
	for _, p := range c.Parts {
		ids[*p.LotID] = true
	}
	assert.True(t, ids[lots[500].ID], "the fuller of two alike")
	assert.False(t, ids[lots[0].ID])
	a, err := s.Reach.Find(t.Context(), recipe.BlendInput{Name: "b", TotalG: 60, Target: "#7d7a70"}, reach.FindInput{MaxComponents: 4, Count: 3}, nil)
	require.NoError(t, err)
	assert.Less(t, a.Found[0].DeltaE, 0.6)
}

func TestWishesThatNothingMeets(t *testing.T) {
	s, lots, _ := shelfOf(t)
	in := recipe.BlendInput{Name: "b", TotalG: 60, Target: "#5b7078"}
	ask := func(q reach.FindInput) error {
		q.Count = 1
		_, err := s.Reach.Find(t.Context(), in, q, nil)
		return err
	}
	assert.ErrorContains(t, ask(reach.FindInput{MaxComponents: 2, Wish: reach.Wish{Kind: "qiviut"}}), "wish")
	assert.ErrorContains(t, ask(reach.FindInput{MaxComponents: 1, Wish: reach.Wish{Kind: "silk_tussah"}}), "at most 50 g")
	in.TotalG = 40
	assert.ErrorContains(t, ask(reach.FindInput{MaxComponents: 2, Wish: reach.Wish{Kind: "silk_tussah", LeastWoolShare: 0.5}}), "the wish asks for")
	in.Target = ""
	assert.ErrorContains(t, ask(reach.FindInput{MaxComponents: 1}), "which colour is wanted")
	in.Target, in.TotalG = "#5b7078", 0.01
	assert.ErrorContains(t, ask(reach.FindInput{MaxComponents: 1}), "less than a step")
	// A lot that lies in the bin is not offered, one in the blend stays known.
	require.NoError(t, s.Floor.Discard(t.Context(), "lots", lots[1].ID))
	in.TotalG = 60
	a, err := s.Reach.Find(t.Context(), in, reach.FindInput{MaxComponents: 3, Count: 6}, nil)
	require.NoError(t, err)
	for _, f := range a.Found {
		for _, p := range f.Components {
			assert.NotEqual(t, lots[1].ID, *p.LotID)
		}
	}
}

// Where fibre still to buy takes every place of a search, the shelf is left out,
// and the search ends.
func TestASearchWithoutRoomForTheShelfEnds(t *testing.T) {
	s, _, _ := shelfOf(t)
	_, err := s.Shelf.CreateLots(t.Context(), []shelf.NewLot{{LotInput: shelf.LotInput{
		Name: "one", Kind: "merino", Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: "#5b7d96"}},
	}, Grams: 40}}, "")
	require.NoError(t, err)
	in := recipe.BlendInput{Name: "all to buy", TotalG: 60}
	for i := range match.MaxLots {
		in.Components = append(in.Components, recipe.BlendComponent{Name: fmt.Sprint(i), Kind: "merino", Preparation: "combed_top", Hex: fmt.Sprintf("#%06x",
			0x101010+i*7000), Parts: 1})
	}
	c, err := s.Reach.Candidates(t.Context(), in, reach.Wish{})
	require.NoError(t, err)
	assert.Len(t, c.Lots, match.MaxLots)
	for _, p := range c.Parts {
		assert.Nil(t, p.LotID)
	}
}
