package web

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"mime"
	"net/http"
	"net/http/httptest"
	"os"
	"regexp"
	"strings"
	"sync"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"go.yaml.in/yaml/v3"

	"fairtangle/web/api"
)

// documented is the API's document, made ready to hold calls to it.
type documented struct {
	mu       sync.Mutex
	doc      map[string]any
	compiler *jsonschema.Compiler
	schemas  map[string]*jsonschema.Schema
	paths    map[string]*regexp.Regexp
}

var document = sync.OnceValue(func() *documented {
	d := &documented{schemas: map[string]*jsonschema.Schema{}, paths: map[string]*regexp.Regexp{}}
	if err := yaml.Unmarshal(api.Document, &d.doc); err != nil {
		panic(err)
	}
	data, err := json.Marshal(d.doc)
	if err != nil {
		panic(err)
	}
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		panic(err)
	}
	d.compiler = jsonschema.NewCompiler()
	d.compiler.DefaultDraft(jsonschema.Draft2020)
	if err := d.compiler.AddResource("api.json", doc); err != nil {
		panic(err)
	}
	for path := range d.doc["paths"].(map[string]any) {
		d.paths[path] = regexp.MustCompile("^" + regexp.MustCompile(`\\\{\w+\\\}`).ReplaceAllString(regexp.QuoteMeta(path), `[^/]+`) + "$")
	}
	return d
})

// at follows keys from the top of the document, through references.
func (d *documented) at(keys ...string) (any, string) {
	var now any = d.doc
	place := ""
	for _, k := range keys {
		m, ok := now.(map[string]any)
		if !ok {
			return nil, ""
		}
		now = m[k]
		place += "/" + strings.NewReplacer("~", "~0", "/", "~1").Replace(k)
		if r, ok := now.(map[string]any); ok {
			if ref, ok := r["$ref"].(string); ok && !strings.HasPrefix(ref, "#/components/schemas/") {
				now, place = d.at(strings.Split(strings.TrimPrefix(ref, "#/"), "/")...)
			}
		}
	}
	return now, place
}

// fits holds a text to the schema at keys; no schema fits anything but JSON.
func (d *documented) fits(text []byte, keys ...string) error {
	d.mu.Lock()
	defer d.mu.Unlock()
	v, place := d.at(append(keys, "schema")...)
	if v == nil {
		return fmt.Errorf("no schema at %v", keys)
	}
	s := d.schemas[place]
	if s == nil {
		var err error
		if s, err = d.compiler.Compile("api.json#" + place); err != nil {
			return err
		}
		d.schemas[place] = s
	}
	in, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		return err
	}
	return s.Validate(in)
}

func (d *documented) path(of string) string {
	best := ""
	for path, pattern := range d.paths {
		if pattern.MatchString(of) && (best == "" || strings.Count(path, "{") < strings.Count(best, "{")) {
			best = path
		}
	}
	return best
}

// asDocumented serves with h and holds every call of the API to the document: what
// is answered always, what is asked where it was not refused.
func asDocumented(t testing.TB, h http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		d := document()
		path := d.path(r.URL.Path)
		if known, _ := d.at("paths", path, strings.ToLower(r.Method)); known == nil {
			h.ServeHTTP(w, r)
			return
		}
		body, err := io.ReadAll(r.Body)
		require.NoError(t, err)
		r.Body = io.NopCloser(bytes.NewReader(body))
		got := httptest.NewRecorder()
		h.ServeHTTP(got, r)
		method := strings.ToLower(r.Method)
		content, _ := d.at("paths", path, method, "requestBody", "content")
		if m, _ := content.(map[string]any); got.Code < 400 && len(body) > 0 && (m == nil || m["application/json"] != nil) {
			if err := d.fits(body, "paths", path, method, "requestBody", "content", "application/json"); err != nil {
				t.Errorf("%s %s: the document does not know this request: %v\n%s", r.Method, path, err, body)
			}
		}
		kind, _, _ := mime.ParseMediaType(got.Header().Get("Content-Type"))
		if known, _ := d.at("paths", path, method, "responses", fmt.Sprint(got.Code)); known == nil {
			t.Errorf("%s %s: the document does not know an answer with %d", r.Method, path, got.Code)
		} else if strings.HasSuffix(kind, "json") {
			if err := d.fits(got.Body.Bytes(), "paths", path, method, "responses", fmt.Sprint(got.Code), "content", kind); err != nil {
				t.Errorf("%s %s: the document does not know this answer with %d: %v\n%s", r.Method, path, got.Code, err, got.Body)
			}
		}
		for k, v := range got.Header() {
			w.Header()[k] = v
		}
		w.WriteHeader(got.Code)
		_, _ = w.Write(got.Body.Bytes())
	})
}

// Every object of the document says what is in it.
func TestNoObjectIsLeftBare(t *testing.T) {
	var bare []string
	var walk func(at string, v any)
	walk = func(at string, v any) {
		switch v := v.(type) {
		case map[string]any:
			if v["type"] == "object" && v["properties"] == nil && v["additionalProperties"] == nil {
				bare = append(bare, at)
			}
			for k, w := range v {
				if k != "example" {
					walk(at+"/"+k, w)
				}
			}
		case []any:
			for i, w := range v {
				walk(fmt.Sprintf("%s/%d", at, i), w)
			}
		}
	}
	walk("", document().doc)
	assert.Empty(t, bare)
}

// What ships is what stands in the document: after a change of it, go generate ./web/api packs it anew.
func TestTheDocumentShipsAsItIs(t *testing.T) {
	text, err := os.ReadFile("api/openapi.yaml")
	require.NoError(t, err)
	assert.True(t, bytes.Equal(text, api.Document), "run go generate ./web/api")
}
