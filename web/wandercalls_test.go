package web

import (
	"encoding/json"
	"fmt"
	"net/http"
	"sort"
	"strings"
	"sync"
	"sync/atomic"

	"github.com/stretchr/testify/require"
	"go.yaml.in/yaml/v3"
	"pgregory.net/rapid"

	"fairtangle/web/api"
)

// walked counts the acts of all walks.
var walked atomic.Int64

// apiCall is a call of the document that keeps something.
type apiCall struct {
	method, path string
	schema       map[string]any
}

// theDocument is the API's description, as a tree.
var theDocument = sync.OnceValue(func() map[string]any {
	var doc map[string]any
	if err := yaml.Unmarshal(api.Document, &doc); err != nil {
		panic(err)
	}
	return doc
})

// apiCalls lists the calls of the document that have a body or change something.
var apiCalls = sync.OnceValue(func() (out []apiCall) {
	paths := theDocument()["paths"].(map[string]any)
	for path, ops := range paths {
		if !strings.Contains(path, "{") && !strings.HasSuffix(path, "s") && path != api.Root+"/scraps" {
			continue // stateless ones have tests of their own
		}
		for method, op := range ops.(map[string]any) {
			if method == "get" || method == "parameters" {
				continue
			}
			c := apiCall{method: strings.ToUpper(method), path: path}
			if body, ok := op.(map[string]any)["requestBody"].(map[string]any); ok {
				content, _ := body["content"].(map[string]any)
				j, ok := content["application/json"].(map[string]any)
				if !ok {
					continue
				}
				c.schema, _ = j["schema"].(map[string]any)
			}
			out = append(out, c)
		}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].path+out[i].method < out[j].path+out[j].method })
	return out
})

// call sends a call of the API with a body that its schema allows, more or less, for what is
// there, more or less.
func (w *wanderer) call() {
	c := rapid.SampledFrom(apiCalls()).Draw(w.T, "call")
	path := c.path
	word := strings.Split(strings.TrimPrefix(path, api.Root+"/"), "/")[0]
	id := int64(rapid.IntRange(1, 8).Draw(w.T, "id"))
	for strings.Contains(path, "{") {
		from, to := strings.Index(path, "{"), strings.Index(path, "}")
		path = path[:from] + fmt.Sprint(id) + path[to+1:]
	}
	body := ""
	if c.schema != nil {
		v := w.drawn(c.schema, word, 0)
		if m, ok := v.(map[string]any); ok {
			w.based(m, c, path)
		}
		data, err := json.Marshal(v)
		require.NoError(w, err)
		body = string(data)
	}
	w.act("%s %s %s", c.method, path, body)
	kind := "application/json"
	r := w.ask(c.method, path, kind, body)
	w.fine(path, r)
	require.NotEqual(w, http.StatusMethodNotAllowed, r.Code, path)
}

// based takes version and fields from what is there, mostly.
func (w *wanderer) based(m map[string]any, c apiCall, path string) {
	if rapid.IntRange(0, 4).Draw(w.T, "as it is") == 0 {
		return
	}
	parts := strings.Split(strings.TrimPrefix(path, api.Root), "/")
	if len(parts) < 3 {
		return
	}
	got := w.ask("GET", api.Root+"/"+parts[1]+"/"+parts[2], "", "")
	var now map[string]any
	if got.Code != http.StatusOK || json.Unmarshal(got.Body.Bytes(), &now) != nil {
		return
	}
	if now["version"] != nil {
		m["version"] = now["version"]
	}
	if c.method != http.MethodPut {
		return
	}
	for k := range m {
		if v, ok := now[k]; ok && rapid.IntRange(0, 3).Draw(w.T, "kept") > 0 {
			m[k] = v
		}
	}
}

// drawn draws a value of a schema.
func (w *wanderer) drawn(s map[string]any, name string, depth int) any {
	if ref, ok := s["$ref"].(string); ok {
		at := strings.Split(strings.TrimPrefix(ref, "#/"), "/")
		node := any(theDocument())
		for _, p := range at {
			node = node.(map[string]any)[p]
		}
		return w.drawn(node.(map[string]any), name, depth+1)
	}
	for _, key := range []string{"oneOf", "anyOf"} {
		if list, ok := s[key].([]any); ok {
			return w.drawn(list[rapid.IntRange(0, len(list)-1).Draw(w.T, key)].(map[string]any), name, depth+1)
		}
	}
	if list, ok := s["allOf"].([]any); ok {
		out := map[string]any{}
		for _, v := range list {
			if m, ok := w.drawn(v.(map[string]any), name, depth+1).(map[string]any); ok {
				for k, v := range m {
					out[k] = v
				}
			}
		}
		return out
	}
	if list, ok := s["enum"].([]any); ok {
		return rapid.SampledFrom(list).Draw(w.T, name)
	}
	kind, _ := s["type"].(string)
	if list, ok := s["type"].([]any); ok {
		kind = rapid.SampledFrom(list).Draw(w.T, "type").(string)
	}
	switch kind {
	case "object":
		out := map[string]any{}
		props, _ := s["properties"].(map[string]any)
		keys := make([]string, 0, len(props))
		for k := range props {
			keys = append(keys, k)
		}
		sort.Strings(keys)
		if depth > 6 {
			return out
		}
		for _, k := range keys {
			if rapid.IntRange(0, 9).Draw(w.T, "has") > 1 {
				out[k] = w.drawn(props[k].(map[string]any), k, depth+1)
			}
		}
		return out
	case "array":
		items, _ := s["items"].(map[string]any)
		out := []any{}
		if items != nil && depth <= 6 {
			for range rapid.IntRange(0, 3).Draw(w.T, "count") {
				out = append(out, w.drawn(items, name, depth+1))
			}
		}
		return out
	case "integer":
		if strings.HasSuffix(name, "_id") || strings.HasSuffix(name, "_ids") || name == "id" {
			return rapid.IntRange(1, 6).Draw(w.T, name)
		}
		return rapid.SampledFrom([]int{0, 1, 1, 2, 2, 3, 4, 7, -1, 20, 500, 1 << 40}).Draw(w.T, name)
	case "number":
		return rapid.SampledFrom([]float64{0, 0.2, 0.5, 1, 1, 2, 12.5, 40, 60, 100, -1, 1e-320, 1e9, 1e300}).Draw(w.T, name)
	case "boolean":
		return rapid.Bool().Draw(w.T, name)
	case "null":
		return nil
	}
	return w.text(name)
}

// text draws a word for a field by what it is called.
func (w *wanderer) text(name string) string {
	known := map[string][]string{
		"kind":        {"romney", "merino_superfine", "silk_mulberry", "alpaca_suri", "nylon", "own-1", "unicorn"},
		"preparation": {"combed_top", "carded_sliver", "raw_fleece", "neps"},
		"hex":         {"#336699", "#c04020", "#e8e0d0"}, "target": {"#336699", ""}, "only": {"", "#336699"},
		"method": {"feed", "paint", "place"},
		"verb": {"share", "parts", "total", "remove", "add", "name", "method", "layer", "units", "equipment", "lay", "length", "way", "alone", "joins", "passes",
			"fed", "before", "after", "crossed", "off", "set", "part", "colours"},
		"text": {"picker", "oil", "hand-cards", "figure", "#336699 #c04020", "grey water", "spread"}, "cloth": {"knit", "weave", "felt", "crochet-double"},
		"way": {"undo", "redo", "", "yarn", "batts", "strips", "figure"}, "policy": {"", "as-is", "keep-shares", "keep-total"},
		"what": {"in", "off", "residue", "look", "specks", "step", "more", "enough", "note", "oil", "socks"}, "form": {"batt", "rolags", "leftover"},
		"reason": {"weigh-in", "take-out", "recount", "given"}, "builder": {"sandwich", "lanes", "depth", "flow", "stripes-along", "overlay"},
		"school": {"thirds", "even", "count"}, "source": {"picker", "measured", "photo"},
		"key": {fmt.Sprintf("key-%08d", walked.Add(1)), "the-same-key"},
	}[name]
	if known == nil {
		known = []string{"grey water", "Low light", "x"}
	}
	if rapid.IntRange(0, 12).Draw(w.T, "silly") == 0 {
		return rapid.SampledFrom(silly).Draw(w.T, name)
	}
	return rapid.SampledFrom(known).Draw(w.T, name)
}
