package floor

import (
	"context"
	"errors"

	"fairtangle/core/fault"
	"fairtangle/store"
)

// Reading never refuses for another record's sake. A list, a page or a search that meets a record
// that can not be worked out puts it aside, with the reason, and goes on; who watches (see
// Watching) shows that sentence and the way to the record.

// Aside puts a record aside whose working out has failed for a reason of its own: something in it
// can not be, or what it rests on is gone. Of any other error, such as a disk that does not
// answer, it says false.
func Aside(ctx context.Context, table string, id int64, name string, err error) bool {
	_, isFault := fault.From(err)
	switch {
	case isFault:
		store.Aside(ctx, store.Amiss{Table: table, ID: id, Name: name, Why: err})
	case errors.Is(err, ErrNotFound):
		store.Aside(ctx, store.Amiss{Table: table, ID: id, Name: name, Sentence: "What it rests on is not there any more, or lies in the bin."})
	default:
		return false
	}
	return true
}

// Within is what a record belongs to: its blend, lay-up or making, by table; empty where it has no
// such thing.
func (s *Floor) Within(ctx context.Context, table string, id int64) (of string, ofID int64) {
	return s.Store.Within(ctx, table, id)
}

// Each is what view makes of rows; those of which it makes nothing are put aside.
func Each[R, V any](ctx context.Context, table string, rows []R, named func(R) (int64, string), view func(context.Context, R) (V, error)) ([]V, error) {
	out := make([]V, 0, len(rows))
	for _, r := range rows {
		v, err := view(ctx, r)
		if id, name := named(r); err != nil && Aside(ctx, table, id, name, err) {
			continue
		}
		if err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, nil
}
