package frame

import (
	"fmt"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/studio/floor"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

// watchKey is where a request keeps the watch over what it reads.
const watchKey = "watch"

// Watched makes of a handler one whose page says what of the records it shows could not be as it
// was kept.
func Watched(register func(string, answer.Handler)) func(string, answer.Handler) {
	return func(path string, h answer.Handler) {
		register(path, func(c *gin.Context) error {
			ctx, w := floor.Watching(c.Request.Context())
			c.Request = c.Request.WithContext(ctx)
			c.Set(watchKey, w)
			return h(c)
		})
	}
}

// amiss is a record that is not wholly as it was kept, and where it is mended.
type amiss struct{ Name, Href, Sentence string }

// amissOf is what the page of a request has to say of its records.
func amissOf(c *gin.Context, u show.Units) (out []amiss) {
	w, ok := c.Get(watchKey)
	if !ok {
		return nil
	}
	for _, a := range w.(*floor.Watch).List() {
		if l, ok := fault.From(a.Why); ok {
			a.Sentence = l[0].In(u)
		}
		out = append(out, amiss{a.Name, homeOf(a.Table, a.ID), a.Sentence})
	}
	return out
}

// roads are the first words of the pages of rows whose table is called otherwise; those of "" have
// no page of their own.
var roads = map[string]string{
	"buy_lists": "buy", "scrap_sets": "scraps", "yarn_samples": "yarnsamples", "yarns": "", "needs": "needs", "offers": "", "samples": "", "settings": "",
}

// homeOf is where a row is shown and changed.
func homeOf(table string, id int64) string {
	road, other := roads[table]
	switch {
	case !other:
		road = table
	case road == "":
		return map[string]string{"offers": "/buy", "samples": "/calibration", "settings": "/workshop"}[table]
	}
	if road == "lots" {
		return fmt.Sprintf("/lots/%d/edit", id)
	}
	return fmt.Sprintf("/%s/%d", road, id)
}

// wayFrom is the record that an address is about, so that a page that can not be shown leads to
// it and to the bin.
func wayFrom(path string) (table string, id int64) {
	parts := strings.Split(strings.Trim(path, "/"), "/")
	if len(parts) < 2 {
		return "", 0
	}
	for t := range Homes {
		road, other := roads[t]
		if !other {
			road = t
		}
		if road == parts[0] && road != "" {
			if _, err := fmt.Sscan(parts[1], &id); err == nil && id > 0 {
				return t, id
			}
		}
	}
	return "", 0
}
