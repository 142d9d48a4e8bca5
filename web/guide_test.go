package web

import (
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/web/pages/frame"
)

// The guide has every stop of the work and every word, each once and each with a sentence that is short enough to be read; what
// pages link to is there, and a word that is drawn has a drawing.
func TestTheGuideHasWhatPagesPointTo(t *testing.T) {
	c := sample(t)
	guide := c.page("/guide")
	ids := map[string]int{}
	for _, m := range regexp.MustCompile(` id="([^"]+)"`).FindAllStringSubmatch(guide, -1) {
		ids[m[1]]++
	}
	for id, n := range ids {
		assert.Equal(t, 1, n, "%s stands twice", id)
	}
	links := 0
	c.crawl(func(path, page string) {
		for _, m := range regexp.MustCompile(`href="/guide#([^"]+)"`).FindAllStringSubmatch(page, -1) {
			links++
			assert.Contains(t, ids, m[1], "%s points to a word that the guide does not have", path)
		}
	})
	assert.Greater(t, links, 10)
	script, err := os.ReadFile("pages/frame/static/js/said.js")
	require.NoError(t, err)
	said := regexp.MustCompile(`(\w+): '([a-z0-9-]+)'`).FindAllStringSubmatch(string(script), -1)
	assert.NotEmpty(t, said)
	for _, m := range said {
		i := slices.IndexFunc(frame.Terms, func(w frame.Term) bool { return w.ID == m[2] && w.Word == m[1] })
		assert.GreaterOrEqual(t, i, 0, "scripts point to a word that the guide does not have: %s", m[0])
	}
	for _, w := range frame.Terms {
		assert.LessOrEqual(t, len(strings.Fields(w.Means)), 34, w.Word)
		i := strings.Index(guide, `id="`+w.ID+`"`)
		require.Positive(t, i, w.ID)
		drawn := regexp.MustCompile(`<svg class="drawn"[^>]*>\s*<path`).MatchString(guide[i : i+strings.Index(guide[i:], "</dd>")])
		assert.Equal(t, w.Drawn, drawn, w.Word)
	}
}
