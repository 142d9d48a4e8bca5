package copies

import (
	"archive/zip"
	"bytes"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"fairtangle/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// A copy holds what was here, says so, can be taken along as one file, and is begun with after the next start; what was here then is kept.
func TestACopyIsMadeTakenAlongAndBegunWith(t *testing.T) {
	dir, now := filepath.Join(t.TempDir(), "data"), time.Date(2026, 5, 4, 12, 0, 0, 0, time.Local)
	s, err := store.Open(dir, func() time.Time { return now })
	require.NoError(t, err)
	ctx := t.Context()
	_, err = s.CreateLots(ctx, []store.Lot{{Name: "first", Kind: "romney", Colours: []store.Colour{{Hex: "#888888", Share: 1, Source: "value"}}, GramsMg: 5000}}, "", "")
	require.NoError(t, err)
	here, err := Holds(ctx, s)
	require.NoError(t, err)
	c, err := Make(ctx, dir, Beside(dir), s.Now())
	require.NoError(t, err)
	assert.Empty(t, c.Report.Wrong)
	assert.Equal(t, here.Lots, c.Report.Lots)
	assert.InDelta(t, 5, c.Report.Grams, 1e-9)
	assert.Positive(t, c.Bytes)
	_, err = Make(ctx, dir, Beside(dir), s.Now())
	assert.ErrorContains(t, err, "not empty", "of one moment there is one copy")

	var buf bytes.Buffer
	require.NoError(t, c.Zip(&buf))
	z, err := zip.NewReader(bytes.NewReader(buf.Bytes()), int64(buf.Len()))
	require.NoError(t, err)
	out := t.TempDir()
	for _, f := range z.File {
		from, err := f.Open()
		require.NoError(t, err)
		data, err := io.ReadAll(from)
		require.NoError(t, err)
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(out, f.Name)), 0o700))
		require.NoError(t, os.WriteFile(filepath.Join(out, f.Name), data, 0o600))
	}
	r, err := Check(ctx, filepath.Join(out, c.Name))
	require.NoError(t, err)
	assert.Empty(t, r.Wrong, "what was unpacked is whole")

	_, err = s.CreateLots(ctx, []store.Lot{{Name: "second", Kind: "romney", Colours: []store.Colour{{Hex: "#888888", Share: 1, Source: "value"}}, GramsMg: 7000}}, "", "")
	require.NoError(t, err)
	require.NoError(t, BeginWith(dir, c.Path))
	assert.Equal(t, c.Path, BeginsWith(dir))
	require.NoError(t, BeginWith(dir, ""))
	assert.Empty(t, BeginsWith(dir), "one can stay")
	require.NoError(t, BeginWith(dir, c.Path))
	s.Close()
	from, aside, err := Begin(ctx, dir, now)
	require.NoError(t, err)
	assert.Equal(t, c.Path, from)
	lots := func(dir string) int64 {
		s, err := store.Open(dir, func() time.Time { return now })
		require.NoError(t, err)
		defer s.Close()
		r, err := Holds(ctx, s)
		require.NoError(t, err)
		return r.Lots
	}
	assert.EqualValues(t, 1, lots(dir))
	assert.EqualValues(t, 2, lots(aside))
	from, _, err = Begin(ctx, dir, now)
	require.NoError(t, err)
	assert.Empty(t, from, "once")

	require.NoError(t, os.WriteFile(filepath.Join(dir, nextFile), []byte(filepath.Join(out, "gone")), 0o600))
	_, _, err = Begin(ctx, dir, now)
	assert.Error(t, err)
	assert.EqualValues(t, 1, lots(dir), "what can not be followed changes nothing")
	from, _, err = Begin(ctx, dir, now)
	assert.NoError(t, err)
	assert.Empty(t, from, "and is dropped")
}

// However often copies are made: the latest ten stay, of each day and week the last for as long as is said, nothing else, and thinning again
// takes nothing more.
func TestCopiesAreThinnedByAge(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		at := []time.Time{time.Date(2026, 11, 30, 20, 0, 0, 0, time.UTC)}
		for range rapid.IntRange(0, 300).Draw(t, "copies") {
			at = append(at, at[len(at)-1].Add(-time.Duration(rapid.IntRange(1, 60*96).Draw(t, "minutes"))*time.Minute))
		}
		keep := Thinned(at)
		var left []time.Time
		days, weeks := map[string]bool{}, map[int]bool{}
		for i, v := range at {
			year, week := v.ISOWeek()
			day, w := v.Format("2006-01-02"), 100*year+week
			newDay, newWeek := !days[day] && len(days) < 14, !weeks[w] && len(weeks) < 52
			assert.Equal(t, i < 10 || newDay || newWeek, keep[i], "copy %d", i)
			if newDay {
				days[day] = true
			}
			if newWeek {
				weeks[w] = true
			}
			if keep[i] {
				left = append(left, v)
			}
		}
		assert.LessOrEqual(t, len(left), 10+14+52)
		assert.False(t, slices.Contains(Thinned(left), false), "again")
	})
}

// What else lies in the folder of the copies is no copy, and is left alone.
func TestOnlyCopiesAreThinned(t *testing.T) {
	s, err := store.Open(filepath.Join(t.TempDir(), "data"), time.Now)
	require.NoError(t, err)
	defer s.Close()
	folder := t.TempDir()
	for _, name := range []string{"mine", "2026-01-02 03-04-05", "2026-01-02"} {
		require.NoError(t, os.MkdirAll(filepath.Join(folder, name), 0o700))
		require.NoError(t, os.WriteFile(filepath.Join(folder, name, "a letter"), []byte("kept"), 0o600))
	}
	part := filepath.Join(folder, ".fairtangle-part-1")
	require.NoError(t, os.MkdirAll(filepath.Join(part, "photos"), 0o700))
	require.NoError(t, os.Chtimes(part, time.Now(), time.Now().Add(-2*time.Hour)))
	_, err = Make(t.Context(), s.Dir(), folder, s.Now())
	require.NoError(t, err)
	assert.NoDirExists(t, part, "what a killed program left")
	list, err := List(folder)
	require.NoError(t, err)
	assert.Len(t, list, 1)
	assert.Equal(t, list[0].At, Latest(folder))
	assert.Zero(t, Latest(filepath.Join(folder, "gone")))
	for _, name := range []string{"mine", "2026-01-02 03-04-05", "2026-01-02"} {
		assert.FileExists(t, filepath.Join(folder, name, "a letter"))
	}
	_, err = One(folder, "../"+filepath.Base(folder))
	assert.ErrorIs(t, err, store.ErrNotFound)
	none, err := List(filepath.Join(folder, "gone"))
	assert.NoError(t, err)
	assert.Empty(t, none)
}

// Photos that two copies have in common stand on the disk once, and each copy is whole when the other is gone.
func TestCopiesShareTheirPhotos(t *testing.T) {
	now := time.Date(2026, 5, 4, 12, 0, 0, 0, time.Local)
	dir := filepath.Join(t.TempDir(), "data")
	s, err := store.Open(dir, func() time.Time { return now })
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, os.MkdirAll(filepath.Join(dir, store.PhotoDir), 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(dir, store.PhotoDir, "a.png"), []byte("a picture"), 0o600))
	first, err := Make(t.Context(), s.Dir(), Beside(dir), s.Now())
	require.NoError(t, err)
	now = now.Add(time.Hour)
	second, err := Make(t.Context(), s.Dir(), Beside(dir), s.Now())
	require.NoError(t, err)
	at := func(dir string) string { return filepath.Join(dir, store.PhotoDir, "a.png") }
	stat := func(path string) os.FileInfo {
		v, err := os.Stat(path)
		require.NoError(t, err)
		return v
	}
	assert.True(t, os.SameFile(stat(at(first.Path)), stat(at(second.Path))))
	assert.False(t, os.SameFile(stat(at(dir)), stat(at(second.Path))), "what is worked in is not shared")
	require.NoError(t, os.RemoveAll(first.Path))
	data, err := os.ReadFile(at(second.Path))
	require.NoError(t, err)
	assert.Equal(t, "a picture", string(data))
}

// Copies are made while it is worked in without a pause: what was acknowledged before one began is in it, and nothing in it was never asked.
func TestCopiesUnderLoad(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	s, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	defer s.Close()
	var acknowledged, asked atomic.Int64
	stop := make(chan struct{})
	var works sync.WaitGroup
	works.Go(func() {
		for n := int64(1); ; n++ {
			select {
			case <-stop:
				return
			default:
			}
			asked.Store(n)
			lot(t, s, fmt.Sprint(n))
			acknowledged.Store(n)
		}
	})
	now := time.Now()
	for range 5 {
		before := acknowledged.Load()
		now = now.Add(time.Second)
		c, err := Make(t.Context(), dir, Beside(dir), now)
		require.NoError(t, err)
		after := asked.Load()
		require.Empty(t, c.Report.Wrong)
		assert.GreaterOrEqual(t, c.Report.Lots, before)
		assert.LessOrEqual(t, c.Report.Lots, after)
	}
	close(stop)
	works.Wait()
	assert.Positive(t, acknowledged.Load())
}
