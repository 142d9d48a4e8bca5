package web

import (
	"context"
	"net/http/httptest"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/scripts/slow"
	"fairtangle/web/api"
)

// leftIn is a context of a client that leaves once it was asked some times whether it is there still,
// however fast or slow the machine is.
type leftIn struct {
	context.Context
	asked atomic.Int64
	once  sync.Once
	gone  chan struct{}
}

func leaving(ctx context.Context) *leftIn { return &leftIn{Context: ctx, gone: make(chan struct{})} }

func (c *leftIn) leave()                { c.once.Do(func() { close(c.gone) }) }
func (c *leftIn) Done() <-chan struct{} { return c.gone }

func (c *leftIn) Err() error {
	if c.asked.Add(1) > 30 {
		c.leave()
	}
	select {
	case <-c.gone:
		return context.Canceled
	default:
		return nil
	}
}

// No call goes on without an end: at the bounds of what they take, calls answer, in words that a
// program can hold, and who leaves ends what was begun.
func TestNoCallIsWithoutAnEnd(t *testing.T) {
	c := sample(t)
	for _, q := range slow.Requests() {
		name, body := q.Path, q.Body
		t.Run(name, func(t *testing.T) {
			ask := func(ctx context.Context) *httptest.ResponseRecorder {
				r := httptest.NewRequestWithContext(ctx, "POST", api.Root+"/"+name, strings.NewReader(body))
				r.Header.Set("Content-Type", "application/json")
				w := httptest.NewRecorder()
				c.h.ServeHTTP(w, r)
				return w
			}
			start := time.Now()
			w := ask(t.Context())
			took := time.Since(start)
			require.Equal(t, 200, w.Code, "%.300s", w.Body)
			assert.Less(t, w.Body.Len(), 2_000_000)
			if name == "advice" { // over before anybody has left
				return
			}
			ctx := leaving(t.Context())
			time.AfterFunc(20*time.Millisecond, ctx.leave)
			start = time.Now()
			assert.Equal(t, 499, ask(ctx).Code, "it went on alone")
			t.Logf("%s: %v, %d bytes; left, it ended after %v", name, took, w.Body.Len(), time.Since(start))
		})
	}
}
