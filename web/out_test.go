package web

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"io"
	"mime/multipart"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/formats"
	"fairtangle/studio/workshop"
)

// sheet is a list as it goes out, its lines by their headings.
func (c client) sheet(path string) (head []string, lines []map[string]string) {
	w := c.do("GET", path, "", "")
	require.Equal(c.t, 200, w.Code, path)
	rows, err := csv.NewReader(w.Body).ReadAll()
	require.NoError(c.t, err, path)
	for _, r := range rows[1:] {
		line := map[string]string{}
		for i, h := range rows[0] {
			line[h] = r[i]
		}
		lines = append(lines, line)
	}
	return rows[0], lines
}

// The lists say what the pages say: the ledger adds up to the shelf, shares of a blend to 100, and weighings to what was booked.
func TestListsGoOut(t *testing.T) {
	c := sample(t)
	page := c.page("/out")
	for _, l := range workshop.ListsOut() {
		assert.Contains(t, page, `href="/out/lists/`+l.Key+`"`)
		head, _ := c.sheet("/out/lists/" + l.Key)
		assert.Greater(t, len(head), 8, l.Key)
	}
	number := func(s string) float64 {
		v, err := strconv.ParseFloat(s, 64)
		require.NoError(t, err)
		return v
	}
	onShelf, booked := 0.0, 0.0
	_, lots := c.sheet("/shelf/export.csv")
	for _, l := range lots {
		onShelf += number(l["grams"])
	}
	_, ledger := c.sheet("/out/lists/movements")
	for _, l := range ledger {
		booked += number(l["change_g"])
	}
	assert.InDelta(t, onShelf, booked, 1e-6)
	_, blends := c.sheet("/out/lists/blends")
	shares := map[string]float64{}
	for _, l := range blends {
		if l["share_pct"] != "" {
			shares[l["blend_number"]] += number(l["share_pct"])
		}
	}
	require.NotEmpty(t, shares)
	for b, sum := range shares {
		assert.InDelta(t, 100, sum, 1e-6, b)
	}
	assert.Equal(t, 404, c.do("GET", "/out/lists/sqlite_master", "", "").Code)
}

// Everything goes out as a zip that is whole.
func TestEverythingGoesOut(t *testing.T) {
	c := sample(t)
	w := c.do("GET", "/out/everything.zip", "", "")
	require.Equal(t, 200, w.Code)
	z, err := zip.NewReader(bytes.NewReader(w.Body.Bytes()), int64(w.Body.Len()))
	require.NoError(t, err)
	var names []string
	for _, f := range z.File {
		names = append(names, f.Name)
	}
	assert.Subset(t, names, []string{"fair-tangle/README.txt", "fair-tangle/studio.json", "fair-tangle/lots.jsonl"})
}

func (c client) palette(making, data string) *httptest.ResponseRecorder {
	var body bytes.Buffer
	m := multipart.NewWriter(&body)
	require.NoError(c.t, m.WriteField("making", making))
	require.NoError(c.t, m.WriteField("key", "one-and-the-same-key"))
	f, err := m.CreateFormFile("palette", "dyed.gpl")
	require.NoError(c.t, err)
	_, err = f.Write([]byte(data))
	require.NoError(c.t, err)
	require.NoError(c.t, m.Close())
	return c.do("POST", "/out/palette", m.FormDataContentType(), body.String())
}

// A palette becomes blends with their colours wanted, once however often it is pressed; a making's blends go out as one.
func TestPalettesComeInAndGoOut(t *testing.T) {
	c := sample(t)
	for making, data := range map[string]string{"3": "no palette", "2": "GIMP Palette\n", "1": "GIMP Palette\n" + strings.Repeat("1 2 3\n", 61), "99": "GIMP Palette\n1 2 3\n"} {
		w := c.palette(making, data)
		assert.Contains(t, []int{404, 422}, w.Code, data)
		assert.Regexp(t, `role="alert"|There is nothing|not here`, w.Body.String(), data)
	}
	for range 2 {
		w := c.palette("1", "GIMP Palette\n165 81 47 Rust on the winch\n  0 0 255\n")
		require.Equal(t, 303, w.Code, w.Body.String())
	}
	_, blends := c.sheet("/out/lists/blends")
	assert.Len(t, slices.DeleteFunc(blends, func(l map[string]string) bool { return l["blend"] != "Rust on the winch" }), 1)
	assert.Contains(t, c.page("/makings/1"), "#0000ff")
	_, lots := c.sheet("/shelf/export.csv")
	for _, form := range []string{"palette.gpl", "palette.ase"} {
		list, err := formats.ReadPalette(c.do("GET", "/out/shelf/"+form, "", "").Body.Bytes())
		require.NoError(t, err)
		assert.GreaterOrEqual(t, len(list), len(lots))
		list, err = formats.ReadPalette(c.do("GET", "/makings/2/out/"+form, "", "").Body.Bytes())
		require.NoError(t, err)
		assert.NotEmpty(t, list)
	}
	assert.Contains(t, c.do("GET", "/out/shelf/spectra.txt", "", "").Body.String(), "BEGIN_DATA_FORMAT")
	assert.Equal(t, 404, c.do("GET", "/out/shelf/palette.exe", "", "").Code)
}

// Where everything can not be written to its end, the connection ends: nobody takes the half for all.
func TestHalfOfEverythingIsNothing(t *testing.T) {
	c := sample(t)
	photos, err := filepath.Glob(filepath.Join(c.s.Store.Dir(), "photos", "*.png"))
	require.NoError(t, err)
	require.NotEmpty(t, photos)
	require.NoError(t, os.Remove(photos[0]))
	require.NoError(t, os.Mkdir(photos[0], 0o700)) // it opens, and can not be read
	srv := httptest.NewServer(c.h)
	defer srv.Close()
	r, err := srv.Client().Get(srv.URL + "/out/everything.zip")
	if err == nil {
		_, err = io.ReadAll(r.Body)
		_ = r.Body.Close()
	}
	assert.Error(t, err)
}
