package answer

import (
	"context"
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/core/fault"
	"fairtangle/core/unit"
	"fairtangle/studio/floor"
	"fairtangle/studio/scale"
	"fairtangle/web/show"
)

// Problem is an error as RFC 9457 has it, with the faults of the input and,
// for a stale version, the current state.
type Problem struct {
	Type    string         `json:"type"`
	Title   string         `json:"title"`
	Status  int            `json:"status"`
	Detail  string         `json:"detail,omitempty"`
	Errors  []ProblemFault `json:"errors,omitempty"`
	Current any            `json:"current,omitempty"`
}

// ProblemFault is what is wrong with one field.
type ProblemFault struct {
	Field   string `json:"field"`
	Message string `json:"message"`
	// Values are the quantities of the message, in its order.
	Values []unit.Quantity `json:"values,omitempty"`
}

// ErrMethod is returned for an address that is there, asked in a way that it does
// not answer.
var ErrMethod = errors.New("method not allowed")

// statusGone is noted for a client that left before its answer; it is no error of
// the program's.
const statusGone = 499

// describe turns an error into a problem. What is not the sender's doing is a
// 500 without details; those are in the log.
func describe(u unit.Words, err error) Problem {
	var stale floor.Stale
	var short floor.Short
	var shape BadShape
	var trouble floor.Trouble
	var held scale.ErrHeld
	switch {
	case TooLarge(err):
		return Problem{Title: "This is too large", Status: http.StatusRequestEntityTooLarge, Detail: "A request holds at most 1 MB, a picture 20 MB."}
	case errors.As(err, &trouble):
		return Problem{Title: "This was not saved", Status: http.StatusInsufficientStorage, Detail: trouble.Sentence}
	case errors.As(err, &shape):
		return Problem{Title: "The request can not be read", Status: http.StatusBadRequest, Detail: shape.Message,
			Errors: []ProblemFault{{Field: shape.Field, Message: shape.Message}}}
	case errors.As(err, &stale):
		return Problem{Title: "Changed in the meantime", Status: http.StatusConflict, Detail: stale.Error(), Current: stale.Current}
	case errors.As(err, &short):
		return describe(u, ShortIn(show.Units{}, err))
	case errors.Is(err, ErrMethod):
		return Problem{Title: "Not done here", Status: http.StatusMethodNotAllowed, Detail: "This address answers to other methods; Allow names them."}
	case errors.As(err, &held):
		return Problem{Title: "Another window weighs here", Status: http.StatusLocked, Detail: held.By + " weighs here. Take over, or weigh there."}
	case errors.Is(err, floor.ErrBusy):
		return Problem{Title: "Others are being computed", Status: http.StatusServiceUnavailable,
			Detail: "As many searches or pictures as this machine does at once are being worked on; this one waits for its turn. Ask again in a moment."}
	case errors.Is(err, context.Canceled):
		return Problem{Title: "Nobody waits for this any more", Status: statusGone}
	case errors.Is(err, floor.ErrNotFound):
		return Problem{Title: "Not found", Status: http.StatusNotFound, Detail: "There is nothing here, or it lies in the bin."}
	}
	if l, ok := fault.From(err); ok {
		p := Problem{Title: "Something is not right yet", Status: http.StatusUnprocessableEntity, Detail: l[0].In(u)}
		for _, f := range l {
			p.Errors = append(p.Errors, ProblemFault{f.Field, f.In(u), f.Quantities()})
		}
		return p
	}
	return Problem{Title: "This should not have happened", Status: http.StatusInternalServerError,
		Detail: "The program made a mistake, and this was not saved. Go back: what you typed should still be there. Try again."}
}

// ShortIn says in the maker's unit that a lot has not enough; other errors
// pass unchanged.
func ShortIn(u show.Units, err error) error {
	var short floor.Short
	if !errors.As(err, &short) {
		return err
	}
	weight := func(m unit.Milligrams) string { return u.Amount(float64(m.Grams())) + " " + u.Weight() }
	return fault.New("grams", "Only %s of %s are on the shelf, %s too little. Recount the lot, or take less.",
		weight(short.Have), short.Lot, weight(short.Need-short.Have))
}

// Describe turns an error into a problem in the words of whoever reads it.
func Describe(u unit.Words, err error) Problem {
	p := describe(u, err)
	p.Type = "about:blank"
	return p
}

// Send answers with a problem as JSON.
func Send(c *gin.Context, p Problem) {
	c.Abort()
	if p.Status == http.StatusServiceUnavailable {
		c.Header("Retry-After", "1")
	}
	c.Header("Content-Type", "application/problem+json")
	c.JSON(p.Status, p)
}

// Fail answers a program with an error.
func Fail(c *gin.Context, err error) {
	p := Describe(unit.Metric{}, err)
	if p.Status >= 500 && !errors.Is(err, floor.ErrBusy) {
		_ = c.Error(err)
	}
	Send(c, p)
}

// TooLarge reports whether err comes from a body over the limit.
func TooLarge(err error) bool {
	var m *http.MaxBytesError
	return errors.As(err, &m)
}

// StaleAs returns the current state that a Stale carries, when it is a T.
func StaleAs[T any](err error) (T, bool) {
	var stale floor.Stale
	if errors.As(err, &stale) {
		v, ok := stale.Current.(T)
		return v, ok
	}
	var none T
	return none, false
}
