package web

import (
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/api"
)

// Every example of a call that rests on nothing but the question is asked, and its answer is the one in the document: each
// figure to the digits that stand there, each word by letter, where the example shows it.
func TestTheExamplesOfTheDocumentAreTrue(t *testing.T) {
	c := sample(t)
	asked, compared := 0, 0
	for path, item := range document().doc["paths"].(map[string]any) {
		post, _ := item.(map[string]any)["post"].(map[string]any)
		if post == nil || !strings.Contains(fmt.Sprint(post["tags"]), "Stateless") {
			continue
		}
		question := example(post, "requestBody", "content", "application/json")
		if question == "" {
			continue
		}
		w := httptest.NewRecorder()
		r := httptest.NewRequest("POST", path, strings.NewReader(question))
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("Accept", "application/json")
		c.h.ServeHTTP(w, r)
		if !assert.Equal(t, http.StatusOK, w.Code, "%s: %s", path, w.Body) {
			continue
		}
		asked++
		answer := example(post, "responses", "200", "content", "application/json")
		if answer == "" {
			continue
		}
		compared++
		var want, got any
		require.NoError(t, json.Unmarshal([]byte(answer), &want), path)
		require.NoError(t, json.Unmarshal(w.Body.Bytes(), &got), path)
		sameAs(t, strings.TrimPrefix(path, api.Root), want, got)
	}
	assert.Greater(t, asked, 15)
	assert.Greater(t, compared, 5)
}

func example(in map[string]any, keys ...string) string {
	var now any = in
	for _, k := range keys {
		m, _ := now.(map[string]any)
		if now = m[k]; now == nil {
			return ""
		}
	}
	text, _ := now.(map[string]any)["example"].(string)
	return text
}

// sameAs holds an answer to an example: what the example has is in it. A figure has as many digits as stand there.
func sameAs(t *testing.T, at string, want, got any) {
	switch v := want.(type) {
	case map[string]any:
		g, _ := got.(map[string]any)
		for k, w := range v {
			sameAs(t, at+"."+k, w, g[k])
		}
	case []any:
		g, _ := got.([]any)
		if assert.Len(t, g, len(v), at) {
			for i := range v {
				sameAs(t, fmt.Sprintf("%s[%d]", at, i), v[i], g[i])
			}
		}
	case float64:
		digits := 0
		if _, after, ok := strings.Cut(fmt.Sprintf("%g", v), "."); ok {
			digits = len(after)
		}
		g, ok := got.(float64)
		assert.True(t, ok && math.Abs(g-v) <= 0.5001*math.Pow(10, -float64(digits)), "%s: %v in the document, %v answered", at, v, got)
	default:
		assert.Equal(t, want, got, at)
	}
}
