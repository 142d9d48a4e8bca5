package demo

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/store/copies"
	openforms "fairtangle/store/plain"
	"fairtangle/studio/shelf"
)

// written is all of a directory in open forms, and what lies in the zip by name.
func written(t require.TestingT, dir string) (data []byte, files map[string][]byte) {
	var b bytes.Buffer
	require.NoError(t, openforms.Write(context.Background(), dir, &b, time.Now()))
	z, err := zip.NewReader(bytes.NewReader(b.Bytes()), int64(b.Len()))
	require.NoError(t, err)
	files = map[string][]byte{}
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		files[f.Name], err = io.ReadAll(r)
		require.NoError(t, err)
	}
	return b.Bytes(), files
}

func zipped(t require.TestingT, files map[string][]byte) []byte {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, name := range slices.Sorted(maps.Keys(files)) {
		w, err := z.Create(name)
		require.NoError(t, err)
		_, err = w.Write(files[name])
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return b.Bytes()
}

func takenIn(dir string, data []byte) (copies.Copy, error) {
	return copies.TakeIn(context.Background(), bytes.NewReader(data), int64(len(data)), dir, time.Now())
}

// All that was written is read again to the last byte, hostile names and what lies in the bin with it; nothing of the door goes out.
func TestAllGoesOutAndComesInAgain(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	require.NoError(t, os.CopyFS(dir, os.DirFS(filled())))
	b := openBench(t, dir, "here")
	ctx := t.Context()
	for i, name := range []string{`[1,2]`, `{"a": 1}`, `{"a":1}`, "<script>&amp;\u2028", "ไหมพรม قطن 🧶", "-0", "null", "1e400", "\"", `\`} {
		list, err := b.st.Shelf.CreateLots(ctx, []shelf.NewLot{{LotInput: shelf.LotInput{
			Name: name, Kind: "merino", Preparation: "combed_top", Colours: []shelf.LotColour{{Hex: "#102030", Share: 1, Source: "value"}},
		}, Grams: float64(i)}}, "")
		require.NoError(t, err)
		if i%3 == 0 {
			require.NoError(t, b.st.Discard(ctx, "lots", list[0].ID))
		}
	}
	require.NoError(t, b.s.Close())
	data, was := written(t, dir)
	assert.NotContains(t, slices.Collect(maps.Keys(was)), "fair-tangle/tokens.jsonl")
	assert.Contains(t, was, "fair-tangle/README.txt")
	for name, text := range was {
		if strings.HasSuffix(name, ".jsonl") {
			for i, line := range bytes.Split(bytes.TrimSpace(text), []byte("\n")) {
				assert.True(t, len(line) == 0 || json.Valid(line), "%s, line %d", name, i+1)
			}
		}
	}
	c, err := takenIn(t.TempDir(), data)
	require.NoError(t, err)
	require.Empty(t, c.Report.Wrong)
	_, is := written(t, c.Path)
	delete(was, "fair-tangle/studio.json") // says when it was written
	delete(is, "fair-tangle/studio.json")
	assert.Equal(t, slices.Sorted(maps.Keys(was)), slices.Sorted(maps.Keys(is)))
	for name := range was {
		assert.True(t, bytes.Equal(was[name], is[name]), name)
	}
}

// Whatever is changed in such a zip: it is refused in words, or what it makes is whole; nothing is left behind of what was refused.
func TestWhateverComesInIsWholeOrRefused(t *testing.T) {
	_, files := written(t, filled())
	names := slices.Sorted(maps.Keys(files))
	folder := t.TempDir()
	rapid.Check(t, func(t *rapid.T) {
		now := maps.Clone(files)
		name := rapid.SampledFrom(names).Draw(t, "file")
		text := slices.Clone(now[name])
		switch rapid.SampledFrom([]string{"byte", "cut", "twice", "gone", "value", "line", "other"}).Draw(t, "way") {
		case "byte":
			if len(text) > 0 {
				text[rapid.IntRange(0, len(text)-1).Draw(t, "at")] = rapid.Byte().Draw(t, "byte")
			}
		case "cut":
			text = text[:rapid.IntRange(0, len(text)).Draw(t, "to")]
		case "twice":
			text = append(text, text...)
		case "gone":
			delete(now, name)
			text = nil
		case "value":
			for _, from := range []string{`"id":1,`, `"version":1`, `_mg":`, `null`, `T1`} {
				if rapid.Bool().Draw(t, from) {
					text = bytes.Replace(text, []byte(from), []byte(strings.TrimRight(from, ":,1")+rapid.SampledFrom([]string{`":"x",`, `":-9e99,`, "", `":[{}],`}).Draw(t, "to")), 1)
				}
			}
		case "line":
			text = fmt.Appendf(text, "%s\n", rapid.SampledFrom([]string{`{}`, `[]`, `null`, `{"id":null}`, `{"sneaky":1}`, `{"id":9007199254740993}`}).Draw(t, "line"))
		case "other":
			now[rapid.SampledFrom([]string{"fair-tangle/../x.jsonl", "fair-tangle/sqlite_master.jsonl", "fair-tangle/tokens.jsonl", "else/lots.jsonl",
				"fair-tangle/migrations.jsonl"}).Draw(t, "name")] = []byte(`{"id":1}`)
		}
		if text != nil {
			now[name] = text
		}
		c, err := takenIn(folder, zipped(t, now))
		left, readErr := os.ReadDir(folder)
		require.NoError(t, readErr)
		if err != nil {
			assert.ErrorIs(t, err, copies.ErrNoCopy)
			assert.Empty(t, left)
			return
		}
		report, err := copies.Check(context.Background(), c.Path)
		require.NoError(t, err)
		assert.Empty(t, report.Wrong)
		require.NoError(t, os.RemoveAll(c.Path))
	})
}
