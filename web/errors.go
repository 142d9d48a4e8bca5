package web

import (
	"errors"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/store"
	"fairtangle/web/show"
)

// problem is an error as RFC 9457 has it, with the faults of the input and,
// for a stale version, the current state.
type problem struct {
	Type    string         `json:"type"`
	Title   string         `json:"title"`
	Status  int            `json:"status"`
	Detail  string         `json:"detail,omitempty"`
	Errors  []problemFault `json:"errors,omitempty"`
	Current any            `json:"current,omitempty"`
}

type problemFault struct {
	Field   string `json:"field"`
	Message string `json:"message"`
}

// describe turns an error into a problem. What is not the sender's doing is a
// 500 without details; those are in the log.
func describe(u unit.Words, err error) problem {
	var stale store.Stale
	var short store.Short
	var shape badShape
	switch {
	case tooLarge(err):
		return problem{Title: "This is too large", Status: http.StatusRequestEntityTooLarge, Detail: "A request holds at most 1 MB, a picture 20 MB."}
	case errors.As(err, &shape):
		return problem{Title: "The request can not be read", Status: http.StatusBadRequest, Detail: shape.message,
			Errors: []problemFault{{shape.field, shape.message}}}
	case errors.As(err, &stale):
		return problem{Title: "Changed in the meantime", Status: http.StatusConflict, Detail: stale.Error(), Current: stale.Current}
	case errors.As(err, &short):
		return describe(u, shortIn(show.Units{}, err))
	case errors.Is(err, store.ErrNotFound):
		return problem{Title: "Not found", Status: http.StatusNotFound, Detail: "There is nothing here, or it lies in the bin."}
	}
	if l, ok := fault.From(err); ok {
		p := problem{Title: "Something is not right yet", Status: http.StatusUnprocessableEntity, Detail: l[0].In(u)}
		for _, f := range l {
			p.Errors = append(p.Errors, problemFault{f.Field, f.In(u)})
		}
		return p
	}
	return problem{Title: "This should not have happened", Status: http.StatusInternalServerError,
		Detail: "The program made a mistake. What you entered was not lost by it; try again."}
}

// shortIn says in the maker's unit that a lot has not enough; other errors
// pass unchanged.
func shortIn(u show.Units, err error) error {
	var short store.Short
	if !errors.As(err, &short) {
		return err
	}
	weight := func(m unit.Milligrams) string { return u.Amount(float64(m.Grams())) + " " + u.Weight() }
	return fault.New("grams", "Only %s of %s are on the shelf, %s too little. Recount the lot, or take less.",
		weight(short.Have), short.Lot, weight(short.Need-short.Have))
}

// fail answers with an error, as a page to people and as a problem to others.
func (s *server) fail(c *gin.Context, err error) {
	var words unit.Words = unit.Metric{}
	if !strings.HasPrefix(c.Request.URL.Path, api) {
		if u, _, unitsErr := s.units(c); unitsErr == nil {
			err, words = shortIn(u, err), u
		}
	}
	p := describe(words, err)
	if p.Status >= 500 {
		_ = c.Error(err)
	}
	p.Type = "about:blank"
	c.Abort()
	if wantsJSON(c) {
		c.Header("Content-Type", "application/problem+json")
		c.JSON(p.Status, p)
		return
	}
	s.render(c, p.Status, "error", page{Title: p.Title}, p)
}

// faultsByField puts faults where a form shows them.
func faultsByField(u show.Units, err error) (map[string]string, bool) {
	l, ok := fault.From(err)
	out := map[string]string{}
	for _, f := range l {
		if out[f.Field] == "" {
			out[f.Field] = f.In(u)
		}
	}
	return out, ok
}

// staleAs gives the current state that a Stale carries, when it is a T.
func staleAs[T any](err error) (T, bool) {
	var stale store.Stale
	if errors.As(err, &stale) {
		v, ok := stale.Current.(T)
		return v, ok
	}
	var none T
	return none, false
}
