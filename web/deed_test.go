package web

import (
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"fairtangle/studio/recipe"
	"fairtangle/studio/yarns"
	"fairtangle/web/api"
)

// The first press beside the road: a blend that has no fibre yet in a making with a need. All that is
// there opens; the blend has no share of the need, and the others have all of it.
func TestABlendWithoutFibreHoldsUpNothing(t *testing.T) {
	c, db := worldIn(t, "sample")
	var making int64
	require.NoError(t, db.QueryRow("SELECT making_id FROM needs WHERE id = 1").Scan(&making))
	w := c.form(fmt.Sprintf("/makings/%d/blends", making), "blend_name", "to be filled")
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	for _, p := range siteMap(t, db) {
		if !heavy.MatchString(p) {
			w := httptest.NewRecorder()
			c.h.ServeHTTP(w, httptest.NewRequest("GET", p, nil))
			assert.Less(t, w.Code, 500, p)
		}
	}
	code, n := c.json("GET", api.Root+"/needs/1", "")
	require.Equal(t, 200, code)
	var sum float64
	for _, b := range n["blends"].([]any) {
		v := b.(map[string]any)
		if v["name"] == "to be filled" {
			assert.Zero(t, v["share"])
			assert.Zero(t, v["want_g"])
			assert.Equal(t, true, v["empty"])
		}
		sum += v["share"].(float64)
	}
	assert.InDelta(t, 1, sum, 1e-9)
	assert.Contains(t, c.page("/needs/1"), "no fibre yet")
	code, _ = c.json("POST", api.Root+"/needs/1/give", "")
	assert.Equal(t, 200, code, "the others take their weights")
}

// Whatever blends a making has, with fibre, without, never carded: the shares of its need add up to 1
// where any has fibre, the weights to the whole of it, and one without has nothing of it.
func TestSharesOfANeedAddUp(t *testing.T) {
	c := sample(t)
	ctx := t.Context()
	rapid.Check(t, func(t *rapid.T) {
		m, err := c.s.Recipe.CreateMaking(ctx, recipe.MakingInput{Name: "m"})
		require.NoError(t, err)
		laid := 0
		for i := range rapid.IntRange(0, 5).Draw(t, "blends") {
			in := recipe.BlendInput{Name: fmt.Sprint(i), TotalG: rapid.Float64Range(1, 900).Draw(t, "total"), Passes: rapid.IntRange(0, 4).Draw(t, "passes")}
			for k := range rapid.IntRange(0, 3).Draw(t, "fibres") {
				id := int64(k + 1)
				in.Components = append(in.Components, recipe.BlendComponent{LotID: &id, Parts: rapid.Float64Range(0.1, 9).Draw(t, "parts")})
			}
			if len(in.Components) > 0 {
				laid++
			}
			_, err := c.s.Recipe.CreateBlend(ctx, m.ID, in)
			require.NoError(t, err)
		}
		n, err := c.s.Yarns.StartNeed(ctx, m.ID, yarns.NeedPlan{What: "x", Way: "batts", Count: rapid.IntRange(1, 9).Draw(t, "batts"), Each: 40})
		require.NoError(t, err)
		require.True(t, n.Enough)
		var shares, wanted float64
		for _, b := range n.Blends {
			shares, wanted = shares+b.Share, wanted+b.WantG
			if b.Empty {
				require.Zero(t, b.Share+b.WantG)
			}
		}
		if laid > 0 {
			require.InDelta(t, 1, shares, 1e-9)
			require.InDelta(t, n.FibreG, wanted, 1e-6)
		}
		_, err = c.s.Buying.Claims(ctx)
		require.NoError(t, err)
	})
}

// A form that is sent again, and again at once, is one deed: one lot, one skein, one making; what is
// typed anew under the same key is another.
func TestAFormSentTwiceIsDoneOnce(t *testing.T) {
	c := sample(t)
	atOnce := func(path string, v url.Values) (to map[string]int) {
		to = map[string]int{}
		var mu sync.Mutex
		var wg sync.WaitGroup
		for range 8 {
			wg.Go(func() {
				r := httptest.NewRequest("POST", path, strings.NewReader(v.Encode()))
				r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
				w := httptest.NewRecorder()
				c.h.ServeHTTP(w, r)
				mu.Lock()
				defer mu.Unlock()
				to[fmt.Sprint(w.Code, " ", w.Header().Get("Location"))]++
			})
		}
		wg.Wait()
		return to
	}
	lots := lotCount(t, c)
	code, l := c.json("POST", api.Root+"/makings", `{"name":"Shawl"}`)
	require.Equal(t, 201, code)
	code, _ = c.json("POST", fmt.Sprintf("%s/makings/%v/blends", api.Root, l["id"]),
		`{"name":"b","total_g":700,"passes":1,"components":[{"name":"wool","kind":"corriedale","preparation":"combed_top","hex":"#884422","parts":1}]}`)
	require.Equal(t, 201, code)
	code, list := c.json("POST", api.Root+"/buylists", fmt.Sprintf(`{"making_ids":[%v]}`, l["id"]))
	require.Equal(t, 201, code)
	came := url.Values{"key": {"came-once"}, "version": {fmt.Sprint(list["version"])}, "id": {"1"}, "grams": {"700"}}
	to := atOnce(fmt.Sprintf("/buy/%v/came", list["id"]), came)
	assert.Len(t, to, 1, to)
	assert.Equal(t, lots+1, lotCount(t, c))

	skein := url.Values{"key": {"skein-once"}, "name": {"Border"}, "length_m": {"120"}, "weight_g": {"40"}}
	assert.Len(t, atOnce("/makings/1/skeins/new", skein), 1)
	all, err := c.s.Yarns.SkeinsOf(t.Context(), 1)
	require.NoError(t, err)
	before := len(all)
	skein.Set("name", "Another")
	assert.Len(t, atOnce("/makings/1/skeins/new", skein), 1)
	all, err = c.s.Yarns.SkeinsOf(t.Context(), 1)
	require.NoError(t, err)
	assert.Len(t, all, before+1)

	body := `{"name":"by a program"}`
	send := func(key string) *httptest.ResponseRecorder {
		r := httptest.NewRequest("POST", api.Root+"/makings", strings.NewReader(body))
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("Idempotency-Key", key)
		w := httptest.NewRecorder()
		c.h.ServeHTTP(w, r)
		return w
	}
	first, again := send("a-program"), send("a-program")
	assert.Equal(t, http.StatusCreated, again.Code)
	assert.Equal(t, first.Body.String(), again.Body.String())
	assert.NotEqual(t, first.Body.String(), send("another").Body.String())
	assert.Equal(t, http.StatusUnprocessableEntity, send(strings.Repeat("k", 65)).Code)
}

// A mend that weighed a sample out is not undone once something was weighed from it.
func TestASampleThatWasWeighedStays(t *testing.T) {
	c := sample(t)
	code, w := c.json("POST", api.Root+"/blends/6/weighouts", `{"name":"a sample","units":1,"finished_g":8,"passes":1,"step_g":0.1,"components":[]}`)
	require.Equal(t, 201, code, w)
	next := w["next"].(map[string]any)
	code, _ = c.json("POST", fmt.Sprintf("%s/weighouts/%v/weighings", api.Root, w["id"]),
		fmt.Sprintf(`{"key":"of-the-sample","version":%v,"unit":%v,"component":%v,"grams":1,"policy":"as-is"}`, w["version"], next["unit"], next["component"]))
	require.Equal(t, 201, code)
	undo := fmt.Sprintf(`{"kind":"weighout","id":%v}`, w["id"])
	code, p := c.json("POST", "/second/undo", undo)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, p["detail"], "weighed from since")
	code, now := c.json("GET", fmt.Sprintf("%s/weighouts/%v", api.Root, w["id"]), "")
	require.Equal(t, 200, code)
	code, _ = c.json("POST", fmt.Sprintf("%s/weighouts/%v/undo", api.Root, w["id"]), fmt.Sprintf(`{"version":%v}`, now["version"]))
	require.Equal(t, 200, code)
	code, _ = c.json("POST", "/second/undo", undo)
	assert.Equal(t, 200, code)
}

// What a deed answers arrives whole in a browser, which takes it packed: a form with its faults, a
// view, a redirect.
func TestAnswersOfDeedsArrivePacked(t *testing.T) {
	c := sample(t)
	srv := httptest.NewServer(c.h)
	defer srv.Close()
	one := &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	send := func(path, kind, body string) (int, string) {
		r, err := http.NewRequest("POST", srv.URL+path, strings.NewReader(body))
		require.NoError(t, err)
		r.Host = "localhost"
		r.Header.Set("Content-Type", kind)
		res, err := one.Do(r) // it asks for gzip, and unpacks it
		require.NoError(t, err)
		defer res.Body.Close()
		data, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		return res.StatusCode, string(data)
	}
	const form = "application/x-www-form-urlencoded"
	code, body := send("/calibration", form, "key=abc&name=&blend=6")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "Give the sample a name")
	code, body = send("/second/tell", "application/json", `{"nonsense":1}`)
	assert.Equal(t, http.StatusBadRequest, code)
	assert.NotEmpty(t, body)
	code, body = send(api.Root+"/makings", "application/json", `{"name":"packed"}`)
	assert.Equal(t, http.StatusCreated, code)
	assert.Contains(t, body, `"packed"`)
	code, _ = send("/makings", form, "name=to+and+on")
	assert.Equal(t, http.StatusSeeOther, code)
}

// A name stands in one line and says what it shows: no line breaks, and no marks that turn what
// comes after them round.
func TestNamesStandInOneLine(t *testing.T) {
	c := sample(t)
	code, m := c.json("POST", api.Root+"/makings", `{"name":"a\nscarf\u202e\u2066 for\tme\u2028","note":"first\nsecond\u202e"}`)
	require.Equal(t, 201, code)
	assert.Equal(t, "a scarf for me", m["name"])
	assert.Equal(t, "first\nsecond", m["note"])
}
