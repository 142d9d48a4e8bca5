package floor

import (
	"context"

	"fairtangle/store"
)

// Deed runs f as one unit of work: what it keeps through the context that it is given is kept
// whole or not at all, whoever leaves in between. See store.Deed.
func (s *Floor) Deed(ctx context.Context, f func(context.Context) error) error {
	return s.Store.Deed(ctx, f)
}

// Keyed is Deed for what carries a key: the same content under it does nothing a second time and
// gives what was answered the first time.
func (s *Floor) Keyed(ctx context.Context, key, content string, f func(context.Context) (string, error)) (string, error) {
	return s.Store.Keyed(ctx, key, content, f)
}

// Refusing is a context in which nothing can be kept, for the reason given: who asks again learns
// it, and shows what was typed.
func Refusing(ctx context.Context, why error) context.Context { return store.Refusing(ctx, why) }

// Whole is Deed of something that gives a value.
func Whole[T any](ctx context.Context, s *Floor, f func(context.Context) (T, error)) (out T, err error) {
	err = s.Deed(ctx, func(ctx context.Context) error {
		out, err = f(ctx)
		return err
	})
	return out, err
}

// Watch gathers what of the rows that are read through a context could not be as it was kept.
type Watch = store.Watch

// Watching is a context whose reads are watched: what can not be as it was kept counts as the
// nearest that can, and the watch says so.
func Watching(ctx context.Context) (context.Context, *Watch) { return store.Watching(ctx) }
