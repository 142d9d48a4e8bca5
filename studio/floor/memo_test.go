package floor

import (
	"context"
	"errors"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Many who ask for the same at once wait for one; it is kept, and what failed is not.
func TestOneWorksForAllWhoAsk(t *testing.T) {
	m := NewMemo[int](Few)
	var worked atomic.Int32
	begun, go1 := make(chan struct{}), make(chan struct{})
	work := func(context.Context) (int, error) {
		worked.Add(1)
		close(begun)
		<-go1
		return 7, nil
	}
	var all sync.WaitGroup
	for i := range 8 {
		if i == 1 {
			<-begun
		}
		all.Go(func() {
			v, err := m.Of(t.Context(), "a", work)
			assert.NoError(t, err)
			assert.Equal(t, 7, v)
		})
	}
	close(go1)
	all.Wait()
	assert.EqualValues(t, 1, worked.Load())
	_, err := m.Of(t.Context(), "b", func(context.Context) (int, error) { return 0, errors.New("no") })
	assert.Error(t, err)
	_, known := m.Known("b")
	assert.False(t, known, "what failed is worked out again")
}

// Who leaves ends nobody's waiting but her own: one who stayed works it out.
func TestWhoStaysGoesOn(t *testing.T) {
	m := NewMemo[int](Few)
	leaving, leave := context.WithCancel(t.Context())
	begun, gone := make(chan struct{}), make(chan struct{})
	go func() {
		_, err := m.Of(leaving, "a", func(ctx context.Context) (int, error) {
			close(begun)
			<-ctx.Done()
			return 0, ctx.Err()
		})
		assert.ErrorIs(t, err, context.Canceled)
		close(gone)
	}()
	<-begun
	got := make(chan int)
	go func() {
		v, err := m.Of(t.Context(), "a", func(context.Context) (int, error) { return 5, nil })
		assert.NoError(t, err)
		got <- v
	}()
	leave()
	assert.Equal(t, 5, <-got)
	<-gone
}
