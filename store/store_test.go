package store

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/core/unit"
)

func open(t testing.TB) *Store {
	s, err := Open(t.TempDir(), time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	return s
}

func lot(t require.TestingT, s *Store, name string, mg unit.Milligrams) Lot {
	lots, err := s.CreateLots(context.Background(), []Lot{{Name: name, Kind: "romney", Preparation: "combed_top",
		Colours: []Colour{{Hex: "#5b7d96", Share: 1}}, GramsMg: mg}}, "", "")
	require.NoError(t, err)
	return lots[0]
}

// Ten at once take 3 g out of 20 g: six succeed, four are told, 2 g stay.
func TestStockNeverBelowZeroAtOnce(t *testing.T) {
	s, ctx := open(t), context.Background()
	l := lot(t, s, "grey-blue", 20_000)
	var taken, short atomic.Int32
	var wg sync.WaitGroup
	for range 10 {
		wg.Go(func() {
			_, err := s.AddMovement(ctx, Movement{LotID: l.ID, DeltaMg: -3000, Reason: TakeOut}, "")
			var sh Short
			switch {
			case err == nil:
				taken.Add(1)
			case errors.As(err, &sh):
				short.Add(1)
			default:
				t.Error(err)
			}
		})
	}
	wg.Wait()
	assert.Equal(t, int32(6), taken.Load())
	assert.Equal(t, int32(4), short.Load())
	got, err := s.Lot(ctx, l.ID)
	require.NoError(t, err)
	assert.Equal(t, unit.Milligrams(2000), got.GramsMg)
	drift, err := s.Drift(ctx)
	require.NoError(t, err)
	assert.Empty(t, drift)
}

func TestLedgerIsOnlyAddedTo(t *testing.T) {
	s := open(t)
	lot(t, s, "grey-blue", 5000)
	assert.ErrorContains(t, s.write.Exec("UPDATE movements SET delta_mg = 1").Error, "only added to")
	assert.ErrorContains(t, s.write.Exec("DELETE FROM movements").Error, "only added to")
	assert.Error(t, s.write.Exec("UPDATE lots SET grams_mg = -1").Error)
}

// Any run of movements, recounts and undos keeps the balance the sum of the
// ledger and never below zero.
func TestLedgerLaws(t *testing.T) {
	s, ctx := open(t), context.Background()
	rapid.Check(t, func(rt *rapid.T) {
		l := lot(t, s, "x", 0)
		want := unit.Milligrams(0)
		var last Movement
		for range rapid.IntRange(1, 12).Draw(rt, "steps") {
			amount := unit.Milligrams(rapid.IntRange(0, 9000).Draw(rt, "mg"))
			switch rapid.IntRange(0, 3).Draw(rt, "what") {
			case 0:
				m, err := s.AddMovement(ctx, Movement{LotID: l.ID, DeltaMg: amount, Reason: WeighIn}, "")
				require.NoError(rt, err)
				want, last = want+amount, m
			case 1:
				m, err := s.AddMovement(ctx, Movement{LotID: l.ID, DeltaMg: -amount, Reason: TakeOut}, "")
				if amount > want {
					require.Error(rt, err)
					continue
				}
				require.NoError(rt, err)
				want, last = want-amount, m
			case 2:
				m, err := s.CountTo(ctx, l.ID, amount, "", "")
				require.NoError(rt, err)
				want, last = amount, m
			case 3:
				if m, err := s.UndoMovement(ctx, l.ID, last.ID); err == nil {
					want = m.BalanceMg
				}
			}
		}
		got, err := s.Lot(ctx, l.ID)
		require.NoError(rt, err)
		assert.Equal(rt, want, got.GramsMg)
		assert.GreaterOrEqual(rt, int64(got.GramsMg), int64(0))
	})
	drift, err := s.Drift(ctx)
	require.NoError(t, err)
	assert.Empty(t, drift)
}

func TestStaleVersionIsRefusedWithTheCurrentRow(t *testing.T) {
	s, ctx := open(t), context.Background()
	m, err := s.CreateMaking(ctx, Making{Name: "Throw"})
	require.NoError(t, err)
	first, second := m, m
	first.Name, second.Name = "Throw, first", "Throw, second"
	_, err = s.UpdateMaking(ctx, first)
	require.NoError(t, err)
	_, err = s.UpdateMaking(ctx, second)
	var stale Stale
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, "Throw, first", stale.Current.(Making).Name)
}

func TestCreateLotsIsAllOrNothing(t *testing.T) {
	s, ctx := open(t), context.Background()
	_, err := s.CreateLots(ctx, []Lot{{Name: "a", GramsMg: 5}, {Name: "b", GramsMg: -5}}, "", "")
	require.Error(t, err)
	_, n, err := s.Lots(ctx, LotFilter{})
	require.NoError(t, err)
	assert.Zero(t, n)
}

func TestBinAndSearch(t *testing.T) {
	s, ctx := open(t), context.Background()
	a := lot(t, s, "100% blue_top", 1000)
	lot(t, s, "1000 blue top", 1000)
	_, n, err := s.Lots(ctx, LotFilter{Search: "0% blue_"})
	require.NoError(t, err)
	assert.EqualValues(t, 1, n, "signs that mean something to SQL mean themselves")
	require.NoError(t, s.Discard(ctx, "lots", a.ID))
	assert.ErrorIs(t, s.Discard(ctx, "lots", a.ID), ErrNotFound)
	_, err = s.Lot(ctx, a.ID)
	assert.ErrorIs(t, err, ErrNotFound)
	items, err := s.Bin(ctx)
	require.NoError(t, err)
	require.Len(t, items, 1)
	assert.Equal(t, "100% blue_top", items[0].Name)
	require.NoError(t, s.Restore(ctx, "lots", a.ID))
	got, err := s.Lot(ctx, a.ID)
	require.NoError(t, err)
	assert.Equal(t, unit.Milligrams(1000), got.GramsMg)
	assert.ErrorIs(t, s.Discard(ctx, "settings", 1), ErrNotFound)
}

// A file of the first release opens, keeps its data, and opens again.
func TestOpenTwice(t *testing.T) {
	dir := t.TempDir()
	s, err := Open(dir, time.Now)
	require.NoError(t, err)
	lot(t, s, "kept", 1234)
	require.NoError(t, s.Close())
	s, err = Open(dir, time.Now)
	require.NoError(t, err)
	defer s.Close()
	lots, n, err := s.Lots(context.Background(), LotFilter{})
	require.NoError(t, err)
	require.EqualValues(t, 1, n)
	assert.Equal(t, unit.Milligrams(1234), lots[0].GramsMg)
}

// A file that a newer program wrote, or that is damaged, is refused as it is.
func TestFilesThatCanNotBeTrustedAreRefused(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, FileName)
	s, err := Open(dir, time.Now)
	require.NoError(t, err)
	require.NoError(t, s.write.Exec("INSERT INTO migrations (id) VALUES ('9999-from-next-year')").Error)
	require.NoError(t, s.Close())
	before, err := os.ReadFile(path)
	require.NoError(t, err)
	_, err = Open(dir, time.Now)
	assert.ErrorContains(t, err, "newer Fair Tangle")
	after, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, before, after)

	for at := 4096; at < len(before); at += 512 {
		copy(before[at:], "damaged by a falling jar of pickled beetroot")
	}
	require.NoError(t, os.WriteFile(path, before, 0o600))
	_, err = Open(dir, time.Now)
	assert.ErrorContains(t, err, "damaged")
}

// One program at a time works in a directory.
func TestADirectoryIsLocked(t *testing.T) {
	dir := t.TempDir()
	unlock, err := Lock(dir)
	require.NoError(t, err)
	_, err = Lock(dir)
	assert.ErrorContains(t, err, "another Fair Tangle")
	require.NoError(t, unlock())
	unlock, err = Lock(dir)
	require.NoError(t, err)
	require.NoError(t, unlock())
}

// Nobody else reads the data, even in a directory that was open to all.
func TestFilesArePrivate(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.Chmod(dir, 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(dir, FileName), nil, 0o644))
	s, err := Open(dir, time.Now)
	require.NoError(t, err)
	defer s.Close()
	_, err = s.KeepFile([]byte("a picture"))
	require.NoError(t, err)
	require.NoError(t, filepath.WalkDir(dir, func(path string, d os.DirEntry, err error) error {
		require.NoError(t, err)
		info, err := d.Info()
		require.NoError(t, err)
		assert.Zero(t, info.Mode().Perm()&0o077, path)
		return nil
	}))
}
