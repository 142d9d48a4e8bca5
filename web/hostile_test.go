package web

import (
	"context"
	"io"
	"net/http"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// Whatever is typed into the forms: a message at the field, the text kept,
// nothing stored, never a 500.
func TestHostileInputInForms(t *testing.T) {
	c := sample(t)
	before := lotCount(t, c)
	for _, grams := range []string{"twelve", "-4", "1e309", "NaN", "Infinity", "🧶", "<script>alert(1)</script>", "1,2,3", "0x10", strings.Repeat("9", 400)} {
		w := c.form("/lots/new", "name", `a "b" <script>`, "kind", "romney", "preparation", "combed_top", "hex0", "#123456", "grams", grams)
		require.Equal(t, 422, w.Code, grams)
		assert.Contains(t, w.Body.String(), `class="wrong"`, grams)
		assert.Contains(t, w.Body.String(), `value="a &#34;b&#34; &lt;script&gt;"`, "what was typed is kept")
		assert.NotContains(t, w.Body.String(), "<script>alert")
		w = c.form("/lots/1/move", "grams", grams, "reason", "weigh-in")
		require.Equal(t, 422, w.Code, grams)
	}
	w := c.form("/lots/new", "name", strings.Repeat("long ", 500), "kind", "romney", "preparation", "combed_top", "hex0", "#123456")
	assert.Equal(t, 422, w.Code)
	w = c.form("/lots/new", "name", strings.Repeat("x", 2<<20), "kind", "romney")
	assert.Equal(t, 413, w.Code)
	w = c.form("/lots/1/move", "grams", "100000", "reason", "take-out")
	assert.Contains(t, w.Body.String(), "are on the shelf")
	for _, path := range []string{"/equipment/new", "/kinds/new", "/workshop", "/makings", "/makings/1", "/blends/6/weigh"} {
		w = c.form(path, "name", "", "units", "x")
		assert.Equal(t, 422, w.Code, path)
		assert.Contains(t, w.Body.String(), `class="wrong"`, path)
	}
	assert.Equal(t, before, lotCount(t, c))
	w = c.form("/lots/new", "name", "🧶 </script><b>", "kind", "romney", "preparation", "combed_top", "hex0", "#123456", "grams", "3")
	require.Equal(t, 303, w.Code, "an emoji is a fine name")
	page := c.do("GET", strings.Split(w.Header().Get("Location"), "?")[0], "", "").Body.String()
	assert.Contains(t, page, "🧶 &lt;/script&gt;&lt;b&gt;")
}

// A form that can not be read is refused by every page that takes one, never a 5xx.
func TestBrokenFormsAreTheSendersFault(t *testing.T) {
	c := sample(t)
	for _, path := range []string{
		"/lots/new", "/lots/1/edit", "/lots/1/move", "/makings", "/makings/1", "/makings/1/blends", "/makings/1/gradients", "/blends/6/weigh", "/blends/6/layup",
		"/workshop", "/ground", "/equipment/new", "/equipment/1", "/kinds/new", "/calibration", "/scraps", "/bin/discard", "/weighouts/1/off", "/makings/1/schools", "/weighouts/1/runs", "/runs/1/tell", "/runs/1/shelf", "/runs/1/photo", "/lots/1/fleece", "/photos/1/look",
	} {
		for _, body := range []string{"name=%zz", "%", "name=a;grams=1", strings.Repeat("a=1&", 12_000)} {
			w := c.do("POST", path, "application/x-www-form-urlencoded", body)
			assert.Less(t, w.Code, 500, "%s %.20s", path, body)
			w = c.do("POST", path+"?a=1;b=2", "application/x-www-form-urlencoded", body)
			assert.Less(t, w.Code, 500, "%s?; %.20s", path, body)
		}
	}
}

// A search of more words than anybody means is refused, on the page and by the API.
func TestEndlessSearchesAreRefused(t *testing.T) {
	c := sample(t)
	for _, q := range []string{strings.Repeat("a+", 1000), strings.Repeat("x", 50_000)} {
		for _, path := range []string{"/shelf?q=", "/shelf/pick?q=", api.Root + "/lots?q="} {
			assert.Equal(t, 422, c.do("GET", path+q, "", "").Code, path)
		}
	}
	assert.Equal(t, 200, c.do("GET", "/shelf?q="+strings.Repeat("a+", 20), "", "").Code)
}

// No page asks for anything from elsewhere, and none has inline script or
// style, which the policy would refuse.
func TestPagesKeepToThePolicy(t *testing.T) {
	c := sample(t)
	inline := regexp.MustCompile(`<script>|<style|\sstyle="|\son[a-z]+="|https?://`)
	for _, path := range []string{"/shelf", "/makings", "/makings/3", "/blends/6", "/blends/6/weigh", "/weighouts/1", "/weighouts/1/scale", "/runs/1",
		"/runs/1/record", "/runs/2", "/workshop", "/kinds", "/bin", "/api", "/lots/1", "/lots/new", "/nowhere"} {
		w := c.do("GET", path, "", "")
		assert.NotContains(t, w.Header().Get("Content-Security-Policy"), "unsafe")
		for _, h := range []string{"Cross-Origin-Resource-Policy", "Cross-Origin-Opener-Policy"} {
			assert.Equal(t, "same-origin", w.Header().Get(h))
		}
		body := strings.ReplaceAll(w.Body.String(), "http://www.w3.org/2000/svg", "")
		assert.Empty(t, inline.FindAllString(body, 3), path)
	}
	w := c.do("GET", "/shelf", "", "")
	r := httptest.NewRequest("GET", "/shelf", nil)
	r.Header.Set("If-None-Match", w.Header().Get("ETag"))
	again := httptest.NewRecorder()
	c.h.ServeHTTP(again, r)
	assert.Equal(t, http.StatusNotModified, again.Code)
	r = httptest.NewRequest("POST", "/ground", strings.NewReader("ground=dark"))
	r.Header.Set("Sec-Fetch-Site", "cross-site")
	cross := httptest.NewRecorder()
	c.h.ServeHTTP(cross, r)
	assert.Equal(t, http.StatusForbidden, cross.Code)
}

func FuzzChangeBlend(f *testing.F) {
	c := sample(f)
	f.Add(
		`{"version":1,"input":{"name":"x","total_g":60,"passes":2,"target":"","components":[{"lot_id":1,"parts":1}]},"change":{"verb":"share","at":0,"value":0.5},"keep":true}`,
	)
	f.Fuzz(func(t *testing.T, body string) {
		c := client{t, c.h, c.s}
		w := c.do("POST", "/blends/6/change", "application/json", body)
		if w.Code >= 500 {
			_, _ = io.Copy(io.Discard, w.Body)
			t.Errorf("%d for %q", w.Code, body)
		}
	})
}

// HEAD is GET without a body, other methods are told which ones there are, and a
// client that leaves is no error.
func TestMethodsAndClientsThatLeave(t *testing.T) {
	c := sample(t)
	srv := httptest.NewServer(c.h)
	defer srv.Close()
	for _, path := range []string{"/shelf", api.Root + "/lots", "/art/band.svg?c=777777"} {
		get := c.do("GET", path, "", "")
		r, err := http.NewRequest("HEAD", srv.URL+path, nil)
		require.NoError(t, err)
		r.Host = "localhost"
		res, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		assert.Equal(t, 200, res.StatusCode)
		body, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		assert.Empty(t, body)
		assert.Equal(t, get.Header().Get("Content-Type"), res.Header.Get("Content-Type"))
		require.NoError(t, res.Body.Close())
	}
	for _, path := range []string{"/shelf", api.Root + "/lots", api.Root + "/weighouts/1/consider"} {
		w := c.do("PATCH", path, "", "")
		assert.Equal(t, 405, w.Code, path)
		assert.NotEmpty(t, w.Header().Get("Allow"), path)
	}
	ctx, leave := context.WithCancel(context.Background())
	leave()
	for _, path := range []string{"/makings", api.Root + "/lots/1"} {
		w := httptest.NewRecorder()
		c.h.ServeHTTP(w, httptest.NewRequest("GET", path, nil).WithContext(ctx))
		assert.Less(t, w.Code, 500, path)
	}
}
