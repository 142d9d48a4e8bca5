package web

import (
	"archive/zip"
	"bytes"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/store"
	"fairtangle/store/copies"
)

// Copies are made by a press, listed with what they hold, taken along as one file, kept where the maker says, and begun with after the
// next start; whatever else is asked is refused with a sentence.
func TestCopiesAreMadeAndGoneBackTo(t *testing.T) {
	c := sample(t)
	folder, err := c.s.Workshop.Vault.CopiesFolder(t.Context())
	require.NoError(t, err)
	t.Cleanup(func() { os.RemoveAll(folder) })
	assert.Contains(t, c.page("/copies"), "There is no copy yet")
	for range 2 { // pressed twice it is one
		assert.Equal(t, 303, c.form("/copies").Code)
	}
	page := c.page("/copies")
	names := regexp.MustCompile(`/copies/([^/"]+)/zip`).FindAllStringSubmatch(page, -1)
	require.Len(t, names, 1)
	assert.Contains(t, page, "looked over, whole")
	name, err := url.PathUnescape(names[0][1])
	require.NoError(t, err)
	w := c.do("GET", "/copies/"+url.PathEscape(name)+"/zip", "", "")
	require.Equal(t, http.StatusOK, w.Code)
	z, err := zip.NewReader(bytes.NewReader(w.Body.Bytes()), int64(w.Body.Len()))
	require.NoError(t, err)
	assert.NotEmpty(t, z.File)
	assert.Equal(t, 404, c.do("GET", "/copies/"+"nothing/zip", "", "").Code)

	assert.Equal(t, 303, c.form("/copies/begin", "copy", name).Code)
	assert.Contains(t, c.page("/copies"), "When the program starts the next time, it begins with the copy of")
	assert.Equal(t, 303, c.form("/copies/begin", "copy", "").Code)
	assert.NotContains(t, c.page("/copies"), "When the program starts the next time, it begins")
	assert.Equal(t, 404, c.form("/copies/begin", "copy", "../data").Code)
	require.NoError(t, os.WriteFile(filepath.Join(folder, name, store.FileName), []byte("no database"), 0o600))
	w = c.form("/copies/begin", "copy", name)
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "This copy is not whole, and nothing was changed")

	version := regexp.MustCompile(`name="version"\s+value="(\d+)"`).FindStringSubmatch(c.page("/copies"))[1]
	file := filepath.Join(t.TempDir(), "a file")
	require.NoError(t, os.WriteFile(file, nil, 0o600))
	for path, says := range map[string]string{"elsewhere": "from the root of the disk on", "/nowhere/at/all": "no such folder", file: "a file, not a folder"} {
		w = c.form("/copies/folder", "version", version, "folder", path)
		assert.Equal(t, 422, w.Code)
		assert.Contains(t, w.Body.String(), says)
		assert.Contains(t, w.Body.String(), `value="`+path+`"`, "what was typed stays")
	}
	other := t.TempDir()
	assert.Equal(t, 303, c.form("/copies/folder", "version", version, "folder", other).Code)
	assert.Contains(t, c.form("/copies/folder", "version", version, "folder", "").Body.String(), "changed in another window")
	assert.Equal(t, 303, c.form("/copies").Code)
	list, err := copies.List(other)
	require.NoError(t, err)
	assert.Len(t, list, 1)
	require.NoError(t, os.RemoveAll(other))
	require.NoError(t, os.WriteFile(other, nil, 0o600)) // the disk is gone, and something else stands there
	assert.Equal(t, 303, c.form("/copies").Code)
	assert.Contains(t, c.page("/copies"), "It is tried again")
}
