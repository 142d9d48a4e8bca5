package web

import (
	"log/slog"
	"net/http"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/web/api"
)

// TestWhatIsNotSavedIsSaidAndKeptInTheForm takes the data away under the program:
// nothing is acknowledged, forms keep what was typed, and every page says it.
func TestWhatIsNotSavedIsSaidAndKeptInTheForm(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	db, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	defer func() { _ = db.Close() }()
	st, err := studio.New(t.Context(), db)
	require.NoError(t, err)
	h, err := New(st, Options{Log: slog.New(slog.DiscardHandler), Hosts: []string{"example.com"}})
	require.NoError(t, err)
	c := client{t: t, h: h}
	w := c.form("/lots/new", "name", "blue", "kind", "romney", "preparation", "combed_top", "hex0", "#123456", "grams", "30")
	require.Equal(t, http.StatusSeeOther, w.Code)
	require.NoError(t, os.Rename(dir, dir+"-away"))

	for path, fields := range map[string][]string{
		"/lots/new":    {"name", "a long name", "kind", "romney", "preparation", "combed_top", "hex0", "#123456", "grams", "31"},
		"/lots/1/move": {"reason", "weigh-in", "grams", "31", "note", "a long name"},
		"/makings":     {"name", "a long name"},
		"/kinds/new": {
			"name", "a long name", "family", "wool", "role", "base", "diameter_um_low", "20", "diameter_um_high", "30", "staple_mm_low", "6", "staple_mm_high", "9",
			"density_g_cm3", "1.31", "crimp", "medium", "cohesion", "grippy", "lustre", "matt", "carding_loss_pct_low", "1", "carding_loss_pct_high", "3",
		},
		"/equipment/new": {"name", "a long name", "type", "drum", "drive", "hand", "width_mm", "20", "length_mm", "58", "tpi", "72", "tooth_mm", "1",
			"smooth_g", "50", "lofty_g", "30", "minutes", "10", "feed_g", "0.3"},
	} {
		w := c.form(path, fields...)
		if w.Code == http.StatusUnprocessableEntity {
			t.Log(path, w.Body.String())
		}
		assert.Equal(t, http.StatusInsufficientStorage, w.Code, path)
		assert.Contains(t, w.Body.String(), "removed or replaced", path)
		assert.Contains(t, w.Body.String(), `value="a long name"`, path)
	}
	w = c.do("POST", api.Root+"/lots/1/movements", "application/json", `{"reason":"weigh-in","grams":5}`)
	assert.Equal(t, http.StatusInsufficientStorage, w.Code)
	assert.Contains(t, c.do("GET", "/shelf", "", "").Body.String(), "removed or replaced")
}
