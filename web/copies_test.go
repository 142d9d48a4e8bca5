package web

import (
	"archive/zip"
	"bytes"
	"fmt"
	"net/http"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/store"
	"fairtangle/store/copies"
	"fairtangle/studio"
	"fairtangle/studio/recipe"
	"fairtangle/studio/shelf"
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

// What another computer has comes over by its page: what was chosen comes, pressed twice it comes once; what can not be chosen is refused
// with a sentence, and a copy that is not there or not whole has nothing to give.
func TestAnotherComputersWorkComesOver(t *testing.T) {
	c := sample(t)
	folder, err := c.s.Workshop.Vault.CopiesFolder(t.Context())
	require.NoError(t, err)
	t.Cleanup(func() { os.RemoveAll(folder) })
	other := filepath.Join(t.TempDir(), "other")
	made, err := copies.Make(t.Context(), c.s.Store.Dir(), folder, c.s.Store.Now())
	require.NoError(t, err)
	_, err = copies.Restore(t.Context(), made.Path, other, c.s.Store.Now())
	require.NoError(t, err)
	s, err := store.Open(other, time.Now)
	require.NoError(t, err)
	defer s.Close()
	there, err := studio.New(t.Context(), s)
	require.NoError(t, err)
	hostile := `<b onmouseover="x()">“lot_id":1`
	lot := shelf.NewLot{Grams: 30, LotInput: shelf.LotInput{Name: "there", Kind: "romney", Preparation: "combed_top",
		Colours: []shelf.LotColour{{Hex: "#6b5a48", Share: 1, Source: "picker"}}}}
	lots, err := there.Shelf.CreateLots(t.Context(), []shelf.NewLot{lot}, "")
	require.NoError(t, err)
	lot.Name = "here"
	_, err = c.s.Shelf.CreateLots(t.Context(), []shelf.NewLot{lot}, "")
	require.NoError(t, err)
	note := fmt.Sprintf(`{"lot_id":%d}`, lots[0].ID)
	_, err = there.Recipe.CreateMaking(t.Context(), recipe.MakingInput{Name: hostile, Note: note})
	require.NoError(t, err)
	_, err = there.Shelf.Move(t.Context(), 2, shelf.MoveInput{Reason: "take-out", Grams: 5})
	require.NoError(t, err)
	came, err := copies.Make(t.Context(), other, folder, c.s.Store.Now().Add(time.Hour))
	require.NoError(t, err)

	at := "/copies/" + url.PathEscape(came.Name) + "/newer"
	page := c.page(at)
	assert.Contains(t, page, "&lt;b onmouseover")
	keys := regexp.MustCompile(`name="((?:lots|makings|movements)-\d+)" value="theirs" checked`).FindAllStringSubmatch(page, -1)
	require.Len(t, keys, 3)
	w := c.form(at, keys[0][1], "beside")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "not as it was shown any more")
	w = c.form(at)
	assert.Contains(t, w.Body.String(), "Choose what to take over")
	before, err := c.s.Shelf.Lot(t.Context(), 2)
	require.NoError(t, err)
	for range 2 {
		w = c.form(at, keys[0][1], "theirs", keys[1][1], "theirs", keys[2][1], "theirs")
		assert.Equal(t, 303, w.Code)
	}
	after, err := c.s.Shelf.Lot(t.Context(), 2)
	require.NoError(t, err)
	assert.InDelta(t, before.Grams-5, after.Grams, 1e-9)
	page = c.page(at)
	assert.Contains(t, page, "Nothing there is newer than here")
	list, err := c.s.Recipe.Makings(t.Context(), false)
	require.NoError(t, err)
	assert.Equal(t, hostile, list[0].Name)
	assert.Equal(t, note, list[0].Note, "what a maker wrote is not read as numbers")
	assert.Equal(t, 404, c.do("GET", "/copies/nothing/newer", "", "").Code)
	require.NoError(t, os.WriteFile(filepath.Join(came.Path, "about.json"), []byte(`{"Wrong":["It is damaged."]}`), 0o600))
	w = c.do("GET", at, "", "")
	assert.Equal(t, 422, w.Code)
	assert.Contains(t, w.Body.String(), "This copy is not whole")
}
