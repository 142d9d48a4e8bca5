package store

import (
	"context"
	"errors"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A deed is whole or not done: what is written and read inside is one, a part that fails is undone
// alone, what waits for the end is done once it is kept, and a client that leaves ends nothing.
func TestADeedIsWholeOrNotDoneAtOnce(t *testing.T) {
	s := open(t)
	ctx, leave := context.WithCancel(t.Context())
	broken := errors.New("broken")
	names := func(ctx context.Context) (out []string) {
		list, err := s.Makings(ctx, false)
		require.NoError(t, err)
		for _, m := range list {
			out = append(out, m.Name)
		}
		return out
	}
	begin := func(ctx context.Context, name string) {
		_, err := s.CreateMaking(ctx, Making{Name: name})
		require.NoError(t, err)
	}
	after := 0
	err := s.Deed(ctx, func(ctx context.Context) error {
		begin(ctx, "one")
		assert.Len(t, names(ctx), 1, "a deed reads what it has written")
		assert.Empty(t, names(t.Context()), "and nobody else does")
		require.ErrorIs(t, s.Deed(ctx, func(ctx context.Context) error {
			begin(ctx, "a part that fails")
			return broken
		}), broken)
		s.After(ctx, func(ctx context.Context) {
			after++
			assert.Equal(t, []string{"two", "one"}, names(ctx))
		})
		leave()
		begin(ctx, "two")
		assert.Zero(t, after)
		return nil
	})
	require.NoError(t, err, "it was begun, so it is done")
	assert.Equal(t, 1, after)
	require.ErrorIs(t, s.Deed(t.Context(), func(ctx context.Context) error {
		begin(ctx, "three")
		s.After(ctx, func(context.Context) { after++ })
		return broken
	}), broken)
	assert.Equal(t, []string{"two", "one"}, names(t.Context()))
	assert.Equal(t, 1, after, "what was not kept has no after")

	end := lasting(s, t)
	waiting, left := context.WithCancel(t.Context())
	left()
	require.ErrorIs(t, s.Deed(waiting, func(context.Context) error { return nil }), context.Canceled, "who left while it waited is not waited for")
	end()
	require.ErrorIs(t, s.Deed(Refusing(t.Context(), broken), func(context.Context) error { return nil }), broken)
}

// lasting begins a deed that lasts until what it returns is called.
func lasting(s *Store, t *testing.T) (end func()) {
	in, out, over := make(chan bool), make(chan bool), make(chan bool)
	go func() {
		defer close(over)
		assert.NoError(t, s.Deed(t.Context(), func(context.Context) error {
			close(in)
			<-out
			return nil
		}))
	}()
	<-in
	return func() {
		close(out)
		<-over
	}
}

// The same under a key is done once and gives the first answer, also after a start; what nobody asks
// for any more is forgotten.
func TestWhatCarriesAKeyIsDoneOnce(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	now := time.Date(2030, 1, 1, 12, 0, 0, 0, time.UTC)
	clock := func() time.Time { return now }
	s, err := Open(dir, clock)
	require.NoError(t, err)
	done := 0
	ask := func(key, content string) string {
		answer, err := s.Keyed(t.Context(), key, content, func(context.Context) (string, error) {
			done++
			return content + "!", nil
		})
		require.NoError(t, err)
		return answer
	}
	assert.Equal(t, "a!", ask("k", "a"))
	assert.Equal(t, "a!", ask("k", "a"))
	assert.Equal(t, 1, done)
	assert.Equal(t, "b!", ask("k", "b"), "other content is another deed")
	ask("", "a")
	ask("", "a")
	assert.Equal(t, 4, done, "without a key it is always done")
	_, err = s.Keyed(t.Context(), "fails", "a", func(context.Context) (string, error) { return "", errors.New("no") })
	require.Error(t, err)
	assert.Equal(t, "a!", ask("fails", "a"), "what was not done may be done yet")
	require.NoError(t, s.Close())
	for _, later := range []struct {
		days int
		want int
	}{{29, 5}, {31, 6}} {
		now = time.Date(2030, 1, 1, 12, 0, 0, 0, time.UTC).AddDate(0, 0, later.days)
		s, err = Open(dir, clock)
		require.NoError(t, err)
		ask("k", "a")
		assert.Equal(t, later.want, done, "after %d days", later.days)
		require.NoError(t, s.Close())
	}
}
