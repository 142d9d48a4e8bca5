package studio

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/colour"
	"fairtangle/core/fault"
	"fairtangle/store"
	"fairtangle/studio/floor"
	"fairtangle/studio/reach"
	"fairtangle/studio/recipe"
)

// A blend is saved, and gone back and on from, at random: its states are those of
// a list with a place in it, to the gram; also after the program was started again.
func TestStepsGoBackAndOn(t *testing.T) {
	dir := t.TempDir()
	db, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	s, err := New(t.Context(), db)
	require.NoError(t, err)
	m, err := s.Recipe.CreateMaking(t.Context(), recipe.MakingInput{Name: "m"})
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		ctx := t.Context()
		b, err := s.Recipe.CreateBlend(ctx, m.ID, recipe.BlendInput{Name: "b", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{bought}})
		require.NoError(t, err)
		states, at := []float64{60}, 0
		for range rapid.IntRange(1, 12).Draw(t, "moves") {
			switch way := rapid.SampledFrom([]string{"save", "save", "undo", "undo", "redo"}).Draw(t, "way"); way {
			case "save":
				in := b.Input()
				in.TotalG = float64(rapid.IntRange(1, 300).Draw(t, "total"))
				same := in.TotalG == b.TotalG
				b, err = s.Recipe.SaveBlend(ctx, b.ID, b.Version, in, "")
				require.NoError(t, err)
				if !same {
					states, at = append(states[:at+1], in.TotalG), at+1
				}
			default:
				to := map[string]int{"undo": at - 1, "redo": at + 1}[way]
				moved, err := s.Recipe.StepBlend(ctx, b.ID, b.Version, floor.Move{Way: way})
				if to < 0 || to >= len(states) {
					l, ok := fault.From(err)
					require.True(t, ok, "%v", err)
					assert.Contains(t, l[0].Message, "There is nothing to")
					continue
				}
				require.NoError(t, err)
				b, at = moved, to
			}
			assert.Equal(t, states[at], b.TotalG)
			list, err := s.Floor.StepsOf(ctx, "blends", b.ID, 99)
			require.NoError(t, err)
			assert.Len(t, list.Back, at)
			assert.Len(t, list.Ahead, len(states)-1-at)
		}
	})
	b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: "b", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{bought}})
	require.NoError(t, err)
	for _, total := range []float64{70, 80} {
		in := b.Input()
		in.TotalG = total
		b, err = s.Recipe.SaveBlend(t.Context(), b.ID, b.Version, in, "finished weight")
		require.NoError(t, err)
	}
	require.NoError(t, db.Close())
	db, err = store.Open(dir, time.Now)
	require.NoError(t, err)
	defer db.Close()
	s, err = New(t.Context(), db)
	require.NoError(t, err)
	list, err := s.Floor.StepsOf(t.Context(), "blends", b.ID, 9)
	require.NoError(t, err)
	require.Len(t, list.Back, 2)
	assert.Equal(t, "finished weight", list.Back[0].Said)
	_, err = s.Recipe.StepBlend(t.Context(), b.ID, b.Version-1, floor.Move{Way: "undo"})
	var stale store.Stale
	require.ErrorAs(t, err, &stale, "another window is told")
	first, err := s.Recipe.StepBlend(t.Context(), b.ID, b.Version, floor.Move{To: list.Back[1].ID})
	require.NoError(t, err)
	assert.Equal(t, 60.0, first.TotalG, "an earlier state is taken")
	again, err := s.Recipe.StepBlend(t.Context(), b.ID, first.Version, floor.Move{Way: "undo"})
	require.NoError(t, err)
	assert.Equal(t, 80.0, again.TotalG, "and that is a step of its own")
}

// Gradients, scraps and lay-ups go back by the same steps.
func TestEveryPieceHasSteps(t *testing.T) {
	s, lots, m := shelfOf(t)
	gr, err := s.Reach.CreateGradient(
		t.Context(),
		m.ID,
		reach.GradientInput{Name: "g", GradientPlan: reach.GradientPlan{Bridges: 3, MaxJump: 8, School: "even", Stops: []reach.Stop{
			{LotID: &lots[0].ID, Name: "white", Hex: "#ece6d8", Grams: 45}, {LotID: &lots[1].ID, Name: "navy", Hex: "#26324a", Grams: 45},
		}}},
	)
	require.NoError(t, err)
	in := gr.GradientInput
	in.Bridges = 5
	more, err := s.Reach.SaveGradient(t.Context(), gr.ID, gr.Version, in)
	require.NoError(t, err)
	back, err := s.Reach.StepGradient(t.Context(), gr.ID, more.Version, floor.Move{Way: "undo"})
	require.NoError(t, err)
	assert.Equal(t, 3, back.Bridges)
	on, err := s.Reach.StepGradient(t.Context(), gr.ID, back.Version, floor.Move{Way: "redo"})
	require.NoError(t, err)
	assert.Equal(t, 5, on.Bridges)

	s, _, _, l := laid(t)
	bare := l.LayupInput
	bare.Layers = bare.Layers[:1]
	cut, err := s.Laying.SaveLayup(t.Context(), l.ID, l.Version, bare, false)
	require.NoError(t, err)
	require.Len(t, cut.Layers, 1)
	was, err := s.Laying.StepLayup(t.Context(), l.ID, cut.Version, floor.Move{Way: "undo"})
	require.NoError(t, err)
	assert.Equal(t, len(l.Layers), len(was.Layers))
	for i, f := range l.Fibres {
		assert.InDelta(t, f.PlacedG, was.Fibres[i].PlacedG, 1e-9)
	}
}

// Typed one after the other, 60, 30 and 10 % are 60, 30 and 10 %: what was set
// by hand holds while the rest gives way.
func TestWhatWasSetHolds(t *testing.T) {
	s, _ := open(t)
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 8).Draw(t, "n")
		in := recipe.BlendInput{Name: "x", TotalG: 60, Passes: 2}
		want := make([]float64, n)
		var sum float64
		for i := range n {
			c := bought
			c.Name = string(rune('a' + i))
			in.Components = append(in.Components, c)
			want[i] = float64(rapid.IntRange(1, 100).Draw(t, "share"))
			sum += want[i]
		}
		b, err := s.Recipe.WorkOut(t.Context(), in)
		require.NoError(t, err)
		order := rapid.Permutation(indices(n)).Draw(t, "order")
		var settled []string
		for _, i := range order[:n-1] {
			key := b.Components[i].Key
			c := recipe.Change{Verb: "share", Key: key, Value: want[i] / sum, Settled: settled}
			if rapid.Bool().Draw(t, "grams") {
				c.Verb, c.Value = "grams", want[i]/sum*in.TotalG
			}
			b, err = s.Recipe.Apply(t.Context(), in, c)
			require.NoError(t, err)
			in, settled = b.Input(), append(settled, key)
		}
		for i := range want {
			assert.InDelta(t, want[i]/sum, b.Components[i].Share, 1e-9)
			assert.False(t, b.Components[i].Locked)
		}
	})
	// Where there is no room, what was set first gives way, and nothing is refused.
	in := recipe.BlendInput{Name: "x", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{bought, bought, bought}}
	b, err := s.Recipe.WorkOut(t.Context(), in)
	require.NoError(t, err)
	var settled []string
	for i, v := range []float64{0.6, 0.3, 0.3} {
		b, err = s.Recipe.Apply(t.Context(), in, recipe.Change{Verb: "share", Key: b.Components[i].Key, Value: v, Settled: settled})
		require.NoError(t, err)
		in, settled = b.Input(), append(settled, b.Components[i].Key)
	}
	assert.InDeltaSlice(t, []float64{0.4, 0.3, 0.3}, []float64{b.Components[0].Share, b.Components[1].Share, b.Components[2].Share}, 1e-9)
}

func indices(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i
	}
	return out
}

// A key names the fibre, whatever has moved since; one that has gone is said.
func TestChangesByKeyFindTheirFibre(t *testing.T) {
	s, lots, m := shelfOf(t)
	b, err := s.Recipe.CreateBlend(t.Context(), m.ID, recipe.BlendInput{Name: "b", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{
		{LotID: &lots[0].ID, Parts: 1}, {LotID: &lots[1].ID, Parts: 1}, {LotID: &lots[2].ID, Parts: 1},
	}})
	require.NoError(t, err)
	teal := b.Components[2].Key
	gone, err := s.Recipe.Apply(t.Context(), b.Input(), recipe.Change{Verb: "remove", Key: b.Components[0].Key})
	require.NoError(t, err)
	set, err := s.Recipe.Apply(t.Context(), gone.Input(), recipe.Change{Verb: "share", Key: teal, Value: 0.7})
	require.NoError(t, err)
	assert.InDelta(t, 0.7, set.Components[1].Share, 1e-9)
	assert.Equal(t, teal, set.Components[1].Key)
	_, err = s.Recipe.Apply(t.Context(), gone.Input(), recipe.Change{Verb: "share", Key: b.Components[0].Key, Value: 0.7})
	l, ok := fault.From(err)
	require.True(t, ok)
	assert.Contains(t, l[0].Message, "no longer in the blend")
}

// The three ways to dull a blend differ, and none makes it brighter.
func TestWaysToDullDiffer(t *testing.T) {
	s, lots, _ := shelfOf(t)
	in := recipe.BlendInput{
		Name:       "b",
		TotalG:     60,
		Passes:     2,
		Components: []recipe.BlendComponent{{LotID: &lots[3].ID, Parts: 2}, {LotID: &lots[2].ID, Parts: 1}},
	}
	b, err := s.Recipe.WorkOut(t.Context(), in)
	require.NoError(t, err)
	answer, err := s.Reach.Dull(t.Context(), in, reach.DullInput{Drop: 0.4})
	require.NoError(t, err)
	seen := map[string]bool{}
	for _, w := range answer.Ways {
		if w.Component == nil {
			continue
		}
		c, err := colour.ParseHex(w.Hex)
		require.NoError(t, err)
		assert.Less(t, c.Lab().Chroma(), b.Even.Lab().Chroma(), w.Way)
		w.Component.Parts = 1
		with, err := s.Recipe.WorkOut(t.Context(), recipe.BlendInput{Name: "b", TotalG: 60, Passes: 2, Components: []recipe.BlendComponent{*w.Component}})
		require.NoError(t, err)
		key := with.Components[0].Key
		assert.False(t, seen[key], "%s puts in what another way does", w.Way)
		seen[key] = true
	}
	assert.GreaterOrEqual(t, len(seen), 2)
}
