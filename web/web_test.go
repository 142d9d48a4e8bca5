package web

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"sort"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"go.yaml.in/yaml/v3"

	"fairtangle/demo"
	"fairtangle/store"
	"fairtangle/studio"
	"fairtangle/studio/shelf"
	"fairtangle/web/answer"
	"fairtangle/web/api"
)

var quiet = slog.New(slog.DiscardHandler)

type client struct {
	t testing.TB
	h http.Handler
	s *studio.Studio
}

// sample is the program with the sample world in it.
func sample(t testing.TB) client {
	dir := filepath.Join(t.TempDir(), "data")
	require.NoError(t, os.CopyFS(dir, os.DirFS(sampleWorld())))
	db, err := store.Open(dir, time.Now)
	require.NoError(t, err)
	t.Cleanup(func() { db.Close() })
	st, err := studio.New(context.Background(), db)
	require.NoError(t, err)
	h, err := New(st, Options{Log: quiet, Hosts: []string{"example.com"}})
	require.NoError(t, err)
	return client{t, h, st}
}

// sampleWorld is a directory with the sample world, made once.
var sampleWorld = sync.OnceValue(func() string {
	dir, err := os.MkdirTemp("", "fairtangle-world-")
	if err != nil {
		panic(err)
	}
	db, err := store.Open(dir, time.Now)
	if err != nil {
		panic(err)
	}
	st, err := studio.New(context.Background(), db)
	if err == nil {
		err = demo.Fill(context.Background(), st)
	}
	if err = errors.Join(err, db.Close()); err != nil {
		panic(err)
	}
	return dir
})

func TestMain(m *testing.M) {
	code := m.Run()
	_ = os.RemoveAll(sampleWorld())
	os.Exit(code)
}

func (c client) do(method, path, kind, body string) *httptest.ResponseRecorder {
	r := httptest.NewRequest(method, path, strings.NewReader(body))
	if kind != "" {
		r.Header.Set("Content-Type", kind)
	}
	if kind == "application/json" {
		r.Header.Set("Accept", kind)
	}
	w := httptest.NewRecorder()
	asDocumented(c.t, c.h).ServeHTTP(w, r)
	return w
}

func (c client) json(method, path, body string) (int, map[string]any) {
	w := c.do(method, path, "application/json", body)
	var out map[string]any
	if w.Body.Len() > 0 && w.Body.Bytes()[0] == '{' {
		require.NoError(c.t, json.Unmarshal(w.Body.Bytes(), &out), w.Body.String())
	}
	return w.Code, out
}

func (c client) form(path string, values ...string) *httptest.ResponseRecorder {
	v := url.Values{}
	for i := 0; i < len(values); i += 2 {
		v.Set(values[i], values[i+1])
	}
	return c.do("POST", path, "application/x-www-form-urlencoded", v.Encode())
}

// Every route of the API stands in the document, and nothing else does.
func TestRoutesAndDocumentAgree(t *testing.T) {
	var doc struct {
		Paths map[string]map[string]any
	}
	require.NoError(t, yaml.Unmarshal(api.Document, &doc))
	var documented, routed []string
	for path, ops := range doc.Paths {
		for method := range ops {
			documented = append(documented, strings.ToUpper(method)+" "+path)
		}
	}
	e := gin.New()
	api.Routes(e, &studio.Studio{}, answer.NewTurns(1))
	param := regexp.MustCompile(`:(\w+)`)
	for _, r := range e.Routes() {
		if strings.HasPrefix(r.Path, api.Root) {
			routed = append(routed, r.Method+" "+param.ReplaceAllString(r.Path, "{$1}"))
		}
	}
	sort.Strings(documented)
	sort.Strings(routed)
	assert.Equal(t, routed, documented)
}

// Every answer in the document's schemas names its fields as the code does.
func TestDocumentedFieldsAreThoseOfTheAnswers(t *testing.T) {
	c := sample(t)
	var doc struct {
		Components struct {
			Schemas map[string]struct {
				Properties map[string]any
			}
		}
	}
	require.NoError(t, yaml.Unmarshal(api.Document, &doc))
	for schema, path := range map[string]string{"Lot": "/lots/1", "Blend": "/blends/6", "Making": "/makings/1", "Weighout": "/weighouts/1", "Shelf": "/lots"} {
		code, got := c.json("GET", api.Root+path, "")
		require.Equal(t, 200, code)
		for field := range got {
			assert.Contains(t, doc.Components.Schemas[schema].Properties, field, schema)
		}
		for field := range doc.Components.Schemas[schema].Properties {
			assert.Contains(t, got, field, schema)
		}
	}
}

// What the contract of the stateless calls says of wrong requests.
func TestWrongStatelessRequests(t *testing.T) {
	c := sample(t)
	good := `{"components":[{"name":"a","colour":{"hex":"#26324a"},"parts":1}]}`
	code, _ := c.json("POST", api.Root+"/predict", good)
	require.Equal(t, 200, code)
	many := `{"components":[` + strings.Repeat(`{"colour":{"hex":"#26324a"},"parts":1},`, 200) + `{"colour":{"hex":"#26324a"},"parts":1}]}`
	tests := []struct{ path, body, field string }{
		{"/predict", `{"components":[]}`, "components"},
		{"/predict", many, "components"},
		{"/predict", `{"components":[{"colour":{"hex":"#26324a"},"parts":0}]}`, "components[0].parts"},
		{"/predict", `{"components":[{"colour":{"hex":"26324a"},"parts":1}]}`, "components[0].colour.hex"},
		{"/predict", `{"components":[{"colour":{"hex":"#26324a","lab":[1,2,3]},"parts":1}]}`, "components[0].colour"},
		{"/predict", `{"components":[{"colour":{"lab":[1,2]},"parts":1}]}`, "components[0].colour.lab"},
		{"/predict", `{"components":[{"colour":{"reflectance":[2]},"parts":1}]}`, "components[0].colour.reflectance"},
		{"/predict", `{"components":[{"colour":{"hex":"#26324a"},"parts":1,"kind":"unicorn"}]}`, "components[0].kind"},
		{"/predict", `{"components":[{"colour":{"hex":"#26324a"},"parts":1}],"model":{"name":"srgb"}}`, "model.name"},
		{"/predict", `{"components":[{"colour":{"hex":"#26324a"},"parts":1}],"colour":"blue"}`, "colour"},
		{"/predict", `{"components":[{"colour":{"hex":"#26324a"},"parts":1e309}]}`, "components[0].parts"},
		{"/predict", `{"components":[{"colour":{"hex":"#26324a"},"parts":1},{"colour":{"lab":[1,{},"x"]},"parts":1}]}`, "components[1].colour.lab[1]"},
		{
			"/predict",
			`{"model":{"name":"friele"},"components":[{"colour":{"hex":"#26324a"},"parts":1},{"parts":"3","colour":{"hex":"#26324a"}}]}`,
			"components[1].parts",
		},
		{"/predict", `[]`, ""},
		{"/predict", `{"components":[{"colour":{"hex":"#26324a"},"parts":NaN}]}`, ""},
		{"/predict", good + good, ""},
		{"/predict", ``, ""},
		{"/weigh", `{"components":[{"share":1,"loss_pct":4}],"units":0,"finished_g":60,"passes":2,"step_g":0.1}`, "units"},
		{"/weigh", `{"components":[{"share":1,"loss_pct":4}],"units":4,"finished_g":-60,"passes":2,"step_g":0.1}`, "finished_g"},
		{"/weigh", `{"components":[{"share":0.4}],"units":4,"finished_g":60,"passes":2,"step_g":0.1}`, "components"},
		{"/weigh", `{"components":[{"share":1}],"units":4,"finished_g":60,"passes":2,"step_g":0}`, "step_g"},
		{"/reweigh", `{"components":[{"planned_g":12,"weighed_g":-1}],"step_g":0.1,"policy":"keep-total"}`, "components[0].weighed_g"},
		{"/reweigh", `{"components":[{"planned_g":12}],"step_g":0.1,"policy":"hope"}`, "policy"},
	}
	for _, q := range tests {
		code, got := c.json("POST", api.Root+q.path, q.body)
		require.Contains(t, []int{400, 422}, code, q.body)
		errs, _ := got["errors"].([]any)
		require.NotEmpty(t, errs, q.body)
		assert.Equal(t, q.field, errs[0].(map[string]any)["field"], q.body)
		assert.NotEmpty(t, errs[0].(map[string]any)["message"])
	}
	w := c.do("POST", api.Root+"/predict", "text/plain", good)
	assert.Equal(t, 400, w.Code)
	assert.Equal(t, "application/problem+json", w.Header().Get("Content-Type"))
	code, _ = c.json("POST", api.Root+"/lots", `{"name":"`+strings.Repeat("x", 2<<20)+`"}`)
	assert.Equal(t, 413, code)
}

// Answers of the stateless calls, worked by hand in core/weigh's tests, and
// the even mix of a colour with itself.
func TestStatelessAnswers(t *testing.T) {
	c := sample(t)
	_, got := c.json(
		"POST",
		api.Root+"/weigh",
		`{"components":[{"name":"a","share":0.5,"loss_pct":4},{"name":"b","share":0.5,"loss_pct":0}],"units":4,"finished_g":60,"passes":2,"step_g":0.1}`,
	)
	assert.Equal(t, []any{130.2, 120.0}, got["component_totals_g"])
	assert.Equal(t, 250.2, got["total_g"])
	assert.InDelta(t, 239.99232, got["finished_g"], 1e-6)
	_, got = c.json("POST", api.Root+"/predict", `{"components":[{"colour":{"hex":"#26324a"},"parts":2},{"colour":{"hex":"#26324a"},"parts":1}]}`)
	assert.Equal(t, "#26324a", got["colour"].(map[string]any)["hex"])
	assert.NotContains(t, got["colour"], "in_gamut")
	_, got = c.json("POST", api.Root+"/predict", `{"components":[{"colour":{"lab":[96,83,-79]},"parts":1}]}`)
	assert.Equal(t, false, got["colour"].(map[string]any)["in_gamut"])
	_, got = c.json(
		"POST",
		api.Root+"/predict",
		`{"covering_power":true,"components":[{"colour":{"hex":"#26324a"},"parts":1,"kind":"merino"},{"colour":{"hex":"#ffffff"},"parts":1,"kind":"lincoln"}]}`,
	)
	shares := got["components"].([]any)
	// merino 21.25 µm, lincoln 37.5 µm, same density: 37.5/58.75.
	assert.InDelta(t, 37.5/58.75, shares[0].(map[string]any)["effective_share"], 1e-9)
	assert.Equal(t, 0.5, shares[0].(map[string]any)["share"])
}

func lotCount(t *testing.T, c client) int64 {
	s, err := c.s.Shelf.Shelf(context.Background(), shelf.LotFilter{})
	require.NoError(t, err)
	return s.Total
}

func (c client) upload(data []byte) *httptest.ResponseRecorder {
	var body bytes.Buffer
	m := multipart.NewWriter(&body)
	f, err := m.CreateFormFile("file", "shelf.csv")
	require.NoError(c.t, err)
	_, err = f.Write(data)
	require.NoError(c.t, err)
	require.NoError(c.t, m.Close())
	return c.do("POST", "/shelf/import", m.FormDataContentType(), body.String())
}

func TestImportShowsFirstAndBringsInWhole(t *testing.T) {
	c := sample(t)
	before := lotCount(t, c)
	for what, data := range map[string]string{
		"zip": "PK\x03\x04", "long": "name,kind,colours\n" + strings.Repeat("a,romney,#112233\n", 100_000), "binary": "\x00\x01", "empty": "",
	} {
		w := c.upload([]byte(data))
		assert.Equal(t, 422, w.Code, what)
		assert.Contains(t, w.Body.String(), "Nothing was brought in", what)
	}
	assert.Equal(t, 413, c.upload(bytes.Repeat([]byte("a"), 30<<20)).Code)
	mixed := "\xef\xbb\xbfname;kind;colours;grams\ngood one;Romney;#112233;12,5\nbad;unicorn;#112233;1\nworse;romney;blue;-3\n"
	w := c.upload([]byte(mixed))
	require.Equal(t, 200, w.Code)
	assert.Contains(t, w.Body.String(), "<b>1</b> lot can come in")
	for _, want := range []string{"<td class=\"n\">3</td>", "<td class=\"n\">4</td>", "Choose a kind of fibre"} {
		assert.Contains(t, w.Body.String(), want)
	}
	assert.Equal(t, before, lotCount(t, c), "looking brings nothing in")
	w = c.form("/shelf/import/confirm", "text", mixed)
	require.Equal(t, 303, w.Code)
	assert.Equal(t, before+1, lotCount(t, c))
	// What goes out comes back in, all of it, as it was.
	out := c.do("GET", "/shelf/export.csv", "", "").Body.String()
	w = c.form("/shelf/import/confirm", "text", out)
	require.Equal(t, 303, w.Code)
	assert.Equal(t, 2*(before+1), lotCount(t, c))
}

func TestStaleVersionsAreToldWithBothStates(t *testing.T) {
	c := sample(t)
	_, lot := c.json("GET", api.Root+"/lots/1", "")
	body := func(name string) string {
		return fmt.Sprintf(`{"version":%v,"name":%q,"kind":"romney","preparation":"combed_top","colours":[{"hex":"#123456"}]}`, lot["version"], name)
	}
	code, _ := c.json("PUT", api.Root+"/lots/1", body("first"))
	require.Equal(t, 200, code)
	code, got := c.json("PUT", api.Root+"/lots/1", body("second"))
	require.Equal(t, 409, code)
	assert.Equal(t, "first", got["current"].(map[string]any)["name"])
	w := c.form("/lots/1/edit", "version", "1", "name", "typed in the second window", "kind", "romney", "preparation", "combed_top", "hex0", "#123456")
	assert.Equal(t, 409, w.Code)
	assert.Contains(t, w.Body.String(), "typed in the second window")
	assert.Contains(t, w.Body.String(), "“first”")
}

// A weighing with the same key is booked once, and an undone one is back on
// the shelf.
func TestWeighingIsBookedOnce(t *testing.T) {
	c := sample(t)
	_, before := c.json("GET", api.Root+"/lots/3", "")
	_, w := c.json("GET", api.Root+"/weighouts/1", "")
	next := w["next"].(map[string]any)
	body := func(key string, grams float64, policy string) string {
		return fmt.Sprintf(
			`{"key":%q,"version":%v,"unit":%v,"component":%v,"grams":%v,"policy":%q}`,
			key,
			w["version"],
			next["unit"],
			next["component"],
			grams,
			policy,
		)
	}
	code, got := c.json("POST", api.Root+"/weighouts/1/weighings", body("over-key-1", 12.4, ""))
	require.Equal(t, 422, code, "more than a step off wants a policy")
	assert.Equal(t, "policy", got["errors"].([]any)[0].(map[string]any)["field"])
	code, got = c.json("POST", api.Root+"/weighouts/1/consider", body("over-key-1", 12.4, ""))
	require.Equal(t, 200, code)
	assert.Equal(t, "over", got["verdict"])
	assert.Len(t, got["options"], 3)
	for range 2 {
		code, got = c.json("POST", api.Root+"/weighouts/1/weighings", body("over-key-1", 12.4, "keep-shares"))
		require.Equal(t, 201, code)
	}
	_, after := c.json("GET", api.Root+"/lots/3", "")
	assert.InDelta(t, before["grams"].(float64)-12.4, after["grams"], 1e-9)
	code, _ = c.json("POST", api.Root+"/weighouts/1/weighings", body("other-key-2", 3, "as-is"))
	assert.Equal(t, 409, code, "the version is an old one now")
	code, _ = c.json("POST", api.Root+"/weighouts/1/undo", fmt.Sprintf(`{"version":%v}`, got["version"]))
	require.Equal(t, 200, code)
	_, after = c.json("GET", api.Root+"/lots/3", "")
	assert.Equal(t, before["grams"], after["grams"])

	for _, again := range []string{body("over-key-1", 12.4, "keep-shares"), body("over-key-1", 11, "keep-shares")} {
		code, got = c.json("POST", api.Root+"/weighouts/1/weighings", again)
		require.Equal(t, 422, code, "it was taken back, or it is another weighing")
		assert.Equal(t, "key", got["errors"].([]any)[0].(map[string]any)["field"])
	}
	code, made := c.json("POST", api.Root+"/blends/6/weighouts", `{"name":"other","units":500,"finished_g":0.4,"passes":1,"step_g":0.01,"components":[]}`)
	require.Equal(t, 201, code, "%v", made)
	first := made["next"].(map[string]any)
	code, got = c.json("POST", fmt.Sprintf("%s/weighouts/%v/weighings", api.Root, made["id"]),
		fmt.Sprintf(`{"key":"over-key-1","version":1,"unit":%v,"component":%v,"grams":0.1,"policy":"as-is"}`, first["unit"], first["component"]))
	assert.Equal(t, 422, code, "%v", got)
	_, after = c.json("GET", api.Root+"/lots/3", "")
	assert.Equal(t, before["grams"], after["grams"])
}
