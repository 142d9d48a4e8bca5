package frame

import (
	"encoding/json"
	"errors"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/floor"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

// InLines answers with lines of JSON: that it waits for its turn, what work says on the
// way (which reports false once nobody listens), at last what it returns, or a problem.
// Closing the connection ends it.
func (s *Frame) InLines(c *gin.Context, u show.Units, work func(say func(any) bool) (any, error)) error {
	c.Header("Content-Type", "application/x-ndjson")
	lines := json.NewEncoder(c.Writer)
	say := func(v any) bool {
		err := lines.Encode(v)
		c.Writer.Flush()
		return err == nil
	}
	done, err := s.Turns.Take(c.Request.Context(), 0)
	for errors.Is(err, floor.ErrBusy) && say(gin.H{"part": 0, "said": "Waiting for its turn: others are being worked out"}) {
		done, err = s.Turns.Take(c.Request.Context(), answer.Impatient)
	}
	if err == nil {
		defer done()
		var v any
		if v, err = work(say); err == nil {
			return lines.Encode(v)
		}
	}
	return lines.Encode(gin.H{"problem": answer.Describe(u, err)})
}
