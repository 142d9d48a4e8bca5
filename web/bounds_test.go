package web

import (
	"context"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"fairtangle/scripts/slow"
	"fairtangle/web/api"
)

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
			ctx, leave := context.WithCancel(t.Context())
			defer leave()
			time.AfterFunc(took/4, leave)
			start = time.Now()
			assert.Equal(t, 499, ask(ctx).Code, "it went on alone")
			t.Logf("%s: %v, %d bytes; left after %v it ended after %v", name, took, w.Body.Len(), took/4, time.Since(start))
		})
	}
}
