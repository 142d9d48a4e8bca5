package frame

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/gin-gonic/gin"

	"fairtangle/studio/floor"
	"fairtangle/web/answer"
	"fairtangle/web/show"
)

// Edit is what a page that saves as it goes sends: the input as it has it, one
// change with what was typed for it, or a move along the steps. Keep saves the
// outcome.
type Edit[In, C any] struct {
	Version int64             `json:"version"`
	Input   In                `json:"input"`
	Change  *C                `json:"change"`
	Typed   map[string]string `json:"typed"`
	Keep    bool              `json:"keep"`
	Step    *floor.Move       `json:"step"`
	Said    string            `json:"said"` // what is done, where it has a name
}

// Piece is how a piece of work is changed: In is its input, C a change of it,
// V what follows from it.
type Piece[In, C, V any] struct {
	Table string                                                                    `json:"-"`
	Read  func(*gin.Context, *Edit[In, C], show.Units) error                        `json:"-"`
	Apply func(ctx context.Context, id int64, in In, c *C) (V, error)               `json:"-"`
	Save  func(ctx context.Context, id, version int64, v V, said string) (V, error) `json:"-"`
	Step  func(ctx context.Context, id, version int64, m floor.Move) (V, error)     `json:"-"`
	Mark  func(v *V, id, version int64)                                             `json:"-"` // an outcome that is not kept
	View  func(c *gin.Context, v V, u show.Units, at StepsView) (any, error)        `json:"-"`
	Sum   func(state json.RawMessage, u show.Units) string                          `json:"-"` // a state in a few words
}

// StepsView tells until when it was otherwise, and whether there is anything
// to undo or to do again.
type StepsView struct {
	Undo string `json:"undo"`
	Redo string `json:"redo"`
}

// StepsView tells of the steps of a piece.
func (s *Frame) StepsView(c *gin.Context, table string, id int64) (StepsView, error) {
	st, err := s.Studio.Floor.StepsOf(c.Request.Context(), table, id, 1)
	var v StepsView
	if len(st.Back) > 0 {
		v.Undo = show.Moment(st.Back[0].At)
	}
	if len(st.Ahead) > 0 {
		v.Redo = show.Moment(st.Ahead[0].At)
	}
	return v, err
}

// Changing answers the changes of a page: with the view of what stands there
// now, or, where another window was first, with that of what stands there
// instead.
func Changing[In, C, V any](s *Frame, p Piece[In, C, V]) answer.Handler {
	return func(c *gin.Context) error {
		n, err := answer.ID(c, "id")
		if err != nil {
			return err
		}
		var q Edit[In, C]
		if err := answer.Decode(c, &q); err != nil {
			return err
		}
		u, _, err := s.Units(c)
		if err != nil {
			return err
		}
		if err := p.Read(c, &q, u); err != nil {
			return err
		}
		ctx := c.Request.Context()
		show := func(v V) (any, error) {
			at, err := s.StepsView(c, p.Table, n)
			if err != nil {
				return nil, err
			}
			return p.View(c, v, u, at)
		}
		var now V
		if q.Step != nil {
			now, err = p.Step(ctx, n, q.Version, *q.Step)
		} else if now, err = p.Apply(ctx, n, q.Input, q.Change); err == nil && q.Keep {
			now, err = p.Save(ctx, n, q.Version, now, q.Said)
		} else {
			p.Mark(&now, n, q.Version)
		}
		if other, ok := answer.StaleAs[V](err); ok {
			v, err := show(other)
			if err != nil {
				return err
			}
			return floor.Stale{Current: v}
		}
		if err != nil {
			return err
		}
		v, err := show(now)
		if err == nil {
			c.JSON(http.StatusOK, v)
		}
		return err
	}
}

// Edited answers a small save with the view of what stands there now, or, where
// another window was first, with that of what stands there instead.
func Edited[T any](c *gin.Context, now T, err error, view func(T) any) error {
	if other, ok := answer.StaleAs[T](err); ok {
		return floor.Stale{Current: view(other)}
	}
	if err == nil {
		c.JSON(http.StatusOK, view(now))
	}
	return err
}

// stepWord is a step in the list of what a page can go back to.
type stepWord struct {
	ID   int64  `json:"id"`
	At   string `json:"at"`
	Said string `json:"said"`
	Sum  string `json:"sum"`
}

// ListSteps lists the steps back of a piece.
func ListSteps[In, C, V any](s *Frame, p Piece[In, C, V]) answer.Handler {
	return func(c *gin.Context) error {
		n, err := answer.ID(c, "id")
		if err != nil {
			return err
		}
		u, _, err := s.Units(c)
		if err != nil {
			return err
		}
		st, err := s.Studio.Floor.StepsOf(c.Request.Context(), p.Table, n, 40)
		out := []stepWord{}
		for _, v := range st.Back {
			out = append(out, stepWord{v.ID, show.Moment(v.At), v.Said, p.Sum(v.State, u)})
		}
		if err == nil {
			c.JSON(http.StatusOK, out)
		}
		return err
	}
}

// SumOf reads a state to sum it up.
func SumOf[In any](sum func(In, show.Units) string) func(json.RawMessage, show.Units) string {
	return func(state json.RawMessage, u show.Units) string {
		var in In
		if json.Unmarshal(state, &in) != nil {
			return ""
		}
		return sum(in, u)
	}
}
