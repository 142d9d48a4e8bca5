package frame

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/web/answer"
)

// Routes are how requests come to handlers: what is got keeps nothing, what is asked keeps nothing, or one
// thing after a long look, and a deed is whole or not done.
type Routes struct {
	Get, Ask, Deed func(path string, h answer.Handler) `json:"-"`
}

// Fail answers with an error: a page to people, a problem to their scripts, in
// the maker's units.
func (s *Frame) Fail(c *gin.Context, err error) {
	var words unit.Words = unit.Metric{}
	if u, _, unitsErr := s.Units(c); unitsErr == nil {
		err, words = answer.ShortIn(u, err), u
	}
	p := answer.Describe(words, err)
	if p.Status >= 500 {
		_ = c.Error(err)
	}
	if WantsJSON(c) {
		answer.Send(c, p)
		return
	}
	c.Abort()
	b := errorBody{Problem: p}
	if p.Status >= 400 && p.Status != http.StatusNotFound {
		if sort, id := floor.SortAt(c.Request.URL.Path); sort.Binned {
			b.Table, b.ID, b.What = sort.Table, id, sort.Word
			if of, ofID := s.Studio.Floor.Within(c.Request.Context(), sort.Table, id); of != "" {
				above, _ := floor.SortOf(of)
				b.Of, b.Href = above.Word, above.Home(ofID)
			}
		}
	}
	s.Render(c, p.Status, "error", Page{Title: p.Title}, b)
}

// errorBody is an error with the way to what is wrong: its page, and the bin.
type errorBody struct {
	answer.Problem
	Table, What, Of, Href string
	ID                    int64
}

// WantsJSON tells a script's request from a person's.
func WantsJSON(c *gin.Context) bool {
	return strings.Contains(c.GetHeader("Accept"), "application/json")
}
