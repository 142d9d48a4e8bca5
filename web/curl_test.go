package web

import (
	"encoding/json"
	"net/http/httptest"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// holds reports whether an answer has all that is expected of it, lists as far as they go.
func holds(t *testing.T, want, got any, at string) {
	switch w := want.(type) {
	case map[string]any:
		g, ok := got.(map[string]any)
		require.True(t, ok, at)
		for k, v := range w {
			holds(t, v, g[k], at+"."+k)
		}
	case []any:
		g, ok := got.([]any)
		require.True(t, ok && len(g) >= len(w), at)
		for i, v := range w {
			holds(t, v, g[i], at)
		}
	default:
		assert.Equal(t, want, got, at)
	}
}

// Each worked example of the page on curl is asked as it stands there, in its order, and answers what stands below it.
func TestTheWorkedExamplesWork(t *testing.T) {
	c := sample(t)
	text, err := os.ReadFile("../docs/curl.md")
	require.NoError(t, err)
	blocks := regexp.MustCompile("(?s)```(sh|json)\n(.*?)```").FindAllStringSubmatch(string(text), -1)
	word := regexp.MustCompile(`'[^']*'|\S+`)
	asked := 0
	var answer *httptest.ResponseRecorder
	for _, b := range blocks {
		if b[1] == "json" {
			var want, got any
			require.NoError(t, json.Unmarshal([]byte(b[2]), &want))
			require.NoError(t, json.Unmarshal(answer.Body.Bytes(), &got), answer.Body)
			holds(t, want, got, "")
			continue
		}
		for _, line := range strings.Split(strings.TrimSpace(b[2]), "\n") {
			words := word.FindAllString(line, -1)
			require.Equal(t, []string{"curl", "-s"}, words[:2], line)
			method, path, body, heads := "GET", "", "", map[string]string{}
			for i := 2; i < len(words); i++ {
				w := strings.Trim(words[i], "'")
				next := func() string { i++; return strings.Trim(words[i], "'") }
				switch w {
				case "-d":
					method, body = "POST", next()
				case "-H":
					name, value, _ := strings.Cut(next(), ": ")
					heads[name] = value
				case "-o":
					next()
				default:
					path = strings.TrimPrefix(w, "http://127.0.0.1:8080")
				}
			}
			r := httptest.NewRequest(method, path, strings.NewReader(body))
			for name, value := range heads {
				r.Header.Set(name, value)
			}
			answer = httptest.NewRecorder()
			c.h.ServeHTTP(answer, r)
			require.Less(t, answer.Code, 300, "%s: %s", line, answer.Body)
			require.NotZero(t, answer.Body.Len(), line)
			asked++
		}
	}
	assert.Greater(t, asked, 8)
}
