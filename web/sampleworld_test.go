package web

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/demo"
	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/web/api"
)

// From an empty program the sample world is one press away, and one press puts it away again: what the maker added stays, what was
// carded in the sample world teaches nothing any more, and it can be laid out no second time while something is there.
func TestTheSampleWorldIsOnePressAway(t *testing.T) {
	db, err := store.Open(t.TempDir(), time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { db.Close() })
	s, err := studio.New(t.Context(), db)
	require.NoError(t, err)
	h, err := New(s, Options{Log: quiet, Hosts: []string{"example.com"}, Sample: demo.Fill})
	require.NoError(t, err)
	c := client{t, h, s}
	assert.Contains(t, c.page("/makings"), "Lay out the sample world")
	require.Equal(t, 303, c.form("/sample").Code)
	page := c.page("/makings")
	assert.Contains(t, page, "Tide Table throw")
	assert.Contains(t, page, "Put the sample world away")
	assert.NotContains(t, page, "Lay out the sample world")
	assert.Equal(t, 422, c.form("/sample").Code, "where something is already")
	code, mine := c.json("POST", api.Root+"/makings", `{"name":"my own hat"}`)
	require.Equal(t, 201, code, mine)
	require.Equal(t, 303, c.form("/sample/away").Code)
	page = c.page("/makings")
	assert.Contains(t, page, "my own hat")
	assert.NotContains(t, page, "Tide Table throw")
	assert.NotContains(t, page, "Put the sample world away")
	assert.NotContains(t, page, "Lay out the sample world", "she has a making of her own")
	assert.NotContains(t, c.page("/shelf"), "Corriedale")
	assert.Contains(t, c.page("/bin"), "Tide Table throw")
	assert.Contains(t, c.page("/notebook"), "Nothing was carded yet")
	require.Equal(t, 303, c.form("/sample/away").Code, "a second press does nothing more")
	assert.Contains(t, c.page("/makings"), "my own hat")
	none := sample(t)
	assert.Equal(t, 404, none.form("/sample").Code, "where it is not at hand")
}
