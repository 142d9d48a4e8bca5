package web

import (
	"log/slog"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/store"
	"fairtangle/studio/floor"
)

// Every sort of record leads home: the page where it is shown opens and is found again from its
// address, it goes to the bin and comes back, and what it belongs to is there.
func TestEveryRecordLeadsHome(t *testing.T) {
	c, db := openWorld(t, t.TempDir(), "odd", slog.New(slog.DiscardHandler))
	c.t = t
	tried := 0
	for _, sort := range store.Sorts() {
		where := ""
		if sort.Binned {
			where = " WHERE deleted_at IS NULL"
		}
		var id int64
		if db.QueryRow("SELECT id FROM "+sort.Table+where+" ORDER BY id LIMIT 1").Scan(&id) != nil {
			continue
		}
		tried++
		assert.Equal(t, 200, c.do("GET", sort.Home(id), "", "").Code, sort.Home(id))
		if sort.Page != "" {
			found, at := floor.SortAt(sort.Home(id))
			assert.Equal(t, sort.Table, found.Table)
			assert.Equal(t, id, at)
		}
		if sort.Of != "" {
			of, _ := c.s.Floor.Within(t.Context(), sort.Table, id)
			assert.Equal(t, sort.Of, of, sort.Table)
		}
		if !sort.Binned {
			assert.ErrorIs(t, c.s.Floor.Discard(t.Context(), sort.Table, id), floor.ErrNotFound)
			continue
		}
		require.NoError(t, c.s.Floor.Discard(t.Context(), sort.Table, id), sort.Table)
		assert.Contains(t, c.page("/bin"), sort.Word)
		require.NoError(t, c.s.Floor.Restore(t.Context(), sort.Table, id), sort.Table)
	}
	assert.GreaterOrEqual(t, tried, 15)
	_, known := floor.SortOf("sqlite_master")
	assert.False(t, known)
}
