package answer

import (
	"context"
	"time"

	"github.com/gin-gonic/gin"
	"golang.org/x/sync/semaphore"

	"fairtangle/studio/floor"
)

// Turns lets so many long computations run at once; the others wait.
type Turns struct{ free *semaphore.Weighted }

// NewTurns makes turns for n computations at once.
func NewTurns(n int) *Turns { return &Turns{semaphore.NewWeighted(int64(n))} }

// How long one waits for a turn before it is told: a program and a form as long as
// they can, a script not long, since it shows that it waits and asks again.
const (
	Patient   = 20 * time.Second
	Impatient = 2 * time.Second
)

// Take waits for a turn and returns what gives it back, or studio.ErrBusy when none
// came in time, or the error of ctx.
func (t *Turns) Take(ctx context.Context, patience time.Duration) (done func(), err error) {
	back := func() { t.free.Release(1) }
	if t.free.TryAcquire(1) {
		return back, nil
	}
	waiting, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	switch err := t.free.Acquire(waiting, 1); {
	case err == nil:
		return back, nil
	case ctx.Err() != nil:
		return nil, ctx.Err()
	}
	return nil, floor.ErrBusy
}

// Long makes of a handler one that waits for its turn.
func (t *Turns) Long(patience time.Duration, h Handler) Handler {
	return func(c *gin.Context) error {
		done, err := t.Take(c.Request.Context(), patience)
		if err != nil {
			return err
		}
		defer done()
		return h(c)
	}
}
