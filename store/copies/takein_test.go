package copies

import (
	"archive/zip"
	"bytes"
	"encoding/binary"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/store"
)

// packed is a copy of a store with one lot, as one file.
func packed(t *testing.T) (data []byte, c Copy) {
	s, err := store.Open(filepath.Join(t.TempDir(), "data"), time.Now)
	require.NoError(t, err)
	defer s.Close()
	lot(t, s, "blue")
	_, err = s.KeepFile([]byte("a picture"))
	require.NoError(t, err)
	c, err = Make(t.Context(), s.Dir(), Beside(s.Dir()), s.Now())
	require.NoError(t, err)
	var b bytes.Buffer
	require.NoError(t, c.Zip(&b))
	return b.Bytes(), c
}

func takeIn(t *testing.T, data []byte, folder string) (Copy, error) {
	return TakeIn(t.Context(), bytes.NewReader(data), int64(len(data)), folder, time.Now())
}

// A copy that was taken along is the same copy elsewhere; brought twice it is there once.
func TestACopyComesFromAnotherComputer(t *testing.T) {
	data, was := packed(t)
	folder := filepath.Join(t.TempDir(), "copies")
	for range 2 {
		c, err := takeIn(t, data, folder)
		require.NoError(t, err)
		assert.Equal(t, was.Name, c.Name)
		assert.Equal(t, was.Report, c.Report)
	}
	list, err := List(folder)
	require.NoError(t, err)
	assert.Len(t, list, 1)
	assert.Equal(t, []string{"blue"}, lotsIn(t, list[0].Path))
}

// entry is a file of a zip that is made to hurt.
type entry struct {
	name string
	mode fs.FileMode
	data []byte
}

func zipOf(t *testing.T, list ...entry) []byte {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, e := range list {
		h := &zip.FileHeader{Name: e.name, Method: zip.Deflate}
		h.SetMode(e.mode | 0o600)
		w, err := z.CreateHeader(h)
		require.NoError(t, err)
		_, err = w.Write(e.data)
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return b.Bytes()
}

// What is no copy is refused in words, and nothing of it stays: not in the folder, not beside it.
func TestWhatIsNoCopyIsNotTakenIn(t *testing.T) {
	data, _ := packed(t)
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	var db []byte
	for _, f := range z.File {
		if strings.HasSuffix(f.Name, store.FileName) {
			r, err := f.Open()
			require.NoError(t, err)
			db, err = io.ReadAll(r)
			require.NoError(t, err)
		}
	}
	changed := func(sql ...string) []byte {
		path := filepath.Join(t.TempDir(), store.FileName)
		require.NoError(t, os.WriteFile(path, db, 0o600))
		g, err := store.Connect(path, 1)
		require.NoError(t, err)
		for _, q := range sql {
			require.NoError(t, g.Exec(q).Error)
		}
		shut(g)
		out, err := os.ReadFile(path)
		require.NoError(t, err)
		return out
	}
	main := func(data []byte) entry { return entry{"2026-05-04 12-00-00/" + store.FileName, 0, data} }
	many := make([]entry, mostFiles+1)
	for i := range many {
		many[i] = main(nil)
	}
	long := append([]byte{}, data...)
	binary.LittleEndian.PutUint32(long[len(long)-22+12:], mostListed+1)
	folder := t.TempDir()
	for says, bad := range map[string][]byte{
		"not a zip":                 []byte("hello"),
		"cut off":                   data[:len(data)/2],
		"which no copy has":         zipOf(t, main(db), entry{"../x/" + store.FileName, 0, db}),
		"“2026/../../x”":            zipOf(t, main(db), entry{"2026/../../x", 0, nil}),
		"“2026-05-04 12-00-00/pho":  zipOf(t, main(db), entry{"2026-05-04 12-00-00/photos/../../x.png", 0, nil}),
		"“2026\\..\\fair":           zipOf(t, entry{`2026\..\` + store.FileName, 0, db}),
		"“2026-05-04 12-00-00/fair": zipOf(t, entry{"2026-05-04 12-00-00/" + store.FileName, fs.ModeSymlink, []byte("/etc/passwd")}),
		"two copies":                zipOf(t, main(db), main(db)),
		"no database":               zipOf(t, entry{"a/about.json", 0, []byte("{}")}),
		"larger than any copy":      zipOf(t, main(make([]byte, 64<<20))),
		"more files":                zipOf(t, many...),
		"holds more files":          long,
		"can not be opened":         zipOf(t, main([]byte("no database at all"))),
		"triggers":                  zipOf(t, main(changed("CREATE TRIGGER t AFTER INSERT ON lots BEGIN DELETE FROM lots; END"))),
		"views":                     zipOf(t, main(changed("ALTER TABLE runs RENAME TO was", "CREATE VIEW runs AS SELECT * FROM was"))),
		"newer Fair Tangle":         zipOf(t, main(changed("INSERT INTO migrations (id) VALUES ('9999-from-later')"))),
		"no data of Fair Tangle":    zipOf(t, main(changed("DROP TABLE migrations"))),
		"do not weigh what":         zipOf(t, main(changed("UPDATE lots SET grams_mg = 1"))),
	} {
		_, err := takeIn(t, bad, folder)
		require.ErrorIs(t, err, ErrNoCopy, says)
		assert.ErrorContains(t, err, says)
		left, err := os.ReadDir(folder)
		require.NoError(t, err)
		assert.Empty(t, left, says)
	}
	_, err = os.Stat(filepath.Join(folder, "..", "x"))
	assert.ErrorIs(t, err, fs.ErrNotExist)
}

// Whatever comes: words or a whole copy, never a panic, and nothing outside the folder.
func FuzzTakeIn(f *testing.F) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	w, _ := z.Create("2026-05-04 12-00-00/" + store.FileName)
	_, _ = w.Write([]byte("SQLite format 3\x00"))
	_ = z.Close()
	f.Add(b.Bytes())
	broken := bytes.Clone(b.Bytes())
	broken[bytes.Index(broken, []byte(store.FileName))+len(store.FileName)] ^= 0xff // in what is packed
	f.Add(broken)
	f.Add([]byte("PK\x05\x06"))
	f.Fuzz(func(t *testing.T, data []byte) {
		above := t.TempDir()
		_, err := TakeIn(t.Context(), bytes.NewReader(data), int64(len(data)), filepath.Join(above, "copies"), time.Now())
		if err != nil {
			assert.ErrorIs(t, err, ErrNoCopy)
			left, _ := filepath.Glob(filepath.Join(above, "*", "*"))
			assert.Empty(t, left)
		}
	})
}
