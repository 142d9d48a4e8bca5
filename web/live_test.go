package web

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// events opens a live stream and gives its events one by one.
func events(t *testing.T, url string) (next func() map[string]any, stop func()) {
	ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, url, nil)
	require.NoError(t, err)
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	require.Equal(t, 200, res.StatusCode)
	assert.Equal(t, "text/event-stream", res.Header.Get("Content-Type"))
	lines := bufio.NewScanner(res.Body)
	return func() map[string]any {
			for lines.Scan() {
				if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
					var v map[string]any
					require.NoError(t, json.Unmarshal([]byte(data), &v))
					return v
				}
			}
			t.Fatal("the stream ended")
			return nil
		}, func() {
			cancel()
			res.Body.Close()
		}
}

// TestWindowsAtOnceAtTheScale: without a scale the page hears who weighs and what is weighed;
// a weighing by a program reaches it at once.
func TestWindowsAtOnceAtTheScale(t *testing.T) {
	c := sample(t)
	srv := httptest.NewServer(c.h)
	defer srv.Close()
	defer c.s.Scale.Hush()
	next, stop := events(t, srv.URL+"/weighouts/1/live?window=window-one&name=The+computer")
	defer stop()
	assert.Equal(t, true, next()["free"], "to listen takes nothing")
	code, _ := c.json("POST", "/weighouts/1/plate", `{"window":"window-one","verb":"first"}`)
	require.Equal(t, http.StatusOK, code)
	first := next()
	for ; first["free"] == true; first = next() {
	}
	assert.Equal(t, true, first["mine"])
	assert.InDelta(t, 0, first["scale_id"], 0)
	assert.Equal(t, map[string]any{"unit": 1.0, "component": 2.0}, first["at"])
	second, stopSecond := events(t, srv.URL+"/weighouts/1/live?window=window-two&name=The+phone")
	defer stopSecond()
	assert.Equal(t, false, second()["mine"])

	code, _ = c.json("POST", "/weighouts/1/plate", `{"window":"window-two","verb":"first"}`)
	assert.Equal(t, http.StatusLocked, code)
	code, w := c.json("GET", "/api/v1/weighouts/1", "")
	require.Equal(t, 200, code)
	code, w = c.json("POST", "/api/v1/weighouts/1/weighings", fmt.Sprintf(`{"key":"live-0001","version":%v,"unit":1,"component":2,"grams":11}`, w["version"]))
	require.Equal(t, 201, code)
	for v := next(); v["version"] != w["version"]; {
		v = next()
	}
	for v := second(); v["version"] != w["version"]; {
		v = second()
	}
	code, got := c.json("POST", "/weighouts/1/weigh",
		fmt.Sprintf(`{"key":"live-0002","version":%v,"unit":1,"component":3,"text":"10.2","mg":0,"policy":"","window":"window-two"}`, w["version"]))
	assert.Equal(t, http.StatusLocked, code)
	assert.Contains(t, got["detail"], "The computer weighs here")
	code, _ = c.json("POST", "/weighouts/1/plate", `{"window":"window-two","verb":"hold"}`)
	assert.Equal(t, 200, code)
	for v := next(); v["mine"] == true; {
		v = next()
	}
}

// TestTheScaleRefusesNonsense: each with its sentence, none with a 500.
func TestTheScaleRefusesNonsense(t *testing.T) {
	c := sample(t)
	for request, says := range map[string]string{
		"GET /weighouts/1/live":                                    "A window is known by",
		"GET /weighouts/1/live?window=short&name=x":                "A window is known by",
		"GET /weighouts/99/live?window=window-one&name=x":          "nothing here",
		"GET /stock/live?window=window-one":                        "A window is known by",
		"POST /weighouts/1/plate {}":                               "does not watch the scale",
		"POST /weighouts/1/plate {\"weight\":\"abc\"}":             "not a number",
		"POST /weighouts/1/together {\"text\":\"1\"}":              "8 to 50 signs",
		"POST /weighouts/1/goon {\"way\":\"fly\"}":                 "instead, fewer or spread",
		"GET /weighouts/1/runningout?component=77":                 "no such component",
		"POST /weighouts/1/order {\"version\":1}":                  "changed in the meantime",
		"POST /stock/1/count {\"text\":\"5\"}":                     "8 to 64 signs",
		"POST /stock/1/count {\"text\":\"\",\"key\":\"12345678\"}": "Enter a weight",
		"POST /stock/1/back {\"count\":99999}":                     "nothing here",
		"GET /layups/1/parts?stage=1&parts=99":                     "1 to 24 parts",
		"GET /layups/1/parts?stage=99&parts=2":                     "nothing here",
		"GET /layups/1/beside?other=x":                             "what to set beside it",
		"POST /layups/1/fit {\"looks\":[]}":                        "Note the look",
		"POST /layups/1/fit {\"looks\":[\"shiny\"]}":               "streaky, marled, heathered or even",
		"POST /layups/4/fit {\"looks\":[\"even\"]}":                "Only a drum",
		"POST /layups/1/fit/use {\"used\":true}":                   "nothing here",
	} {
		parts := strings.SplitN(request, " ", 3)
		body := ""
		if len(parts) == 3 {
			body = parts[2]
		}
		w := c.do(parts[0], parts[1], "application/json", body)
		assert.Less(t, w.Code, 500, request)
		assert.Contains(t, strings.ToLower(w.Body.String()), strings.ToLower(says), request)
	}
	for _, form := range [][]string{{"name", "x"}, {"name", "", "address", "a:1", "step_g", "x", "capacity_g", "-1"}, {"id", "77", "name", "x",
		"address", "a:1", "step_g", "1", "capacity_g", "100"}} {
		assert.Contains(t, []int{404, 422}, c.form("/scales", form...).Code, "%v", form)
	}
	assert.Equal(t, 422, c.form("/containers", "container_name", "x", "weight_g", "0").Code)
}

// TestTheShelfIsCounted: a count books its difference once, is shown with it, and is taken
// back.
func TestTheShelfIsCounted(t *testing.T) {
	c := sample(t)
	count := func() (int, map[string]any) {
		return c.json("POST", "/stock/1/count", `{"key":"stock-0001","text":"260","mg":0,"policy":"","version":0,"unit":0,"component":0,"window":""}`)
	}
	for range 2 {
		code, row := count()
		require.Equal(t, 200, code)
		assert.Equal(t, "262.8", row["was"])
		assert.Equal(t, "260", row["counted"])
		assert.Contains(t, row["differs"], "2.8")
		code, row = c.json("GET", "/api/v1/lots/1", "")
		require.Equal(t, 200, code)
		assert.InDelta(t, 260, row["grams"], 1e-9)
	}
	_, row := count()
	code, row := c.json("POST", "/stock/1/back", fmt.Sprintf(`{"count":%v}`, row["count"]))
	require.Equal(t, 200, code)
	assert.Equal(t, "", row["counted"])
	assert.Contains(t, c.page("/stock"), "Stock-taking")
	code, _ = count()
	assert.Equal(t, 422, code, "what was taken back is counted with another key")
}
