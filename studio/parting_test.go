package studio

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/unit"
	"fairtangle/studio/shelf"
)

// Whatever is parted and put together, no gram comes or goes but what is said to be missing; each is one deed that is taken back as
// a whole, and pressed twice it is done once.
func TestPartingKeepsEveryGram(t *testing.T) {
	s, _, _ := shelfOf(t)
	ctx := t.Context()
	n := 0
	rapid.Check(t, func(t *rapid.T) {
		n++
		mg := func(label string, most int) unit.Milligrams {
			return unit.Milligrams(rapid.IntRange(1, most).Draw(t, label))
		}
		grams := func(v unit.Milligrams) float64 { return float64(v.Grams()) }
		had := mg("had", 200_000) + 50_000
		lots, err := s.Shelf.CreateLots(ctx, []shelf.NewLot{{LotInput: shelf.LotInput{
			Name: "the top", Kind: "corriedale", Preparation: "combed_top", Lies: "along",
			Colours: []shelf.LotColour{{Hex: "#33586b", Share: 2}, {Hex: "#d6b36a", Share: 1}},
		}, Grams: grams(had)}}, "")
		require.NoError(t, err)
		lot := lots[0]
		taken := mg("taken", int(had))
		left, in := taken, shelf.PartingInput{TakenG: grams(taken), Why: "dust", Key: fmt.Sprint("parting ", n)}
		for i := 0; left > 0 && i < rapid.IntRange(1, 6).Draw(t, "parts"); i++ {
			v := mg("part", int(left))
			in.Parts, left = append(in.Parts, shelf.PartInput{Name: fmt.Sprint("part ", i), Grams: grams(v), Colours: []int{i % 2}}), left-v
		}
		p, err := s.Shelf.Part(ctx, lot.ID, in)
		require.NoError(t, err)
		again, err := s.Shelf.Part(ctx, lot.ID, in)
		require.NoError(t, err)
		assert.Equal(t, p, again, "pressed twice")
		assert.InDelta(t, grams(left), p.MissingG, 1e-9)
		sum := func() (mg unit.Milligrams) {
			for _, id := range append([]int64{lot.ID}, partIDs(p)...) {
				if l, err := s.Shelf.Lot(ctx, id); err == nil {
					mg += unit.Grams(l.Grams).Milligrams()
				}
			}
			return mg
		}
		assert.Equal(t, had-left, sum())
		first, err := s.Shelf.Lot(ctx, p.Parts[0].ID)
		require.NoError(t, err)
		assert.Equal(t, "#33586b", first.MeanHex)
		if len(p.Parts) > 1 && rapid.Bool().Draw(t, "together") {
			both, err := s.Shelf.PutTogether(ctx, first.ID, first.Version, partIDs(p)[1:], "")
			require.NoError(t, err)
			assert.Equal(t, had-left, sum())
			_, err = s.Shelf.Unpart(ctx, lot.ID, p.ID)
			assert.ErrorContains(t, err, "take back what was done with it first")
			_, err = s.Shelf.Unpart(ctx, first.ID, both.ID)
			require.NoError(t, err)
			now, err := s.Shelf.Lot(ctx, first.ID)
			require.NoError(t, err)
			assert.Equal(t, first.Colours, now.Colours)
			assert.InDelta(t, first.Grams, now.Grams, 1e-9)
		}
		_, err = s.Shelf.Unpart(ctx, lot.ID, p.ID)
		require.NoError(t, err)
		assert.Equal(t, had, sum(), "all of it is back")
		_, err = s.Shelf.Unpart(ctx, lot.ID, p.ID)
		assert.ErrorContains(t, err, "already")
		_, err = s.Shelf.Lot(ctx, first.ID)
		assert.Error(t, err, "the parts lie in the bin")
	})
	drift, err := s.Shelf.Store.Drift(ctx)
	require.NoError(t, err)
	assert.Empty(t, drift)
}

func partIDs(p shelf.Parting) (out []int64) {
	for _, v := range p.Parts {
		out = append(out, v.ID)
	}
	return out
}

// What can not be parted or put together is refused at its field, and nothing is done.
func TestWhatCanNotBeParted(t *testing.T) {
	s, _, _ := shelfOf(t)
	ctx := t.Context()
	lots, err := s.Shelf.CreateLots(ctx, []shelf.NewLot{
		{LotInput: shelf.LotInput{Name: "grey", Kind: "corriedale", Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: "#808080"}}}, Grams: 20},
		{LotInput: shelf.LotInput{Name: "silk", Kind: "silk_tussah", Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: "#c0b090"}}}, Grams: 20},
	}, "")
	require.NoError(t, err)
	part := func(name string, g float64) shelf.PartInput { return shelf.PartInput{Name: name, Grams: g} }
	for want, in := range map[string]shelf.PartingInput{
		"parts:": {}, "taken_g: Only 20": {TakenG: 21, Parts: []shelf.PartInput{part("a", 21)}},
		"parts: The parts weigh 12": {TakenG: 10, Parts: []shelf.PartInput{part("a", 6), part("b", 6)}},
		"why: 2":                    {TakenG: 10, Parts: []shelf.PartInput{part("a", 8)}}, "parts[0].name:": {Parts: []shelf.PartInput{part("", 8)}},
		"parts[0].grams:": {Parts: []shelf.PartInput{part("a", 0)}}, "parts[0].colours:": {Parts: []shelf.PartInput{{Name: "a", Grams: 1, Colours: []int{3}}}},
	} {
		_, err := s.Shelf.Part(ctx, lots[0].ID, in)
		assert.ErrorContains(t, err, want)
	}
	for _, other := range []int64{lots[0].ID, lots[1].ID, 9999} {
		_, err := s.Shelf.PutTogether(ctx, lots[0].ID, lots[0].Version, []int64{other}, "")
		assert.ErrorContains(t, err, "lots:")
	}
	now, err := s.Shelf.Lot(ctx, lots[0].ID)
	require.NoError(t, err)
	assert.InDelta(t, 20, now.Grams, 1e-9)
	for _, by := range []string{"coat", "hand"} {
		var sum float64
		list := now.PartsBy(by, 3)
		for _, p := range list {
			sum += p.Grams
		}
		assert.InDelta(t, 20, sum, 1e-9, by)
	}
}
