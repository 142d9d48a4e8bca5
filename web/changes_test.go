package web

import (
	"fmt"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// Another program that follows from the beginning, however few it takes at a time, sees each record once in its last version, and from
// then on all that is done: made, changed, booked, into the bin and out of it.
func TestAnotherProgramFollows(t *testing.T) {
	c := sample(t)
	since := ""
	follow := func(limit int) (out map[string]map[string]any, n int) {
		out = map[string]map[string]any{}
		for {
			code, page := c.json("GET", fmt.Sprintf("%s/changes?limit=%d&since=%s", api.Root, limit, url.QueryEscape(since)), "")
			require.Equal(t, 200, code, page)
			for _, v := range page["changes"].([]any) {
				v := v.(map[string]any)
				key := fmt.Sprintf("%v %v", v["of"], v["id"])
				require.NotContains(t, out, key, "seen twice")
				out[key], n = v, n+1
			}
			since = page["until"].(string)
			if page["more"] == false {
				return out, n
			}
		}
	}
	all, _ := follow(7)
	_, shelf := c.json("GET", api.Root+"/lots?limit=200", "")
	lots := list(shelf["lots"])
	require.NotEmpty(t, lots)
	for _, row := range lots {
		l := row.(map[string]any)
		v := all[fmt.Sprintf("lots %v", l["id"])]
		require.NotNil(t, v)
		assert.Equal(t, l["version"], v["version"])
		code, _ := c.json("GET", v["href"].(string), "")
		assert.Equal(t, 200, code)
	}
	_, n := follow(100)
	assert.Zero(t, n)
	code, _ := c.json("POST", api.Root+"/lots/1/movements", `{"reason":"weigh-in","grams":5}`)
	require.Equal(t, 201, code)
	got, n := follow(100)
	assert.Equal(t, 1, n)
	for key := range got {
		assert.Contains(t, key, "movements ")
	}
	for _, binned := range []bool{true, false} {
		if binned {
			require.Equal(t, 204, c.do("DELETE", api.Root+"/makings/1", "", "").Code)
		} else {
			code, _ = c.json("POST", api.Root+"/makings/1/restore", "")
			require.Less(t, code, 300)
		}
		got, _ = follow(100)
		require.Contains(t, got, "makings 1")
		assert.Equal(t, binned, got["makings 1"]["binned"])
	}
	for _, bad := range []string{"since=yesterday", "limit=0", "limit=many"} {
		code, _ := c.json("GET", api.Root+"/changes?"+bad, "")
		assert.Equal(t, 422, code, bad)
	}
}
