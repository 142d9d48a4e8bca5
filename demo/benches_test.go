package demo

import (
	"context"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/store"
	"fairtangle/store/benches"
	"fairtangle/store/copies"
	"fairtangle/studio"
	"fairtangle/studio/carder"
	"fairtangle/studio/recipe"
	"fairtangle/studio/scale"
	"fairtangle/studio/shelf"
)

// bench is a program with its data, and what was done there.
type bench struct {
	t    require.TestingT
	st   *studio.Studio
	s    *store.Store
	n    int
	name string
}

func (b *bench) ok(err error) { require.NoError(b.t, err) }

func openBench(t require.TestingT, dir, name string) *bench {
	s, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	st, err := studio.New(context.Background(), s)
	require.NoError(t, err)
	return &bench{t: t, st: st, s: s, name: name}
}

// filled is a directory with the sample world.
var filled = sync.OnceValue(func() string {
	dir, err := os.MkdirTemp("", "fairtangle-benches-")
	if err != nil {
		panic(err)
	}
	s := must(store.Open(dir, time.Now))
	if err := Fill(context.Background(), must(studio.New(context.Background(), s))); err != nil {
		panic(err)
	}
	s.Close()
	return dir
})

func TestMain(m *testing.M) {
	code := m.Run()
	_ = os.RemoveAll(filled())
	os.Exit(code)
}

// twoBenches are two programs, the second of which began with a copy of the first.
func twoBenches(t require.TestingT, dir string) (a, b *bench) {
	require.NoError(t, os.CopyFS(filepath.Join(dir, "a"), os.DirFS(filled())))
	a = openBench(t, filepath.Join(dir, "a"), "laptop")
	c, err := copies.Make(context.Background(), a.s.Dir(), filepath.Join(dir, "copies"), time.Now())
	a.ok(err)
	_, err = copies.Restore(context.Background(), c.Path, filepath.Join(dir, "b"), time.Now())
	a.ok(err)
	return a, openBench(t, filepath.Join(dir, "b"), "tablet")
}

// weight is what lies of a lot, in milligrams.
func (b *bench) weight(lot int64) int64 {
	l, err := b.st.Shelf.Lot(context.Background(), lot)
	b.ok(err)
	return int64(l.Grams*1000 + 0.5)
}

func (b *bench) move(lot int64, grams float64, reason string) {
	_, err := b.st.Shelf.Move(context.Background(), lot, shelf.MoveInput{Grams: grams, Reason: reason})
	b.ok(err)
}

// copyOf is a copy of a bench as it is now.
func (b *bench) copyOf(dir string) copies.Copy {
	b.n++
	c, err := copies.Make(context.Background(), b.s.Dir(), filepath.Join(dir, fmt.Sprintf("%s-%d", b.name, b.n)), time.Now())
	b.ok(err)
	return c
}

// takes takes over all that another bench has, and looks over what is here then.
func (b *bench) takes(dir string, c copies.Copy, choose func(benches.Thing) benches.Choice) benches.Taken {
	list, err := benches.Compare(context.Background(), b.s, c)
	b.ok(err)
	chosen := map[string]benches.Choice{}
	for _, v := range list {
		chosen[v.Key()] = choose(v)
	}
	taken, err := benches.TakeOver(context.Background(), b.s, c, chosen)
	b.ok(err)
	r, err := copies.Check(context.Background(), b.copyOf(dir).Path)
	b.ok(err)
	assert.Empty(b.t, r.Wrong)
	return taken
}

func all(v benches.Thing) benches.Choice { return v.Can[len(v.Can)-1] }

// What a tablet did while it was apart comes to the laptop, thing by thing, and the laptop's own work stays.
func TestTwoBenchesComeTogether(t *testing.T) {
	dir := t.TempDir()
	a, b := twoBenches(t, dir)
	defer a.s.Close()
	defer b.s.Close()
	ctx := t.Context()
	assert.Empty(t, must(benches.Compare(ctx, a.s, b.copyOf(dir))), "nothing was done yet")

	// On the tablet: a lot, a making of it, a blend of it weighed out, and a change of a blend that is on both.
	lots, err := b.st.Shelf.CreateLots(ctx, []shelf.NewLot{{Grams: 120, LotInput: shelf.LotInput{Name: "tide-line brown Romney", Kind: "romney", Preparation: "carded_sliver",
		Colours: []shelf.LotColour{{Hex: "#6b5a48", Share: 1, Source: "picker"}}}}}, "")
	require.NoError(t, err)
	making, err := b.st.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "Wrack"})
	require.NoError(t, err)
	one := int64(1)
	blend, err := b.st.Recipe.CreateBlend(ctx, making.ID, recipe.BlendInput{Name: "wrack brown", TotalG: 40, Passes: 2, Components: []recipe.BlendComponent{
		{LotID: &lots[0].ID, Parts: 3}, {LotID: &one, Parts: 1}}})
	require.NoError(t, err)
	wo, err := b.st.Scale.CreateWeighout(ctx, blend.ID, scale.WeighoutInput{Units: 2, FinishedG: 40, Passes: 2, StepG: 0.1})
	require.NoError(t, err)
	_, err = b.st.Scale.Weigh(ctx, wo.ID, scale.Reading{Key: "first-weighing", Version: wo.Version, Unit: wo.Next.Unit, Component: wo.Next.Component, Grams: wo.Units[wo.Next.Unit].Cells[wo.Next.Component].TargetG})
	require.NoError(t, err)
	blends, err := b.st.Recipe.BlendsOf(ctx, 1)
	require.NoError(t, err)
	_, err = b.st.Recipe.ChangeBlend(ctx, blends[0].ID, blends[0].Version, recipe.Change{Verb: "grams", At: 0, Value: 11})
	require.NoError(t, err)
	// On the laptop, meanwhile: another lot under the number that the tablet's has, and fibre of lot 1.
	mine, err := a.st.Shelf.CreateLots(ctx, []shelf.NewLot{{Grams: 50, LotInput: shelf.LotInput{Name: "gull white", Kind: "merino", Preparation: "combed_top",
		Colours: []shelf.LotColour{{Hex: "#eeeeea", Share: 1, Source: "picker"}}}}}, "")
	require.NoError(t, err)
	require.Equal(t, lots[0].ID, mine[0].ID)
	a.move(1, 20, "take-out")

	list, err := benches.Compare(ctx, a.s, b.copyOf(dir))
	require.NoError(t, err)
	states := map[string]benches.State{}
	for _, v := range list {
		states[v.Word+" "+v.Name] = v.State
	}
	assert.Equal(t, map[string]benches.State{"lot tide-line brown Romney": benches.New, "making Wrack": benches.New, "blend wrack brown": benches.New,
		"weigh-out " + wo.Name: benches.New, "blend " + blends[0].Name: benches.Newer}, states)

	before := a.weight(1)
	a.takes(dir, b.copyOf(dir), all)
	assert.Equal(t, before, a.weight(1))
	shown, err := a.st.Shelf.Shelf(ctx, shelf.LotFilter{Search: "tide-line"})
	require.NoError(t, err)
	require.Len(t, shown.Lots, 1)
	assert.NotEqual(t, mine[0].ID, shown.Lots[0].ID)
	assert.Equal(t, b.weight(lots[0].ID), a.weight(shown.Lots[0].ID))
	assert.Empty(t, must(benches.Compare(ctx, a.s, b.copyOf(dir))), "all of it is here")
}

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}

// Two that weighed more of a lot while apart than there was: both weighings stand, and the lot says that more was there.
func TestBothWeighingsStand(t *testing.T) {
	dir := t.TempDir()
	a, b := twoBenches(t, dir)
	defer a.s.Close()
	defer b.s.Close()
	all1 := a.weight(1)
	a.move(1, float64(all1)/1000-10, "take-out")
	b.move(1, float64(all1)/1000-30, "take-out")
	taken := a.takes(dir, b.copyOf(dir), all)
	require.Len(t, taken.Found, 1)
	assert.EqualValues(t, all1-10_000-30_000, taken.Found[0].Mg)
	assert.Zero(t, a.weight(1))
	// The tablet takes over from the laptop: it comes to the same.
	taken = b.takes(dir, a.copyOf(dir), all)
	assert.Empty(t, taken.Found)
	assert.Zero(t, b.weight(1))
	assert.Empty(t, must(benches.Compare(t.Context(), a.s, b.copyOf(dir))))
}

// does does something of chance on a bench.
func (b *bench) does(r *rapid.T) {
	ctx := context.Background()
	id := rapid.Int64Range(1, 12).Draw(r, "of")
	switch rapid.SampledFrom([]string{"move", "lot", "rename", "blend", "grams", "weigh", "undo", "part", "bin", "entry"}).Draw(r, "deed") {
	case "move":
		if have := b.weight(id); have > 2000 {
			b.move(id, float64(have/2000), "take-out")
		}
	case "lot":
		_, err := b.st.Shelf.CreateLots(ctx, []shelf.NewLot{{Grams: 30, LotInput: shelf.LotInput{Name: b.name + " lot", Kind: "romney",
			Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: "#6b5a48", Share: 1, Source: "picker"}}}}}, "")
		b.ok(err)
	case "rename":
		l, err := b.st.Shelf.Lot(ctx, id)
		b.ok(err)
		l.Name = b.name + " named it"
		_, err = b.st.Shelf.UpdateLot(ctx, id, l.Version, l.LotInput)
		b.ok(err)
	case "blend":
		_, err := b.st.Recipe.CreateBlend(ctx, 1, recipe.BlendInput{Name: b.name, TotalG: 20, Passes: 1, Components: []recipe.BlendComponent{{LotID: &id, Parts: 1}}})
		b.ok(err)
	case "grams":
		if v, err := b.st.Recipe.Blend(ctx, id); err == nil && len(v.Components) > 0 {
			_, _ = b.st.Recipe.ChangeBlend(ctx, id, v.Version, recipe.Change{Verb: "parts", At: 0, Value: float64(len(b.name))})
		}
	case "weigh":
		if w, err := b.st.Scale.Weighout(ctx, 1); err == nil && w.Next != nil {
			_, err := b.st.Scale.Weigh(ctx, 1, scale.Reading{Key: fmt.Sprint(b.name, "-weighing-", w.Version), Version: w.Version, Unit: w.Next.Unit,
				Component: w.Next.Component, Grams: w.Units[w.Next.Unit].Cells[w.Next.Component].TargetG, Policy: scale.AsIs})
			b.ok(err)
		}
	case "undo":
		if w, err := b.st.Scale.Weighout(ctx, 1); err == nil && w.CanUndo {
			_, err := b.st.Scale.UndoWeighing(ctx, 1, w.Version)
			b.ok(err)
		}
	case "part":
		if have := b.weight(id); have > 4000 {
			_, err := b.st.Shelf.Part(ctx, id, shelf.PartingInput{TakenG: 2, Parts: []shelf.PartInput{{Name: "half", Grams: 2}}})
			b.ok(err)
		}
	case "bin":
		_ = b.st.Discard(ctx, "blends", id)
	case "entry":
		_, _ = b.st.Carder.Tell(ctx, 1, carder.EntryInput{Key: fmt.Sprint(b.name, id, time.Now()), What: "note", Unit: 1, Pass: 1, Text: b.name})
	}
}

// Whatever was done on both: what is taken over is whole, no gram is booked twice or lost, and what was taken over is not newer there any
// more. In the end both have the same weights.
func TestWhateverWasDoneApart(t *testing.T) {
	dir := t.TempDir()
	checks := flag.Lookup("rapid.checks")
	if checks.Value.String() == checks.DefValue { // each opens eight programs
		require.NoError(t, flag.Set("rapid.checks", "12"))
		t.Cleanup(func() { _ = flag.Set("rapid.checks", checks.DefValue) })
	}
	rapid.Check(t, func(r *rapid.T) {
		at, err := os.MkdirTemp(dir, "")
		require.NoError(r, err)
		a, b := twoBenches(r, at)
		defer a.s.Close()
		defer b.s.Close()
		for range rapid.IntRange(1, 3).Draw(r, "times") {
			for range rapid.IntRange(0, 6).Draw(r, "deeds") {
				rapid.SampledFrom([]*bench{a, b}).Draw(r, "bench").does(r)
			}
			c := b.copyOf(at)
			a.takes(at, c, all)
			left, err := benches.Compare(r.Context(), a.s, c)
			require.NoError(r, err)
			require.Empty(r, left)
		}
		b.takes(at, a.copyOf(at), all)
		for lot := range int64(12) {
			assert.Equal(r, a.weight(lot+1), b.weight(lot+1))
		}
		require.NoError(r, os.RemoveAll(at))
	})
}
