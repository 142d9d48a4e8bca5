package frame

import (
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

// homeOf is where a record is shown and changed.
func homeOf(table string, id int64) string {
	sort, _ := floor.SortOf(table)
	return sort.Home(id)
}
