package floor

import (
	"context"
	"errors"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"
)

// Memo keeps what was worked out last, by what it rests on: moving a loupe, or going back to another
// division, cards nothing again. Two who ask for the same at once wait for one.
type Memo[V any] struct {
	known *lru.Cache[string, V]
	now   singleflight.Group
}

// Few is how many are kept of what takes much room.
const Few = 16

// NewMemo makes a memo of the latest n.
func NewMemo[V any](n int) *Memo[V] {
	c, _ := lru.New[string, V](max(1, n)) // fails for sizes below 1 only
	return &Memo[V]{known: c}
}

// Known is what was worked out before.
func (m *Memo[V]) Known(key string) (V, bool) { return m.known.Get(key) }

// Keep takes what was worked out elsewhere.
func (m *Memo[V]) Keep(key string, v V) { m.known.Add(key, v) }

// Of is what rests on key, worked out where it is not known. Who asked first works it out for all who
// ask meanwhile; where that one leaves, one of those who stayed goes on in its place.
func (m *Memo[V]) Of(ctx context.Context, key string, work func(context.Context) (V, error)) (V, error) {
	for {
		if v, ok := m.known.Get(key); ok {
			return v, nil
		}
		asked := m.now.DoChan(key, func() (any, error) {
			v, err := work(ctx)
			if err == nil {
				m.known.Add(key, v)
			}
			return v, err
		})
		select {
		case <-ctx.Done():
			var none V
			return none, ctx.Err()
		case r := <-asked:
			left := errors.Is(r.Err, context.Canceled) || errors.Is(r.Err, context.DeadlineExceeded)
			if left && ctx.Err() == nil {
				continue
			}
			v, _ := r.Val.(V)
			return v, r.Err
		}
	}
}
