package web

import (
	"context"
	"database/sql"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"sync"
	"time"

	"github.com/stretchr/testify/require"

	"fairtangle/demo"
	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/studio/laying"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
	"fairtangle/studio/yarns"
)

// worlds are the files of the worlds in which walks begin, made once.
var worlds = sync.OnceValue(func() map[string][]byte {
	out := map[string][]byte{}
	for name, fill := range map[string]func(context.Context, *studio.Studio) error{
		"empty": func(context.Context, *studio.Studio) error { return nil }, "sample": demo.Fill, "odd": oddWorld,
	} {
		dir, err := os.MkdirTemp("", "world-*")
		if err != nil {
			panic(err)
		}
		db, err := store.Open(dir, time.Now)
		if err != nil {
			panic(err)
		}
		st, err := studio.New(context.Background(), db)
		if err == nil {
			err = fill(context.Background(), st)
		}
		if err == nil {
			err = db.Close()
		}
		if err == nil {
			out[name], err = os.ReadFile(filepath.Join(dir, store.FileName))
		}
		if err != nil {
			panic(fmt.Sprintf("world %s: %v", name, err))
		}
		_ = os.RemoveAll(dir)
	}
	return out
})

// oddWorld is the sample world after what makers do to each other's records: fixtures of every
// state that a page may meet.
func oddWorld(ctx context.Context, s *studio.Studio) error {
	if err := demo.Fill(ctx, s); err != nil {
		return err
	}
	lots, err := s.Shelf.CreateLots(ctx, []shelf.NewLot{{Grams: 0, LotInput: shelf.LotInput{
		Name: "an empty bag", Kind: "romney", Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: "#808080", Share: 1, Source: "picker"}},
	}}}, "")
	if err != nil {
		return err
	}
	m, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "nothing yet"})
	if err != nil {
		return err
	}
	if _, err := s.Yarns.StartNeed(ctx, m.ID, yarns.NeedPlan{What: "a hat", Length: 100, Grist: 300}); err != nil {
		return err
	}
	other, err := s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "half done"})
	if err != nil {
		return err
	}
	if _, err := s.Yarns.StartNeed(ctx, other.ID, yarns.NeedPlan{What: "socks", Way: "batts", Count: 3, Each: 40}); err != nil {
		return err
	}
	part := func(id int64) recipe.BlendComponent { return recipe.BlendComponent{LotID: &id, Parts: 1} }
	blend := func(name string, passes int, parts ...recipe.BlendComponent) recipe.Blend {
		b, e := s.Recipe.CreateBlend(ctx, other.ID, recipe.BlendInput{Name: name, TotalG: 60, Passes: passes, Components: parts})
		if err == nil {
			err = e
		}
		return b
	}
	blend("no fibre", 2)
	blend("never carded", 0, part(1), part(2))
	blend("of an empty bag", 2, part(lots[0].ID), part(3))
	emptied := blend("emptied", 2, part(4), part(5))
	binned := blend("of a lot in the bin", 2, part(6), part(7))
	if err != nil {
		return err
	}
	for _, b := range []recipe.Blend{emptied, binned} {
		l, err := s.Laying.BuildOnto(ctx, b.ID, 1, 0, "", laying.BuildInput{Builder: "sandwich"})
		if err != nil {
			return err
		}
		in, err := s.Scale.WeighoutSuggestion(ctx, b)
		if err != nil {
			return err
		}
		in.LayupID = &l.ID
		if _, err := s.Scale.CreateWeighout(ctx, b.ID, in); err != nil {
			return err
		}
	}
	in := emptied.Input()
	in.Components = nil
	if _, err := s.Recipe.SaveBlend(ctx, emptied.ID, emptied.Version, in, ""); err != nil {
		return err
	}
	for _, v := range []struct {
		table string
		id    int64
	}{{"lots", 6}, {"kinds", 1}, {"equipment", 2}, {"blends", 2}, {"weighouts", 1}, {"layups", 2}} {
		if err := s.Floor.Discard(ctx, v.table, v.id); err != nil {
			return fmt.Errorf("%s %d: %w", v.table, v.id, err)
		}
	}
	return nil
}

// openWorld is the program in a directory with a world in it, and its file to be looked at, or
// worked on by hand, beside it.
func openWorld(t interface {
	require.TestingT
	Cleanup(func())
}, dir, world string, log *slog.Logger) (client, *sql.DB) {
	file := filepath.Join(dir, store.FileName)
	require.NoError(t, os.WriteFile(file, worlds()[world], 0o600))
	st, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { st.Close() })
	s, err := studio.New(context.Background(), st)
	require.NoError(t, err)
	h, err := New(s, Options{Log: log, Hosts: []string{"example.com"}})
	require.NoError(t, err)
	db, err := sql.Open("sqlite", "file:"+file+"?_pragma=busy_timeout(5000)&_pragma=ignore_check_constraints(1)")
	require.NoError(t, err)
	t.Cleanup(func() { db.Close() })
	return client{h: h, s: s}, db
}
