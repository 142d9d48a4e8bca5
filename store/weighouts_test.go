package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/core/unit"
)

// table is a blend of one lot with a weigh-out of three units of 2 g.
func table(t *testing.T, s *Store, stock unit.Milligrams) (Lot, Weighout) {
	ctx := context.Background()
	l := lot(t, s, "blue", stock)
	m, err := s.CreateMaking(ctx, Making{Name: "m"})
	require.NoError(t, err)
	bs, err := s.CreateBlends(ctx, []Blend{{MakingID: m.ID, Name: "b", TotalMg: 6000, Components: []BlendComponent{{LotID: &l.ID, Parts: 1}}}})
	require.NoError(t, err)
	b := bs[0]
	w := Weighout{BlendID: b.ID, Name: "w", Units: 3, FinishedMg: 2000, StepMg: 100, Components: []WeighoutComponent{{LotID: &l.ID, Name: "blue", Share: 1}}}
	for u := range 3 {
		w.Cells = append(w.Cells, WeighoutCell{Unit: u, PlannedMg: 2000, TargetMg: 2000})
	}
	w, err = s.CreateWeighout(ctx, w)
	require.NoError(t, err)
	return l, w
}

func take(unitNo int, mg unit.Milligrams) func(*Weighout) error {
	return func(w *Weighout) error {
		w.Cells[unitNo].WeighedMg += mg
		w.Cells[unitNo].Done = true
		return nil
	}
}

func TestWeighingsAreUndoneInReverse(t *testing.T) {
	s, ctx := open(t), context.Background()
	l, w := table(t, s, 10_000)
	var err error
	for u := range 3 {
		w, err = s.Weigh(ctx, w.ID, w.Version, Weighing{Key: fmt.Sprint("key", u), Unit: u, GramsMg: 2000}, take(u, 2000))
		require.NoError(t, err)
	}
	last := func(w Weighout) (list []int) {
		for i, v := range w.Weighings {
			if v.UndoneAt == nil {
				list = []int{i}
			}
		}
		return list
	}
	empty := func(w *Weighout, unit int) error {
		for i := range w.Cells {
			if w.Cells[i].Unit == unit {
				w.Cells[i].WeighedMg, w.Cells[i].Done = 0, false
			}
		}
		return nil
	}
	for u := 2; u >= 0; u-- {
		w, err = s.TakeBack(ctx, w.ID, w.Version, last, empty)
		require.NoError(t, err)
		assert.False(t, w.Cells[u].Done)
		assert.Zero(t, w.Cells[u].WeighedMg)
	}
	_, err = s.TakeBack(ctx, w.ID, w.Version, last, empty)
	assert.ErrorContains(t, err, "Nothing was weighed")
	got, err := s.Lot(ctx, l.ID)
	require.NoError(t, err)
	assert.Equal(t, unit.Milligrams(10_000), got.GramsMg)
	moves, err := s.Movements(ctx, l.ID, 100)
	require.NoError(t, err)
	assert.Len(t, moves, 7, "the opening, three out, three back: nothing is rubbed out")
	_, err = s.UndoMovement(ctx, l.ID, moves[5].ID)
	assert.ErrorContains(t, err, "weigh-out", "a weighing is undone at its table")
}

// A weighing that can not be booked leaves nothing behind: no cell, no
// movement, no version.
func TestRefusedWeighingLeavesNothing(t *testing.T) {
	s, ctx := open(t), context.Background()
	l, w := table(t, s, 1500)
	_, err := s.Weigh(ctx, w.ID, w.Version, Weighing{Key: "too much", GramsMg: 2000}, take(0, 2000))
	var short Short
	require.ErrorAs(t, err, &short)
	assert.Equal(t, unit.Milligrams(1500), short.Have)
	boom := errors.New("boom")
	_, err = s.Weigh(ctx, w.ID, w.Version, Weighing{Key: "broken", GramsMg: 100}, func(*Weighout) error { return boom })
	require.ErrorIs(t, err, boom)
	again, err := s.Weighout(ctx, w.ID)
	require.NoError(t, err)
	assert.Equal(t, w.Version, again.Version)
	assert.Empty(t, again.Weighings)
	assert.Zero(t, again.Cells[0].WeighedMg)
	require.NoError(t, s.Discard(ctx, "lots", l.ID))
	_, err = s.Weigh(ctx, w.ID, w.Version, Weighing{Key: "in the bin", GramsMg: 100}, take(0, 100))
	assert.ErrorContains(t, err, "in the bin")
}

// Ten windows weigh the same place at once: one is booked, nine are told.
func TestOneOfTenWindowsWeighsAtOnce(t *testing.T) {
	s, ctx := open(t), context.Background()
	l, w := table(t, s, 100_000)
	var wg sync.WaitGroup
	results := make([]error, 10)
	for i := range 10 {
		wg.Go(func() {
			_, results[i] = s.Weigh(ctx, w.ID, w.Version, Weighing{Key: fmt.Sprint("window", i), GramsMg: 2000}, take(0, 2000))
		})
	}
	wg.Wait()
	booked := 0
	for _, err := range results {
		var stale Stale
		if err == nil {
			booked++
		} else {
			assert.ErrorAs(t, err, &stale)
		}
	}
	assert.Equal(t, 1, booked)
	got, err := s.Lot(ctx, l.ID)
	require.NoError(t, err)
	assert.Equal(t, unit.Milligrams(98_000), got.GramsMg)
}

// What is edited keeps its bin mark, its version counts up, and the settings
// are one row from the first day.
func TestVersionsCountUp(t *testing.T) {
	s, ctx := open(t), context.Background()
	set, err := s.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, unit.Milligrams(100), set.StepMg)
	set.Ground = "dark"
	next, err := s.UpdateSettings(ctx, set)
	require.NoError(t, err)
	assert.Equal(t, set.Version+1, next.Version)
	_, err = s.UpdateSettings(ctx, set)
	var stale Stale
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, "dark", stale.Current.(Settings).Ground)
	e, err := s.CreateEquipment(ctx, Equipment{Name: "drum"})
	require.NoError(t, err)
	require.NoError(t, s.Discard(ctx, "equipment", e.ID))
	_, err = s.UpdateEquipment(ctx, e)
	assert.ErrorIs(t, err, ErrNotFound)
	k, err := s.CreateKind(ctx, Kind{Name: "cross"})
	require.NoError(t, err)
	k.Name = "crossbred"
	k, err = s.UpdateKind(ctx, k)
	require.NoError(t, err)
	assert.Equal(t, int64(2), k.Version)
}

// The bin forgets after thirty days; the rows stay, since the ledger names them.
func TestTheBinForgets(t *testing.T) {
	now := time.Date(2026, 11, 3, 12, 0, 0, 0, time.UTC)
	s, err := Open(t.TempDir(), func() time.Time { return now })
	require.NoError(t, err)
	defer s.Close()
	ctx := context.Background()
	l := lot(t, s, "old", 500)
	require.NoError(t, s.Discard(ctx, "lots", l.ID))
	now = now.AddDate(0, 0, 29)
	items, err := s.Bin(ctx)
	require.NoError(t, err)
	assert.Len(t, items, 1)
	now = now.AddDate(0, 0, 2)
	items, err = s.Bin(ctx)
	require.NoError(t, err)
	assert.Empty(t, items)
	drift, err := s.Drift(ctx)
	require.NoError(t, err)
	assert.Empty(t, drift)
}

func TestOpenSaysWhatIsWrong(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, FileName), []byte("this is no database, it is a letter to a friend about wool"), 0o600))
	_, err := Open(dir, time.Now)
	assert.Error(t, err)
	file := filepath.Join(dir, "file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	_, err = Open(file, time.Now)
	assert.ErrorContains(t, err, "data directory")
}
