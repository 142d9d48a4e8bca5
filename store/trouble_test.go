package store

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"fairtangle/core/fibre"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestWhatTheDiskRefusesIsToldAndNotKept brings the database to the end of its
// room and to a file that can only be read.
func TestWhatTheDiskRefusesIsToldAndNotKept(t *testing.T) {
	for pragma, sentence := range map[string]string{"max_page_count = 1": fullDisk, "query_only = 1": readOnly} {
		t.Run(pragma, func(t *testing.T) {
			s := open(t)
			l := lot(t, s, "a", 5000)
			require.NoError(t, s.write.Exec("PRAGMA "+pragma).Error)
			_, err := s.CreateLots(t.Context(), []Lot{{Name: strings.Repeat("long", 1000), Colours: []Colour{}, Words: fibre.Words{Note: strings.Repeat("x", 100_000)}}}, "", "")
			var trouble Trouble
			require.ErrorAs(t, err, &trouble)
			assert.Equal(t, sentence, trouble.Sentence)
			_, n, err := s.Lots(t.Context(), LotFilter{})
			require.NoError(t, err, "what is there can still be read")
			assert.EqualValues(t, 1, n)
			require.NoError(t, s.write.Exec("PRAGMA query_only = 0").Error)
			require.NoError(t, s.write.Exec("PRAGMA max_page_count = 1000000").Error)
			_, err = s.AddMovement(t.Context(), Movement{LotID: l.ID, DeltaMg: 5, Reason: WeighIn}, "")
			require.NoError(t, err, "and it goes on once there is room")
		})
	}
}

// TestNothingIsAcknowledgedIntoAFileThatIsGone removes, replaces or moves the data
// away under an open store.
func TestNothingIsAcknowledgedIntoAFileThatIsGone(t *testing.T) {
	for name, away := range map[string]func(dir string) error{
		"file removed":      func(dir string) error { return os.Remove(filepath.Join(dir, FileName)) },
		"log removed":       func(dir string) error { return os.Remove(filepath.Join(dir, FileName+"-wal")) },
		"directory removed": os.RemoveAll,
		"directory moved":   func(dir string) error { return os.Rename(dir, dir+"-moved") },
		"file replaced": func(dir string) error {
			path := filepath.Join(dir, FileName)
			data, err := os.ReadFile(path)
			return errors.Join(err, os.WriteFile(path+".new", data, 0o600), os.Rename(path+".new", path))
		},
	} {
		t.Run(name, func(t *testing.T) {
			dir := filepath.Join(t.TempDir(), "data")
			s, err := Open(dir, time.Now)
			require.NoError(t, err)
			defer func() { _ = s.Close() }()
			l := lot(t, s, "a", 5000)
			require.NoError(t, away(dir))
			_, err = s.AddMovement(t.Context(), Movement{LotID: l.ID, DeltaMg: 5, Reason: WeighIn}, "")
			var trouble Trouble
			require.ErrorAs(t, err, &trouble)
			assert.Equal(t, gone, trouble.Sentence)
		})
	}
}

// TestAPlainCopyHasWhatWasWritten copies the one file after a quiet moment and
// after the end.
func TestAPlainCopyHasWhatWasWritten(t *testing.T) {
	s := open(t)
	lot(t, s, "a", 5000)
	copied := func() int64 {
		into := t.TempDir()
		data, err := os.ReadFile(filepath.Join(s.dir, FileName))
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(into, FileName), data, 0o600))
		again, err := Open(into, time.Now)
		require.NoError(t, err)
		defer again.Close()
		_, n, err := again.Lots(t.Context(), LotFilter{})
		require.NoError(t, err)
		return n
	}
	s.settle()
	assert.EqualValues(t, 1, copied())
	lot(t, s, "b", 5000)
	require.NoError(t, s.Close())
	assert.EqualValues(t, 2, copied())
}

func TestWhatAKilledUploadLeftIsSwept(t *testing.T) {
	dir := t.TempDir()
	s, err := Open(dir, time.Now)
	require.NoError(t, err)
	kept, err := s.KeepFile([]byte("kept"))
	require.NoError(t, err)
	_, err = AddPiece(t.Context(), s, Photo{Name: "a", File: kept})
	require.NoError(t, err)
	_, err = s.KeepFile([]byte("the row of this was never written"))
	require.NoError(t, err)
	for i := range 3 {
		require.NoError(t, os.WriteFile(filepath.Join(dir, PhotoDir, fmt.Sprintf("part-%d", i)), []byte("half"), 0o600))
	}
	require.NoError(t, s.Close())
	s, err = Open(dir, time.Now)
	require.NoError(t, err)
	defer s.Close()
	left, err := os.ReadDir(filepath.Join(dir, PhotoDir))
	require.NoError(t, err)
	require.Len(t, left, 1)
	assert.Equal(t, kept, left[0].Name())
}
