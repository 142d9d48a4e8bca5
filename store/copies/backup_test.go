package copies

import (
	"compress/gzip"
	"context"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"testing"
	"time"

	"fairtangle/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func lot(t *testing.T, s *store.Store, name string) {
	_, err := s.CreateLots(t.Context(), []store.Lot{{Name: name, Kind: "romney", Preparation: "combed_top",
		Colours: []store.Colour{{Hex: "#5b7d96", Share: 1}}, GramsMg: 50_000}}, "", "")
	require.NoError(t, err)
}

// crashed is a data directory as a power cut leaves it: the latest of it lies in the log alone.
func crashed(t *testing.T, lots ...string) string {
	s, err := store.Open(t.TempDir(), time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, s.Close()) })
	for _, name := range lots {
		lot(t, s, name)
	}
	file, err := s.KeepFile([]byte("a picture"))
	require.NoError(t, err)
	_, err = store.AddPiece(t.Context(), s, store.Photo{Name: "p", File: file, Width: 1, Height: 1})
	require.NoError(t, err)
	dir := filepath.Join(t.TempDir(), "data")
	require.NoError(t, os.CopyFS(dir, os.DirFS(s.Dir())))
	info, err := os.Stat(filepath.Join(dir, store.FileName+"-wal"))
	require.NoError(t, err)
	require.Positive(t, info.Size())
	return dir
}

func lotsIn(t *testing.T, dir string) (names []string) {
	s, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	defer s.Close()
	list, _, err := s.Lots(t.Context(), store.LotFilter{Sort: "name"})
	require.NoError(t, err)
	for _, l := range list {
		names = append(names, l.Name)
	}
	return names
}

// A copy that is put back is what it was, also over a directory with the log of a crash in it; what
// was there is kept, with its own log, and can be put back in turn.
func TestACopyIsPutBackWhole(t *testing.T) {
	ctx := t.Context()
	old := crashed(t, "blue", "green")
	copied := filepath.Join(t.TempDir(), "deep", "copy")
	require.NoError(t, Backup(ctx, old, copied))
	dir := crashed(t, "red", "white", "yellow")
	before, err := Check(ctx, dir)
	require.NoError(t, err)
	assert.Empty(t, before.Wrong)
	assert.EqualValues(t, 3, before.Lots)
	assert.InDelta(t, 150, before.Grams, 1e-9)
	aside, err := Restore(ctx, copied, dir, time.Date(2030, 1, 2, 3, 4, 5, 0, time.UTC))
	require.NoError(t, err)
	assert.Equal(t, dir+"-before-20300102-030405", aside)
	assert.Equal(t, []string{"blue", "green"}, lotsIn(t, dir))
	assert.Equal(t, []string{"blue", "green"}, lotsIn(t, copied), "the copy stays as it is")
	_, err = Restore(ctx, aside, dir, time.Now())
	require.NoError(t, err)
	assert.Equal(t, []string{"red", "white", "yellow"}, lotsIn(t, dir))
	require.NoError(t, filepath.WalkDir(dir, func(path string, d fs.DirEntry, err error) error {
		require.NoError(t, err)
		info, err := d.Info()
		require.NoError(t, err)
		want := fs.FileMode(0o600)
		if d.IsDir() {
			want = 0o700
		}
		assert.Equal(t, want, info.Mode().Perm(), path)
		return nil
	}))
}

// What is not whole is no copy: nothing stands under its name when it is interrupted, a full place is
// refused, and a damaged one is neither opened nor put back, and stays byte for byte.
func TestWhatIsNotWholeIsNoCopy(t *testing.T) {
	ctx := t.Context()
	dir := crashed(t, "blue")
	into := filepath.Join(t.TempDir(), "copy")
	stopped, stop := context.WithCancel(ctx)
	stop()
	require.Error(t, Backup(stopped, dir, into))
	_, err := os.Stat(into)
	require.ErrorIs(t, err, fs.ErrNotExist)
	left, err := os.ReadDir(filepath.Dir(into))
	require.NoError(t, err)
	assert.Empty(t, left)
	require.NoError(t, Backup(ctx, dir, into))
	require.ErrorContains(t, Backup(ctx, dir, into), "not empty")

	damagedDir := t.TempDir()
	data, err := os.ReadFile(filepath.Join(into, store.FileName))
	require.NoError(t, err)
	for i := 5000; i < 9000; i++ {
		data[i] ^= 0x5a
	}
	path := filepath.Join(damagedDir, store.FileName)
	require.NoError(t, os.WriteFile(path, data, 0o600))
	r, err := Check(ctx, damagedDir)
	require.NoError(t, err)
	assert.NotEmpty(t, r.Wrong)
	_, err = Restore(ctx, damagedDir, dir, time.Now())
	require.ErrorContains(t, err, "nothing was changed")
	_, err = store.Open(damagedDir, time.Now)
	require.ErrorContains(t, err, "fairtangle restore")
	now, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, data, now)
	assert.Equal(t, []string{"blue"}, lotsIn(t, dir))

	require.NoError(t, os.Remove(filepath.Join(into, store.PhotoDir, only(t, filepath.Join(into, store.PhotoDir)))))
	r, err = Check(ctx, into)
	require.NoError(t, err)
	assert.Equal(t, []string{"1 photos are not there."}, r.Wrong)
	_, err = Check(ctx, t.TempDir())
	require.ErrorContains(t, err, "there is no data")
}

// only is the one name in a directory.
func only(t *testing.T, dir string) string {
	list, err := os.ReadDir(dir)
	require.NoError(t, err)
	require.Len(t, list, 1)
	return list[0].Name()
}

// A copy made while everything is open and written to is whole, and opens.
func TestBackupOfAnOpenStore(t *testing.T) {
	dir, into := t.TempDir(), filepath.Join(t.TempDir(), "copy")
	assert.ErrorContains(t, Backup(t.Context(), dir, into), "no data")
	s, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	defer s.Close()
	made, err := s.CreateLots(t.Context(), []store.Lot{{Name: "a", Kind: "romney", Preparation: "combed_top", Colours: []store.Colour{{Hex: "#777777", Share: 1,
		Source: "picker"}}, GramsMg: 5000}}, "", "")
	require.NoError(t, err)
	name, err := s.KeepFile([]byte("a picture"))
	require.NoError(t, err)
	_, err = store.AddPiece(t.Context(), s, store.Photo{Name: "a", File: name})
	require.NoError(t, err)
	require.NoError(t, Backup(t.Context(), dir, into))
	assert.ErrorContains(t, Backup(t.Context(), dir, into), "not empty")
	again, err := store.Open(into, time.Now)
	require.NoError(t, err)
	defer again.Close()
	got, err := again.Lot(t.Context(), made[0].ID)
	require.NoError(t, err)
	assert.Equal(t, made[0].GramsMg, got.GramsMg)
	drift, err := again.Drift(t.Context())
	require.NoError(t, err)
	assert.Empty(t, drift)
	data, err := again.File(name)
	require.NoError(t, err)
	assert.Equal(t, "a picture", string(data))
}

// A restore that was killed between its two moves is ended at the next start; one that was killed before them is forgotten.
func TestAKilledRestoreIsFinished(t *testing.T) {
	dir, other := crashed(t, "new"), crashed(t, "old")
	require.NoError(t, Finish(dir), "nothing to do")
	part := dir + "-restoring-20300102-030405"
	require.NoError(t, os.CopyFS(part, os.DirFS(other)))
	require.NoError(t, Finish(dir))
	assert.NoDirExists(t, part)
	assert.Equal(t, []string{"new"}, lotsIn(t, dir))
	require.NoError(t, os.CopyFS(part, os.DirFS(other)))
	require.NoError(t, os.Rename(dir, dir+"-before-20300102-030405"))
	require.NoError(t, Finish(dir))
	assert.NoDirExists(t, part)
	assert.Equal(t, []string{"old"}, lotsIn(t, dir))
}

// Data of every release opens, is brought up to date, and is whole: the sample world as each release wrote it, named by its last change of
// the tables. A release adds one and takes none away.
func TestDataOfEveryReleaseOpens(t *testing.T) {
	list, err := filepath.Glob("testdata/releases/*.db.gz")
	require.NoError(t, err)
	require.NotEmpty(t, list)
	for _, path := range list {
		packed, err := os.Open(path)
		require.NoError(t, err)
		from, err := gzip.NewReader(packed)
		require.NoError(t, err)
		data, err := io.ReadAll(from)
		require.NoError(t, err)
		require.NoError(t, packed.Close())
		dir := t.TempDir()
		require.NoError(t, os.WriteFile(filepath.Join(dir, store.FileName), data, 0o600))
		s, err := store.Open(dir, time.Now)
		require.NoError(t, err, path)
		lots, _, err := s.Lots(t.Context(), store.LotFilter{Sort: "name"})
		require.NoError(t, err)
		assert.NotEmpty(t, lots)
		drift, err := s.Drift(t.Context())
		require.NoError(t, err)
		assert.Empty(t, drift)
		require.NoError(t, s.Close())
		report, err := Check(t.Context(), dir)
		require.NoError(t, err)
		assert.Equal(t, []string{"1 photos are not there."}, report.Wrong, "they lie beside it")
		assert.Positive(t, report.Makings)
	}
}
