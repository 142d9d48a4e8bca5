package web

import (
	"path"
	"regexp"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A page names the scripts that its own import, and those that these import: all of them, so that
// none is waited for after the others, and none besides, which would be asked for in vain.
func TestAPageNamesEveryScriptBeneathItsOwn(t *testing.T) {
	c := sample(t)
	all := func(html, pattern string) (out []string) {
		for _, m := range regexp.MustCompile(pattern).FindAllStringSubmatch(html, -1) {
			out = append(out, m[1])
		}
		return out
	}
	met := 0
	for _, page := range []string{"/makings", "/shelf", "/blends/1", "/layups/1", "/layups/1/card", "/weighouts/1/scale", "/gradients/1", "/scraps/1", "/runs/1", "/notebook"} {
		html := c.page(page)
		own := all(html, `<script type="module" src="([^"]+)"`)
		var beneath []string
		for todo := slices.Clone(own); len(todo) > 0; todo = todo[1:] {
			for _, name := range all(c.do("GET", todo[0], "", "").Body.String(), `(?m)^(?:import|export)[^'\n]*'(\.[^']+)'`) {
				name = path.Join(path.Dir(todo[0]), name)
				if !slices.Contains(own, name) && !slices.Contains(beneath, name) {
					beneath, todo = append(beneath, name), append(todo, name)
				}
			}
		}
		met += len(beneath)
		// fresh.js and ground.js, which every page has, import what is named with the page's own.
		assert.ElementsMatch(t, beneath, all(html, `rel="modulepreload" href="([^"]+)"`), page)
		assert.Len(t, all(html, `rel="stylesheet" href="([^"]+)"`), 1, page)
	}
	assert.Greater(t, met, 40)
}
