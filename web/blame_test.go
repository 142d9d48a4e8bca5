package web

import (
	"bytes"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// A field that was refused says so, and points at the sentence that tells why: every form of every
// page is sent with each of its fields holding what it can not hold, one after the other.
func TestARefusedFieldPointsAtItsSentence(t *testing.T) {
	c := sample(t)
	sentence := regexp.MustCompile(`class="wrong" id="([^"]+)-wrong"`)
	var pages []string
	c.crawl(func(path, _ string) { pages = append(pages, path) })
	tried, refused := map[string]bool{}, map[string]bool{}
	for _, path := range pages {
		for _, f := range formsOf(c.do("GET", path, "", "").Body, path) {
			shape := regexp.MustCompile(`\d+`).ReplaceAllString(f.action, "N")
			if f.method != "POST" || tried[shape] {
				continue
			}
			tried[shape] = true
			for i, broken := range f.fields {
				if broken.fixed || broken.maybe || len(broken.options) > 0 {
					continue
				}
				v := url.Values{}
				for k, o := range f.fields {
					if value := o.value; k == i {
						v.Add(o.name, "\x00 no such thing "+strings.Repeat("x", 300))
					} else if !o.maybe {
						v.Add(o.name, value)
					}
				}
				w := c.do("POST", f.action, "application/x-www-form-urlencoded", v.Encode())
				body := w.Body.String()
				for _, m := range sentence.FindAllStringSubmatch(body, -1) {
					refused[shape+" "+m[1]] = true
					said := `aria-describedby="` + m[1] + `-wrong"`
					assert.True(t, bytes.Contains(w.Body.Bytes(), []byte(said)), "%s: nothing points at what is wrong with %s", f.action, m[1])
				}
			}
		}
	}
	assert.Greater(t, len(refused), 40, "fields that were refused in all")
}
