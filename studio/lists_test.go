package studio

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/layup"
	"fairtangle/studio/carder"
	"fairtangle/studio/laying"
	"fairtangle/studio/notebook"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
)

// Lists come in pages that hold everything once, in one order.
func TestPagesHoldEverythingOnce(t *testing.T) {
	s, _, _ := shelfOf(t)
	ctx := t.Context()
	for i := range 7 {
		m, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: fmt.Sprintf("throw %d", i), Note: []string{"for a friend", ""}[i%2]})
		require.NoError(t, err)
		_, err = s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: "grey", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{
			{Name: "top", Kind: "romney", Preparation: "combed_top", Hex: fmt.Sprintf("#%02x4080", 20+30*((i*3)%7)), Parts: 1},
		}})
		require.NoError(t, err)
		_, err = s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: "nothing in it", TotalG: 60, Passes: 2})
		require.NoError(t, err)
		_, err = s.Reach.CreateBag(ctx, reach.BagInput{Name: fmt.Sprintf("bag %d", i)})
		require.NoError(t, err)
	}
	for what, list := range map[string]func(offset, limit int) (ids []int64, all int64, err error){
		"makings": func(offset, limit int) (ids []int64, all int64, err error) {
			rows, all, err := s.Recipe.MakingsPage(ctx, false, "throw", offset, limit)
			for _, r := range rows {
				ids = append(ids, r.ID)
			}
			return ids, all, err
		},
		"swatches": func(offset, limit int) (ids []int64, all int64, err error) {
			rows, all, err := s.Notebook.Swatches(ctx, offset, limit)
			for _, r := range rows {
				ids = append(ids, r.ID)
			}
			return ids, all, err
		},
		"bags": func(offset, limit int) (ids []int64, all int64, err error) {
			rows, all, err := s.Reach.Bags(ctx, offset, limit)
			for _, r := range rows {
				ids = append(ids, r.ID)
			}
			return ids, all, err
		},
	} {
		whole, all, err := list(0, 100)
		require.NoError(t, err, what)
		assert.EqualValues(t, 7, all, what)
		require.Len(t, whole, 7, what)
		var parts []int64
		for offset := 0; offset < 9; offset += 3 {
			ids, all, err := list(offset, 3)
			require.NoError(t, err, what)
			assert.EqualValues(t, 7, all, what)
			parts = append(parts, ids...)
		}
		assert.Equal(t, whole, parts, what)
	}
	found, all, err := s.Recipe.MakingsPage(ctx, false, "friend throw", 0, 10)
	require.NoError(t, err)
	assert.EqualValues(t, 4, all)
	assert.Len(t, found, 4)
	_, all, err = s.Recipe.MakingsPage(ctx, false, "100%", 0, 10)
	require.NoError(t, err)
	assert.Zero(t, all, "signs of patterns are letters")
}

// Blends that were saved before swatches had an order get their place when the program starts, the
// same that saving gives them.
func TestSwatchesAreArranged(t *testing.T) {
	s, _, m := shelfOf(t)
	ctx := t.Context()
	for _, hex := range []string{"#c03020", "#2060a0", "#e8e0d0", "#308040"} {
		_, err := s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: hex, TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{
			{Name: "top", Kind: "romney", Preparation: "combed_top", Hex: hex, Parts: 1},
		}})
		require.NoError(t, err)
	}
	order := func() (names []string) {
		list, _, err := s.Notebook.Swatches(ctx, 0, 100)
		require.NoError(t, err)
		for _, b := range list {
			names = append(names, b.Name)
		}
		return names
	}
	saved := order()
	require.Len(t, saved, 4)
	rows, err := s.Store.BlendsOf(ctx, []int64{m.ID})
	require.NoError(t, err)
	none := map[int64]*float64{}
	for _, r := range rows {
		none[r.ID] = nil
	}
	require.NoError(t, s.Store.Arrange(ctx, none))
	assert.Empty(t, order())
	require.NoError(t, s.Notebook.Arrange(ctx))
	assert.Equal(t, saved, order())
}

// A weigh-out waits for its drum until all its units have come off; which wait is the same page by page.
func TestWhatWaitsComesInPages(t *testing.T) {
	s, _, m := shelfOf(t)
	ctx := t.Context()
	drum := drumOf(t, s)
	var made []scale.Weighout
	for i := range 5 {
		b, err := s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: fmt.Sprint("blend ", i), TotalG: 40, Passes: 2, Components: []recipe.BlendComponent{
			{Name: "top", Kind: "romney", Preparation: "combed_top", Hex: "#808080", Parts: 1, OwnG: 500},
		}})
		require.NoError(t, err)
		l, err := s.Laying.BuildOnto(ctx, b.ID, drum, 1, "", laying.BuildInput{Builder: layup.Sandwich})
		require.NoError(t, err)
		w, err := s.Scale.CreateWeighout(ctx, b.ID, scale.WeighoutInput{Units: 1, FinishedG: 40, Passes: 2, StepG: 0.1, LayupID: &l.ID})
		require.NoError(t, err)
		made = append(made, weighAll(t, s, w))
	}
	whole, all, err := s.Notebook.Waiting(ctx, drum, 0, 100)
	require.NoError(t, err)
	require.EqualValues(t, 5, all)
	var parts []notebook.DayJob
	for offset := 0; offset < 6; offset += 2 {
		page, _, err := s.Notebook.Waiting(ctx, drum, offset, 2)
		require.NoError(t, err)
		parts = append(parts, page...)
	}
	assert.Equal(t, whole, parts)
	beside, _, err := s.Notebook.Waiting(ctx, drum, 0, 1, whole[4].WeighoutID, whole[0].WeighoutID)
	require.NoError(t, err)
	assert.Equal(t, []notebook.DayJob{whole[0], whole[4]}, beside, "what is named stands beside the page, once")

	w := made[2]
	run, err := s.Carder.StartRun(ctx, w.ID, carder.StartRun{})
	require.NoError(t, err)
	off, err := s.Carder.Tell(ctx, run.ID, carder.EntryInput{Key: "off-at-the-last", What: "off", Pass: 2, Grams: &w.ExpectedG})
	require.NoError(t, err)
	_, all, err = s.Notebook.Waiting(ctx, drum, 0, 100)
	require.NoError(t, err)
	assert.EqualValues(t, 4, all, "what has come off waits no more")
	_, err = s.Carder.Reverse(ctx, run.ID, off.Entries[len(off.Entries)-1].ID, "taken-back-again")
	require.NoError(t, err)
	_, all, err = s.Notebook.Waiting(ctx, drum, 0, 100)
	require.NoError(t, err)
	assert.EqualValues(t, 5, all, "taken back, it waits again")
}
